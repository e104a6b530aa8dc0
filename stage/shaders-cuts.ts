// GLSL of what cuts take away: the same rules as `isCutAway` of core/section, told by a row of numbers (`cutRow`).

import type { Cut } from '#core/section'
import { planesOf } from '#core/section'
import { dot } from '#core/math'

/** Behind the define CUTS: the place in the world. */
export const CUTS_VERTEX_PARS = /* glsl */ `
#ifdef CUTS
out vec3 vCutPlace;
#endif
`
export const CUTS_VERTEX = /* glsl */ `
  #ifdef CUTS
    vCutPlace = (modelMatrix * vec4(position, 1.0)).xyz;
  #endif
`
export const CUTS_PARS = /* glsl */ `
#ifdef CUTS
in vec3 vCutPlace;
uniform highp sampler2D uCuts;
uniform int uCutCount;
// to the left of a line of legs that goes on straight beyond its ends; at a corner the leg counts whose side is told more clearly
bool leftOfLine(vec2 p, int at, int legs) {
  float best = 1e30, sign_ = 0.0;
  for (int k = 0; k < legs; k++) {
    vec4 leg = texelFetch(uCuts, ivec2(at + k, 0), 0);
    vec2 u = leg.zw - leg.xy, d = p - leg.xy;
    float l2 = dot(u, u);
    if (l2 <= 0.0) continue;
    float t = dot(d, u) / l2;
    if (k > 0) t = max(t, 0.0);
    if (k + 1 < legs) t = min(t, 1.0);
    float away = distance(d, t * u);
    float side = (u.x * d.y - u.y * d.x) / sqrt(l2);
    if (away < best - 1e-6 || (away < best + 1e-6 && abs(side) > abs(sign_))) { best = away; sign_ = side; }
  }
  return sign_ > 0.0;
}
bool isCutAway(vec3 p) {
  int at = 0;
  for (int c = 0; c < uCutCount; c++) {
    vec4 head = texelFetch(uCuts, ivec2(at, 0), 0);
    int n = int(head.y);
    at++;
    if (head.x > 1.5) {
      if (leftOfLine(p.xy, at, n) != (head.z > 0.5)) return true;
    } else {
      bool one = false, all_ = true;
      for (int k = 0; k < n; k++) {
        vec4 q = texelFetch(uCuts, ivec2(at + k, 0), 0);
        bool beyond = dot(q.xyz, p) > q.w;
        one = one || beyond;
        all_ = all_ && beyond;
      }
      if (head.x < 0.5 ? one : all_) return true;
    }
    at += n;
  }
  return false;
}
#endif
`
export const CUTS = /* glsl */ `
  #ifdef ONLY_GONE
    if (!isCutAway(vCutPlace)) discard;
  #elif defined( CUTS )
    if (isCutAway(vCutPlace)) discard;
  #endif
`

/** Beyond one plane it goes, or beyond all of them, or to the left of a line. */
const KIND = { one: 0, all: 1, line: 2 } as const

/** The cuts as numbers, four a place: a head (kind, length, reversed), then planes (normal, distance) or legs. */
export function cutRow(cuts: readonly Cut[]): Float32Array {
  const out: number[] = []
  for (const c of cuts) {
    if (c.kind === 'stepped') {
      out.push(KIND.line, c.points.length - 1, c.reversed ? 1 : 0, 0)
      for (let i = 0; i + 1 < c.points.length; i++) out.push(...c.points[i]!, ...c.points[i + 1]!)
      continue
    }
    const planes = planesOf(c)
    // what lies outside goes, unless the cut is reversed: then what lies inside does
    out.push(c.reversed && planes.length > 1 ? KIND.all : KIND.one, planes.length, 0, 0)
    for (const { point, normal } of planes) out.push(...normal, dot(normal, point))
  }
  return Float32Array.from(out)
}

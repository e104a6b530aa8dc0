// GLSL of blur within one sample: what a lens sample stands for is a part of the aperture, so each point is spread by that part of its disc;
// a picture of one sample is spread by all of it. Model: gathered by depth. A neighbour counts where its own spread reaches here, in
// inverse proportion to its area; what lies behind reaches no farther than what it is behind of is blurred. Source: potmesil1981.
import { DISTANCE_PARS, LIGHT_SEEN_PARS, POINT_PARS } from './shaders-points.ts'

/** Places looked at in a sample of many, and in a picture of one. */
export const SPREAD_TAPS = { some: 8, all: 28 } as const
/** As many places of the lens are asked what the barrel leaves of them. */
export const MOST_PLACES = 48

const SPREAD_PARS = /* glsl */ `
in vec2 vUv;
layout(location = 0) out vec4 colour;
layout(location = 1) out vec4 flatLayer;
uniform sampler2D uFlatSource;
uniform highp sampler2D uDepth;
uniform vec2 uPixel;
uniform vec3 uAxial;
// diameter far behind the focus in pixels, focus distance, part of it, most pixels
uniform vec4 uBlur;
uniform vec2 uPoints[${SPREAD_TAPS.all}];
uniform int uTaps;
uniform float uTurn;
${POINT_PARS}
${DISTANCE_PARS}
${LIGHT_SEEN_PARS}
// cat's-eye: where the axis meets the frame, how far the rim stands aside; the sample's place on the lens, and all places
uniform vec4 uCat;
uniform vec2 uLens;
uniform vec2 uPlaces[${MOST_PLACES}];
uniform int uPlaceCount;
float radiusOf(float d) { return min(0.5 * uBlur.x * uBlur.z * abs(d - uBlur.y) / max(d, 1e-4), uBlur.w); }
float noise(vec2 p) { return fract(52.9829189 * fract(dot(p, vec2(0.06711056, 0.00583715)))); }
float depthAt(vec2 at) { return distanceOf(texture(uDepth, at).r); }
// one pixel's light and depth, not a mix of neighbours'
vec2 pixelAt(vec2 off) { return (floor(vUv / uPixel + off) + 0.5) * uPixel; }

// How much of the light here is left without what is drawn by itself; of surfaces and of what is clear before them alike.
float leftOf(vec2 at) {
  #ifdef POINTS
    float l = luminanceOf(seenAt(at));
    if (l > uLensShift.z) {
      vec2 place = uInFrame.xy + (at - shiftOf(shownAt(at)) * uPixel) * uInFrame.zw;
      if (texture(uPoints2D, mapOf(place)).r > 0.0) return uLensShift.z / l;
    }
  #endif
  return 1.0;
}
vec4 lightOf(sampler2D source, vec2 at) {
  vec4 c = texture(source, at);
  return vec4(c.rgb * leftOf(at), c.a);
}
// How much of this sample counts here: the far rim of the barrel cuts places off, the others stand in for them.
float leftHere() {
  vec2 off = (uInFrame.xy + vUv * uInFrame.zw - uCat.xy) * uCat.zw;
  float left = 0.0;
  for (int i = 0; i < uPlaceCount; i++) left += step(length(uPlaces[i] + off), 1.0);
  return left > 0.0 ? step(length(uLens + off), 1.0) * float(uPlaceCount) / left : 1.0;
}
// turned from pixel to pixel, so that the few places looked at show no pattern
mat2 wayHere() {
  float turn = uTurn + 6.2831853 * noise(gl_FragCoord.xy);
  return mat2(cos(turn), sin(turn), -sin(turn), cos(turn));
}
`

export const SPREAD_FRAGMENT = /* glsl */ `
${SPREAD_PARS}
vec4 lightAt(vec2 at) { return lightOf(uSource, at); }

// In a sample of many: pixels give each other as much as they take, so that the light stays as much as it was.
void spreadSome(float own) {
  float reach = min(0.5 * uBlur.x * uBlur.z, uBlur.w);
  if (own < 0.5 || reach < 0.6) return;
  mat2 way = wayHere();
  vec4 sum = vec4(0.0), over = vec4(0.0);
  for (int i = 0; i < ${SPREAD_TAPS.some}; i++) {
    vec2 off = way * uPoints[i] * reach;
    vec2 at = pixelAt(off);
    float r = min(min(radiusOf(depthAt(at)), own), reach);
    if (r < 0.5) continue;
    float k = clamp(r - length(off) + 0.5, 0.0, 1.0) * min(reach * reach / (r * r), 2.0);
    sum += (lightAt(at) - colour) * k;
    over += (texture(uFlatSource, at) - flatLayer) * k;
  }
  colour = max(colour + sum / ${SPREAD_TAPS.some}.0, 0.0);
  flatLayer = max(flatLayer + over / ${SPREAD_TAPS.some}.0, 0.0);
}

// In a picture of one sample: what is blurred before a sharp place covers it.
void spreadAll(float here, float own) {
  float reach = own;
  for (int i = 0; i < 8; i++) {
    float a = 0.7853981634 * float(i);
    float d = depthAt(vUv + vec2(cos(a), sin(a)) * uBlur.w * 0.6 * uPixel);
    if (d < here * 0.98) reach = max(reach, radiusOf(d));
  }
  if (reach < 0.6) return;
  const float least = 0.5;
  float w = 1.0 / (max(own, least) * max(own, least));
  vec4 sum = colour * w, over = flatLayer * w;
  for (int i = 0; i < ${SPREAD_TAPS.all}; i++) {
    vec2 off = uPoints[i] * reach;
    vec2 at = pixelAt(off);
    float d = depthAt(at);
    float r = radiusOf(d);
    if (d > here * 1.02) r = min(r, own);
    // what is sharp there stays there
    float covers = r < 0.5 ? 0.0 : clamp(r - length(off) + 1.0, 0.0, 1.0);
    float k = covers / (max(r, least) * max(r, least));
    sum += lightAt(at) * k;
    over += texture(uFlatSource, at) * k;
    w += k;
  }
  colour = sum / w;
  flatLayer = over / w;
}
void main() {
  float here = depthAt(vUv);
  float own = radiusOf(here);
  colour = lightAt(vUv);
  flatLayer = texture(uFlatSource, vUv);
  if (uTaps > ${SPREAD_TAPS.some}) spreadAll(here, own);
  else spreadSome(own);
  #ifdef CATS_EYE
    float k = leftHere();
    colour *= k;
    flatLayer *= k;
  #endif
}
`

/**
 * The same for what is clear, laid over the spread surfaces: its light, and what is seen through it. Between a place with glass and one
 * without, the glass says how far; not where something stands before it.
 */
export const SPREAD_CLEAR_FRAGMENT = /* glsl */ `
${SPREAD_PARS}
uniform sampler2D uClear;
vec4 lightAt(vec2 at) { return lightOf(uOver, at); }
// distance of what is clear here; 0 where nothing is
float clearAt(vec2 at) {
  vec2 c = texture(uClear, at).rg;
  return c.g > 1e-3 ? c.g / max(c.r, 1e-6) : 0.0;
}
// radius by which two places give to each other
float radiusBetween(float here, vec2 at) {
  float there = clearAt(at);
  if (here > 0.0 && there > 0.0) return min(radiusOf(here), radiusOf(there));
  float far = max(here, there);
  return far <= 0.0 || depthAt(here > 0.0 ? at : vUv) < far * 0.98 ? 0.0 : radiusOf(far);
}
void spreadSome(float here) {
  float reach = min(0.5 * uBlur.x * uBlur.z, uBlur.w);
  if (reach < 0.6 || (here > 0.0 && radiusOf(here) < 0.5)) return;
  mat2 way = wayHere();
  vec4 sum = vec4(0.0);
  for (int i = 0; i < ${SPREAD_TAPS.some}; i++) {
    vec2 off = way * uPoints[i] * reach;
    vec2 at = pixelAt(off);
    float r = min(radiusBetween(here, at), reach);
    if (r < 0.5) continue;
    float k = clamp(r - length(off) + 0.5, 0.0, 1.0) * min(reach * reach / (r * r), 2.0);
    sum += (lightAt(at) - colour) * k;
  }
  colour = max(colour + sum / ${SPREAD_TAPS.some}.0, 0.0);
}
void spreadAll(float here) {
  float reach = here > 0.0 ? radiusOf(here) : 0.0;
  for (int i = 0; i < 8; i++) {
    float a = 0.7853981634 * float(i);
    reach = max(reach, radiusBetween(here, pixelAt(vec2(cos(a), sin(a)) * uBlur.w * 0.6)));
  }
  if (reach < 0.6) return;
  const float least = 0.5;
  float own = max(here > 0.0 ? radiusOf(here) : reach, least);
  float w = 1.0 / (own * own);
  vec4 sum = colour * w;
  for (int i = 0; i < ${SPREAD_TAPS.all}; i++) {
    vec2 off = uPoints[i] * reach;
    vec2 at = pixelAt(off);
    bool isBare = here <= 0.0 && clearAt(at) <= 0.0;
    float r = isBare ? reach : radiusBetween(here, at);
    float covers = r < 0.5 ? 0.0 : clamp(r - length(off) + 1.0, 0.0, 1.0);
    float k = covers / (max(r, least) * max(r, least));
    sum += (isBare ? vec4(0.0, 0.0, 0.0, 1.0) : lightAt(at)) * k;
    w += k;
  }
  colour = sum / w;
}
void main() {
  float here = clearAt(vUv);
  colour = lightAt(vUv);
  if (uTaps > ${SPREAD_TAPS.some}) spreadAll(here);
  else spreadSome(here);
  flatLayer = vec4(0.0, 0.0, 0.0, colour.a);
  #ifdef CATS_EYE
    colour.rgb *= leftHere();
  #endif
}
`

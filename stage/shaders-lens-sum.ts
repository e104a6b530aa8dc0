// GLSL of samples through a lens, summed by how blurred they are: what is before the focus, what is behind it, and all of it. Each sample stands
// for a part of the aperture; the sum is smoothed by that part's disc once, when a picture is made of it, so that no ghosts of the places show.
// Model: what is blurred before the focus covers what lies behind it, also where no sample's place put it; what is blurred behind it keeps its
// outline (that of what stands before it) and only its light is smoothed. Layers as in potmesil1981, one on each side of the focus.
import { LUMINANCE_PARS, NOISE_PARS } from './shaders-first.ts'
import { APERTURE_LEFT_PARS, WITHOUT_POINTS_PARS } from './shaders-lens.ts'
import { BLOCK } from './shaders-reach.ts'

/** Places looked at about a pixel of the sum: on the screen, and in a finished picture. */
export const SUM_TAPS = { screen: 8, finished: 24 } as const
/** The parts of the aperture overlap by so much: between places laid out so evenly their rows would show. */
const OVERLAP = 1.25
/** What would be smoothed less, pixels, stays as it is. */
const LEAST_SMOOTHED_PX = 0.6
/** Smoothed no farther than this, pixels: of few samples the places looked at would be too few. */
export const MOST_SMOOTHED_PX = 16

/** What light counts where two share a radius: as much as it is seen, so that nothing bright goes by the radius of a faint pane before it. */
const COUNT_PARS = /* glsl */ `
float countOf(vec4 c) { return luminanceOf(c.rgb) + 1e-3 * c.a; }
`
/**
 * Adds a sample: all of its light, what lies before the focus and what lies behind it, both by how much they cover, and the radii of both (full
 * discs, pixels, by what they count; before the focus beside the light). Light of what is clear goes by its own distance.
 * Defines: CLEAR, with a layer of clear things; POINTS, with points taken out; CATS_EYE.
 */
export const LENS_ADD_FRAGMENT = /* glsl */ `
layout(location = 0) out vec4 light;
layout(location = 1) out vec4 before;
layout(location = 2) out vec4 behind;
layout(location = 3) out vec4 radius;
// inverse root of the number of all samples
uniform float uPart;
${WITHOUT_POINTS_PARS}
${APERTURE_LEFT_PARS}
// on which side of the focus something is blurred, as far as it is: full radius in pixels, part before, part behind
vec3 sideOf(float d) {
  float r = radiusOf(d);
  float part = clamp((abs(r) * uPart - 0.35) / 0.3, 0.0, 1.0);
  return vec3(abs(r), r < 0.0 ? part : 0.0, r < 0.0 ? 0.0 : part);
}
${COUNT_PARS}
void main() {
  ivec2 at = ivec2(gl_FragCoord.xy);
  vec4 over;
  vec3 c = lightAt(at, over);
  vec3 side = sideOf(distanceOf(texelFetch(uDepth, at, 0).r));
  #ifdef CLEAR
    c *= over.a;
    vec2 far = texelFetch(uClear, at, 0).rg;
    vec3 its = far.g > 1e-3 ? sideOf(far.g / max(far.r, 1e-6)) : side;
    // what is seen through it counts by as much as is seen: its own light is smoothed, not how much of it comes through
    vec4 through = vec4(c, over.a), clear = vec4(over.rgb, 1.0 - over.a);
    before = through * side.y + clear * its.y;
    behind = through * side.z + clear * its.z;
    float shown = countOf(through), own = countOf(clear);
    light = vec4(c + over.rgb, side.x * side.y * shown + its.x * its.y * own);
    radius = vec4(side.x * side.z * shown + its.x * its.z * own);
  #else
    before = vec4(c, 1.0) * side.y;
    behind = vec4(c, 1.0) * side.z;
    float shown = countOf(vec4(c, 1.0));
    light = vec4(c, side.x * side.y * shown);
    radius = vec4(side.x * side.z * shown);
  #endif
  #ifdef CATS_EYE
    float k = leftHere();
    light *= k;
    before *= k;
    behind *= k;
    radius *= k;
  #endif
}
`

/** Adds what is flat in a sample. Defines: CLEAR; CATS_EYE. */
export const FLAT_ADD_FRAGMENT = /* glsl */ `
out vec4 flatLayer;
uniform sampler2D uFlatSource;
${WITHOUT_POINTS_PARS}
${APERTURE_LEFT_PARS}
void main() {
  ivec2 at = ivec2(gl_FragCoord.xy);
  flatLayer = texelFetch(uFlatSource, at, 0);
  #ifdef CLEAR
    flatLayer *= texelFetch(uOver, at, 0).a;
  #endif
  #ifdef CATS_EYE
    flatLayer *= leftHere();
  #endif
}
`

/** What the smoothing reads of each place: mean light behind the focus and its radius (0 where nothing is), the mean before it, its radius. */
export const LENS_PACK_FRAGMENT = /* glsl */ `
layout(location = 0) out vec4 behind;
layout(location = 1) out vec4 before;
layout(location = 2) out vec4 radius;
uniform sampler2D uSum, uBefore, uBehind, uRadius;
// one by the samples, and one by the root of their number
uniform vec2 uParts;
${LUMINANCE_PARS}
${COUNT_PARS}
float partOf(float sum, vec4 of) { return min(sum / countOf(of) * uParts.y * ${OVERLAP}, ${MOST_SMOOTHED_PX}.0); }
void main() {
  ivec2 at = ivec2(gl_FragCoord.xy);
  before = texelFetch(uBefore, at, 0);
  behind = texelFetch(uBehind, at, 0);
  // a trace of what is there tells no light
  radius = vec4(before.a * uParts.x > 1e-3 ? partOf(texelFetch(uSum, at, 0).a, before) : 0.0);
  behind = behind.a * uParts.x > 1e-3 ? vec4(behind.rgb / behind.a, partOf(texelFetch(uRadius, at, 0).r, behind)) : vec4(0.0);
  before *= uParts.x;
}
`

/** How far something before the focus reaches at most: a pixel for each block (see Reach). */
export const NEAR_BLOCKS_FRAGMENT = /* glsl */ `
out vec4 most;
uniform sampler2D uNearRadius;
void main() {
  ivec2 from = ivec2(gl_FragCoord.xy) * ${BLOCK};
  ivec2 last = textureSize(uNearRadius, 0) - 1;
  float r = 0.0;
  for (int y = 0; y < ${BLOCK}; y++)
    for (int x = 0; x < ${BLOCK}; x++) r = max(r, texelFetch(uNearRadius, min(from + ivec2(x, y), last), 0).r);
  most = vec4(r);
}
`
/** The mean of the samples, smoothed. Define: FLAT. */
export const LENS_SMOOTH_FRAGMENT = /* glsl */ `
layout(location = 0) out vec4 colour;
layout(location = 1) out vec4 flatLayer;
uniform sampler2D uSum, uFlatSum, uPacked, uNear, uNearRadius, uReach, uBehind;
uniform vec2 uParts;
uniform vec2 uPoints[${SUM_TAPS.finished}];
uniform int uTaps;
${LUMINANCE_PARS}
${NOISE_PARS}
ivec2 last;
ivec2 pixelAt(vec2 off) { return clamp(ivec2(gl_FragCoord.xy + off), ivec2(0), last); }
vec4 flatAt(ivec2 at) {
  #ifdef FLAT
    return texelFetch(uFlatSum, at, 0) * uParts.x;
  #else
    return vec4(0.0);
  #endif
}
void main() {
  ivec2 here = ivec2(gl_FragCoord.xy);
  last = textureSize(uSum, 0) - 1;
  vec3 all = texelFetch(uSum, here, 0).rgb * uParts.x;
  vec4 covered = flatAt(here);
  vec4 far = texelFetch(uPacked, here, 0);
  float most = texelFetch(uReach, here / ${BLOCK}, 0).r;
  colour = vec4(all, 1.0);
  flatLayer = covered;
  bool isFar = far.a >= ${LEAST_SMOOTHED_PX};
  if (!isFar && most < ${LEAST_SMOOTHED_PX}) return;
  // turned from pixel to pixel, so that the few places looked at show no pattern
  float turn = 6.2831853 * noise(gl_FragCoord.xy);
  mat2 way = mat2(cos(turn), sin(turn), -sin(turn), cos(turn));
  if (isFar) {
    vec3 sum = far.rgb;
    float w = 1.0;
    float part = min(texelFetch(uBehind, here, 0).a * uParts.x, 1.0);
    vec4 over = covered;
    float flats = part;
    for (int i = 0; i < uTaps; i++) {
      vec2 off = way * uPoints[i] * far.a;
      ivec2 at = pixelAt(off);
      vec4 there = texelFetch(uPacked, at, 0);
      // two places give each other as far as the less blurred one reaches
      float k = there.a < 0.5 ? 0.0 : clamp(there.a - length(off) + 0.5, 0.0, 1.0);
      sum += there.rgb * k;
      #ifdef FLAT
        if (k > 0.0) {
          over += flatAt(at) * k;
          flats += texelFetch(uBehind, at, 0).a * uParts.x * k;
        }
      #endif
      w += k;
    }
    colour.rgb += (sum / w - far.rgb) * part;
    #ifdef FLAT
      // what is flat behind the focus, by how much of that is seen there; of the flat here as much is meant, and no less than what has no room
      // before it or where it is sharp
      over *= part / max(flats, 1e-3);
      float meant = clamp(over.a, max(covered.a - (1.0 - part), 0.0), max(covered.a, 0.0));
      flatLayer += over - covered * (meant / max(covered.a, 1e-3));
    #endif
  }
  if (most >= ${LEAST_SMOOTHED_PX}) {
    vec4 own = texelFetch(uNear, here, 0);
    float ownRadius = texelFetch(uNearRadius, here, 0).r;
    vec4 sum = vec4(0.0), over = vec4(0.0), back = vec4(0.0);
    float given = 0.0;
    bool isCovered = own.a > 0.999;
    float ownLight = luminanceOf(own.rgb) + 1e-3;
    for (int i = 0; i < uTaps; i++) {
      vec2 off = way * uPoints[i] * most;
      ivec2 at = pixelAt(off);
      vec4 near = texelFetch(uNear, at, 0);
      // where none of the samples saw what is behind, the places about tell it
      if (isCovered) {
        vec4 there = vec4(max(texelFetch(uSum, at, 0).rgb * uParts.x - near.rgb, 0.0), max(1.0 - near.a, 0.0));
        // a lamp of a few pixels beside it is hardly what is behind
        back += there / (ownLight * max(there.a, 0.01) + luminanceOf(there.rgb));
      }
      // where nothing is before the focus as much is lost as is given there
      float r = near.a > 0.0 ? texelFetch(uNearRadius, at, 0).r : ownRadius;
      if (r < 0.5) continue;
      // in proportion to what of its light falls on a pixel; of the few places none counts too much
      float k = clamp(r - length(off) + 0.5, 0.0, 1.0) * min(most * most / (r * r), 2.0) / float(uTaps);
      sum += near * k;
      given += k;
      #ifdef FLAT
        over += flatAt(at) * k;
      #endif
    }
    // what the places do not give is its own
    float kept = max(1.0 - given, 0.0);
    sum += own * kept;
    flatLayer = (over + flatLayer * kept) / max(given + kept, 1.0);
    // given more than once, it counts once
    sum /= max(given + kept, 1.0);
    if (!isCovered) back = vec4(max(colour.rgb - own.rgb, 0.0), 1.0 - own.a);
    colour.rgb = back.a > 1e-6 ? sum.rgb + back.rgb * (max(1.0 - sum.a, 0.0) / back.a) : sum.rgb / max(sum.a, 1e-3);
  }
}
`

// GLSL of blur within one sample: what a lens sample stands for is a part of the aperture, so each point is spread by that part of its disc;
// a picture of one sample is spread by all of it. Model: gathered by depth. A neighbour counts where its own spread reaches here, in
// inverse proportion to its area; what lies behind reaches no farther than what it is behind of is blurred. Source: potmesil1981.
import { DISTANCE_PARS, LIGHT_SEEN_PARS, POINT_PARS } from './shaders-points.ts'

/** Places looked at in a sample of many (of clear things fewer: their light is even), and in a picture of one. */
export const SPREAD_TAPS = { some: 8, all: 28, clear: 4 } as const
/** What would be spread less, pixels, stays as it is. */
export const LEAST_PX = 0.6
/** Pixels a side of the blocks in which it is known whether something clear is near. */
export const BLOCK = 8
/** As many places of the lens are asked what the barrel leaves of them. */
export const MOST_PLACES = 48

/**
 * Defines: SPREADS, where anything is spread at all; CLEAR, with a layer of clear things; FLAT, with things drawn flat; POINTS, with points
 * taken out; CATS_EYE.
 */
export const SPREAD_FRAGMENT = /* glsl */ `
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
float depthAt(ivec2 at) { return distanceOf(texelFetch(uDepth, at, 0).r); }
// one pixel's light and depth, not a mix of neighbours'
ivec2 pixelAt(vec2 off) {
  return clamp(ivec2(floor(gl_FragCoord.xy + off)), ivec2(0), textureSize(uDepth, 0) - 1);
}

// whether a bright point lies here, that is drawn by itself
bool isPoint(ivec2 pixel) {
  vec2 at = (vec2(pixel) + 0.5) * uPixel;
  vec2 place = uInFrame.xy + (at - shiftOf(shownAt(at)) * uPixel) * uInFrame.zw;
  return texture(uPoints2D, mapOf(place)).r > 0.0;
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
// Without what is drawn by itself, as far as it is seen through what is clear.
vec4 lightAt(ivec2 at) {
  vec4 c = texelFetch(uSource, at, 0);
  #ifdef POINTS
    float l = luminanceOf(c.rgb);
    if (l > uLensShift.z) {
      l *= texture(uOver, (vec2(at) + 0.5) * uPixel).a;
      if (l > uLensShift.z && isPoint(at)) c.rgb *= uLensShift.z / l;
    }
  #endif
  return c;
}

#ifdef SPREADS
// In a sample of many: pixels give each other as much as they take, so that the light stays as much as it was.
void spreadSome(float own, mat2 way) {
  float reach = min(0.5 * uBlur.x * uBlur.z, uBlur.w);
  if (own < 0.5 || reach < ${LEAST_PX}) return;
  vec4 sum = vec4(0.0), over = vec4(0.0);
  for (int i = 0; i < ${SPREAD_TAPS.some}; i++) {
    vec2 off = way * uPoints[i] * reach;
    float far = length(off);
    if (far > own + 0.5) continue;
    ivec2 at = pixelAt(off);
    float r = min(min(radiusOf(depthAt(at)), own), reach);
    float k = clamp(r - far + 0.5, 0.0, 1.0) * min(reach * reach / (r * r), 2.0);
    if (r < 0.5 || k <= 0.0) continue;
    sum += (lightAt(at) - colour) * k;
    #ifdef FLAT
      over += (texelFetch(uFlatSource, at, 0) - flatLayer) * k;
    #endif
  }
  colour = max(colour + sum / ${SPREAD_TAPS.some}.0, 0.0);
  #ifdef FLAT
    flatLayer = max(flatLayer + over / ${SPREAD_TAPS.some}.0, 0.0);
  #endif
}

// In a picture of one sample: what is blurred before a sharp place covers it.
void spreadAll(float here, float own) {
  float reach = own;
  for (int i = 0; i < 8; i++) {
    float a = 0.7853981634 * float(i);
    float d = depthAt(pixelAt(vec2(cos(a), sin(a)) * uBlur.w * 0.6));
    if (d < here * 0.98) reach = max(reach, radiusOf(d));
  }
  if (reach < ${LEAST_PX}) return;
  const float least = 0.5;
  float w = 1.0 / (max(own, least) * max(own, least));
  vec4 sum = colour * w, over = flatLayer * w;
  for (int i = 0; i < ${SPREAD_TAPS.all}; i++) {
    vec2 off = uPoints[i] * reach;
    ivec2 at = pixelAt(off);
    float d = depthAt(at);
    float r = radiusOf(d);
    if (d > here * 1.02) r = min(r, own);
    // what is sharp there stays there
    float covers = r < 0.5 ? 0.0 : clamp(r - length(off) + 1.0, 0.0, 1.0);
    float k = covers / (max(r, least) * max(r, least));
    sum += lightAt(at) * k;
    #ifdef FLAT
      over += texelFetch(uFlatSource, at, 0) * k;
    #endif
    w += k;
  }
  colour = sum / w;
  flatLayer = over / w;
}
#endif
// Clear things are spread by themselves and laid over the spread surfaces: their light, and what is seen through them. Between a place with
// glass and one without, the glass says how far; not where something stands before it.
#ifdef CLEAR
uniform sampler2D uClear, uNear;
// Without what is drawn by itself: with what is left of the surfaces behind, the sample's mean is left.
vec4 overAt(ivec2 at) {
  vec4 c = texelFetch(uOver, at, 0);
  #ifdef POINTS
    float l = luminanceOf(c.rgb);
    // fainter light hardly adds to what is there
    if (l > 0.1 * uLensShift.z) {
      float behind = luminanceOf(texelFetch(uSource, at, 0).rgb) * c.a;
      if (l + behind > uLensShift.z && isPoint(at)) c.rgb *= max(0.0, uLensShift.z - behind) / l;
    }
  #endif
  return c;
}
#ifdef SPREADS
// distance of what is clear here; 0 where nothing is
float clearAt(ivec2 at) {
  vec2 c = texelFetch(uClear, at, 0).rg;
  return c.g > 1e-3 ? c.g / max(c.r, 1e-6) : 0.0;
}
// radius by which two places give to each other
float radiusBetween(float here, ivec2 at) {
  float there = clearAt(at);
  if (here > 0.0 && there > 0.0) return min(radiusOf(here), radiusOf(there));
  float far = max(here, there);
  return far <= 0.0 || depthAt(here > 0.0 ? at : pixelAt(vec2(0.0))) < far * 0.98 ? 0.0 : radiusOf(far);
}
void spreadClearSome(inout vec4 clear, float here, mat2 way) {
  float reach = min(0.5 * uBlur.x * uBlur.z, uBlur.w);
  if (reach < ${LEAST_PX} || (here > 0.0 && radiusOf(here) < 0.5)) return;
  vec4 sum = vec4(0.0);
  for (int i = 0; i < ${SPREAD_TAPS.clear}; i++) {
    vec2 off = way * uPoints[i] * reach;
    ivec2 at = pixelAt(off);
    float r = min(radiusBetween(here, at), reach);
    if (r < 0.5) continue;
    float k = clamp(r - length(off) + 0.5, 0.0, 1.0) * min(reach * reach / (r * r), 2.0);
    sum += (overAt(at) - clear) * k;
  }
  clear = max(clear + sum / ${SPREAD_TAPS.clear}.0, 0.0);
}
void spreadClearAll(inout vec4 clear, float here) {
  float reach = here > 0.0 ? radiusOf(here) : 0.0;
  for (int i = 0; i < 8; i++) {
    float a = 0.7853981634 * float(i);
    reach = max(reach, radiusBetween(here, pixelAt(vec2(cos(a), sin(a)) * uBlur.w * 0.6)));
  }
  if (reach < ${LEAST_PX}) return;
  const float least = 0.5;
  float own = max(here > 0.0 ? radiusOf(here) : reach, least);
  float w = 1.0 / (own * own);
  vec4 sum = clear * w;
  for (int i = 0; i < ${SPREAD_TAPS.all}; i++) {
    vec2 off = uPoints[i] * reach;
    ivec2 at = pixelAt(off);
    bool isBare = here <= 0.0 && clearAt(at) <= 0.0;
    float r = isBare ? reach : radiusBetween(here, at);
    float covers = r < 0.5 ? 0.0 : clamp(r - length(off) + 1.0, 0.0, 1.0);
    float k = covers / (max(r, least) * max(r, least));
    sum += (isBare ? vec4(0.0, 0.0, 0.0, 1.0) : overAt(at)) * k;
    w += k;
  }
  clear = sum / w;
}
#endif
#endif
void main() {
  ivec2 at = ivec2(gl_FragCoord.xy);
  colour = lightAt(at);
  flatLayer = vec4(0.0);
  #ifdef FLAT
    flatLayer = texelFetch(uFlatSource, at, 0);
  #endif
  #ifdef SPREADS
    float here = depthAt(at);
    float own = radiusOf(here);
    bool isWhole = uTaps > ${SPREAD_TAPS.some};
    mat2 way = isWhole ? mat2(1.0) : wayHere();
    if (isWhole) spreadAll(here, own);
    else spreadSome(own, way);
  #endif
  #ifdef CLEAR
    vec4 clear = vec4(0.0, 0.0, 0.0, 1.0);
    #ifdef SPREADS
      // most of a picture has nothing clear near it
      if (texelFetch(uNear, at / ${BLOCK}, 0).r > 0.5) {
        float far = clearAt(at);
        clear = overAt(at);
        if (isWhole) spreadClearAll(clear, far);
        else spreadClearSome(clear, far, way);
      }
    #else
      clear = overAt(at);
    #endif
    colour = vec4(colour.rgb * clear.a + clear.rgb, colour.a * clear.a);
    flatLayer *= clear.a;
  #endif
  #ifdef CATS_EYE
    float k = leftHere();
    colour *= k;
    flatLayer *= k;
  #endif
}
`

/** Where something clear lies: a pixel for each block. */
export const CLEAR_BLOCKS_FRAGMENT = /* glsl */ `
out vec4 isClear;
uniform sampler2D uOver;
void main() {
  ivec2 from = ivec2(gl_FragCoord.xy) * ${BLOCK};
  ivec2 most = textureSize(uOver, 0) - 1;
  float through = 1.0;
  for (int y = 0; y < ${BLOCK}; y++)
    for (int x = 0; x < ${BLOCK}; x++) through = min(through, texelFetch(uOver, min(from + ivec2(x, y), most), 0).a);
  isClear = vec4(through < 1.0 ? 1.0 : 0.0);
}
`
/** The same, with all blocks that it may be spread into. */
export const NEAR_CLEAR_FRAGMENT = /* glsl */ `
out vec4 isNear;
uniform sampler2D uBlocks;
uniform int uReach;
void main() {
  ivec2 here = ivec2(gl_FragCoord.xy);
  ivec2 most = textureSize(uBlocks, 0) - 1;
  isNear = vec4(0.0);
  for (int y = -uReach; y <= uReach; y++)
    for (int x = -uReach; x <= uReach; x++)
      isNear = max(isNear, texelFetch(uBlocks, clamp(here + ivec2(x, y), ivec2(0), most), 0));
}
`

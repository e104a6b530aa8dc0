// GLSL of bright points: found through the middle of the lens, gathered over the samples, drawn as the aperture's shape.
import { LUMINANCE_PARS } from './shaders-first.ts'

/**
 * Distance along the axis of what a pixel shows, metres: of the surface, or of the sun's image in the glass before it (see CLEAR_FRAGMENT).
 */
export const DISTANCE_PARS = /* glsl */ `
uniform sampler2D uGlint;
float distanceOf(float depth) { return depth >= 1.0 ? 1e6 : uAxial.y / (depth * 2.0 - 1.0 + uAxial.x); }
float shownFrom(vec2 glint, float depth) { return glint.g > 0.0 ? 1.0 / max(glint.r, 1e-6) : distanceOf(depth); }
float shownAt(vec2 at) { return shownFrom(texture(uGlint, at).rg, texture(uDepth, at).r); }
`
/** Light of a sample, with what is clear before it. */
export const LIGHT_SEEN_PARS = /* glsl */ `
uniform sampler2D uSource, uOver;
vec3 seenAt(vec2 at) {
  vec4 over = texture(uOver, at);
  return texture(uSource, at).rgb * over.a + over.rgb;
}
`
/** Light and distance along the axis of a sample, to be read. */
export const FOUND_FRAGMENT = /* glsl */ `
in vec2 vUv;
out vec4 found;
uniform highp sampler2D uDepth;
uniform vec2 uAxial;
${DISTANCE_PARS}
${LIGHT_SEEN_PARS}
void main() { found = vec4(seenAt(vUv), shownAt(vUv)); }
`
/** The sun's images in what is clear, to be read: see CLEAR_FRAGMENT. */
export const GLINTS_FRAGMENT = /* glsl */ `
out vec4 glints;
uniform sampler2D uGlint;
void main() { glints = vec4(texelFetch(uGlint, ivec2(gl_FragCoord.xy), 0).rg, 0.0, 1.0); }
`

/**
 * What lies over the picture's mean, and where: pars of the passes that take it out of a sample. A point at a distance stands in a sample
 * beside its place by the lens's place times the disc's radius.
 */
export const POINT_PARS = /* glsl */ `
uniform sampler2D uPoints2D;
// the sample's place on the lens times half of the disc far behind the focus, in pixels; what is left of it (0: nothing is taken out)
uniform vec4 uLensShift;
// of the frame: from and size of what is drawn
uniform vec4 uInFrame;
// of the map of points, which reaches past the frame: where the frame begins in it, and its share
uniform vec4 uMapped;
${LUMINANCE_PARS}
vec2 shiftOf(float d) { return uLensShift.xy * (d - uLensShift.w) / max(d, 1e-4); }
vec2 mapOf(vec2 place) { return uMapped.xy + place * uMapped.zw; }
`

/** Gathers what a sample shows over the picture's mean at each point's pixels, and whether the point is seen at all. */
export const GATHER_FRAGMENT = /* glsl */ `
in vec2 vUv;
out vec4 gathered;
uniform highp sampler2D uDepth;
uniform vec2 uAxial;
uniform vec2 uPixel;
${POINT_PARS}
${DISTANCE_PARS}
${LIGHT_SEEN_PARS}
void main() {
  vec2 point = texture(uPoints2D, vUv).rg;
  if (point.r <= 0.0) discard;
  float d = 1.0 / point.r;
  // one pixel's light and depth, not a mix of neighbours'
  vec2 at = (floor((vUv - uMapped.xy) / uMapped.zw / uPixel + shiftOf(d)) + 0.5) * uPixel;
  if (any(lessThan(at, vec2(0.0))) || any(greaterThan(at, vec2(1.0)))) discard;
  vec3 c = seenAt(at);
  float isSeen = abs(shownAt(at) - d) < 0.06 * d ? 1.0 : 0.0;
  float l = luminanceOf(c);
  gathered = vec4(c * isSeen * max(0.0, 1.0 - uLensShift.z / max(l, 1e-6)), isSeen);
}
`

/** So many pixels a side are told as one where something new is looked for. */
export const BLOCK = 4
/** Whether a sample shows something as bright as a point that was not looked at yet, block by block. */
export const UNKNOWN_FRAGMENT = /* glsl */ `
out vec4 unknown;
uniform highp sampler2D uDepth;
uniform vec2 uAxial;
uniform vec2 uPixel;
uniform float uLeast;
${POINT_PARS}
${DISTANCE_PARS}
${LIGHT_SEEN_PARS}
void main() {
  unknown = vec4(0.0);
  ivec2 from = ivec2(gl_FragCoord.xy) * ${BLOCK};
  ivec2 most = textureSize(uSource, 0) - 1, mostOver = textureSize(uOver, 0) - 1;
  for (int y = 0; y < ${BLOCK}; y++)
    for (int x = 0; x < ${BLOCK}; x++) {
      ivec2 pixel = min(from + ivec2(x, y), most);
      vec4 over = texelFetch(uOver, min(pixel, mostOver), 0);
      if (luminanceOf(texelFetch(uSource, pixel, 0).rgb * over.a + over.rgb) < uLeast) continue;
      vec2 at = (vec2(pixel) + 0.5) * uPixel;
      vec2 seen = texture(uPoints2D, mapOf(at - shiftOf(shownAt(at)) * uPixel)).rg;
      if (seen.r + seen.g <= 0.0) unknown = vec4(1.0);
    }
}
`

export const SPRITE_VERTEX = /* glsl */ `
in vec2 aPlace;
// what the light itself covers, pixels: the ramp at the edge of its disc
in vec2 aSpan;
in vec3 aLight;
// signed radius in pixels, inverse distance, that of the surface which shows it, that of the nearest that may hide it
in vec4 aDisc;
out vec2 vOff;
out vec3 vLight;
out vec4 vDisc;
out vec2 vPlace;
out vec2 vSpan;
uniform vec2 uSize;
uniform vec4 uInFrame;
void main() {
  float r = abs(aDisc.x) + 1.5 + 0.5 * (aSpan.x + aSpan.y);
  vec2 centre = (aPlace - uInFrame.xy) / uInFrame.zw * uSize;
  vOff = position.xy * r;
  vLight = aLight;
  vDisc = aDisc;
  vPlace = aPlace;
  vSpan = aSpan;
  gl_Position = vec4((centre + vOff) / uSize * 2.0 - 1.0, 0.0, 1.0);
}
`
/** At most as many steps along the ray from a point to its place on the lens in which something before it is looked for. */
const STEPS = 40

/** Defines: BLADES or PICTURE, an aperture that is not round; CATS_EYE. What is not asked for would be worked out all the same by GLs in software. */
export const SPRITE_FRAGMENT = /* glsl */ `
in vec2 vOff;
in vec3 vLight;
in vec4 vDisc;
in vec2 vPlace;
in vec2 vSpan;
out vec4 colour;
// light and distance through the middle of the lens, over the whole frame
uniform sampler2D uFound;
uniform sampler2D uShape;
// blades, turn in radians, roundness
uniform vec3 uAperture;
// radius that all of the aperture has
uniform float uInner;
// inverse of the focus; pixels to shares of the frame; cat's-eye
uniform float uFocus;
uniform vec2 uPerFrame;
uniform vec4 uCat;
#ifdef BLADES
float edgeOf(vec2 u) {
  float sector = 6.2831853072 / uAperture.x;
  float turned = atan(u.y, u.x) - 1.5707963268 + uAperture.y;
  float inBlade = turned - sector * floor(turned / sector + 0.5);
  float straight = cos(sector / 2.0) / cos(sector / 2.0 - abs(inBlade));
  return mix(straight, 1.0, uAperture.z);
}
#else
float edgeOf(vec2 u) { return 1.0; }
#endif
#ifdef CATS_EYE
// The part of an aperture's place that is left at this place of the frame: the far rim of the barrel cuts it off, along a ramp.
float barrel(vec2 u, vec2 place, float ramp) {
  vec2 off = (place - uCat.xy) * uCat.zw;
  return clamp((1.0 - length(u + off)) / ramp + 0.5, 0.0, 1.0);
}
#endif
#ifdef PICTURE
float pictureAt(vec2 u) { return max(abs(u.x), abs(u.y)) <= 1.0 ? texture(uShape, vec2(u.x, -u.y) * 0.5 + 0.5).r : 0.0; }
// An aperture's picture, as it is spread by what a light covers (in radii).
float pictureOf(vec2 u, vec2 span) {
  if (max(span.x, span.y) <= 0.0) return pictureAt(u);
  float sum = 0.0;
  for (float y = -0.375; y < 0.5; y += 0.25)
    for (float x = -0.375; x < 0.5; x += 0.25) sum += pictureAt(u + vec2(x, y) * span);
  return sum / 16.0;
}
#endif
float hidden(vec2 u) {
  float from = vDisc.y;
  // only what is nearer than the surface hides what it shows
  float near = vDisc.z;
  float most = vDisc.w;
  if (most <= near * 1.04) return 0.0;
  // pixels that the ray goes in the middle's picture, for each part of inverse distance
  vec2 way = u * abs(vDisc.x) / max(abs(uFocus - from), 1e-6) * uPerFrame;
  // a step for each pixel and a half that it goes, no more
  vec2 whole = way * (most - near) * vec2(textureSize(uFound, 0));
  float steps = clamp(ceil(length(whole) / 1.5), 4.0, ${STEPS}.0);
  float step = (most - near) / steps;
  for (float i = 0.0; i < steps; i++) {
    float w = near + step * (i + 0.6);
    float inverse = 1.0 / max(texture(uFound, vPlace + way * (w - from)).a, 1e-4);
    // the surface lies where the ray goes through in this step, and is not the point's own
    if (inverse > near * 1.04 && inverse > w - step && inverse <= w + step) return 1.0;
  }
  return 0.0;
}
void main() {
  // before the focus the picture of the aperture stands on its head
  vec2 u = vOff / vDisc.x;
  float r = length(u);
  float px = abs(vDisc.x);
  // a light with a width of its own has an edge as wide, seen the way the edge runs across
  float ramp = max(1.0, dot(abs(u) / max(r, 1e-6), vSpan)) / px;
  #ifdef PICTURE
    float cover = pictureOf(u, vSpan / px);
  #else
    if (r - 1.0 > 0.5 * ramp) discard;
    // only near the rim it matters which shape it has
    float edge = r + 0.5 * ramp < uInner ? 1.0 : edgeOf(u);
    float cover = clamp((edge - r) / ramp + 0.5, 0.0, 1.0);
  #endif
  if (cover <= 0.0) discard;
  #ifdef CATS_EYE
    // where both rims are one it is not cut twice
    cover = min(cover, barrel(u, vPlace, ramp));
  #endif
  if (cover <= 0.0 || hidden(u) > 0.5) discard;
  colour = vec4(vLight * cover, 1.0);
}
`

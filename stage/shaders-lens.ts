// GLSL of one sample through a lens: its light without the bright points that are drawn by themselves, and what the barrel leaves of its place.
import { LEAST_DISC_PX } from '#core/optics'
import { DISTANCE_PARS, LIGHT_SEEN_PARS, POINT_PARS } from './shaders-points.ts'

/** As many places of the lens are asked what the barrel leaves of them. */
export const MOST_PLACES = 48

/**
 * Light of surfaces (`lightAt`) and of what is clear (`overAt`: its light, and how much is seen through it) at a pixel. Defines: POINTS, with
 * points taken out; CLEAR, with a layer of clear things.
 */
export const WITHOUT_POINTS_PARS = /* glsl */ `
uniform highp sampler2D uDepth;
uniform vec2 uPixel;
uniform vec2 uAxial;
// diameter far behind the focus in pixels, focus distance
uniform vec2 uBlur;
${POINT_PARS}
${DISTANCE_PARS}
${LIGHT_SEEN_PARS}
// Full radius of the disc of a distance in pixels, negative before the focus.
float radiusOf(float d) { return 0.5 * uBlur.x * (d - uBlur.y) / max(d, 1e-4); }
// Whether a bright point lies here, that is drawn by itself. The sun's images in bent glass wander more than their distance tells: a blurred one
// that is not known to be none is never left as a dot.
bool isPoint(ivec2 pixel) {
  vec2 at = (vec2(pixel) + 0.5) * uPixel;
  float d = shownAt(at);
  vec2 place = uInFrame.xy + (at - shiftOf(d) * uPixel) * uInFrame.zw;
  vec2 known = texture(uPoints2D, mapOf(place)).rg;
  if (known.r > 0.0 || known.g > 0.0) return known.r > 0.0;
  return texelFetch(uGlint, min(pixel, textureSize(uGlint, 0) - 1), 0).g > 0.0 && abs(radiusOf(d)) > 0.5 * ${LEAST_DISC_PX}.0;
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
#ifdef CLEAR
uniform sampler2D uClear;
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
#endif
`

export const APERTURE_LEFT_PARS = /* glsl */ `
#ifdef CATS_EYE
// where the axis meets the frame, how far the rim stands aside; the sample's place on the lens, and all places
uniform vec4 uCat;
uniform vec2 uLens;
uniform vec2 uPlaces[${MOST_PLACES}];
uniform int uPlaceCount;
// How much of this sample counts here: the far rim of the barrel cuts places off, the others stand in for them.
float leftHere() {
  vec2 off = (uInFrame.xy + gl_FragCoord.xy * uPixel * uInFrame.zw - uCat.xy) * uCat.zw;
  float left = 0.0;
  for (int i = 0; i < uPlaceCount; i++) left += step(length(uPlaces[i] + off), 1.0);
  return left > 0.0 ? step(length(uLens + off), 1.0) * float(uPlaceCount) / left : 1.0;
}
#endif
`

// GLSL of one sample through a lens: its light without the bright points that are drawn by themselves, and what the barrel leaves of its place.
import { LEAST_DISC_PX } from '#core/optics'
import { DISTANCE_PARS, LIGHT_SEEN_PARS, POINT_PARS } from './shaders-points.ts'

/** As many places of the lens are asked what the barrel leaves of them. */
export const MOST_PLACES = 48

/**
 * A pixel's light without what is drawn by itself (`lightAt`): that of surfaces, and of what is clear (its light, and how much is seen through
 * it). Defines: POINTS, with points taken out; CLEAR, with a layer of clear things.
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
#ifdef CLEAR
uniform sampler2D uClear;
#endif
// Full radius of the disc of a distance in pixels, negative before the focus.
float radiusOf(float d) { return 0.5 * uBlur.x * (d - uBlur.y) / max(d, 1e-4); }
// Whether a bright point lies here, that is drawn by itself. The sun's images in bent glass wander more than their distance tells: a blurred one
// that is not known to be none is never left as a dot.
bool isPoint(ivec2 pixel) {
  vec2 glint = texelFetch(uGlint, min(pixel, textureSize(uGlint, 0) - 1), 0).rg;
  float d = shownFrom(glint, texelFetch(uDepth, pixel, 0).r);
  vec2 place = uInFrame.xy + ((vec2(pixel) + 0.5 - shiftOf(d)) * uPixel) * uInFrame.zw;
  vec2 known = texture(uPoints2D, mapOf(place)).rg;
  if (known.r > 0.0 || known.g > 0.0) return known.r > 0.0;
  return glint.g > 0.0 && abs(radiusOf(d)) > 0.5 * ${LEAST_DISC_PX}.0;
}
// A point is asked for once: most pixels that are brighter than the mean are none.
vec3 lightAt(ivec2 at, out vec4 over) {
  vec3 c = texelFetch(uSource, at, 0).rgb;
  #ifdef CLEAR
    over = texelFetch(uOver, at, 0);
  #else
    over = vec4(0.0, 0.0, 0.0, 1.0);
  #endif
  #ifdef POINTS
    float behind = luminanceOf(c) * over.a;
    float own = luminanceOf(over.rgb);
    if (behind + own > uLensShift.z && isPoint(at)) {
      c *= min(1.0, uLensShift.z / max(behind, 1e-12));
      // with what is left of the surfaces behind, the sample's mean is left; fainter light hardly adds to it
      if (own > 0.1 * uLensShift.z) over.rgb *= max(0.0, uLensShift.z - behind) / own;
    }
  #endif
  return c;
}
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

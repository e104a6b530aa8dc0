// GLSL of the light: of the sun, the sky and what is about at a place, and the one pass that lights the facts.
// Model: deferred shading; samples are scene-linear, brought to the range of half floats by one factor, whatever the exposure is: that,
// white balance, vignetting and tone are the finish's (shaders-finish.ts). On software GL each pixel's light is computed once instead of once a layer, which halves the time.
// Numbers shared with the core are written into the text from there.
// Rejected: patched standard materials (2.5 x slower here, and contact shading lagged a sample behind).

import { CLEAR_SKY, GROUND_ALBEDO, SKY_HORIZON_COLOUR, SKY_ZENITH_COLOUR } from '#core/optics'
import type { Vec3 } from '#core/math'
import { BLOCK_PARS, LUMINANCE_PARS, SEEN_PARS } from './shaders-first.ts'
import { LAMP_PARS } from './shaders-lamps.ts'

const f = (v: number): string => (Number.isInteger(v) ? `${v}.0` : String(v))
/** Radians. */
const GOLDEN = Math.PI * (3 - Math.sqrt(5))
const v3 = (v: Vec3): string => `vec3(${v.map(f).join(', ')})`

/** Light from all sides at a world position, from the volume; radiance brought to the exposure by uLightScale. */
export const LIGHT_PARS = /* glsl */ `
uniform highp sampler3D uLightR, uLightG, uLightB;
uniform vec3 uLightOrigin, uLightStep, uLightSize;
uniform float uLightScale, uReach;
uniform vec3 uSun, uSunColour;
uniform mat4 uShadowFromWorld;
uniform highp sampler2D uShadow;
uniform float uShadowOn, uShadowTexelM, uSeed;
// what clear things before a place leave of the sun, and the depth of the first
uniform sampler2D uShadowTint;
uniform float uShadowTintOn;
uniform samplerCube uEnvironment;
uniform float uEnvironmentOn;
struct Around { vec4 r; vec4 g; vec4 b; };
Around around(vec3 p) {
  vec3 uvw = ((p - uLightOrigin) / uLightStep + 0.5) / uLightSize;
  return Around(texture(uLightR, uvw), texture(uLightG, uvw), texture(uLightB, uvw));
}
float irradianceOf(vec4 c, vec3 n) {
  float mean = 0.886226925 * c.x;
  return max(0.1 * mean, mean + 1.023326708 * dot(c.yzw, n));
}
float radianceOf(vec4 c, vec3 d) {
  float mean = 0.282094792 * c.x;
  return max(0.15 * mean, mean + 0.488602512 * dot(c.yzw, d));
}
vec3 irradianceAround(Around a, vec3 n) { return uLightScale * vec3(irradianceOf(a.r, n), irradianceOf(a.g, n), irradianceOf(a.b, n)); }
vec3 radianceAround(Around a, vec3 d) { return uLightScale * vec3(radianceOf(a.r, d), radianceOf(a.g, d), radianceOf(a.b, d)); }
// what a smooth surface mirrors: the surroundings as seen from the model's middle, as bright as it is here on that side
vec3 mirrored(Around a, vec3 d, float rough) {
  vec3 soft = radianceAround(a, d);
  if (uEnvironmentOn < 0.5 || rough > 0.65) return soft;
  vec3 sharp = textureLod(uEnvironment, d, rough * 5.0).rgb;
  vec3 broad = textureLod(uEnvironment, d, 5.0).rgb;
  float k = clamp(dot(soft, vec3(1.0)) / max(dot(broad, vec3(1.0)), 1e-6), 0.0, 1e4);
  return mix(min(sharp * k, soft * 24.0), soft, smoothstep(0.25, 0.65, rough));
}
float hash(vec2 p) {
  vec3 q = fract(vec3(p.xyx) * 0.1031);
  q += dot(q, q.yzx + 33.33);
  return fract((q.x + q.y) * q.z);
}
float sunSeen(vec3 p, vec3 n, float noise) {
  if (uShadowOn < 0.5) return 1.0;
  vec3 q = p + n * uShadowTexelM * 1.6;
  vec3 s = (uShadowFromWorld * vec4(q, 1.0)).xyz * 0.5 + 0.5;
  if (any(lessThan(s, vec3(0.0))) || any(greaterThan(s, vec3(1.0)))) return 1.0;
  float lit = 0.0;
  // a quarter turn from tap to tap
  vec2 o = vec2(cos(6.2831853 * noise), sin(6.2831853 * noise)) / 1280.0;
  for (int i = 0; i < 4; i++) {
    lit += step(s.z - 0.00025, texture(uShadow, s.xy + o * (float(i) * 0.32 + 0.35)).r);
    o = vec2(-o.y, o.x);
  }
  return lit * 0.25;
}
vec3 sunThrough(vec3 p) {
  if (uShadowTintOn < 0.5 || uShadowOn < 0.5) return vec3(1.0);
  vec3 s = (uShadowFromWorld * vec4(p, 1.0)).xyz * 0.5 + 0.5;
  if (any(lessThan(s, vec3(0.0))) || any(greaterThan(s, vec3(1.0)))) return vec3(1.0);
  vec4 t = texture(uShadowTint, s.xy);
  return s.z > t.a + 0.0006 ? t.rgb : vec3(1.0);
}
// GGX with the height-correlated visibility of Hammon 2017 and Schlick's Fresnel; Karis 2014 for the preintegrated part
vec3 fresnel(vec3 f0, float c) { return f0 + (1.0 - f0) * pow(max(1.0 - c, 0.0), 5.0); }
vec3 glossOf(vec3 n, vec3 v, vec3 from, vec3 f0, float rough) {
  vec3 h = normalize(v + from);
  float a = rough * rough;
  float nh = max(dot(n, h), 0.0), nv = max(dot(n, v), 1e-3), nl = max(dot(n, from), 0.0);
  float d = nh * nh * (a * a - 1.0) + 1.0;
  float dist = a * a / (3.14159265 * d * d);
  float vis = 0.5 / mix(2.0 * nl * nv, nl + nv, a);
  return fresnel(f0, max(dot(v, h), 0.0)) * min(dist * vis, 400.0);
}
vec3 sunGloss(vec3 n, vec3 v, vec3 f0, float rough) { return glossOf(n, v, uSun, f0, rough); }
vec3 glossAround(vec3 f0, float rough, float nv) {
  vec4 r = rough * vec4(-1.0, -0.0275, -0.572, 0.022) + vec4(1.0, 0.0425, 1.04, -0.04);
  float a004 = min(r.x * r.x, exp2(-9.28 * nv)) * r.x + r.y;
  vec2 ab = vec2(-1.04, 1.04) * a004 + r.zw;
  return f0 * ab.x + ab.y;
}
`

const SKY_PARS = /* glsl */ `
// of the sky in the sun's direction and at the zenith nothing is worked out a pixel: uSky holds it
uniform float uSky, uGroundLux;
uniform vec4 uFlat;
float skyIndicatrix(float c) {
  float chi = acos(clamp(c, -1.0, 1.0));
  return 1.0 + ${f(CLEAR_SKY.c)} * (exp(${f(CLEAR_SKY.d)} * chi) - ${f(Math.exp((CLEAR_SKY.d * Math.PI) / 2))}) + ${f(CLEAR_SKY.e)} * c * c;
}
float skyGradation(float s) { return 1.0 + ${f(CLEAR_SKY.a)} * exp(${f(CLEAR_SKY.b)} / max(0.01, s)); }
vec3 skyColour(vec3 d) {
  float l = uSky * skyIndicatrix(dot(d, uSun)) * skyGradation(max(d.z, 0.0));
  vec3 sky = l * mix(${v3(SKY_ZENITH_COLOUR)}, ${v3(SKY_HORIZON_COLOUR)}, pow(1.0 - clamp(d.z, 0.0, 1.0), 3.0));
  vec3 ground = uGroundLux * ${f(GROUND_ALBEDO / Math.PI)} * vec3(1.0, 1.0, 0.96);
  return mix(ground, sky, smoothstep(-0.02, 0.005, d.z));
}
`

/** Where a depth lies in the world, and how much of the hemisphere over a point nothing near closes off. */
export const CONTACT_PARS = /* glsl */ `
uniform mat4 uWorldFromClip, uClipFromWorld;
uniform highp sampler2D uDepth;
uniform float uContact;
// where in the sky this sample looks, see sample.ts
uniform vec3 uSkyPlace;
// Of the projection: how depth goes with the distance along the axis, and whether it is parallel.
uniform vec3 uAxial;
vec3 worldAt(vec2 uv, float depth) {
  vec4 w = uWorldFromClip * vec4(vec3(uv, depth) * 2.0 - 1.0, 1.0);
  return w.xyz / w.w;
}
// distance along the axis: by 1 / depth in perspective, evenly in parallel pictures; along a slanting ray it is so many times as far
float axialOf(float depth) {
  float z = depth * 2.0 - 1.0;
  return uAxial.z > 0.5 ? (uAxial.y - z) / uAxial.x : uAxial.y / (z + uAxial.x);
}
// taps over the hemisphere, nearer ones more often; what lies before a tap and not far before it closes it off
float openness(vec3 p, vec3 n, float noise, float away, float slant, int taps) {
  float blocked = 0.0;
  float a = 6.2831853 * fract(noise + uSkyPlace.x);
  vec2 way = vec2(cos(a), sin(a));
  // the golden angle from tap to tap
  const mat2 golden = mat2(${f(Math.cos(GOLDEN))}, ${f(Math.sin(GOLDEN))}, ${f(-Math.sin(GOLDEN))}, ${f(Math.cos(GOLDEN))});
  for (int i = 0; i < taps; i++) {
    float z = fract(noise * 7.31 + float(i) * 0.25 + uSkyPlace.y) * 2.0 - 1.0;
    vec3 d = normalize(n * 1.02 + vec3(way * sqrt(1.0 - z * z), z));
    way = golden * way;
    float reach = uContact * exp2(-4.5 * fract(noise * 3.17 + float(i) * 0.618034 + uSkyPlace.z));
    vec3 q = p + n * (0.002 + 0.001 * away) + d * reach;
    vec4 c = uClipFromWorld * vec4(q, 1.0);
    vec3 s = c.xyz / c.w * 0.5 + 0.5;
    if (any(lessThan(s, vec3(0.0))) || any(greaterThan(s, vec3(1.0)))) continue;
    float depth = texture(uDepth, s.xy).r;
    if (depth >= s.z) continue;
    float gap = slant * abs(axialOf(depth) - (uAxial.z > 0.5 ? axialOf(s.z) : c.w));
    blocked += smoothstep(0.0, 1.0, 1.5 * reach / max(gap, 1e-5));
  }
  return 1.0 - blocked / float(taps);
}
`

/** One lighting pass over the facts: sun with shadow, light from all sides, contact shading, gloss; the sky where nothing is. */
export const LIGHTING_FRAGMENT = /* glsl */ `
in vec2 vUv;
layout(location = 0) out vec4 colour;
layout(location = 1) out vec4 flatLayer;
// from scene-linear to what is exposed: for judging edges; and whether flat things have a layer of their own
uniform float uSeen, uFlatLayer;
uniform sampler2D uColourTexture, uNormalTexture;
uniform vec3 uBack;
uniform mat4 uWorldFromView;
uniform float uEmissionScale;
// above nought: the tone of all surfaces
uniform float uClay;
${LIGHT_PARS}
${LAMP_PARS}
${SKY_PARS}
${CONTACT_PARS}
uniform float uFirst;
${BLOCK_PARS}
${LUMINANCE_PARS}
${SEEN_PARS}
// the ground before a photograph: its height, whether there is one, and how much darker it is out of the sun
uniform vec3 uCatch;
// Shadow of the model on the ground, which may lie past the far end of the sun's map.
float caught(vec3 p) {
  if (uShadowOn < 0.5) return 0.0;
  vec3 s = (uShadowFromWorld * vec4(p, 1.0)).xyz * 0.5 + 0.5;
  if (any(lessThan(s.xy, vec2(0.0))) || any(greaterThan(s.xy, vec2(1.0))) || s.z < 0.0) return 0.0;
  float dark = 0.0;
  for (int i = 0; i < 9; i++) {
    float r = texture(uShadow, s.xy + (vec2(float(i % 3), float(i / 3)) - 1.0) / 1800.0).r;
    dark += r < 1.0 && r < s.z - 0.0005 ? 1.0 : 0.0;
  }
  return dark / 9.0;
}
void asFlat(vec3 c) {
  colour = vec4(uFlatLayer > 0.5 ? vec3(0.0) : c, seen(max(c, vec3(0.0))));
  flatLayer = vec4(c, 1.0) * uFlatLayer;
}
void main() {
  flatLayer = vec4(0.0);
  float depth = texture(uDepth, vUv).r;
  vec3 near = worldAt(vUv, 0.0);
  vec4 c = texture(uColourTexture, vUv);
  vec4 nr = texture(uNormalTexture, vUv);
  // slivers narrower than the raster's own grid lose their depth to one of its ends: such a pixel is its neighbour's
  if (depth <= 0.0 || (depth >= 1.0 && nr.w > 0.0)) {
    ivec2 at = ivec2(gl_FragCoord.xy);
    for (int i = 0; i < 4; i++) {
      ivec2 beside = at + ivec2(i == 0 ? -1 : i == 1 ? 1 : 0, i == 2 ? -1 : i == 3 ? 1 : 0);
      float d = texelFetch(uDepth, beside, 0).r;
      if (d <= 0.0 || d >= 1.0) continue;
      depth = d;
      c = texelFetch(uColourTexture, beside, 0);
      nr = texelFetch(uNormalTexture, beside, 0);
      break;
    }
  }
  float noise = uFirst > 0.5 ? blockNoise() : hash(gl_FragCoord.xy + uSeed * 19.0);
  vec3 p = worldAt(vUv, depth);
  vec3 n = normalize(mat3(uWorldFromView) * nr.xyz);
  float nl = dot(n, uSun);
  float away = dot(uBack, near - p);
  // openness, and the sun seen; nought where nothing is
  vec2 shade = vec2(1.0, 0.0);
  if (depth < 1.0) {
    if (uContact > 0.0) shade.x = openness(p, n, noise, away, distance(near, p) / max(away, 1e-6), uFirst > 0.5 ? 3 : 4);
    if (nl > 0.0 && uSunColour.r > 0.0) shade.y = sunSeen(p, n, noise);
  }
  if (uFirst > 0.5) shade = blockMean(shade, depth < 1.0 ? 1.0 : 0.0);
  if (depth >= 1.0) {
    if (uFlat.a > 0.5) {
      vec3 way = worldAt(vUv, 0.9) - near;
      float t = uCatch.y > 0.5 && way.z < 0.0 ? (uCatch.x - near.z) / way.z : -1.0;
      asFlat(t > 0.0 ? uFlat.rgb * (1.0 - uCatch.z * caught(near + way * t)) : uFlat.rgb);
      return;
    }
    vec3 d = normalize(worldAt(vUv, 0.9) - near);
    colour.rgb = skyColour(d) * uLightScale;
    colour.a = seen(colour.rgb * uSeen);
    return;
  }
  vec3 tint = c.rgb * c.rgb;
  // cut faces drawn flat are what they are, in any light
  if (nr.w > 2.0) {
    asFlat(tint);
    return;
  }
  if (uClay > 0.0) {
    tint = vec3(uClay);
    c.a = 0.0;
    nr.w = 0.9;
  }
  if (c.a > 0.5) {
    colour.rgb = tint * exp2((c.a * 2.0 - 1.0) * 26.0 - 5.0) * uEmissionScale;
    colour.a = seen(colour.rgb * uSeen);
    return;
  }
  float metal = c.a / 0.49;
  vec3 v = normalize(near - p);
  vec3 f0 = mix(vec3(0.04), tint, metal);
  vec3 body = tint * (1.0 - metal) * 0.31830989;
  Around here = around(p + n * uReach);
  float open = shade.x;
  vec3 light = body * irradianceAround(here, n) * open;
  float nv = max(dot(n, v), 1e-3);
  light += mirrored(here, reflect(-v, n), nr.w) * glossAround(f0, nr.w, nv) * mix(open, 1.0, 0.3);
  if (nl > 0.0 && shade.y > 0.0) light += uSunColour * sunThrough(p) * shade.y * nl * (body + sunGloss(n, v, f0, nr.w));
  if (uLampCount > 0) light += lampLight(p, n, v, body, f0, nr.w, noise);
  colour = vec4(light, seen(light * uSeen));
}
`

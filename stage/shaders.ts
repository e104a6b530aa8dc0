// GLSL of the finished picture: surfaces into a buffer of facts, one lighting pass a pixel, glass on top, the sum of samples, the
// tone curve. Numbers shared with the core are written into the text from there.
// Model: deferred shading; samples are scene-linear, brought to the range of half floats by one factor, whatever the exposure is: that,
// white balance, vignetting and tone are the finish's (shaders-finish.ts). On software GL each pixel's light is computed once instead of once a layer, which halves the time.
// Rejected: patched standard materials (2.5 x slower here, and contact shading lagged a sample behind).

import { LAMP_PARS } from './shaders-lamps.ts'
import { CUT_OUT, CUT_OUT_PARS, CUT_OUT_VERTEX, CUT_OUT_VERTEX_PARS } from './shaders-cut-out.ts'
import { CUTS, CUTS_PARS, CUTS_VERTEX, CUTS_VERTEX_PARS } from './shaders-cuts.ts'
import { BLOCK_PARS, LUMINANCE_PARS, SEEN_PARS } from './shaders-first.ts'
import { CLEAR_SKY, GROUND_ALBEDO, SKY_HORIZON_COLOUR, SKY_ZENITH_COLOUR } from '#core/optics'
import type { Vec3 } from '#core/math'

const f = (v: number): string => (Number.isInteger(v) ? `${v}.0` : String(v))
/** Radians. */
const GOLDEN = Math.PI * (3 - Math.sqrt(5))
const v3 = (v: Vec3): string => `vec3(${v.map(f).join(', ')})`

export const FULL_VERTEX = /* glsl */ `
out vec2 vUv;
void main() { vUv = position.xy * 0.5 + 0.5; gl_Position = vec4(position.xy, 0.0, 1.0); }
`

/** Depth only, for the sun's shadow. */
export const SHADOW_VERTEX = /* glsl */ `
${CUT_OUT_VERTEX_PARS}
${CUTS_VERTEX_PARS}
void main() {
  ${CUT_OUT_VERTEX}
  ${CUTS_VERTEX}
  gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0);
}`
/** Cut-outs let the sun through where their map says so. */
export const SHADOW_FRAGMENT = /* glsl */ `
${CUT_OUT_PARS}
${CUTS_PARS}
void main() { ${CUT_OUT} ${CUTS} }
`

/** Multiplied into what is behind it for the sun; the least depth stays. */
export const TINT_FRAGMENT = /* glsl */ `
out vec4 colour;
uniform vec3 uColour;
uniform float uAlpha;
${CUTS_PARS}
void main() {
  ${CUTS}
  colour = vec4(1.0 - uAlpha * (1.0 - uColour), gl_FragCoord.z);
}
`

/** Of each kind of map: its define, which names the set of places, its varying, and the uniform of its transform. */
const MAPS = [
  ['COLOUR_MAP', 'vColourPlace', 'uMapPlace'],
  ['ROUGH_MAP', 'vRoughPlace', 'uRoughPlace'],
  ['METAL_MAP', 'vMetalPlace', 'uMetalPlace'],
  ['NORMAL_MAP', 'vNormalPlace', 'uNormalPlace'],
  ['EMISSION_MAP', 'vEmissionPlace', 'uEmissionPlace'],
] as const
const ofMaps = (line: (define: string, varying: string, uniform: string) => string): string =>
  MAPS.map(([define, varying, uniform]) => `#ifdef ${define}\n${line(define, varying, uniform)}\n#endif`).join('\n')

/**
 * What a surface has is handed on and no more: of a million triangles each value counts. SEES_PLACE: the place in view space is
 * asked for; ALPHA_TEST: there are holes.
 */
export const SURFACE_VERTEX = /* glsl */ `
out vec3 vNormal;
#ifdef HAS_UV1
in vec2 uv1;
#endif
${ofMaps((_, varying, uniform) => `out vec2 ${varying}; uniform mat3 ${uniform};`)}
#if defined( USE_COLOR ) || defined( USE_COLOR_ALPHA )
out vec3 vTint;
#endif
#ifdef SEES_PLACE
out vec3 vView;
#endif
${CUTS_VERTEX_PARS}
void main() {
  ${CUTS_VERTEX}
  vec4 v = modelViewMatrix * vec4(position, 1.0);
  #ifdef SEES_PLACE
    vView = v.xyz;
  #endif
  // normalMatrix is the inverse transpose in view space: right under uneven scale
  vNormal = normalMatrix * normal;
  ${ofMaps((define, varying, uniform) => `${varying} = (${uniform} * vec3(${define}, 1.0)).xy;`)}
  #if defined( USE_COLOR ) || defined( USE_COLOR_ALPHA )
    vTint = color.rgb;
  #endif
  // a projection's other elements are nought (core/camera's clipFromCamera)
  mat4 P = projectionMatrix;
  gl_Position = vec4(P[0].x * v.x + P[2].x * v.z + P[3].x, P[1].y * v.y + P[2].y * v.z + P[3].y, P[2].z * v.z + P[3].z, P[2].w * v.z + P[3].w);
}
`
const SURFACE_PARS = /* glsl */ `
in vec3 vNormal;
${ofMaps((_, varying) => `in vec2 ${varying};`)}
#if defined( USE_COLOR ) || defined( USE_COLOR_ALPHA )
in vec3 vTint;
#endif
#ifdef SEES_PLACE
in vec3 vView;
#endif
uniform vec3 uColour;
uniform float uAlpha;
uniform float uAlphaTest;
uniform vec2 uRoughMetal;
uniform vec3 uEmission;
uniform float uNormalScale;
uniform sampler2D uMap, uRoughMap, uMetalMap, uNormalMap, uEmissionMap;
${CUTS_PARS}
// In view space.
vec3 surfaceNormal() {
  vec3 n = normalize(vNormal);
  #ifdef TWO_SIDED
    if (!gl_FrontFacing) n = -n;
  #endif
  #ifdef NORMAL_MAP
    // tangents from derivatives (Schueler 2006, followup: normal mapping without precomputed tangents)
    vec3 dp1 = dFdx(vView), dp2 = dFdy(vView);
    vec2 du1 = dFdx(vNormalPlace), du2 = dFdy(vNormalPlace);
    vec3 a = cross(dp2, n), b = cross(n, dp1);
    vec3 t = a * du1.x + b * du2.x, bt = a * du1.y + b * du2.y;
    float k = inversesqrt(max(max(dot(t, t), dot(bt, bt)), 1e-20));
    vec3 m = texture(uNormalMap, vNormalPlace).xyz * 2.0 - 1.0;
    m.xy *= uNormalScale;
    n = normalize(mat3(t * k, bt * k, n) * m);
  #endif
  return n;
}
vec4 surfaceColour() {
  vec4 c = vec4(uColour, uAlpha);
  #if defined( USE_COLOR ) || defined( USE_COLOR_ALPHA )
    c.rgb *= vTint;
  #endif
  #ifdef COLOUR_MAP
    c *= texture(uMap, vColourPlace);
  #endif
  return c;
}
`
/** Facts of the nearest surface. [0]: colour (square root), metal or log of emission; [1]: normal in view space, roughness. */
export const SURFACE_FRAGMENT = /* glsl */ `
layout(location = 0) out vec4 outColour;
layout(location = 1) out vec4 outNormal;
${SURFACE_PARS}
void main() {
  ${CUTS}
  vec4 c = surfaceColour();
  #ifdef ALPHA_TEST
    if (c.a < uAlphaTest) discard;
  #endif
  float rough = uRoughMetal.x;
  float metal = uRoughMetal.y;
  #ifdef ROUGH_MAP
    rough *= texture(uRoughMap, vRoughPlace).g;
  #endif
  #ifdef METAL_MAP
    metal *= texture(uMetalMap, vMetalPlace).b;
  #endif
  outNormal = vec4(surfaceNormal(), clamp(rough, 0.03, 1.0));
  vec3 e = uEmission;
  #ifdef EMISSION_MAP
    e *= texture(uEmissionMap, vEmissionPlace).rgb;
  #endif
  float glow = max(e.r, max(e.g, e.b));
  if (glow > 0.04) outColour = vec4(sqrt(e / glow), 0.5 + 0.5 * clamp((log2(glow) + 5.0) / 26.0, 0.01, 1.0));
  else outColour = vec4(sqrt(clamp(c.rgb, 0.0, 1.0)), 0.49 * clamp(metal, 0.0, 1.0));
}
`

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

/** Clear things over the lit picture: what they let through stays, what they mirror is added. */
export const CLEAR_FRAGMENT = /* glsl */ `
layout(location = 0) out vec4 colour;
layout(location = 1) out vec4 flatLayer;
// of the sun's image: inverse distances along the axis of the image and of the surface that shows it, nought where none is
layout(location = 2) out vec4 glint;
uniform mat4 inverseView;
uniform highp sampler2D uDepth;
uniform vec2 uInverseSize;
// 1: into a layer of its own, which keeps how far away it is
uniform float uApart;
${SURFACE_PARS}
${LIGHT_PARS}
// so much of the sun's light a glint sends here at least, of what white paper would
const float GLINT = 0.5;
// Inverse distance of the image that a mirror shows of something far away: 1 / (d + r / 2), of a flat one nought. Of a surface bent
// otherwise one way than the other it lies between its two images. Model: paraxial, the mean of both ways along the picture.
float imageOf(vec3 n, float far) {
  float inverse = 0.0;
  vec3 place[2] = vec3[2](dFdx(vView), dFdy(vView));
  vec3 turn[2] = vec3[2](dFdx(n), dFdy(n));
  for (int i = 0; i < 2; i++) {
    float twice = 2.0 * dot(turn[i], place[i]) / max(dot(place[i], place[i]), 1e-20);
    float bent = 1.0 + twice * far;
    inverse += 0.5 * max(0.0, abs(bent) < 1e-3 ? 0.0 : twice / bent);
  }
  return inverse;
}
void main() {
  ${CUTS}
  vec3 facing = surfaceNormal();
  if (dot(facing, vView) > 0.0) facing = -facing;
  float image = imageOf(facing, length(vView));
  vec2 at = gl_FragCoord.xy * uInverseSize;
  if (gl_FragCoord.z > texture(uDepth, at).r) discard;
  vec4 c = surfaceColour();
  vec3 n = mat3(inverseView) * facing;
  vec3 p = (inverseView * vec4(vView, 1.0)).xyz;
  vec3 v = normalize(inverseView[3].xyz - p);
  float nv = max(dot(n, v), 1e-3);
  // both faces of a pane: what the second sends back comes through the first again
  vec3 f = fresnel(vec3(0.04), nv);
  f = 2.0 * f / (1.0 + f);
  // the way through is longer towards the edge, where glass shows its own colour
  float taken = 1.0 - pow(0.97, 1.0 / max(nv, 0.06));
  Around here = around(p);
  vec3 gloss = mirrored(here, reflect(-v, n), uRoughMetal.x) * f;
  float nl = dot(n, uSun);
  float sent = 0.0;
  if (nl > 0.0 && uSunColour.r > 0.0) {
    vec3 sun = nl * min(sunGloss(n, v, vec3(0.04), max(uRoughMetal.x, 0.08)), 30.0) * sunSeen(p, n, 0.5);
    gloss += uSunColour * sun;
    sent = sun.g * 3.1415927;
  }
  glint = vec4(vec2(image * length(vView), 1.0) / -vView.z, 0.0, step(GLINT, sent));
  vec3 body = c.rgb * 0.31830989 * irradianceAround(here, n);
  float cover = clamp(1.0 - (1.0 - c.a) * (1.0 - f.r) * (1.0 - taken), 0.0, 1.0);
  colour = vec4((body * c.a + gloss) / max(cover, 1e-3), cover);
  // what is flat behind is covered as the rest is
  flatLayer = vec4(uApart / -vView.z, uApart, 0.0, cover);
}
`

/** The flat layer: what is as it is on the screen in any light (cut faces, plain grounds), linear, with how much of the pixel it covers. */
export const ADD_FRAGMENT = /* glsl */ `
in vec2 vUv;
layout(location = 0) out vec4 colour;
layout(location = 1) out vec4 flatLayer;
uniform sampler2D uSource, uFlatSource;
void main() {
  // as far as half floats reach: nothing below is cut off
  colour = vec4(clamp(texture(uSource, vUv).rgb, 0.0, 65504.0), 1.0);
  flatLayer = texture(uFlatSource, vUv);
}
`
export const COPY_FRAGMENT = /* glsl */ `
in vec2 vUv;
out vec4 colour;
uniform sampler2D uSource;
void main() { colour = vec4(clamp(texture(uSource, vUv).rgb, 0.0, 65504.0), 1.0); }
`

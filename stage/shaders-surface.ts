// GLSL of surfaces: into a buffer of facts, into the sun's shadow, and what both know of maps, holes and cuts.
import { CUT_OUT, CUT_OUT_PARS, CUT_OUT_VERTEX, CUT_OUT_VERTEX_PARS } from './shaders-cut-out.ts'
import { CUTS, CUTS_PARS, CUTS_VERTEX, CUTS_VERTEX_PARS } from './shaders-cuts.ts'

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
/** What a surface is where it is seen: colour, roughness, normal. */
export const SURFACE_PARS = /* glsl */ `
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

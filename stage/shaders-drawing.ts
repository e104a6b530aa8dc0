// GLSL of Plan and Side: paper shading, ink where a solid was cut open, thin lines along edges.
import { CUT_OUT, CUT_OUT_PARS, CUT_OUT_VERTEX, CUT_OUT_VERTEX_PARS } from './shaders-cut-out.ts'

export const DRAWING_VERTEX = /* glsl */ `
out vec3 vWorld;
out vec3 vNormalW;
out vec3 vTint;
out float vDepth;
uniform vec3 uTint;
uniform vec2 uDepthRange;
${CUT_OUT_VERTEX_PARS}
void main() {
  ${CUT_OUT_VERTEX}
  vec4 w = modelMatrix * vec4(position, 1.0);
  vWorld = w.xyz;
  vNormalW = transpose(mat3(viewMatrix)) * (normalMatrix * normal);
  vTint = uTint;
  #ifdef USE_COLOR
    vTint *= color.rgb;
  #endif
  #ifdef USE_COLOR_ALPHA
    vTint *= color.rgb;
  #endif
  vec4 v = viewMatrix * w;
  vDepth = (-v.z - uDepthRange.x) / uDepthRange.y;
  gl_Position = projectionMatrix * v;
}
`
/** Adds +1 for every back and -1 for every front face below the cut: their sum is the winding number at the cut, not 0 inside solids. */
export const WINDING_FRAGMENT = /* glsl */ `
in vec3 vWorld;
in vec3 vNormalW;
in vec3 vTint;
in float vDepth;
out vec4 count;
uniform vec4 uCut;
uniform float uSheet;
void main() {
  if (uSheet > 0.5 || dot(vWorld, uCut.xyz) > uCut.w) discard;
  count = vec4(gl_FrontFacing ? -1.0 : 1.0);
}
`
/** [0]: paper; [1]: world normal and depth for the lines. */
export const DRAWING_FRAGMENT = /* glsl */ `
in vec3 vWorld;
in vec3 vNormalW;
in vec3 vTint;
in float vDepth;
layout(location = 0) out vec4 colour;
layout(location = 1) out vec4 facing;
uniform vec4 uCut;
uniform vec3 uPaper;
${CUT_OUT_PARS}
void main() {
  if (dot(vWorld, uCut.xyz) > uCut.w) discard;
  ${CUT_OUT}
  vec3 n = normalize(vNormalW);
  vec3 towards = normalize(vec3(viewMatrix[0][2], viewMatrix[1][2], viewMatrix[2][2]));
  float lit = 0.74 + 0.26 * abs(dot(n, towards));
  vec3 tint = pow(clamp(vTint, 0.0, 1.0), vec3(0.4545));
  float grey = dot(tint, vec3(0.3, 0.59, 0.11));
  vec3 soft = mix(vec3(grey), tint, 0.55);
  colour = vec4(mix(uPaper, uPaper * soft, 0.42) * lit, 1.0);
  facing = vec4(n * 0.5 + 0.5, vDepth);
}
`
/** Four texels a pixel; a bend in depth or a turn of the normal draws a line. */
export const DRAWING_EDGES = /* glsl */ `
in vec2 vUv;
out vec4 colour;
uniform sampler2D uSource;
uniform sampler2D uFacing;
uniform sampler2D uWinding;
uniform vec2 uPixel;
uniform vec3 uInk;
uniform vec3 uGround;
uniform float uCutOn;
uniform float uDepthSpan;
uniform float uMetresPerPixel;
// world normal and depth of clear things, nothing where there are none
uniform sampler2D uGlass;
uniform float uGlassOn;
// Clear things are their outlines and bends, thinner than those of what they are seen through to.
float glassAt(vec2 uv, float behind) {
  vec4 c = texture(uGlass, uv);
  bool isHere = dot(c.xyz, c.xyz) > 0.0;
  float e = 0.0;
  for (int i = 0; i < 4; i++) {
    vec4 g = texture(uGlass, uv + (i < 2 ? vec2(i == 0 ? uPixel.x : -uPixel.x, 0.0) : vec2(0.0, i == 2 ? uPixel.y : -uPixel.y)));
    bool isThere = dot(g.xyz, g.xyz) > 0.0;
    if (isHere != isThere) e = max(e, (isHere ? c.w : g.w) < behind ? 0.55 : 0.0);
    else if (isHere && c.w < behind) e = max(e, smoothstep(0.3, 0.7, distance(g.xyz, c.xyz)) * 0.35);
  }
  return e;
}
float edgeAt(vec2 uv) {
  vec4 c = texture(uFacing, uv);
  float e = 0.0;
  for (int i = 0; i < 2; i++) {
    vec2 d = i == 0 ? vec2(uPixel.x, 0.0) : vec2(0.0, uPixel.y);
    vec4 a = texture(uFacing, uv + d);
    vec4 b = texture(uFacing, uv - d);
    float bend = abs(a.w + b.w - 2.0 * c.w) * uDepthSpan / max(uMetresPerPixel, 1e-6);
    e = max(e, smoothstep(1.2, 4.0, bend) * 0.7);
    e = max(e, smoothstep(0.35, 0.8, distance(a.xyz, b.xyz)) * 0.35);
  }
  return e;
}
void main() {
  vec3 sum = vec3(0.0);
  for (int i = 0; i < 4; i++) {
    // rows from the top: the drawing is read back
    vec2 uv = vec2(vUv.x, 1.0 - vUv.y) + (vec2(i & 1, i >> 1) - 0.5) * uPixel;
    vec4 c = texture(uSource, uv);
    float solid = uCutOn * step(0.5, texture(uWinding, uv).r);
    vec3 seen = c.a < 0.5 ? uGround : mix(c.rgb, uInk, edgeAt(uv));
    if (uGlassOn > 0.5) seen = mix(seen, uInk, glassAt(uv, c.a < 0.5 ? 2.0 : texture(uFacing, uv).w));
    sum += mix(seen, uInk, solid) * 0.25;
  }
  colour = vec4(sum, 1.0);
}
`

// GLSL of first frames: one sample is all there is, so its noise is evened out over neighbours and its steps at edges are filtered.
// Model: contact shading and the sun's half shadow take one of sixteen patterns in every block of four by four pixels; the mean over
// a block of that size, of what lies on the same surface, has them all. Source: mittring2007 (interleaved patterns), lottes2011.

/** The noise of a pixel within its block of four by four: sixteen values, each once. */
const BLOCK_NOISE = /* glsl */ `
float blockNoise(vec2 at) {
  ivec2 c = ivec2(at) & 3;
  return (float((c.x * 4 + (c.y ^ c.x) * 5) & 15) + 0.5) / 16.0;
}`

/** Openness, the sun seen, and the distance along the axis (below nought where nothing is). */
export const shadeFragment = (lightPars: string, contactPars: string): string => /* glsl */ `
in vec2 vUv;
out vec4 shade;
uniform sampler2D uNormalTexture;
uniform vec3 uBack;
${lightPars}
${contactPars}
${BLOCK_NOISE}
void main() {
  float depth = texture(uDepth, vUv).r;
  if (depth >= 1.0) {
    shade = vec4(1.0, 1.0, -1.0, 1.0);
    return;
  }
  vec3 p = worldAt(vUv, depth);
  vec3 n = normalize(texture(uNormalTexture, vUv).xyz);
  float away = dot(uBack, worldAt(vUv, 0.0) - p);
  float noise = blockNoise(gl_FragCoord.xy);
  float open = uContact > 0.0 ? openness(p, n, noise, away) : 1.0;
  float seen = dot(n, uSun) > 0.0 ? sunSeen(p, n, noise) : 0.0;
  shade = vec4(open, seen, away, 1.0);
}
`

/** The mean of a block's shade on the surface that goes through the pixel. */
export const SOFTENED_PARS = /* glsl */ `
uniform highp sampler2D uShade;
uniform float uShadeOn;
vec2 softened(float away) {
  vec2 slope = vec2(dFdx(away), dFdy(away)), size = vec2(textureSize(uShade, 0));
  float near = 0.012 * away + 0.5 * (abs(slope.x) + abs(slope.y));
  vec3 sum = vec3(texelFetch(uShade, ivec2(gl_FragCoord.xy), 0).rg, 1.0) * 1e-3;
  // each read is the mean of two by two; one that reaches over an edge lies on no plane
  for (int i = 0; i < 4; i++) {
    vec2 by = vec2((i & 1) == 0 ? -1.5 : 0.5, i < 2 ? -1.5 : 0.5);
    vec4 q = textureLod(uShade, (gl_FragCoord.xy + by) / size, 0.0);
    float on = step(0.0, q.z) * step(abs(q.z - away - dot(slope, by)), near);
    sum += on * vec3(q.rg, 1.0);
  }
  return sum.xy / sum.z;
}
`

/**
 * The finished picture with the steps at its edges evened out: across an edge a pixel takes of its neighbour by where it lies between
 * the edge's ends; what is finer than a pixel takes of all around. Source: lottes2011 (from memory).
 */
export const EDGE_FRAGMENT = /* glsl */ `
in vec2 vUv;
out vec4 colour;
uniform sampler2D uSource;
uniform vec2 uPixel;
const float STEPS[8] = float[8](1.0, 1.0, 1.0, 1.5, 2.0, 2.0, 4.0, 8.0);
float luma(vec2 uv) { return dot(textureLod(uSource, uv, 0.0).rgb, vec3(0.299, 0.587, 0.114)); }
float by(float x, float y) { return luma(vUv + vec2(x, y) * uPixel); }
void main() {
  colour = vec4(texture(uSource, vUv).rgb, 1.0);
  float m = luma(vUv), n = by(0.0, 1.0), s = by(0.0, -1.0), e = by(1.0, 0.0), w = by(-1.0, 0.0);
  float low = min(m, min(min(n, s), min(e, w))), high = max(m, max(max(n, s), max(e, w)));
  float range = high - low;
  if (range < max(0.0312, high * 0.1)) return;
  float ne = by(1.0, 1.0), nw = by(-1.0, 1.0), se = by(1.0, -1.0), sw = by(-1.0, -1.0);
  float fine = smoothstep(0.0, 1.0, clamp(abs((2.0 * (n + s + e + w) + ne + nw + se + sw) / 12.0 - m) / range, 0.0, 1.0));
  fine *= fine * 0.75;
  bool lies = abs(nw + sw - 2.0 * w) + 2.0 * abs(n + s - 2.0 * m) + abs(ne + se - 2.0 * e) >= abs(nw + ne - 2.0 * n) + 2.0 * abs(w + e - 2.0 * m) + abs(sw + se - 2.0 * s);
  float back = lies ? s : w, ahead = lies ? n : e;
  bool isBack = abs(back - m) >= abs(ahead - m);
  float across = (lies ? uPixel.y : uPixel.x) * (isBack ? -1.0 : 1.0);
  float mean = 0.5 * (m + (isBack ? back : ahead));
  float enough = 0.25 * abs((isBack ? back : ahead) - m);
  vec2 on = vUv + 0.5 * (lies ? vec2(0.0, across) : vec2(across, 0.0));
  vec2 along = lies ? vec2(uPixel.x, 0.0) : vec2(0.0, uPixel.y);
  vec2 a = on, b = on;
  float la = 0.0, lb = 0.0;
  bool endA = false, endB = false;
  for (int i = 0; i < 8; i++) {
    if (!endA) { a -= along * STEPS[i]; la = luma(a) - mean; endA = abs(la) >= enough; }
    if (!endB) { b += along * STEPS[i]; lb = luma(b) - mean; endB = abs(lb) >= enough; }
    if (endA && endB) break;
  }
  float da = lies ? vUv.x - a.x : vUv.y - a.y, db = lies ? b.x - vUv.x : b.y - vUv.y;
  bool nearA = da < db;
  float share = 0.5 - min(da, db) / (da + db);
  if ((m < mean) == ((nearA ? la : lb) < 0.0)) share = 0.0;
  float take = max(share, fine);
  colour = vec4(texture(uSource, vUv + (lies ? vec2(0.0, across) : vec2(across, 0.0)) * take).rgb, 1.0);
}
`

// GLSL of first frames: one sample is all there is, so its noise is evened out over neighbours and its steps at edges are filtered.
// Model: contact shading and the sun's half shadow take one of three patterns in every block of two by two pixels, and the mean over
// the block, by its derivatives, has them all: no pass of its own. Source: mittring2007 (interleaved patterns), lottes2011.

/**
 * The pattern of a pixel within its block, and the mean of a value over the block's first three pixels (its weight last; 0 leaves a
 * pixel out). The fourth is left out as derivatives may be those of a block's first row and column for all of it: of that pixel
 * nothing is known to the others then, and it alone would differ.
 */
export const BLOCK_PARS = /* glsl */ `
float blockNoise() {
  ivec2 c = ivec2(gl_FragCoord.xy) & 1;
  return (float(c.x + 2 * c.y) + 0.5) / 3.0;
}
vec2 blockMean(vec2 value, float weight) {
  vec3 v = vec3(value * weight, weight);
  vec2 odd = vec2(ivec2(gl_FragCoord.xy) & 1);
  vec3 firstRow = dFdx(v * (2.0 * odd.x - 1.0)), secondRow = dFdy(v * odd.y);
  v = -dFdy(firstRow * (1.0 - odd.y)) - dFdx(secondRow * (1.0 - odd.x));
  return v.z < 0.5 ? value : v.xy / v.z;
}
`

/**
 * A pixel's colour with the steps at edges evened out: taken across an edge by where it lies between the edge's
 * ends; what is finer than a pixel takes of its neighbour. Judged by brightness roughly as it will be seen (SEEN_PARS), which lies
 * beside the colour. Source: lottes2011 (from memory).
 */
export const EDGE_PARS = /* glsl */ `
uniform vec2 uPixel;
const float STEPS[4] = float[4](1.0, 1.5, 2.0, 4.0);
float seenAt(vec2 uv) { return textureLod(uSource, uv, 0.0).a; }
float seenBy(ivec2 at) { return texelFetch(uSource, at, 0).a; }
// How far to the side a pixel's colour is taken from.
vec2 eveningBy(vec2 uv, ivec2 at) {
  ivec2 last = textureSize(uSource, 0) - 1;
  ivec2 up = min(at + 1, last), down = max(at - 1, ivec2(0));
  float m = seenBy(at), n = seenBy(ivec2(at.x, up.y)), s = seenBy(ivec2(at.x, down.y)), e = seenBy(ivec2(up.x, at.y)), w = seenBy(ivec2(down.x, at.y));
  float low = min(m, min(min(n, s), min(e, w))), high = max(m, max(max(n, s), max(e, w)));
  float range = high - low;
  if (range < max(0.04, high * 0.125)) return vec2(0.0);
  float ne = seenBy(up), nw = seenBy(ivec2(down.x, up.y)), se = seenBy(ivec2(up.x, down.y)), sw = seenBy(down);
  float fine = smoothstep(0.0, 1.0, clamp(abs((2.0 * (n + s + e + w) + ne + nw + se + sw) / 12.0 - m) / range, 0.0, 1.0));
  fine *= fine * 0.75;
  bool lies = abs(nw + sw - 2.0 * w) + 2.0 * abs(n + s - 2.0 * m) + abs(ne + se - 2.0 * e) >= abs(nw + ne - 2.0 * n) + 2.0 * abs(w + e - 2.0 * m) + abs(sw + se - 2.0 * s);
  float back = lies ? s : w, ahead = lies ? n : e;
  bool isBack = abs(back - m) >= abs(ahead - m);
  float across = (lies ? uPixel.y : uPixel.x) * (isBack ? -1.0 : 1.0);
  float mean = 0.5 * (m + (isBack ? back : ahead));
  float enough = 0.25 * abs((isBack ? back : ahead) - m);
  vec2 on = uv + 0.5 * (lies ? vec2(0.0, across) : vec2(across, 0.0));
  vec2 along = lies ? vec2(uPixel.x, 0.0) : vec2(0.0, uPixel.y);
  vec2 a = on, b = on;
  float la = 0.0, lb = 0.0;
  bool endA = false, endB = false;
  for (int i = 0; i < 4; i++) {
    if (!endA) { a -= along * STEPS[i]; la = seenAt(a) - mean; endA = abs(la) >= enough; }
    if (!endB) { b += along * STEPS[i]; lb = seenAt(b) - mean; endB = abs(lb) >= enough; }
    if (endA && endB) break;
  }
  float da = lies ? uv.x - a.x : uv.y - a.y, db = lies ? b.x - uv.x : b.y - uv.y;
  bool nearA = da < db;
  float share = 0.5 - min(da, db) / (da + db);
  if ((m < mean) == ((nearA ? la : lb) < 0.0)) share = 0.0;
  return (lies ? vec2(0.0, across) : vec2(across, 0.0)) * max(share, fine);
}
`

/** Relative luminance of linear sRGB. Source: iec61966-2-1. */
export const LUMINANCE_PARS = /* glsl */ `float luminanceOf(vec3 c) { return dot(c, vec3(0.2126, 0.7152, 0.0722)); }`

/** Brightness roughly as the tone curve shows it, 0..1; after LUMINANCE_PARS. */
export const SEEN_PARS = /* glsl */ `
float seen(vec3 c) {
  float l = luminanceOf(max(c, 0.0));
  return sqrt(l / (l + 0.6));
}
`

/** Even noise of a pixel, 0..1, that neighbours share out among them. Source: jimenez2014 (from memory). */
export const NOISE_PARS = /* glsl */ `float noise(vec2 p) { return fract(52.9829189 * fract(dot(p, vec2(0.06711056, 0.00583715)))); }`

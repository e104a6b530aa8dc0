// GLSL of the finish: what a camera and its development make of scene-linear samples. Nothing of it is in the samples: a change of exposure,
// white balance, vignetting or tone asks for this one pass again.

import { EDGE_PARS, LUMINANCE_PARS, NOISE_PARS } from './shaders-first.ts'
import { VIEW_PARS } from './views.ts'

/** Mean of the samples; exposure, white balance, vignetting, tone curve; the flat layer over it; sRGB, half a level of noise. */
export const FINISH_FRAGMENT = /* glsl */ `
in vec2 vUv;
out vec4 colour;
uniform sampler2D uSource, uFlatSource;
uniform sampler2D uPoints;
uniform float uWeight, uFilter, uHighlights, uCrisp;
uniform float uExposure;
// linear sRGB to linear sRGB
uniform mat3 uBalance;
// principal point (rows from the top) and focal length in pixels of the whole target; strength of cos^4
uniform vec4 uVignette;
// contrast, saturation
uniform vec2 uDevelop;
uniform float uClipping;
uniform highp sampler2D uDepth;
// the sharp zone from and to, metres along the axis (0: not outlined), and how depth goes with the distance
uniform vec4 uZone;
uniform float uShoulder, uGrain;
// light of the whole frame, spread narrow and wide; the share of it; where this lies in the frame
uniform sampler2D uGlareNarrow, uGlareWide;
uniform float uGlare;
uniform vec4 uGlareFrame;
// of the frame, in pixels of the whole: from where, how large
uniform vec4 uInFrame;
// principal point in pixels of the target, rows from the top; how far red and blue stand apart for each pixel off it
uniform vec4 uLateral;
uniform highp sampler3D uTable;
uniform int uTableSize;
uniform float uTableStrength;
// a photograph lies behind: what the flat layer has below nought is clear
uniform float uClear;
${EDGE_PARS}
${VIEW_PARS}
uniform int uTone;
#include <tonemapping_pars_fragment>
vec3 toSrgb(vec3 c) {
  return mix(1.055 * pow(max(c, vec3(0.0)), vec3(1.0 / 2.4)) - 0.055, c * 12.92, vec3(lessThanEqual(c, vec3(0.0031308))));
}
vec3 toLinear(vec3 c) {
  return mix(pow((c + 0.055) / 1.055, vec3(2.4)), c / 12.92, vec3(lessThanEqual(c, vec3(0.04045))));
}
${NOISE_PARS}
${LUMINANCE_PARS}
// Bright parts pressed together, or pulled apart, by a smooth change of slope over the stops above mid-grey; 0.5 changes nothing.
vec3 shouldered(vec3 c) {
  if (uShoulder == 0.5) return c;
  float most = max(c.r, max(c.g, c.b));
  if (most <= 0.18) return c;
  float stops = log2(most / 0.18);
  float bent = stops * mix(1.0, exp2(1.0 - 2.0 * uShoulder), smoothstep(0.0, 2.5, stops));
  return c * (0.18 * exp2(bent) / most);
}
// From exposed values to the screen's.
vec3 toned(vec3 c) {
  if (uTone == 0) return toSrgb(clamp(c, 0.0, 1.0));
  c = shouldered(c);
  // AgX (as the rendering library has it), with a little more slope and chroma, which suits interiors
  c = AgXToneMapping(c * 1.35);
  float grey = luminanceOf(c);
  c = max(mix(vec3(grey), c, 1.18), 0.0);
  vec3 s = toSrgb(clamp(c, 0.0, 1.0));
  return mix(s, s * s * (3.0 - 2.0 * s), 0.45);
}
// Contrast about the middle, so that black and white stay; saturation about the brightness.
vec3 developed(vec3 s) {
  if (uDevelop.x != 1.0) {
    vec3 low = 0.5 * pow(max(2.0 * s, 0.0), vec3(uDevelop.x)), high = 1.0 - 0.5 * pow(max(2.0 - 2.0 * s, 0.0), vec3(uDevelop.x));
    s = mix(low, high, step(0.5, s));
  }
  return mix(vec3(luminanceOf(s)), s, uDevelop.y);
}
// A colour table, trilinear between its places.
vec3 tabled(vec3 s) {
  if (uTableSize < 2) return s;
  vec3 t = clamp(s, 0.0, 1.0) * float(uTableSize - 1);
  ivec3 i = min(ivec3(t), uTableSize - 2);
  vec3 f = t - vec3(i);
  vec3 sum = vec3(0.0);
  for (int k = 0; k < 8; k++) {
    ivec3 up = ivec3(k & 1, (k >> 1) & 1, k >> 2);
    vec3 w = mix(1.0 - f, f, vec3(up));
    sum += w.x * w.y * w.z * texelFetch(uTable, i + up, 0).rgb;
  }
  return mix(s, sum, uTableStrength);
}
// Grains about a twelve-hundredth of the frame's width, by their place in it: the same in tiles, and about the same at any size.
float hash(vec2 p) {
  vec3 q = fract(vec3(p.xyx) * 0.1031);
  q += dot(q, q.yzx + 33.33);
  return fract((q.x + q.y) * q.z);
}
float grainAt(vec2 p) {
  vec2 at = (uInFrame.xy + p) * (1200.0 / uInFrame.z);
  vec2 i = floor(at), f = fract(at);
  f = f * f * (3.0 - 2.0 * f);
  float v = mix(mix(hash(i), hash(i + vec2(1, 0)), f.x), mix(hash(i + vec2(0, 1)), hash(i + vec2(1, 1)), f.x), f.y);
  return (v - 0.5) * 4.0;
}
// One colour of the samples beside its place, between pixels.
vec3 beside(vec2 px) {
  vec2 t = px - 0.5;
  ivec2 i = ivec2(floor(t)), last = textureSize(uSource, 0) - 1;
  vec2 f = t - vec2(i);
  vec3 sum = vec3(0.0);
  for (int k = 0; k < 4; k++) {
    ivec2 up = ivec2(k & 1, k >> 1);
    vec2 w = mix(1.0 - f, f, vec2(up));
    ivec2 p = clamp(i + up, ivec2(0), last);
    sum += w.x * w.y * (texelFetch(uSource, p, 0).rgb * uWeight + (uHighlights > 0.0 ? texelFetch(uPoints, p, 0).rgb * uHighlights : vec3(0.0)));
  }
  return sum;
}
// Between four texels, by hand: sums are not filtered by the GL.
vec4 between(sampler2D from, vec2 px) {
  vec2 t = px - 0.5;
  ivec2 i = ivec2(floor(t)), last = textureSize(from, 0) - 1;
  vec2 f = t - vec2(i);
  vec4 sum = vec4(0.0);
  for (int k = 0; k < 4; k++) {
    ivec2 up = ivec2(k & 1, k >> 1);
    vec2 w = mix(1.0 - f, f, vec2(up));
    sum += w.x * w.y * texelFetch(from, clamp(i + up, ivec2(0), last), 0);
  }
  return sum;
}
// Between sixteen, as sharp as the samples are (Catmull and Rom's cubic), held within the middle four: no rings round what is bright.
vec3 crisp(sampler2D from, vec2 px) {
  vec2 t = px - 0.5;
  ivec2 i = ivec2(floor(t)), last = textureSize(from, 0) - 1;
  vec2 f = t - vec2(i);
  vec2 w0 = f * (-0.5 + f * (1.0 - 0.5 * f)), w1 = 1.0 + f * f * (-2.5 + 1.5 * f);
  vec2 w2 = f * (0.5 + f * (2.0 - 1.5 * f)), w3 = f * f * (-0.5 + 0.5 * f);
  vec3 sum = vec3(0.0), least = vec3(1e9), most = vec3(0.0);
  for (int y = 0; y < 4; y++)
    for (int x = 0; x < 4; x++) {
      vec3 c = texelFetch(from, clamp(i + ivec2(x - 1, y - 1), ivec2(0), last), 0).rgb;
      vec2 w = vec2(x == 0 ? w0.x : x == 1 ? w1.x : x == 2 ? w2.x : w3.x, y == 0 ? w0.y : y == 1 ? w1.y : y == 2 ? w2.y : w3.y);
      sum += w.x * w.y * c;
      if (x == 1 || x == 2) if (y == 1 || y == 2) {
        least = min(least, c);
        most = max(most, c);
      }
    }
  return clamp(sum, least, most);
}
// So many times what is seen as white is a lamp.
const float LAMP = 4.0;
bool isSharp(ivec2 at) {
  float depth = texelFetch(uDepth, clamp(at, ivec2(0), textureSize(uDepth, 0) - 1), 0).r;
  float d = depth >= 1.0 ? 1e9 : uZone.w / (depth * 2.0 - 1.0 + uZone.z);
  return d >= uZone.x && d <= uZone.y;
}
// How near the edge of the sharp zone a place is, inside it: 1 at it, 0 three pixels off.
float zoneEdge(ivec2 at) {
  if (!isSharp(at)) return 0.0;
  for (int r = 1; r <= 2; r++)
    for (int k = 0; k < 4; k++) {
      ivec2 way = k == 0 ? ivec2(r, 0) : k == 1 ? ivec2(-r, 0) : k == 2 ? ivec2(0, r) : ivec2(0, -r);
      if (!isSharp(at + way)) return r == 1 ? 1.0 : 0.7;
    }
  return 0.0;
}
void main() {
  // rows from the top: the picture is read back
  vec2 place = inView(vUv);
  if (place.x < 0.0) {
    // past the fold of a lens nothing is seen
    colour = vec4(0.0, 0.0, 0.0, uClear > 0.5 ? 0.0 : 1.0);
    return;
  }
  vec2 uv = vec2(place.x, 1.0 - place.y);
  ivec2 size = textureSize(uSource, 0);
  ivec2 at = min(ivec2(uv * vec2(size)), size - 1);
  vec2 by = uFilter > 0.5 ? eveningBy(uv, at) : vec2(0.0);
  bool isEven = by == vec2(0.0);
  vec3 c = isEven ? texelFetch(uSource, at, 0).rgb : textureLod(uSource, uv + by, 0.0).rgb;
  vec4 over = isEven ? texelFetch(uFlatSource, at, 0) : textureLod(uFlatSource, uv + by, 0.0);
  if (uMapOn > 0.5) {
    over = between(uFlatSource, uv * vec2(size));
    c = uCrisp > 0.5 ? crisp(uSource, uv * vec2(size)) : between(uSource, uv * vec2(size)).rgb;
  }
  over *= uWeight;
  float behind = uClear > 0.5 ? clamp(-min(over.r, min(over.g, over.b)) / 8.0, 0.0, over.a) : 0.0;
  float covered = over.a;
  // the samples' mean is over all of them: those that are flat had no light
  vec3 sum = max(c * uWeight, 0.0);
  c = sum / max(1.0 - covered, 1e-3);
  // what shines over what is flat: lamps that are spread over it, by their light and not only by how much they cover
  vec3 shining = max(sum - LAMP / uExposure * (1.0 - covered), 0.0);
  if (behind > 0.0) {
    // what is left of the pixel is the model's: drawn as if it were all
    float rest = 1.0 - behind;
    over = rest > 1e-3 ? vec4(max(over.rgb + 8.0 * behind, 0.0), max(over.a - behind, 0.0)) / rest : vec4(0.0);
  }
  if (uHighlights > 0.0) {
    vec3 shapes = (uMapOn > 0.5 ? between(uPoints, uv * vec2(size)).rgb : texelFetch(uPoints, at, 0).rgb) * uHighlights;
    c += shapes;
    shining += shapes;
  }
  if (uLateral.z != 0.0 && over.a < 0.5) {
    // rows of the samples run from the bottom
    vec2 size2 = vec2(size);
    vec2 px = vec2(uv.x, uv.y) * size2, axis = vec2(uLateral.x, size2.y - uLateral.y);
    vec2 off = (px - axis) * uLateral.z;
    // all of it may be the photograph's
    float rest = max(1.0 - covered, 1e-3);
    c = vec3(beside(px + off).r, c.g * rest, beside(px - off).b) / rest;
  }
  if (uGlare > 0.0) {
    vec2 there = uGlareFrame.xy + uv * uGlareFrame.zw;
    vec3 glare = 0.5 * (texture(uGlareNarrow, there).rgb + texture(uGlareWide, there).rgb);
    c = mix(c, glare, uGlare);
    shining = mix(shining, glare, uGlare);
  }
  float left = uExposure;
  if (uVignette.w > 0.0) {
    vec2 off = place * vec2(size) - uVignette.xy;
    float cos2 = uVignette.z * uVignette.z / (uVignette.z * uVignette.z + dot(off, off));
    left *= pow(cos2, 2.0 * uVignette.w);
  }
  c = max(uBalance * (c * left), 0.0);
  shining = max(uBalance * (shining * left), 0.0);
  vec3 s = clamp(tabled(developed(toned(min(c, 65504.0)))), 0.0, 1.0);
  if (uGrain > 0.0) {
    float grey = luminanceOf(s);
    s = clamp(s + uGrain * grainAt(vUv * uOut) * 4.0 * grey * (1.0 - grey), 0.0, 1.0);
  }
  bool isShining = over.a + behind > 0.0 && max(shining.r, max(shining.g, shining.b)) > 1e-4;
  vec3 shine = isShining ? toned(min(shining, 65504.0)) : vec3(0.0);
  if (over.a > 0.0) {
    // toned by itself: where nothing shines, what is flat stays what it is
    vec3 flatLight = over.rgb + max(over.a - over.rgb, 0.0) * toLinear(shine);
    s = toSrgb(clamp(toLinear(s) * (1.0 - over.a) + flatLight, 0.0, 1.0));
  }
  float clear = behind;
  if (behind > 0.0 && isShining) {
    // so much less of the photograph is seen through it
    clear *= 1.0 - max(shine.r, max(shine.g, shine.b));
    s = (s * (1.0 - behind) + shine * behind) / (1.0 - clear);
  }
  if (uZone.y > 0.0) {
    // moss, on a light line where the picture is dark
    float edge = zoneEdge(at);
    s = mix(s, dot(s, vec3(0.33)) > 0.35 ? vec3(0.24, 0.42, 0.14) : vec3(0.62, 0.86, 0.42), edge);
  }
  if (uClipping > 0.5) {
    // stripes: ochre where a channel is at its end, indigo where all are black
    bool isStripe = fract((gl_FragCoord.x + gl_FragCoord.y) / 6.0) < 0.5;
    if (isStripe && max(s.r, max(s.g, s.b)) > 253.5 / 255.0) s = vec3(0.76, 0.52, 0.1);
    else if (isStripe && max(s.r, max(s.g, s.b)) < 1.5 / 255.0) s = vec3(0.35, 0.45, 0.8);
  }
  colour = vec4(clamp(s + (noise(gl_FragCoord.xy) - 0.5) / 255.0, 0.0, 1.0), 1.0 - clear);
}
`

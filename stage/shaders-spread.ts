// GLSL of blur within a picture of one sample, through the middle of the lens: each point is spread by its whole disc.
// Model: gathered by depth. A neighbour counts where its own disc reaches here, in inverse proportion to its area; what lies behind reaches no
// farther than what it is behind of is blurred. Source: potmesil1981.
import { WITHOUT_POINTS_PARS } from './shaders-lens.ts'
import { BLOCK } from './shaders-reach.ts'
import { SEEN_PARS } from './shaders-first.ts'

/** Places looked at within a disc. */
export const SPREAD_TAPS = 28
/** The same of a frame in motion, and of the first one of a picture that is refined. */
export const QUICK_TAPS = 16
/** Of clear things every second one is looked at, in such frames every fourth: their light is even. */
export const CLEAR_STEP = { still: 2, quick: 4 } as const
/** What would be spread less, pixels, stays as it is. */
const LEAST_PX = 0.6
/** Spread no farther than this, pixels: the places looked at are few. */
export const MOST_PX = 40

/**
 * Light without bright points beside the radius it is spread by, pixels, negative before the focus: one reading a place. The same of what is
 * clear, with how much is seen through it. Define: CLEAR.
 */
export const DISC_PACK_FRAGMENT = /* glsl */ `
layout(location = 0) out vec4 packed;
#ifdef CLEAR
layout(location = 1) out vec4 packedOver;
#endif
${WITHOUT_POINTS_PARS}
void main() {
  ivec2 at = ivec2(gl_FragCoord.xy);
  float r = radiusOf(distanceOf(texelFetch(uDepth, at, 0).r));
  vec4 over;
  packed = vec4(min(lightAt(at, over), 65504.0), clamp(r, -${MOST_PX}.0, ${MOST_PX}.0));
  #ifdef CLEAR
    packedOver = vec4(min(over.rgb, 65504.0), over.a);
  #endif
}
`

/** Defines: CLEAR, with a layer of clear things; FLAT, with things drawn flat. */
export const SPREAD_FRAGMENT = /* glsl */ `
layout(location = 0) out vec4 colour;
layout(location = 1) out vec4 flatLayer;
uniform sampler2D uFlatSource, uPacked, uPackedOver, uReach;
uniform float uSeen;
uniform int uTaps, uClearStep;
uniform vec2 uPoints[${SPREAD_TAPS}];
${WITHOUT_POINTS_PARS}
${SEEN_PARS}
// one pixel's light and depth, not a mix of neighbours'
ivec2 pixelAt(vec2 off) {
  return clamp(ivec2(floor(gl_FragCoord.xy + off)), ivec2(0), textureSize(uDepth, 0) - 1);
}
// radii closer than this, pixels, are as far away as each other
const float SAME = 0.1;
const float least = 0.5;
// before: radius of what may reach here from before the focus
void spread(float here, float before) {
  float own = abs(here);
  // what is blurred before a sharp place covers it
  float reach = -before < here - SAME ? max(own, before) : own;
  if (reach < ${LEAST_PX}) return;
  float w = 1.0 / (max(own, least) * max(own, least));
  vec3 sum = colour.rgb * w;
  vec4 over = flatLayer * w;
  for (int i = 0; i < uTaps; i++) {
    vec2 off = uPoints[i] * reach;
    ivec2 at = pixelAt(off);
    vec4 there = texelFetch(uPacked, at, 0);
    float r = abs(there.a);
    if (there.a > here + SAME) r = min(r, own);
    // what is sharp there stays there
    float covers = r < least ? 0.0 : clamp(r - length(off) + 1.0, 0.0, 1.0);
    float k = covers / (max(r, least) * max(r, least));
    sum += there.rgb * k;
    #ifdef FLAT
      if (k > 0.0) over += texelFetch(uFlatSource, at, 0) * k;
    #endif
    w += k;
  }
  colour.rgb = sum / w;
  flatLayer = over / w;
}
#ifdef CLEAR
// Clear things are spread by themselves and laid over the spread surfaces: their light, and what is seen through them. Between a place with
// glass and one without, the glass says how far; not where something stands before it.
float discOf(float d) { return min(abs(radiusOf(d)), ${MOST_PX}.0); }
float depthAt(ivec2 at) { return distanceOf(texelFetch(uDepth, at, 0).r); }
// distance of what is clear here; 0 where nothing is
float clearAt(ivec2 at) {
  vec2 c = texelFetch(uClear, at, 0).rg;
  return c.g > 1e-3 ? c.g / max(c.r, 1e-6) : 0.0;
}
// radius by which two places give to each other, of which one is clear
float radiusBetween(float here, float there, ivec2 at) {
  if (here > 0.0 && there > 0.0) return min(discOf(here), discOf(there));
  float far = max(here, there);
  return far <= 0.0 || depthAt(here > 0.0 ? at : pixelAt(vec2(0.0))) < far * 0.98 ? 0.0 : discOf(far);
}
// about: radius of what is clear and may reach here
void spreadClear(inout vec4 clear, float here, float about) {
  float reach = here > 0.0 ? discOf(here) : about;
  if (reach < ${LEAST_PX}) return;
  float own = max(here > 0.0 ? discOf(here) : reach, least);
  float w = 1.0 / (own * own);
  vec4 sum = clear * w;
  for (int i = 1; i < uTaps; i += uClearStep) {
    vec2 off = uPoints[i] * reach;
    ivec2 at = pixelAt(off);
    float there = clearAt(at);
    bool isBare = here <= 0.0 && there <= 0.0;
    float r = isBare ? reach : radiusBetween(here, there, at);
    float covers = r < least ? 0.0 : clamp(r - length(off) + 1.0, 0.0, 1.0);
    float k = covers / (max(r, least) * max(r, least));
    sum += (isBare ? vec4(0.0, 0.0, 0.0, 1.0) : texelFetch(uPackedOver, at, 0)) * k;
    w += k;
  }
  clear = sum / w;
}
#endif
void main() {
  ivec2 at = ivec2(gl_FragCoord.xy);
  vec4 here = texelFetch(uPacked, at, 0);
  colour = vec4(here.rgb, 1.0);
  flatLayer = vec4(0.0);
  #ifdef FLAT
    flatLayer = texelFetch(uFlatSource, at, 0);
  #endif
  vec2 reach = texelFetch(uReach, at / ${BLOCK}, 0).rg;
  spread(here.a, reach.r);
  #ifdef CLEAR
    // most of a picture has nothing clear near it
    if (reach.g > 0.0) {
      vec4 clear = texelFetch(uPackedOver, at, 0);
      spreadClear(clear, clearAt(at), reach.g);
      colour.rgb = colour.rgb * clear.a + clear.rgb;
      flatLayer *= clear.a;
    }
  #endif
  // how it will be seen, as the filter of first frames asks for it
  colour.a = seen(colour.rgb * uSeen * (1.0 - flatLayer.a) + max(flatLayer.rgb, 0.0));
}
`

/**
 * A pixel for each block: the largest radius of what lies before the focus, and of what is clear (the least that is looked at where it is sharp).
 * Define: CLEAR.
 */
export const REACH_BLOCKS_FRAGMENT = /* glsl */ `
out vec4 most;
uniform sampler2D uPacked;
${WITHOUT_POINTS_PARS}
void main() {
  ivec2 from = ivec2(gl_FragCoord.xy) * ${BLOCK};
  ivec2 last = textureSize(uPacked, 0) - 1;
  most = vec4(0.0);
  for (int y = 0; y < ${BLOCK}; y++)
    for (int x = 0; x < ${BLOCK}; x++) {
      ivec2 at = min(from + ivec2(x, y), last);
      most.r = max(most.r, -texelFetch(uPacked, at, 0).a);
      #ifdef CLEAR
        vec2 c = texelFetch(uClear, at, 0).rg;
        if (c.g <= 1e-3) continue;
        most.g = max(most.g, clamp(abs(radiusOf(c.g / max(c.r, 1e-6))), ${LEAST_PX}, ${MOST_PX}.0));
      #endif
    }
}
`

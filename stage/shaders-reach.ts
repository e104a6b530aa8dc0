// GLSL of how far what is blurred may reach: a pixel for each block, of which passes of their own tell what lies in it.

/** Pixels a side of the blocks in which it is known what may reach there. */
export const BLOCK = 8

/** Block by block the largest of what reaches here, of blocks of radii in pixels (any channels), none above `mostPx`. */
export const reachFragment = (mostPx: number): string => /* glsl */ `
out vec4 most;
uniform sampler2D uBlocks;
void main() {
  ivec2 here = ivec2(gl_FragCoord.xy);
  ivec2 last = textureSize(uBlocks, 0) - 1;
  const int reach = ${Math.ceil((mostPx + 1) / BLOCK)};
  most = vec4(0.0);
  for (int y = -reach; y <= reach; y++)
    for (int x = -reach; x <= reach; x++) {
      vec4 there = texelFetch(uBlocks, clamp(here + ivec2(x, y), ivec2(0), last), 0);
      float away = float((max(abs(x), abs(y)) - 1) * ${BLOCK});
      most = max(most, there * step(vec4(away), there + 1.0));
    }
}
`

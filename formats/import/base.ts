// How flat does a thing stand, if its y or its z is up?

import type { Box } from '#core/math'
import type { Soup } from '#mesh'

/** Faces count as base when they lie within this share of the height above the lowest point. */
const LOWEST = 0.004
const LEVEL_COS = 0.995

/** Area of level faces at the very bottom over the area of the footprint, for each axis up. Linear. */
export function flatBase(soup: Soup, box: Box): { y: number; z: number } {
  const { positions: p, indices } = soup
  const size = [0, 1, 2].map((i) => box.max[i]! - box.min[i]!) as [number, number, number]
  const limitY = box.min[1] + size[1] * LOWEST
  const limitZ = box.min[2] + size[2] * LOWEST
  let y = 0
  let z = 0
  for (let t = 0; t < indices.length; t += 3) {
    const a = indices[t]! * 3
    const b = indices[t + 1]! * 3
    const c = indices[t + 2]! * 3
    const lowY = p[a + 1]! <= limitY && p[b + 1]! <= limitY && p[c + 1]! <= limitY
    const lowZ = p[a + 2]! <= limitZ && p[b + 2]! <= limitZ && p[c + 2]! <= limitZ
    if (!lowY && !lowZ) continue
    const ux = p[b]! - p[a]!, uy = p[b + 1]! - p[a + 1]!, uz = p[b + 2]! - p[a + 2]! // prettier-ignore
    const vx = p[c]! - p[a]!, vy = p[c + 1]! - p[a + 1]!, vz = p[c + 2]! - p[a + 2]! // prettier-ignore
    const nx = uy * vz - uz * vy, ny = uz * vx - ux * vz, nz = ux * vy - uy * vx // prettier-ignore
    const l = Math.hypot(nx, ny, nz)
    if (lowY && Math.abs(ny) > LEVEL_COS * l) y += l / 2
    if (lowZ && Math.abs(nz) > LEVEL_COS * l) z += l / 2
  }
  const share = (area: number, i: number, j: number): number =>
    size[i]! * size[j]! > 0 ? area / (size[i]! * size[j]!) : 0
  return { y: share(y, 0, 2), z: share(z, 0, 1) }
}

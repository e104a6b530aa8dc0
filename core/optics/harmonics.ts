// How is light from all sides kept in four numbers a colour?
// Model: spherical harmonics to first order. Coefficients are of radiance; `irradiance` convolves them with the cosine lobe.
// Space: world directions. Source: ramamoorthi2001 (cosine factors pi and 2 pi / 3).

import type { Vec3 } from '../math/index.ts'

/** One colour channel: constant term, then x, y, z. */
export type Harmonics = readonly [number, number, number, number]

const Y0 = 0.282094792
const Y1 = 0.488602512

/** The four basis functions in a unit direction. */
export const basis = (d: Vec3): Harmonics => [Y0, Y1 * d[0], Y1 * d[1], Y1 * d[2]]

/** Irradiance on a surface with unit normal n, same unit as the radiance times sr; never below a tenth of the mean. */
export function irradiance(c: Harmonics, n: Vec3): number {
  const mean = Math.PI * Y0 * c[0]
  return Math.max(0.1 * mean, mean + ((2 * Math.PI) / 3) * Y1 * (c[1] * n[0] + c[2] * n[1] + c[3] * n[2]))
}

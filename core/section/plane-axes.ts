// How is a plane drawn flat?
// Model: two axes in it, right-handed with the normal, seen from the normal's tip. A level plane has east to the right; an upright or
// slanting one the level direction. Space: world metres; flat metres.

import { addScaled, cross, dot, normalize, type Vec3 } from '../math/index.ts'
import type { Plane } from './slice.ts'

export interface PlaneAxes {
  readonly origin: Vec3
  readonly normal: Vec3
  readonly right: Vec3
  readonly up: Vec3
}
/** Nearer to level than this, the plane's own level direction is left to rounding. */
const LEVEL = 1 - 1e-12

/** Axes of unit length; the plane's point is their origin. */
export function planeAxes({ point, normal }: Plane): PlaneAxes {
  const n = normalize(normal)
  const right: Vec3 = Math.abs(n[2]) > LEVEL ? [1, 0, 0] : normalize(cross([0, 0, 1], n))
  return { origin: point, normal: n, right, up: cross(n, right) }
}
/** Flat coordinates of points, three numbers each, in two numbers each. */
export function flattened({ origin, right, up }: PlaneAxes, points: Float64Array): Float64Array {
  const flat = new Float64Array((points.length / 3) * 2)
  const [r0, u0] = [dot(right, origin), dot(up, origin)]
  for (let i = 0, k = 0; i < points.length; i += 3, k += 2) {
    const [x, y, z] = [points[i]!, points[i + 1]!, points[i + 2]!]
    flat[k] = right[0] * x + right[1] * y + right[2] * z - r0
    flat[k + 1] = up[0] * x + up[1] * y + up[2] * z - u0
  }
  return flat
}
export const inSpace = ({ origin, right, up }: PlaneAxes, x: number, y: number): Vec3 =>
  addScaled(addScaled(origin, right, x), up, y)
export const onAxes = ({ origin, right, up }: PlaneAxes, p: Vec3): readonly [number, number] => {
  const d: Vec3 = [p[0] - origin[0], p[1] - origin[1], p[2] - origin[2]]
  return [dot(d, right), dot(d, up)]
}

// Points along the camera's axes, in plain arrays: what all fits work on.
// Space: world metres -> metres along right, up and forward, from the world's origin.

import { axesOf, type Axes, type Camera } from '../camera/index.ts'
import { addScaled, dot, scale, type Vec3 } from '../math/index.ts'

export interface Flat {
  readonly x: Float64Array
  readonly y: Float64Array
  readonly z: Float64Array
  /** The station's own coordinates. */
  readonly station: Vec3
}

/** Points as tuples, or as x, y, z one after the other. */
export type Points = readonly Vec3[] | Float32Array | Float64Array
const isFlat = (p: Points): p is Float32Array | Float64Array => ArrayBuffer.isView(p)
export const countOf = (p: Points): number => (isFlat(p) ? Math.floor(p.length / 3) : p.length)
export const asPoints = (p: Points): readonly Vec3[] =>
  isFlat(p) ? Array.from({ length: countOf(p) }, (_, i): Vec3 => [p[i * 3]!, p[i * 3 + 1]!, p[i * 3 + 2]!]) : p

/** Taken again by every fit: fresh memory costs more than the arithmetic. */
let scratch = [new Float64Array(0), new Float64Array(0), new Float64Array(0)] as const

/** Coordinates along the camera's axes; they hold until the next call. */
export function inAxes(camera: Camera, points: Points): Flat {
  const axes = axesOf(camera.pose)
  const n = countOf(points)
  if (scratch[0].length !== n) scratch = [new Float64Array(n), new Float64Array(n), new Float64Array(n)]
  const [x, y, z] = scratch
  if (isFlat(points)) spreadFlat(points, axes, x, y, z)
  else spreadTuples(points, axes, x, y, z)
  const { station } = camera.pose
  return { x, y, z, station: [dot(station, axes.right), dot(station, axes.up), dot(station, axes.forward)] }
}
// measured hot loops: plain numbers, one pass
function spreadFlat(
  p: Float32Array | Float64Array,
  axes: Axes,
  x: Float64Array,
  y: Float64Array,
  z: Float64Array,
): void {
  const [rx, ry, rz] = [axes.right[0], axes.right[1], axes.right[2]]
  const [ux, uy, uz] = [axes.up[0], axes.up[1], axes.up[2]]
  const [fx, fy, fz] = [axes.forward[0], axes.forward[1], axes.forward[2]]
  const n = x.length
  for (let i = 0; i < n; i++) {
    const a = p[3 * i]!
    const b = p[3 * i + 1]!
    const c = p[3 * i + 2]!
    x[i] = a * rx + b * ry + c * rz
    y[i] = a * ux + b * uy + c * uz
    z[i] = a * fx + b * fy + c * fz
  }
}
function spreadTuples(points: readonly Vec3[], axes: Axes, x: Float64Array, y: Float64Array, z: Float64Array): void {
  const [rx, ry, rz] = [axes.right[0], axes.right[1], axes.right[2]]
  const [ux, uy, uz] = [axes.up[0], axes.up[1], axes.up[2]]
  const [fx, fy, fz] = [axes.forward[0], axes.forward[1], axes.forward[2]]
  const n = x.length
  for (let i = 0; i < n; i++) {
    const p = points[i]!
    const a = p[0]
    const b = p[1]
    const c = p[2]
    x[i] = a * rx + b * ry + c * rz
    y[i] = a * ux + b * uy + c * uz
    z[i] = a * fx + b * fy + c * fz
  }
}

/** The camera with its station at these coordinates along its own axes. */
export function alongAxes(camera: Camera, x: number, y: number, z: number): Camera {
  const { right, up, forward } = axesOf(camera.pose)
  const station = addScaled(addScaled(scale(right, x), up, y), forward, z)
  return { ...camera, pose: { ...camera.pose, station } }
}

/** Least and greatest. */
export function extremes(values: Float64Array): readonly [number, number] {
  let lo = Infinity
  let hi = -Infinity
  for (let i = 0; i < values.length; i++) {
    const v = values[i]!
    if (v < lo) lo = v
    if (v > hi) hi = v
  }
  return [lo, hi]
}

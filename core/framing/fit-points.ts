// Points along the camera's axes, in plain arrays: what all fits work on.
// Space: world metres -> metres along right, up and forward, from the world's origin.

import { axesOf, type Camera } from '../camera/index.ts'
import { addScaled, dot, scale, type Vec3 } from '../math/index.ts'

export interface Flat {
  readonly x: Float64Array
  readonly y: Float64Array
  readonly z: Float64Array
  /** The station's own coordinates. */
  readonly station: Vec3
}

export function inAxes(camera: Camera, points: readonly Vec3[]): Flat {
  const { right, up, forward } = axesOf(camera.pose)
  const n = points.length
  const x = new Float64Array(n)
  const y = new Float64Array(n)
  const z = new Float64Array(n)
  for (let i = 0; i < n; i++) {
    const p = points[i]!
    const [a, b, c] = [p[0], p[1], p[2]]
    x[i] = a * right[0] + b * right[1] + c * right[2]
    y[i] = a * up[0] + b * up[1] + c * up[2]
    z[i] = a * forward[0] + b * forward[1] + c * forward[2]
  }
  const { station } = camera.pose
  return { x, y, z, station: [dot(station, right), dot(station, up), dot(station, forward)] }
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

// The turn that takes a camera's axes into the world.
// Model: from the axes as a matrix, by the largest of the four parts, so that it is exact near half turns. Space: camera x right, y up, looking
// along -z; world Z up. Source: shoemake1987.
import { axesOf, type Pose } from '#core/camera'
import type { Vec3 } from '#core/math'

/** x, y, z, w; of length 1. */
export function quaternionOf(
  pose: Pick<Pose, 'bearingDeg' | 'tiltDeg' | 'rollDeg'>,
): readonly [number, number, number, number] {
  // prettier-ignore
  const { right, up, forward } = axesOf(pose)
  return ofColumns(right, up, [-forward[0], -forward[1], -forward[2]])
}
/** Of a turn whose columns are where x, y and z go. */
export function ofColumns(x: Vec3, y: Vec3, z: Vec3): readonly [number, number, number, number] {
  const trace = x[0] + y[1] + z[2]
  if (trace > 0) {
    const s = 2 * Math.sqrt(1 + trace)
    return [(y[2] - z[1]) / s, (z[0] - x[2]) / s, (x[1] - y[0]) / s, s / 4]
  }
  if (x[0] > y[1] && x[0] > z[2]) {
    const s = 2 * Math.sqrt(1 + x[0] - y[1] - z[2])
    return [s / 4, (x[1] + y[0]) / s, (z[0] + x[2]) / s, (y[2] - z[1]) / s]
  }
  if (y[1] > z[2]) {
    const s = 2 * Math.sqrt(1 + y[1] - x[0] - z[2])
    return [(x[1] + y[0]) / s, s / 4, (y[2] + z[1]) / s, (z[0] - x[2]) / s]
  }
  const s = 2 * Math.sqrt(1 + z[2] - x[0] - y[1])
  return [(z[0] + x[2]) / s, (y[2] + z[1]) / s, s / 4, (x[1] - y[0]) / s]
}

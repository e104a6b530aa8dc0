// Where on the sensor does a perspective lens draw a direction, and back?
// Space: tangents to the right and up; sensor millimetres from the lens's axis, right and up. Source: handbook-1 and 5.

import { distort, undistort } from './distortion.ts'
import type { Lens } from './types.ts'

type Pair = readonly [right: number, up: number]

/** Millimetres on the sensor of a direction with these tangents; null past a fold. */
export function onSensor(
  { focalMm, distortion }: Pick<Lens, 'focalMm' | 'distortion'>,
  right: number,
  up: number,
): Pair | null {
  if (!distortion) return [focalMm * right, focalMm * up]
  const at = distort(distortion, right, -up)
  return at && [focalMm * at[0], -focalMm * at[1]]
}
/** Tangents of the direction that is drawn at these millimetres; null past a fold. */
export function throughSensor(
  { focalMm, distortion }: Pick<Lens, 'focalMm' | 'distortion'>,
  xMm: number,
  yMm: number,
): Pair | null {
  if (!distortion) return [xMm / focalMm, yMm / focalMm]
  const at = undistort(distortion, xMm / focalMm, -yMm / focalMm)
  return at && [at[0], -at[1]]
}

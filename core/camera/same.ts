// Do two cameras show the same?
import type { Camera } from './types.ts'

/** Whether pose, lens and shape of the frame are equal; its pixels and guides do not count. */
export function sameView(a: Camera, b: Camera): boolean {
  if (a === b) return true
  const of = ({ pose, lens, frame }: Camera): string => JSON.stringify([
    pose.station, pose.bearingDeg, pose.tiltDeg, pose.rollDeg,
    lens.projection, lens.focalMm, lens.sensorMm.width, lens.sensorMm.height, lens.sensorUse, lens.riseMm, lens.crossMm,
    frame.widthPx / frame.heightPx,
  ]) // prettier-ignore
  return of(a) === of(b)
}

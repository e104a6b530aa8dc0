// A camera's path as comma-separated values: one row a frame. Metres, degrees, seconds; the quaternion turns camera axes into the Z-up world.
import type { Take } from '#core/reel'
import { quaternionOf } from './quaternion.ts'

export const CSV_COLUMNS = ['frame', 'time_s', 'x_m', 'y_m', 'z_m', 'bearing_deg', 'tilt_deg', 'roll_deg', 'qx', 'qy', 'qz', 'qw', 'focal_mm', 'focus_m'] as const // prettier-ignore
/** As many digits as tell a micrometre a kilometre away. */
const text = (v: number): string => String(Number(v.toFixed(9)))

/** Frames at a rate as RFC 4180 text; an empty focus is none. */
export function pathCsv(frames: readonly Take[], fps: number): string {
  const rows = frames.map(
    ({ pose, lens, focusM }, k) =>
    [k, k / fps, ...pose.station, pose.bearingDeg, pose.tiltDeg, pose.rollDeg, ...quaternionOf(pose), lens.focalMm].map(text).concat(focusM === null ? '' : text(focusM)).join(','), // prettier-ignore
  )
  return `${[CSV_COLUMNS.join(','), ...rows].join('\r\n')}\r\n`
}

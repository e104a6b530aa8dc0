// How fast does a reel move, turn and zoom?
// Model: rates by central differences between frames of one cut; none across a cut, where a jump is meant. Turning is the angle between the
// directions of view over time, so that it is right when looking steeply. Space: world metres, degrees, seconds.
import { directionOf } from '../camera/index.ts'
import { distance, type Vec3 } from '../math/index.ts'
import type { Reel } from './reel.ts'

/** Row by row, one of each frame. */
export interface Motion {
  readonly fps: number
  readonly timeS: Float64Array
  /** Which cut a frame belongs to. */
  readonly cut: Int32Array
  /** x, y, z of the stations. */
  readonly stations: Float64Array
  readonly bearingDeg: Float64Array
  readonly tiltDeg: Float64Array
  readonly focalMm: Float64Array
  /** Of what is sharp; NaN where all is. */
  readonly focusM: Float64Array
  readonly speedMps: Float64Array
  /** Of the direction of view, degrees a second. */
  readonly turnDegPerS: Float64Array
  /** Clockwise positive: of the bearing alone. */
  readonly panDegPerS: Float64Array
  readonly tiltDegPerS: Float64Array
}

/** Cost linear in frames. RangeError for a rate that is not above nought. */
export function motionOf(reel: Reel, fps: number): Motion {
  if (!(fps > 0)) throw new RangeError(`motionOf: fps must be above nought, got ${fps}`)
  const n = Math.max(0, Math.round(reel.durationS * fps))
  const row = (): Float64Array => new Float64Array(n)
  const m = { fps, timeS: row(), cut: new Int32Array(n), stations: new Float64Array(3 * n), bearingDeg: row(), tiltDeg: row(), focalMm: row(), focusM: row(), speedMps: row(), turnDegPerS: row(), panDegPerS: row(), tiltDegPerS: row() } // prettier-ignore
  for (let k = 0; k < n; k++) {
    const [a, b] = reel.at(k / fps)
    const { take, cut } = b && b.weight > a!.weight ? b : a!
    m.timeS[k] = k / fps
    m.cut[k] = cut
    m.stations.set(take.pose.station, 3 * k)
    m.bearingDeg[k] = take.pose.bearingDeg
    m.tiltDeg[k] = take.pose.tiltDeg
    m.focalMm[k] = take.lens.focalMm
    m.focusM[k] = take.focusM ?? NaN
  }
  for (let k = 0; k < n; k++) {
    // one-sided at the ends of a cut
    const a = k > 0 && m.cut[k - 1] === m.cut[k] ? k - 1 : k
    const b = k < n - 1 && m.cut[k + 1] === m.cut[k] ? k + 1 : k
    if (a === b) continue
    const dt = (b - a) / fps
    m.speedMps[k] = distance(stationAt(m, a), stationAt(m, b)) / dt
    m.turnDegPerS[k] = angleBetween(wayAt(m, a), wayAt(m, b)) / dt
    m.panDegPerS[k] = (((((m.bearingDeg[b]! - m.bearingDeg[a]!) % 360) + 540) % 360) - 180) / dt
    m.tiltDegPerS[k] = (m.tiltDeg[b]! - m.tiltDeg[a]!) / dt
  }
  return m
}
export const stationAt = ({ stations }: Pick<Motion, 'stations'>, k: number): Vec3 => [stations[3 * k]!, stations[3 * k + 1]!, stations[3 * k + 2]!] // prettier-ignore
const wayAt = (m: Pick<Motion, 'bearingDeg' | 'tiltDeg'>, k: number): Vec3 => directionOf(m.bearingDeg[k]!, m.tiltDeg[k]!) // prettier-ignore
function angleBetween(a: Vec3, b: Vec3): number {
  // by the chord: exact for small angles
  return (2 * Math.asin(Math.min(1, distance(a, b) / 2)) * 180) / Math.PI
}

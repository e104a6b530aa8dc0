// How far is it from here to there?
// Space: world metres, degrees.

import { atan2Deg, wrapBearingDeg } from '../base/index.ts'
import { distance, sub, type Vec3 } from '../math/index.ts'

export interface Measurement {
  readonly distanceM: number
  /** Along east, north and up, with sign. */
  readonly alongM: Vec3
  /** Over the ground. */
  readonly levelM: number
  readonly riseM: number
  /** Of the way over the ground; null when it goes straight up or down. */
  readonly bearingDeg: number | null
  /** Above the horizontal. */
  readonly slopeDeg: number
}

/** Distance, height and direction from one point to another. */
export function distancesBetween(a: Vec3, b: Vec3): Measurement {
  const d = sub(b, a)
  const levelM = Math.hypot(d[0], d[1])
  return {
    distanceM: distance(a, b),
    alongM: d,
    levelM,
    riseM: d[2],
    bearingDeg: levelM > 0 ? wrapBearingDeg(atan2Deg(d[0], d[1])) : null,
    slopeDeg: levelM === 0 && d[2] === 0 ? 0 : atan2Deg(d[2], levelM),
  }
}

// Which round value, centre line or square direction lies near enough to a drag to be meant?
// Model: each coordinate snaps on its own to the nearest candidate within reach; lines before round values, of several the nearest.
// A direction snaps to the building's. Space: metres or degrees; reach in the same unit. Source: common practice.

import { bearingDifferenceDeg, cosDeg, sinDeg, wrapBearingDeg } from '../base/index.ts'
import type { Vec3 } from '../math/index.ts'

export interface SnapLine {
  readonly at: number
  readonly label: string
}
export interface Snapped {
  readonly value: number
  /** What it was caught by; null when it is free. */
  readonly label: string | null
}

/** A coordinate caught by the nearest line within reach, else by a multiple of `round` within a quarter of the reach. */
export function snapTo(value: number, lines: readonly SnapLine[], reach: number, round: number | null = null): Snapped {
  let best: SnapLine | null = null
  for (const l of lines)
    if (Math.abs(l.at - value) <= reach && (!best || Math.abs(l.at - value) < Math.abs(best.at - value))) best = l
  if (best) return { value: best.at, label: best.label }
  if (round !== null && round > 0) {
    const near = Math.round(value / round) * round
    // written without the rounding of the product
    const exact = Number(near.toPrecision(12))
    if (Math.abs(exact - value) <= reach / 2) return { value: exact || 0, label: '' }
  }
  return { value, label: null }
}

/** A bearing caught by one of four square directions, or by those half way between them. */
export function snapBearing(bearingDeg: number, mainBearingDeg: number, reachDeg: number): Snapped {
  for (const [step, label] of [
    [90, 'square'],
    [45, '45°'],
  ] as const) {
    // prettier-ignore
    const turned = bearingDifferenceDeg(mainBearingDeg, bearingDeg)
    const near = wrapBearingDeg(mainBearingDeg + Math.round(turned / step) * step)
    if (Math.abs(bearingDifferenceDeg(bearingDeg, near)) <= reachDeg) return { value: near, label }
  }
  return { value: bearingDeg, label: null }
}

/** A step for round values that is a few pixels wide at least: 1, 2 or 5 times a power of ten metres. */
export function roundStepM(metresPerPx: number, leastPx = 8): number {
  const want = metresPerPx * leastPx
  const power = Math.pow(10, Math.floor(Math.log10(want)))
  return Number(([1, 2, 5, 10].find((k) => k * power >= want)! * power).toPrecision(3))
}

/** A place in plan along (u) and across (v) a bearing, metres; turned by the opposite bearing it is back in the world. */
export function turnedInPlan(p: Vec3, bearingDeg: number): readonly [number, number] {
  const [c, s] = [cosDeg(bearingDeg), sinDeg(bearingDeg)]
  return [p[0] * c - p[1] * s, p[0] * s + p[1] * c]
}

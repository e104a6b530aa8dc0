// Where are the marks of a measuring staff?
// Model: an upright staff in fields, every fifth and tenth mark longer and with a number, at the finest distance of one, two or five
// that gives no more than sixty marks. Source: common practice of levelling staffs.
import type { Vec3 } from '../math/index.ts'

export interface StaffMark {
  readonly at: Vec3
  readonly heightM: number
  /** 0: a mark; 1: every fifth; 2: every tenth, and both ends. */
  readonly rank: 0 | 1 | 2
}
const MOST = 60
const STEPS = [0.001, 0.01, 0.1, 1, 10] as const

const ROUND = [1, 2, 5] as const
/** A staff for a thing of this height, metres: the next of 1, 2, 5 times a power of ten above it, 10 mm to 2 m; 2 m in a building. */
export function staffFor(thingM: number): number {
  if (!(thingM < 2)) return 2
  const power = 10 ** Math.floor(Math.log10(Math.max(0.01, thingM)))
  return ROUND.map((k) => k * power).find((m) => m >= thingM - 1e-9) ?? 10 * power
}

/** Marks of a staff of `heightM` on `foot`, from the ground up. */
export function staffMarks(foot: Vec3, heightM: number): StaffMark[] {
  const step = STEPS.find((s) => heightM / s <= MOST) ?? STEPS.at(-1)!
  const n = Math.floor(heightM / step + 1e-9)
  return Array.from({ length: n + 1 }, (_, i) => ({
    at: [foot[0], foot[1], foot[2] + i * step] as Vec3,
    heightM: i * step,
    rank: i % 10 === 0 || i === n ? 2 : i % 5 === 0 ? 1 : 0,
  }))
}

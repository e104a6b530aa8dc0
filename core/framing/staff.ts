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

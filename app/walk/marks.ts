// What marks of a shot in Plan or Side are drawn by, and how arrow keys move them.
import type { Vec3 } from '#core/math'

export interface MarksProps {
  toPx: (p: Vec3) => { x: number; y: number }
  /** Where the pointer puts a place. */
  at: (e: PointerEvent, p: Vec3) => Vec3
  isPlan: boolean
  reading: (p: Vec3) => string
}
/** A place, world metres, moved along the page and up it. */
export const nudged = (p: Vec3, dx: number, dy: number, isPlan: boolean): Vec3 =>
  isPlan ? [p[0] + dx, p[1] + dy, p[2]] : [p[0] + dx, p[1], p[2] + dy]

// How much room is there round a place of a section?
// Model: from the place to the nearest outlines to both sides and up and down, in the section's plane. Space: flat metres.
import { isInside, type Polygon } from './nest.ts'
import type { Contour } from './region.ts'

export interface Clearance {
  /** Between the nearest outlines left and right; null where one of them is missing. */
  readonly widthM: number | null
  /** Between the nearest outlines below and above; null where one of them is missing. */
  readonly heightM: number | null
  /** Whether the place lies in a face: then both are the thickness of what is cut there. */
  readonly isSolid: boolean
}

/** Nearest crossing of a contour with the level (axis 0) or upright (axis 1) line through the place, to either side. */
function beside(c: Contour, at: readonly [number, number], axis: 0 | 1, found: [number, number]): void {
  const other = 1 - axis
  for (let i = 0, j = c.length - 2; i < c.length; j = i, i += 2) {
    const [u0, u1] = [c[j + other]! - at[other]!, c[i + other]! - at[other]!]
    // half open, so that a corner on the line counts once
    if (u0 > 0 === u1 > 0) continue
    const v = c[j + axis]! + (u0 / (u0 - u1)) * (c[i + axis]! - c[j + axis]!) - at[axis]!
    if (v <= 0) found[0] = Math.min(found[0], -v)
    if (v >= 0) found[1] = Math.min(found[1], v)
  }
}

/** Clear width and height at a place among the faces of one plane; linear in their corners. */
export function clearance(polygons: readonly Polygon[], x: number, y: number): Clearance {
  const across: [number, number] = [Infinity, Infinity]
  const upright: [number, number] = [Infinity, Infinity]
  let isSolid = false
  for (const { outer, holes } of polygons) {
    isSolid ||= isInside(outer, x, y) && !holes.some((h) => isInside(h, x, y))
    for (const c of [outer, ...holes]) {
      beside(c, [x, y], 0, across)
      beside(c, [x, y], 1, upright)
    }
  }
  const sum = ([a, b]: readonly [number, number]): number | null => (Number.isFinite(a + b) ? a + b : null)
  return { widthM: sum(across), heightM: sum(upright), isSolid }
}

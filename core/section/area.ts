// How large is what closed lines fill in their plane?
import type { Vec3 } from '../math/index.ts'
import { flattened, planeAxes } from './plane-axes.ts'
import { contourArea, filledRegion } from './region.ts'

/** Area, m2, that is filled by the loops of a section, seen along `normal`; overlaps count once. RangeError for a normal of no length. */
export function sectionArea(
  loops: readonly (readonly Vec3[])[],
  normal: Vec3,
  rule: 'winding' | 'evenOdd' = 'winding',
): number {
  const first = loops[0]?.[0]
  if (!first) return 0
  const axes = planeAxes({ point: first, normal })
  const flat = loops.map((l) => flattened(axes, Float64Array.from(l.flat())))
  return filledRegion(flat, { rule }).reduce((sum, c) => sum + contourArea(c), 0)
}

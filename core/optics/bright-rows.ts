// Which bright points are pieces of one bright line?
// Model: a line thinner than a pixel (the glint of an edge) is a row of dashes in a picture; drawn as discs that hardly reach one another
// they would read as beads. Points of small discs that stand less than one and a half of these apart make a row, from three on. A few samples show such
// small discs smoothly enough, so that a row is left to them. Places in pixels.
import type { BrightPoint } from './bright-points.ts'

/** Wider discs lie over one another: of dashes as an edge gives them no beads are left. Pixels. */
const WIDEST_DISC_PX = 12
const APART = 1.5
const LEAST_POINTS = 3
/** So much nearer or farther it is another thing, as a share. */
const SAME_DISTANCE = 0.06

/** Those of a list that stand in rows. `discPx`: diameter of the blur disc of a distance. Parts of one point make no row. */
export function inRows<P extends BrightPoint>(
  list: readonly P[],
  discPx: (distanceM: number) => number,
): ReadonlySet<P> {
  const left = new Set(list.filter((p) => discPx(p.distanceM) <= WIDEST_DISC_PX))
  const rows = new Set<P>()
  for (const from of left) {
    left.delete(from)
    const row = [from]
    for (const p of row)
      for (const q of left) {
        const reachPx = APART * Math.max(discPx(p.distanceM), discPx(q.distanceM))
        const isNear = Math.hypot(p.xPx - q.xPx, p.yPx - q.yPx) <= reachPx
        if (!isNear || Math.abs(q.distanceM / p.distanceM - 1) > SAME_DISTANCE) continue
        left.delete(q)
        row.push(q)
      }
    if (new Set(row.map((p) => p.of)).size >= LEAST_POINTS) for (const p of row) rows.add(p)
  }
  return rows
}

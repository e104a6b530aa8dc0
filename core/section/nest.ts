// Which holes lie in which outer contour?
import { contourArea, type Contour } from './region.ts'

/** A filled part of a plane. */
export interface Polygon {
  /** Counterclockwise. */
  readonly outer: Contour
  /** Clockwise, within it. */
  readonly holes: readonly Contour[]
}

/** Contours that do not cross (`filledRegion`), sorted: each hole goes to the smallest outer contour about it. */
export function nested(contours: readonly Contour[]): Polygon[] {
  const outers = contours
    .map((c) => ({ outer: c, area: contourArea(c), holes: [] as Contour[], box: boxOf(c) }))
    .filter((p) => p.area > 0)
    .sort((p, q) => p.area - q.area)
  for (const hole of contours) {
    if (contourArea(hole) >= 0) continue
    // the middle of an edge: corners may touch the contour about it
    const [x, y] = [(hole[0]! + hole[2]!) / 2, (hole[1]! + hole[3]!) / 2]
    const about = outers.find(
      ({ outer, box }) => x >= box[0] && x <= box[2] && y >= box[1] && y <= box[3] && isInside(outer, x, y),
    )
    about?.holes.push(hole)
  }
  return outers.map(({ outer, holes }) => ({ outer, holes }))
}
export const polygonArea = ({ outer, holes }: Polygon): number =>
  holes.reduce((sum, h) => sum + contourArea(h), contourArea(outer))

function boxOf(c: Contour): readonly [number, number, number, number] {
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity]
  for (let i = 0; i < c.length; i += 2) {
    x0 = Math.min(x0, c[i]!)
    x1 = Math.max(x1, c[i]!)
    y0 = Math.min(y0, c[i + 1]!)
    y1 = Math.max(y1, c[i + 1]!)
  }
  return [x0, y0, x1, y1]
}
/** Whether a point lies within a contour, by crossings of the way to the right. */
export function isInside(c: Contour, x: number, y: number): boolean {
  let inside = false
  for (let i = 0, j = c.length - 2; i < c.length; j = i, i += 2) {
    const [ax, ay, bx, by] = [c[j]!, c[j + 1]!, c[i]!, c[i + 1]!]
    if (ay <= y !== by <= y && ax + ((y - ay) / (by - ay)) * (bx - ax) > x) inside = !inside
  }
  return inside
}

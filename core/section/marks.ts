// How do the planes of a cut stand in a parallel drawing that looks along some direction: as lines, from where to where?
// Model: a plane seen edge-on is a line: across the whole model where it has no end, the edge of a box's face, a leg of a stepped line
// (the outer legs go on). Planes seen at a slant or face-on have none. Space: world metres.

import { addScaled, boxCentre, boxSize, cross, dot, normalize, type Box, type Vec3 } from '../math/index.ts'
import type { Cut } from './cuts.ts'
import { boxAxes, planesOf } from './exposed.ts'

export interface CutMark {
  /** Which of the cut's planes. */
  readonly plane: number
  readonly from: Vec3
  readonly to: Vec3
  /** Of unit length, in the drawing: towards what goes. */
  readonly removed: Vec3
  /** Whether it ends there; else it goes on. */
  readonly ends: boolean
}
/** Sine of the angle at which a plane counts as seen edge-on. */
const EDGE_ON = 0.02
/** How far lines without an end reach past the model, as a part of its diagonal. */
const PAST = 0.06

/** The lines of a cut in a drawing that looks along `sight`. */
export function cutMarks(cut: Cut, sight: Vec3, model: Box): CutMark[] {
  const planes = planesOf(cut)
  const centre = boxCentre(model)
  const size = boxSize(model)
  const reach = (Math.hypot(...size) / 2) * (1 + 2 * PAST)
  return planes.flatMap(({ point, normal }, plane) => {
    if (Math.abs(dot(normal, sight)) > EDGE_ON) return []
    const way = normalize(cross(sight, normal))
    const on = (at: Vec3): Vec3 => addScaled(at, normal, dot(normal, point) - dot(normal, at))
    // the part of the line that lies over the model's own extent
    const half = halfAlong(way, size) + reach * PAST
    const middle = on(centre)
    const along = (p: Vec3): number => dot(p, way) - dot(middle, way)
    const held = bounds(cut, plane, along)
    const [a, b] = [held?.[0] ?? -half, held?.[1] ?? half]
    return [
      {
        plane,
        from: addScaled(middle, way, Math.min(a, b)),
        to: addScaled(middle, way, Math.max(a, b)),
        removed: normal,
        ends: held !== null && Number.isFinite(held[0]) && Number.isFinite(held[1]),
      },
    ]
  })
}
const halfAlong = (way: Vec3, size: Vec3): number => way.reduce((s, v, k) => s + (Math.abs(v) * size[k]!) / 2, 0)

/** From where to where a bounded plane goes along the line; null ends go on. */
function bounds(cut: Cut, plane: number, along: (p: Vec3) => number): readonly [number | null, number | null] | null {
  if (cut.kind === 'box') {
    const axes = boxAxes(cut.turnDeg)
    const corners = [0, 1, 2, 3, 4, 5, 6, 7].map((i) =>
      axes.reduce((p, a, k) => addScaled(p, a, ((i >> k) & 1 ? 0.5 : -0.5) * cut.sizeM[k]!), cut.centre),
    )
    const at = corners.map(along)
    return [Math.min(...at), Math.max(...at)]
  }
  if (cut.kind === 'stepped') {
    const legs = cut.points.slice(1).map((b, i) => [cut.points[i]!, b] as const).filter(([a, b]) => a[0] !== b[0] || a[1] !== b[1]) // prettier-ignore
    const leg = legs[plane]
    if (!leg) return null
    const [a, b] = leg.map(([x, y]) => along([x, y, 0]))
    return [a!, b!]
  }
  return null
}

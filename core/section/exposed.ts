// Which planes does a cut lay open, and how do other cuts part them?
// Model: a box has six, a slice two, a stepped line one a leg; each points to the removed side. What of a plane is laid open is where its
// one side stays and the other goes. Space: world metres.

import { cosDeg, sinDeg } from '../base/index.ts'
import { add, addScaled, dot, normalize, scale, type Vec3 } from '../math/index.ts'
import { isCutAway, isRemoved, type Cut } from './cuts.ts'
import type { PlaneAxes } from './plane-axes.ts'
import type { Plane } from './slice.ts'

/** The planes a cut lays open, their normals of unit length towards what it takes away. */
export function planesOf(cut: Cut): Plane[] {
  const planes = openPlanes(cut)
  return cut.reversed ? planes.map(({ point, normal }) => ({ point, normal: scale(normal, -1) })) : planes
}
function openPlanes(cut: Cut): Plane[] {
  switch (cut.kind) {
    case 'level':
      return [{ point: [0, 0, cut.heightM], normal: [0, 0, 1] }]
    case 'upright':
      return [{ point: cut.point, normal: [-sinDeg(cut.bearingDeg), -cosDeg(cut.bearingDeg), 0] }]
    case 'free':
      return [{ point: cut.point, normal: normalize(cut.normal) }]
    case 'slice': {
      const n = normalize(cut.normal)
      return [
        { point: cut.point, normal: n },
        { point: addScaled(cut.point, n, -cut.thicknessM), normal: scale(n, -1) },
      ]
    }
    case 'box': {
      const axes = boxAxes(cut.turnDeg)
      return axes.flatMap((a, k) =>
        [1, -1].map((s) => ({
          point: addScaled(cut.centre, a, (s * cut.sizeM[k]!) / 2),
          normal: scale(a, s),
        })),
      )
    }
    case 'stepped':
      return cut.points.slice(1).flatMap(([bx, by], i) => {
        const [ax, ay] = cut.points[i]!
        const l = Math.hypot(bx - ax, by - ay)
        return l > 0 ? [{ point: [ax, ay, 0] as Vec3, normal: [-(by - ay) / l, (bx - ax) / l, 0] as Vec3 }] : []
      })
  }
}
/** A box's own axes in the world; it is turned clockwise about the vertical. */
export const boxAxes = (turnDeg: number): readonly [Vec3, Vec3, Vec3] => [
  [cosDeg(turnDeg), -sinDeg(turnDeg), 0],
  [sinDeg(turnDeg), cosDeg(turnDeg), 0],
  [0, 0, 1],
]

/** Nearer to parallel than this, two planes meet nowhere that matters. */
const PARALLEL = 1e-9
/** Longer than any model. */
const FAR_M = 1e7

/** Where other planes cross one, as flat lines; those parallel to it do not. */
export function partingLines(
  axes: PlaneAxes,
  others: readonly Plane[],
): readonly (readonly [number, number, number, number])[] {
  return others.flatMap((o) => {
    const n = normalize(o.normal)
    const [a, b] = [dot(n, axes.right), dot(n, axes.up)]
    const l = Math.hypot(a, b)
    if (l < PARALLEL) return []
    // the point of the line nearest to the origin of the axes
    const d = dot(n, o.point) - dot(n, axes.origin)
    const [x, y] = [(a * d) / (l * l), (b * d) / (l * l)]
    const [ux, uy] = [(-b / l) * FAR_M, (a / l) * FAR_M]
    return [[x - ux, y - uy, x + ux, y + uy] as const]
  })
}

/** Whether a place on a plane of a cut is laid open: just behind it all stays, just before it the cut takes away. */
export function isLaidOpen(cuts: readonly Cut[], cut: Cut, normal: Vec3, place: Vec3, hairM: number): boolean {
  const step = scale(normal, hairM)
  return !isCutAway(cuts, add(place, scale(step, -1))) && isRemoved(cut, add(place, step))
}

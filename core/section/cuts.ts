// Which points does a cut take away?
// Model: each kind of cut says whether a point lies on its removed side; `reversed` swaps the sides. Space: world metres, Z up.
// Source: handbook-8 (planes, slices, boxes); iso128-3 for what a stepped cut means.

import { cosDeg, sinDeg } from '../base/index.ts'
import type { Vec3 } from '../math/index.ts'

interface CutBase {
  readonly id: string
  readonly name: string
  readonly on: boolean
  /** The other side goes. */
  readonly reversed: boolean
  /** Neither dragged nor changed by numbers. */
  readonly locked?: true | undefined
}
export type Cut =
  /** What lies above goes. */
  | (CutBase & { readonly kind: 'level'; readonly heightM: number })
  /** An upright plane looked at along its bearing: what lies before it goes. */
  | (CutBase & { readonly kind: 'upright'; readonly point: Vec3; readonly bearingDeg: number })
  /** What lies on the normal's side goes. */
  | (CutBase & { readonly kind: 'free'; readonly point: Vec3; readonly normal: Vec3 })
  /** All but the layer from the plane to the thickness behind it goes: along the normal, -thickness to 0 stays. */
  | (CutBase & { readonly kind: 'slice'; readonly point: Vec3; readonly normal: Vec3; readonly thicknessM: number })
  /** All outside the box, which is turned clockwise about the vertical, goes. */
  | (CutBase & { readonly kind: 'box'; readonly centre: Vec3; readonly sizeM: Vec3; readonly turnDeg: number })
  /** An upright surface along a line in plan: what lies to the left of the line's way goes. */
  | (CutBase & { readonly kind: 'stepped'; readonly points: readonly (readonly [number, number])[] })

/** Whether the cut takes the point away; one that is off takes nothing. Points on the cut itself stay. */
export function isRemoved(cut: Cut, point: Vec3): boolean {
  if (!cut.on) return false
  const side = removedSide(cut, point)
  return side !== 0 && side > 0 !== cut.reversed
}
/** Whether any of the cuts takes the point away. */
export const isCutAway = (cuts: readonly Cut[], point: Vec3): boolean => cuts.some((c) => isRemoved(c, point))

/** Above nought on the side that goes, below on the side that stays. */
function removedSide(cut: Cut, [x, y, z]: Vec3): number {
  switch (cut.kind) {
    case 'level':
      return z - cut.heightM
    case 'upright':
      return -((x - cut.point[0]) * sinDeg(cut.bearingDeg) + (y - cut.point[1]) * cosDeg(cut.bearingDeg))
    case 'free':
      return alongNormal(cut, x, y, z)
    case 'slice':
      return Math.abs(alongNormal(cut, x, y, z) + cut.thicknessM / 2) - cut.thicknessM / 2
    case 'box': {
      const [dx, dy] = [x - cut.centre[0], y - cut.centre[1]]
      const [c, s] = [cosDeg(cut.turnDeg), sinDeg(cut.turnDeg)]
      const own = [c * dx - s * dy, s * dx + c * dy, z - cut.centre[2]]
      return Math.max(...own.map((v, k) => Math.abs(v) - cut.sizeM[k]! / 2))
    }
    case 'stepped':
      return leftOf(cut.points, x, y)
  }
}

function alongNormal(
  { point, normal }: { readonly point: Vec3; readonly normal: Vec3 },
  x: number,
  y: number,
  z: number,
): number {
  const length = Math.hypot(...normal)
  return ((x - point[0]) * normal[0] + (y - point[1]) * normal[1] + (z - point[2]) * normal[2]) / length
}

/** Signed distance from the line, which goes on straight beyond its ends; above nought to its left. */
function leftOf(points: readonly (readonly [number, number])[], x: number, y: number): number {
  let best = Infinity
  let sign = 0
  for (let i = 0; i + 1 < points.length; i++) {
    const [ax, ay] = points[i]!
    const [bx, by] = points[i + 1]!
    const [ux, uy] = [bx - ax, by - ay]
    const l2 = ux * ux + uy * uy
    if (l2 === 0) continue
    const t = ((x - ax) * ux + (y - ay) * uy) / l2
    const held = Math.max(i === 0 ? -Infinity : 0, Math.min(i + 2 === points.length ? Infinity : 1, t))
    const d = Math.hypot(x - ax - held * ux, y - ay - held * uy)
    const cross = ux * (y - ay) - uy * (x - ax)
    // at a corner both legs are as near: the one whose side is told more clearly counts
    const clear = Math.abs(cross) / Math.sqrt(l2)
    if (d < best - 1e-9 || (d < best + 1e-9 && clear > Math.abs(sign))) {
      best = d
      sign = (cross > 0 ? 1 : cross < 0 ? -1 : 0) * clear
    }
  }
  return sign
}

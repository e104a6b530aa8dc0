// Which section does a sight line pass, and how much room is there? Space: metres of the scene.
import { addScaled, dot, sub } from '#core/math'
import {
  clearance,
  isLaidOpen,
  onAxes,
  planeAxes,
  planesOf,
  type Clearance,
  type Shown,
  type Sight,
} from '#core/section'
import type { CutFace } from './cut-faces.ts'

export interface ClearAt extends Clearance {
  readonly cutName: string
}
const HAIR_M = 1e-5

/** Where a sight line first passes a plane that a cut lays open: the room there, between the faces of that plane; null where it passes none. */
export function clearAt(faces: readonly CutFace[], shown: Shown, { origin, direction, farM }: Sight): ClearAt | null {
  const { list } = shown.cuts
  let best: { readonly t: number; readonly clear: () => ClearAt } | null = null
  for (const cut of list)
    for (const [plane, p] of planesOf(cut).entries()) {
      const rate = dot(p.normal, direction)
      if (rate >= 0) continue
      const t = dot(p.normal, sub(p.point, origin)) / rate
      if (!(t >= 0) || t > farM || (best && t >= best.t)) continue
      const point = addScaled(origin, direction, t)
      if (!isLaidOpen(list, cut, p.normal, point, HAIR_M)) continue
      const axes = planeAxes(p)
      const [x, y] = onAxes(axes, point)
      const mine = () => faces.filter((f) => f.cutId === cut.id && f.plane === plane).flatMap((f) => f.polygons)
      best = { t, clear: () => ({ cutName: cut.name, ...clearance(mine(), x, y) }) }
    }
  return best?.clear() ?? null
}

// About which point are a project's models drawn and asked?
// Model: near the world's origin about the origin itself; far from it (surveyed sites) about a round point near the models, so that
// 32-bit numbers hold their millimetres. Documents, typed and copied numbers stay in world coordinates. Cost: the models' boxes.

import type { Camera, Stand } from '../camera/index.ts'
import { boxCorners, joinBoxes, type Box, type Vec3 } from '../math/index.ts'
import { boxInMetres, placedPoint } from './place.ts'
import type { PlacedModel } from './types.ts'

/** Up to here 32-bit numbers are exact to a tenth of a millimetre. */
const NEAR_M = 1000
const ROUND_M = 100

/** The origin for these models; nought where they lie near the world's. */
export function originOf(
  models: readonly (Pick<PlacedModel, 'unitM' | 'up' | 'place'> & { readonly fileBox: Box | null })[],
): Vec3 {
  let all: Box | null = null
  for (const m of models) {
    const corners = m.fileBox ? boxCorners(boxInMetres(m.fileBox, m.unitM, m.up)) : [[0, 0, 0] as Vec3]
    for (const c of corners) {
      const p = placedPoint(m.place, c)
      all = all ? joinBoxes(all, { min: p, max: p }) : { min: p, max: p }
    }
  }
  if (!all) return [0, 0, 0]
  const { min, max } = all
  return [0, 1, 2].map((k) => {
    const middle = (min[k]! + max[k]!) / 2
    return Math.abs(middle) <= NEAR_M ? 0 : Math.round(middle / ROUND_M) * ROUND_M
  }) as unknown as Vec3
}

export const isNought = (by: Vec3): boolean => by[0] === 0 && by[1] === 0 && by[2] === 0
export const shiftedPoint = (p: Vec3, by: Vec3): Vec3 => (isNought(by) ? p : [p[0] + by[0], p[1] + by[1], p[2] + by[2]])
export const shiftedBox = (b: Box, by: Vec3): Box =>
  isNought(by) ? b : { min: shiftedPoint(b.min, by), max: shiftedPoint(b.max, by) }
export const shiftedCamera = (c: Camera, by: Vec3): Camera =>
  isNought(by) ? c : { ...c, pose: { ...c.pose, station: shiftedPoint(c.pose.station, by) } }
export function shiftedStand(s: Stand, by: Vec3): Stand {
  if (isNought(by)) return s
  const aim = s.aim.kind === 'point' ? { ...s.aim, point: shiftedPoint(s.aim.point, by) } : s.aim
  return { ...s, station: shiftedPoint(s.station, by), aim }
}

// How large is the room that a place lies in?
// Model: from between floor and ceiling the first walls to four sides; furniture is passed through, doors are over the sight lines where
// the room is high. Space: metres of the scene.
import { cosDeg, sinDeg } from '#core/base'
import { addScaled, scale, type Vec3 } from '#core/math'
import { ALL_SHOWN, type Shown } from '#core/section'
import type { MeshScene } from './scene.ts'

export interface RoomBox {
  readonly centre: Vec3
  readonly sizeM: Vec3
  /** Clockwise about the vertical. */
  readonly turnDeg: number
}
/** Walls are looked for this high, over most doors. */
const OVER_DOORS_M = 2.25
const LIFT_M = 0.02

/** The room round a point near its floor, walls or ceiling, along the building's direction; null where a side is open. */
export function roomAt(scene: MeshScene, point: Vec3, directionDeg: number, shown: Shown = ALL_SHOWN): RoomBox | null {
  const whole: Shown = { ...ALL_SHOWN, hidden: shown.hidden }
  const floor = scene.floorBelow([point[0], point[1], point[2] + LIFT_M], whole)
  if (!floor) return null
  const { facts } = scene
  const farM = Math.hypot(...[0, 1, 2].map((k) => facts.box.max[k]! - facts.box.min[k]!))
  const above = scene.pickFloor({ origin: [point[0], point[1], floor.point[2] + LIFT_M], direction: [0, 0, 1] }, whole)
  const met = scene.pick({ origin: [point[0], point[1], floor.point[2] + LIFT_M], direction: [0, 0, 1] }, whole)
  // a table over the place is not the ceiling: the first thing that is high enough is
  const ceilings = [met, above].flatMap((h) => (h && h.distanceM > 1.8 ? [h.distanceM] : []))
  const highM = Math.min(...ceilings, facts.box.max[2] - floor.point[2])
  if (!(highM > 0)) return null
  const eye: Vec3 = [point[0], point[1], floor.point[2] + Math.min(OVER_DOORS_M, highM * 0.85)]
  const east: Vec3 = [cosDeg(directionDeg), -sinDeg(directionDeg), 0]
  const north: Vec3 = [sinDeg(directionDeg), cosDeg(directionDeg), 0]
  // a side of glass is no wall, and bounds the room all the same
  const free = (direction: Vec3): number | null =>
    (scene.wallAlong({ origin: eye, direction }, farM, whole) ?? scene.pick({ origin: eye, direction }, whole))
      ?.distanceM ?? null
  const [e, w, n, s] = [free(east), free(scale(east, -1)), free(north), free(scale(north, -1))]
  if (e === null || w === null || n === null || s === null) return null
  const middle = addScaled(addScaled(eye, east, (e - w) / 2), north, (n - s) / 2)
  return {
    centre: [middle[0], middle[1], floor.point[2] + highM / 2],
    sizeM: [e + w, n + s, highM],
    turnDeg: directionDeg,
  }
}

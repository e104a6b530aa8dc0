// How does a stand move by numbers?
// Model: pure moves of a stand: along axes, onto the aim's line, round the aim, by quarter rolls, to the sides of a box. The aim
// comes along, stays or is followed as its kind says. Space: world metres; bearings clockwise from +Y. Source: handbook-0.

import { atan2Deg, ok, refused, wrapBearingDeg, type Result } from '../base/index.ts'
import {
  type Aim,
  type AimCentre,
  aimPointOf,
  axesOf,
  type Camera,
  directionOf,
  isParallel,
  type Lens,
  type Pose,
  poseOfStand,
  type Stand,
  topOf,
  topTowards,
} from '../camera/index.ts'
import { addScaled, boxCentre, boxCorners, distance, dot, scale, sub, type Box, type Vec3 } from '../math/index.ts'
import { fitPoints } from './fit.ts'
import type { FitOptions } from './fit-types.ts'

/** Unit directions of an object's own x, y and z. */
export type Axes = readonly [Vec3, Vec3, Vec3]
export type BoxSide = 'front' | 'back' | 'left' | 'right' | 'above'
/** Bearings from which an object's sides are seen, from its own front: one looks at the front along its y. */
const SIDES: Record<Exclude<BoxSide, 'above'>, number> = { front: 0, left: 90, back: 180, right: 270 }
const WORLD: Axes = [[1, 0, 0], [0, 1, 0], [0, 0, 1]] // prettier-ignore
const along = (axes: readonly Vec3[], way: Vec3): Vec3 =>
  axes.reduce<Vec3>((sum, axis, k) => addScaled(sum, axis, way[k]!), [0, 0, 0])
const ownOf = (axes: Axes, v: Vec3): Vec3 => axes.map((a) => dot(a, v)) as unknown as Vec3

/** Bearing of an object's own front, by its y axis; nought where that is upright. */
export const frontBearingDeg = (axes: Axes = WORLD): number =>
  Math.hypot(axes[1][0], axes[1][1]) > 1e-6 ? atan2Deg(axes[1][0], axes[1][1]) : 0

/** A thing without extent (a light, an empty node) has a metre around it. */
const extended = (box: Box): Box =>
  distance(box.min, box.max) > 0
    ? box
    : { min: addScaled(box.min, [1, 1, 1], -0.5), max: addScaled(box.max, [1, 1, 1], 0.5) }

/**
 * Stand and lens before, behind, beside or above a box, fitted to the frame and looking at its middle. Refusals are those of the fit.
 */
export function standAtSide(
  camera: Camera,
  thing: Box,
  side: BoxSide,
  options: Pick<FitOptions, 'margin'> & { readonly frontDeg?: number },
): Result<{ readonly stand: Stand; readonly lens: Lens }, string> {
  const { frontDeg = 0, margin } = options
  const box = extended(thing)
  const pose: Pick<Pose, 'bearingDeg' | 'tiltDeg' | 'rollDeg'> =
    side === 'above'
      ? { bearingDeg: wrapBearingDeg(frontDeg), tiltDeg: -90, rollDeg: 0 }
      : { bearingDeg: wrapBearingDeg(frontDeg + SIDES[side]), tiltDeg: 0, rollDeg: 0 }
  const centre = boxCentre(box)
  const station = addScaled(centre, directionOf(pose.bearingDeg, pose.tiltDeg), -1)
  const from = { ...camera, pose: { ...pose, station } }
  const r = fitPoints(from, boxCorners(box), {
    ...(margin === undefined ? {} : { margin }),
    by: isParallel(camera) ? 'extent' : 'distance',
  })
  if (!r.ok) return r
  // straight at its middle: the fit's station lies on the axis through it but for the shift
  const at = r.value.pose
  const point = addScaled(at.station, axesOf(at).forward, Math.max(0.01, distance(at.station, centre)))
  const aim: Aim = { kind: 'point', point, topBearingDeg: topOf(pose.bearingDeg, pose.tiltDeg) }
  return ok({ stand: { station: at.station, aim, rollDeg: 0 }, lens: r.value.lens })
}

/**
 * The offset, along an object's own axes, at which an aim at it leaves the picture as it is: as far along the sight line as `atM`, or
 * as the object's middle where nothing of it is met.
 */
export function offsetAhead(pose: Pose, box: Box, axes: Axes, atM: number | null): Vec3 {
  const direction = directionOf(pose.bearingDeg, pose.tiltDeg)
  const centre = boxCentre(box)
  const awayM = atM ?? Math.max(0.01, dot(direction, sub(centre, pose.station)))
  return ownOf(axes, sub(addScaled(pose.station, direction, awayM), centre))
}

/**
 * The aim takes over the station's place on an axis (with an object aimed at: the station the aim's). Refused without an aim point, or
 * where both would be one point.
 */
export function aligned(s: Stand, axis: 0 | 1 | 2, centreOf: AimCentre): Result<Stand, 'no-aim' | 'one-point'> {
  const p = aimPointOf(s.aim, centreOf)
  if (!p) return refused('no-aim', 'There is no aim point to align. Aim at a point first.')
  const mixed = (a: Vec3, b: Vec3): Vec3 => a.map((v, k) => (k === axis ? b[k]! : v)) as unknown as Vec3
  const onePoint = refused('one-point', 'Station and aim would be one point.')
  if (s.aim.kind === 'object') {
    const station = mixed(s.station, p)
    return distance(station, p) < 1e-9 ? onePoint : ok({ ...s, station })
  }
  const point = mixed(p, s.station)
  if (distance(point, s.station) < 1e-9) return onePoint
  const topBearingDeg = topTowards(s.station, point, poseOfStand(s, centreOf).bearingDeg)
  return ok({ ...s, aim: { kind: 'point', point, topBearingDeg } })
}

/** A step of `metres` along right, forward (level) and up of the view, or along east, north and up. */
export function stepAlong(bearingDeg: number, way: Vec3, axes: 'view' | 'world', metres: number): Vec3 {
  const basis = axes === 'world' ? WORLD : [directionOf(bearingDeg + 90, 0), directionOf(bearingDeg, 0), WORLD[2]]
  return scale(along(basis, way), metres)
}

/** The aim alone moved: a point, or the offset from an object (along its own axes). Refused for a free direction. */
export function aimMoved(s: Stand, by: Vec3, axesOfNode: (id: string) => Axes | undefined): Result<Stand, 'no-aim'> {
  const { aim } = s
  if (aim.kind === 'direction') return refused('no-aim', 'There is no aim point to move. Aim at a point first.')
  if (aim.kind === 'point') return ok({ ...s, aim: { ...aim, point: addScaled(aim.point, by, 1) } })
  const axes = axesOfNode(aim.nodeId)
  return ok(axes ? { ...s, aim: { ...aim, offset: addScaled(aim.offset, ownOf(axes, by), 1) } } : s)
}

/** The roll turned on, from above -180 up to 180 degrees. */
export function rolledBy(s: Stand, deg: number): Stand {
  const next = ((((s.rollDeg + deg + 180) % 360) + 360) % 360) - 180
  return { ...s, rollDeg: next === -180 ? 180 : next }
}

/** Small things are looked at from the front; larger ones are stood in or before. */
const PRODUCT_UP_TO_M = 2.5
export const isProduct = (box: Box): boolean =>
  Math.max(...[0, 1, 2].map((k) => box.max[k]! - box.min[k]!)) <= PRODUCT_UP_TO_M

/** How much of half a 36 x 24 mm picture a thing takes that is seen for the first time: with a little air round it. */
const FILLED = 0.88
const [HALF_WIDE_MM, HALF_HIGH_MM] = [18 * FILLED, 12 * FILLED]
/** How far back from `point`, m, a lens that looks along the angles must be to see the whole box. */
function backFor(box: Box, point: Vec3, angles: { bearingDeg: number; tiltDeg: number }, focalMm: number): number {
  const { right, up, forward } = axesOf({ ...angles, rollDeg: 0 })
  return boxCorners(box).reduce((far, corner) => {
    const p = sub(corner, point)
    const across = Math.max(Math.abs(dot(p, right)) / HALF_WIDE_MM, Math.abs(dot(p, up)) / HALF_HIGH_MM)
    return Math.max(far, across * focalMm - dot(p, forward))
  }, 0.05)
}
const looking = (station: Vec3, point: Vec3): Stand => ({
  station,
  aim: { kind: 'point', point, topBearingDeg: 0 },
  rollDeg: 0,
})

/**
 * Where a camera first stands before a thing that nobody has framed yet: a product is seen from the front, a little from above;
 * inside an enclosed building one stands on its lowest floor at eye height; a building seen from outside is taken whole from its
 * south-west. Source: common practice.
 */
export function firstStandBefore(
  box: Box,
  o: { readonly floorM: number; readonly eyeHeightM: number; readonly inside: boolean },
): Stand {
  const size = [0, 1, 2].map((k) => box.max[k]! - box.min[k]!) as unknown as Vec3
  const centre = boxCentre(box)
  if (isProduct(box)) {
    const along = { bearingDeg: 345, tiltDeg: -12 }
    return looking(addScaled(centre, directionOf(345, -12), -backFor(box, centre, along, 70)), centre)
  }
  const eye = o.floorM + o.eyeHeightM
  const middle: Vec3 = [centre[0], centre[1], eye]
  if (!o.inside) {
    const back = backFor(box, middle, { bearingDeg: 40, tiltDeg: 0 }, 24)
    return looking(addScaled(middle, directionOf(40, 0), -back), middle)
  }
  const [nearEnd, beside] = size[0] >= size[1] ? [0.12, 0.32] : [0.32, 0.12]
  return looking([box.min[0] + size[0] * nearEnd, box.min[1] + size[1] * beside, eye], middle)
}

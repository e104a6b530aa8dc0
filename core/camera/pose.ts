// Which way are right, up and back, and what is the matrix from world to camera?
// Space: world -> camera (x right, y up, looks along -z). Source: handbook-0, gltf2 (3.10), usdgeomcamera.

import { asinDeg, atan2Deg, cosDeg, sinDeg, wrapBearingDeg } from '../base/index.ts'
import { add, addScaled, cross, distance, dot, scale, sub, type Vec3 } from '../math/index.ts'
import type { Aim, Matrix16, Pose, Stand } from './types.ts'

export interface Axes {
  readonly right: Vec3
  readonly up: Vec3
  readonly forward: Vec3
}

/** Unit direction of view for a bearing and a tilt. */
export const directionOf = (bearingDeg: number, tiltDeg: number): Vec3 => [
  sinDeg(bearingDeg) * cosDeg(tiltDeg),
  cosDeg(bearingDeg) * cosDeg(tiltDeg),
  sinDeg(tiltDeg),
]

/** The camera's right, up and forward in the world, unit length, roll included. */
export function axesOf(pose: Pick<Pose, 'bearingDeg' | 'tiltDeg' | 'rollDeg'>): Axes {
  const { bearingDeg: b, tiltDeg: a, rollDeg: r } = pose
  const right0: Vec3 = [cosDeg(b), -sinDeg(b), 0]
  const forward = directionOf(b, a)
  const up0: Vec3 = [-sinDeg(b) * sinDeg(a), -cosDeg(b) * sinDeg(a), cosDeg(a)]
  const c = cosDeg(r)
  const s = sinDeg(r)
  return {
    right: addScaled(scale(right0, c), up0, -s),
    up: addScaled(scale(up0, c), right0, s),
    forward,
  }
}

/** Column-major matrix taking world metres to camera space. */
export function cameraFromWorld(pose: Pose): Matrix16 {
  const { right: x, up: y, forward: f } = axesOf(pose)
  const s = pose.station
  // prettier-ignore
  return [
    x[0], y[0], -f[0], 0,
    x[1], y[1], -f[1], 0,
    x[2], y[2], -f[2], 0,
    -dot(x, s), -dot(y, s), dot(f, s), 1,
  ]
}

/** A world point in camera space: x right, y up, z towards the photographer. */
export function toCamera(pose: Pose, point: Vec3): Vec3 {
  const { right, up, forward } = axesOf(pose)
  const d = sub(point, pose.station)
  return [dot(d, right), dot(d, up), -dot(d, forward)]
}

/** Bearing and tilt of a world direction; null for a zero vector. Vertical directions keep `keepBearingDeg`. */
export function anglesOf(d: Vec3, keepBearingDeg: number): { bearingDeg: number; tiltDeg: number } | null {
  const flat = Math.hypot(d[0], d[1])
  if (flat === 0 && d[2] === 0) return null
  const tiltDeg = atan2Deg(d[2], flat)
  const nearVertical = 90 - Math.abs(tiltDeg) < VERTICAL_DEG
  return { bearingDeg: nearVertical ? keepBearingDeg : wrapBearingDeg(atan2Deg(d[0], d[1])), tiltDeg }
}
/** Within this of vertical the sight line's bearing is taken from `topBearingDeg`. */
const VERTICAL_DEG = 0.01

export type AimCentre = (nodeId: string, offset: Vec3) => Vec3 | null

/** The point aimed at; of an object that is gone where it was last. Null for a free direction, or where that is not known. */
export function aimPointOf(aim: Aim, centreOf?: AimCentre): Vec3 | null {
  if (aim.kind === 'point') return aim.point
  if (aim.kind === 'object') return centreOf?.(aim.nodeId, aim.offset) ?? aim.lastPoint ?? null
  return null
}

/**
 * The pose of a stand. Looking straight down, the bearing is the direction of the picture's top edge; straight up, of its
 * bottom edge (the limit of tilting on), so `topBearingDeg` is turned by 180 there. An aim at the station itself looks level
 * along `topBearingDeg`.
 */
export function poseOfStand(stand: Stand, centreOf?: AimCentre): Pose {
  const { station, aim, rollDeg } = stand
  if (aim.kind === 'direction')
    return { station, bearingDeg: wrapBearingDeg(aim.bearingDeg), tiltDeg: aim.tiltDeg, rollDeg }
  const point = aimPointOf(aim, centreOf)
  const d: Vec3 = point ? sub(point, station) : [0, 0, 0]
  const keep = wrapBearingDeg(d[2] > 0 ? aim.topBearingDeg + 180 : aim.topBearingDeg)
  const angles = anglesOf(d, keep)
  return { station, bearingDeg: angles?.bearingDeg ?? keep, tiltDeg: angles?.tiltDeg ?? 0, rollDeg }
}

/** The same aim form turned to a new direction; a point stays at its distance (`distanceM` for a free direction). */
export function standTurnedTo(stand: Stand, bearingDeg: number, tiltDeg: number, centreOf?: AimCentre): Stand {
  if (stand.aim.kind === 'direction')
    return { ...stand, aim: { kind: 'direction', bearingDeg: wrapBearingDeg(bearingDeg), tiltDeg } }
  const old = aimPointOf(stand.aim, centreOf)
  const away = old ? distance(old, stand.station) : 1
  const point = addScaled(stand.station, directionOf(bearingDeg, tiltDeg), away || 1)
  return { ...stand, aim: { kind: 'point', point, topBearingDeg: topOf(bearingDeg, tiltDeg) } }
}

/** The stand moved by a world vector, in metres; the aim comes along unless `stationAlone`. An object aim stays on its object. */
export function standMoved(stand: Stand, by: Vec3, stationAlone = false, centreOf?: AimCentre): Stand {
  const station = add(stand.station, by)
  if (stationAlone || stand.aim.kind !== 'point') {
    // the bearing in force is remembered for the moment when the sight line becomes vertical
    if (stand.aim.kind === 'direction') return { ...stand, station }
    const { bearingDeg } = poseOfStand(stand, centreOf)
    const topBearingDeg = topTowards(station, aimPointOf(stand.aim, centreOf), bearingDeg)
    return { ...stand, station, aim: { ...stand.aim, topBearingDeg } }
  }
  return { ...stand, station, aim: { ...stand.aim, point: add(stand.aim.point, by) } }
}

/** Sight lines this near to each other, as a sine, are one. */
const SAME_LINE = 1e-9

/**
 * A stand of the same form for another pose: a free direction stays one; a point or an object stays aimed at as long as the new
 * sight line meets it; where it does not, the aim becomes a point as deep as the
 * old one, or, where that lies out of the way, at its distance.
 */
export function standAs(stand: Stand, pose: Pose, centreOf?: AimCentre): Stand {
  const { station, bearingDeg, tiltDeg, rollDeg } = pose
  const base: Stand = { ...stand, station, rollDeg }
  if (stand.aim.kind === 'direction')
    return { ...base, aim: { kind: 'direction', bearingDeg: wrapBearingDeg(bearingDeg), tiltDeg } }
  const old = aimPointOf(stand.aim, centreOf)
  const forward = directionOf(bearingDeg, tiltDeg)
  if (old) {
    const d = sub(old, station)
    if (dot(d, forward) > 0 && Math.hypot(...cross(d, forward)) <= SAME_LINE * Math.hypot(...d))
      return { ...base, aim: { ...stand.aim, topBearingDeg: topOf(bearingDeg, tiltDeg) } }
  }
  // as deep as the old point lies, where that is ahead and not far out of the way; else as far away as it was
  const was = old ? Math.max(distance(old, stand.station), 0.01) : 3
  const deep = old ? dot(sub(old, station), forward) : 0
  const away = old && deep > 0.3 * distance(old, station) ? deep : was
  return {
    ...base,
    aim: { kind: 'point', point: addScaled(station, forward, away), topBearingDeg: topOf(bearingDeg, tiltDeg) },
  }
}
/** What `topBearingDeg` has to be for this bearing to come back when the sight line becomes vertical: turned by 180 looking up. */
export const topOf = (bearingDeg: number, tiltDeg: number): number =>
  wrapBearingDeg(tiltDeg > 0 ? bearingDeg + 180 : bearingDeg)

/** `topOf` for a sight line from a station to a point; an aim that is gone counts as level. */
export const topTowards = (station: Vec3, point: Vec3 | null, bearingDeg: number): number =>
  topOf(bearingDeg, point ? point[2] - station[2] : 0)

/** The same view with another form of aim; the picture does not move. A new point lies `awayM` ahead. */
export function aimConverted(stand: Stand, kind: 'direction' | 'point', awayM: number, centreOf?: AimCentre): Stand {
  if (stand.aim.kind === kind) return stand
  const { bearingDeg, tiltDeg } = poseOfStand(stand, centreOf)
  if (kind === 'direction') return { ...stand, aim: { kind, bearingDeg, tiltDeg } }
  const old = aimPointOf(stand.aim, centreOf)
  const point = old ?? addScaled(stand.station, directionOf(bearingDeg, tiltDeg), awayM)
  return { ...stand, aim: { kind: 'point', point, topBearingDeg: topOf(bearingDeg, tiltDeg) } }
}

/** A wall normal's or a line's direction in the plan; bearing of the unit vector perpendicular (clockwise) to `bearingDeg`. */
export const rightOf = (bearingDeg: number): Vec3 => cross(directionOf(bearingDeg, 0), [0, 0, 1])

/** Tilt of a direction in degrees, from its vertical part. */
export const tiltOf = (d: Vec3): number => asinDeg(d[2] / Math.hypot(d[0], d[1], d[2]))

// Stands that are drawn as a line: on Plan from the station to the aim, on Side up and down too.
import { sinDeg, cosDeg, wrapBearingDeg } from '#core/base'
import type { Vec3 } from '#core/math'
import type { Stand } from './types.ts'

/** A sight line this near to upright is drawn exactly so, degrees (our own). */
const UPRIGHT_DEG = 3

/** A level stand from a click-drag in the plan: at eye height over the floor, looking from the first point to the second. */
export function standFromPlan(
  from: readonly [number, number],
  to: readonly [number, number],
  floorM: number,
  eyeHeightM: number,
  keepBearingDeg: number,
): Stand {
  const z = floorM + eyeHeightM
  const station: Vec3 = [from[0], from[1], z]
  const near = Math.hypot(to[0] - from[0], to[1] - from[1]) < 1e-3
  const point: Vec3 = near
    ? [from[0] + 3 * sinDeg(keepBearingDeg), from[1] + 3 * cosDeg(keepBearingDeg), z]
    : [to[0], to[1], z]
  return { station, aim: { kind: 'point', point, topBearingDeg: keepBearingDeg }, rollDeg: 0 }
}

/** Plan: the point held to the world axis through the origin along which it lies farther; its height is the origin's. */
export function heldOnPlan(p: Vec3, origin: Vec3): Vec3 {
  const alongX = Math.abs(p[0] - origin[0]) > Math.abs(p[1] - origin[1])
  return [alongX ? p[0] : origin[0], alongX ? origin[1] : p[1], origin[2]]
}

/** Side: the point held level with the origin, or straight above or below it, whichever lies nearer. */
export function heldOnSide(p: Vec3, origin: Vec3): Vec3 {
  const across = Math.hypot(p[0] - origin[0], p[1] - origin[1])
  const level = across > Math.abs(p[2] - origin[2])
  return level ? [p[0], p[1], origin[2]] : [origin[0], origin[1], p[2]]
}

/** Whether the line from the station to the point is within three degrees of upright. */
export function isNearUpright(station: Vec3, point: Vec3): boolean {
  const flat = Math.hypot(point[0] - station[0], point[1] - station[1])
  const rise = Math.abs(point[2] - station[2])
  return rise > 0 && (Math.atan2(flat, rise) * 180) / Math.PI < UPRIGHT_DEG
}

/** A stand looking from the station to the point; straight up or down the bearing there was is kept. */
export function standFromSide(station: Vec3, point: Vec3, keepBearingDeg: number): Stand {
  const up = point[2] > station[2] && isNearUpright(station, point)
  const topBearingDeg = wrapBearingDeg(up ? keepBearingDeg + 180 : keepBearingDeg)
  return { station, aim: { kind: 'point', point, topBearingDeg }, rollDeg: 0 }
}

/** The point moved along a bearing, in plan, until it lies level with the station across it. Source: plane geometry. */
export function levelWith(p: Vec3, station: Vec3, bearingDeg: number): Vec3 {
  const [s, c] = [sinDeg(bearingDeg), cosDeg(bearingDeg)]
  const off = (station[0] - p[0]) * s + (station[1] - p[1]) * c
  return [p[0] + off * s, p[1] + off * c, p[2]]
}

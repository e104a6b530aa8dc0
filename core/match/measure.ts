// How long is something in the photograph, and how sure is that?
// Model: one end is met on a plane (the ground, a wall) or at a place that is known; the other is where the ray through it passes nearest
// to the line along the direction. One sigma by first-order propagation of the match's covariance and of both clicks' noise.
// Source: handbook-9; gum2008 (5.1.2, propagation). Space: picture pixels from the top left; world metres, Z up.

import { ok, refused, type Result } from '../base/index.ts'
import { undistort } from '../camera/index.ts'
import { add, dot, normalize, scale, sub, type Vec3 } from '../math/index.ts'
import { rotateBack, rotationOf } from './rotation.ts'
import type { Covariance } from './spread.ts'
import type { Estimate, PicturePlace, Unknown } from './types.ts'

export interface LengthAsked {
  readonly estimate: Estimate
  readonly covariance: Covariance
  /** Noise of a click, pixels. */
  readonly sigmaPx: number
  readonly from: PicturePlace
  readonly to: PicturePlace
  /** The way it runs in the world; need not be of unit length. */
  readonly direction: Vec3
  /** A plane that `from` is seen on. */
  readonly on: { readonly point: Vec3; readonly normal: Vec3 }
}
export interface LengthTold {
  readonly lengthM: number
  readonly sdM: number
  /** Where it begins and ends in the world. */
  readonly start: Vec3
  readonly end: Vec3
}
export type LengthReason = 'not-on-plane' | 'along-sight'

/** Unit direction of sight through a place of the photograph; null past the lens's fold. */
export function sightOf({ lens, poses }: Estimate, [x, y]: PicturePlace): Vec3 | null {
  const p = undistort({ kind: 'brown', ...lens.distortion }, (x - lens.principal[0]) / lens.focalPx, (y - lens.principal[1]) / lens.focalPx) // prettier-ignore
  return p && normalize(rotateBack(rotationOf(poses[0]!), [p[0], p[1], 1]))
}
/** Where a place of the photograph lies on a plane; null where it does not, or behind the camera. */
export function placeOnPlane(e: Estimate, place: PicturePlace, { point, normal }: LengthAsked['on']): Vec3 | null {
  const sight = sightOf(e, place)
  const { station } = e.poses[0]!
  const slope = sight ? dot(sight, normal) : 0
  if (!sight || Math.abs(slope) < 1e-9) return null
  const t = dot(sub(point, station), normal) / slope
  return t > 0 ? add(station, scale(sight, t)) : null
}

function ends(
  o: LengthAsked,
  e: Estimate,
  from: PicturePlace,
  to: PicturePlace,
): { start: Vec3; along: number } | LengthReason {
  // prettier-ignore
  const start = placeOnPlane(e, from, o.on)
  const sight = sightOf(e, to)
  if (!start || !sight) return 'not-on-plane'
  const d = normalize(o.direction)
  const between = sub(e.poses[0]!.station, start)
  const [dd, ds] = [1, dot(d, sight)]
  const det = dd - ds * ds
  // seen along its own direction it has no length in the picture
  if (det < 1e-6) return 'along-sight'
  return { start, along: (dot(d, between) - ds * dot(sight, between)) / det }
}

const REFUSED: Readonly<Record<LengthReason, string>> = {
  'not-on-plane': 'Its beginning is not seen on the ground. Begin on it, or measure on the model.',
  'along-sight': 'It runs straight away from the camera: nothing tells how long it is.',
}
export function lengthAlong(o: LengthAsked): Result<LengthTold, LengthReason> {
  const told = ends(o, o.estimate, o.from, o.to)
  if (typeof told === 'string') return refused(told, REFUSED[told])
  const { start, along } = told
  const slopes = o.covariance.unknowns.map((name) => slopeOf(o, name))
  const click = (which: 'from' | 'to', k: 0 | 1): number => {
    const at = (by: number): PicturePlace =>
      k === 0 ? [o[which][0] + by, o[which][1]] : [o[which][0], o[which][1] + by]
    return difference((by) => (which === 'from' ? ends(o, o.estimate, at(by), o.to) : ends(o, o.estimate, o.from, at(by))), 0.05) // prettier-ignore
  }
  let variance = [click('from', 0), click('from', 1), click('to', 0), click('to', 1)].reduce((s, j) => s + (j * o.sigmaPx) ** 2, 0) // prettier-ignore
  const n = slopes.length
  for (let i = 0; i < n; i++)
    for (let j = 0; j < n; j++) variance += slopes[i]! * slopes[j]! * o.covariance.values[i * n + j]!
  const d = normalize(o.direction)
  return ok({
    lengthM: Math.abs(along),
    sdM: Math.sqrt(Math.max(0, variance)),
    start,
    end: add(start, scale(d, along)),
  })
}
/** By how much the length changes a unit, both ways. */
function difference(at: (by: number) => ReturnType<typeof ends>, step: number): number {
  const [a, b] = [at(-step), at(step)]
  return typeof a === 'string' || typeof b === 'string' ? 0 : (b.along - a.along) / (2 * step)
}
function slopeOf(o: LengthAsked, name: Unknown): number {
  const n = o.covariance.unknowns.length
  const i = o.covariance.unknowns.indexOf(name)
  const step = 0.1 * Math.sqrt(o.covariance.values[i * n + i]!)
  return step > 0 ? difference((by) => ends(o, moved(o.estimate, name, by), o.from, o.to), step) : 0
}

/** An estimate with one unknown changed. */
export function moved({ lens, poses }: Estimate, name: Unknown, by: number): Estimate {
  const pose = poses[0]!
  const [x, y, z] = pose.station
  switch (name) {
    case 'focalPx':
      return { lens: { ...lens, focalPx: lens.focalPx + by }, poses }
    case 'principalX':
      return { lens: { ...lens, principal: [lens.principal[0] + by, lens.principal[1]] }, poses }
    case 'principalY':
      return { lens: { ...lens, principal: [lens.principal[0], lens.principal[1] + by] }, poses }
    case 'stationX':
      return { lens, poses: [{ ...pose, station: [x + by, y, z] }] }
    case 'stationY':
      return { lens, poses: [{ ...pose, station: [x, y + by, z] }] }
    case 'stationZ':
      return { lens, poses: [{ ...pose, station: [x, y, z + by] }] }
    case 'bearingDeg':
    case 'tiltDeg':
    case 'rollDeg':
      return { lens, poses: [{ ...pose, [name]: pose[name] + by }] }
    default:
      return { lens: { ...lens, distortion: { ...lens.distortion, [name]: lens.distortion[name] + by } }, poses }
  }
}

/** Bearing and height of a sun that throws the shadow of `top` to `tip`, degrees; null where the tip is not below the top. */
export function sunOfShadow(
  top: Vec3,
  tip: Vec3,
): { readonly bearingDeg: number; readonly elevationDeg: number } | null {
  const [x, y, z] = sub(top, tip)
  if (!(z > 1e-6)) return null
  const flat = Math.hypot(x, y)
  const deg = 180 / Math.PI
  return { bearingDeg: (Math.atan2(x, y) * deg + 360) % 360, elevationDeg: Math.atan2(z, flat) * deg }
}

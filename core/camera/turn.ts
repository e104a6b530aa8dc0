// Which direction of view holds a direction of the world under the pointer?
// Model: the station stays, so that a direction d of the world is to be seen along a ray r of the camera. Without roll the height of d
// is r_up cos t + r_forward sin t: that gives the tilt t, the rest the bearing. With the tilt held only the place across can be met:
// one equation A sin x + B cos x = C, or, past its reach, where the place across is extreme. Space: world directions, camera axes right, up, forward. Derived; checked by property tests.

import { asinDeg, atan2Deg, cosDeg, sinDeg, wrapBearingDeg } from '../base/index.ts'
import { dot, type Vec3 } from '../math/index.ts'
import { axesOf } from './pose.ts'
import { rayThrough } from './project.ts'
import type { Camera } from './types.ts'

export interface Turned {
  readonly bearingDeg: number
  readonly tiltDeg: number
}
type Px = readonly [number, number]
const STEEPEST_DEG = 90

/** The ray through a picture point along the camera's axes without its roll. */
function alongAxes(camera: Camera, at: Px): Vec3 | null {
  const ray = rayThrough(camera, ...at)
  const { right, up, forward } = axesOf({ ...camera.pose, rollDeg: 0 })
  return ray && [dot(ray.direction, right), dot(ray.direction, up), dot(ray.direction, forward)]
}

/**
 * Bearing and tilt at which what lies at `grabbed` lies at `to` (both in picture pixels); with `holdTilt` only its place across. At
 * the zenith or nadir the tilt ends at 90 degrees. Null where a place has no ray.
 */
export function turnHolding(camera: Camera, grabbed: Px, to: Px, holdTilt: boolean): Turned | null {
  const d = rayThrough(camera, ...grabbed)?.direction
  const r = alongAxes(camera, to)
  if (!d || !r) return null
  const azimuthDeg = atan2Deg(d[0], d[1])
  if (holdTilt)
    return { bearingDeg: bearingAtTilt(d, r, azimuthDeg, camera.pose.tiltDeg), tiltDeg: camera.pose.tiltDeg }
  const reach = Math.hypot(r[1], r[2])
  const phi = atan2Deg(r[1], r[2])
  const first = asinDeg(Math.min(1, Math.max(-1, d[2] / reach)))
  // of the two tilts the nearer one
  const [a, b] = [first - phi, 180 - first - phi].map((t) => t - 360 * Math.round(t / 360)) as [number, number]
  const near = Math.abs(a - camera.pose.tiltDeg) <= Math.abs(b - camera.pose.tiltDeg) ? a : b
  const tiltDeg = Math.min(STEEPEST_DEG, Math.max(-STEEPEST_DEG, near))
  const level = r[2] * cosDeg(tiltDeg) - r[1] * sinDeg(tiltDeg)
  return { bearingDeg: wrapBearingDeg(azimuthDeg - atan2Deg(r[0], level)), tiltDeg }
}

/** The bearing at which `d` is seen as far across as the ray `r`, at that tilt. */
function bearingAtTilt(d: Vec3, r: Vec3, azimuthDeg: number, tiltDeg: number): number {
  const across = r[0] / r[2]
  const flat = Math.hypot(d[0], d[1])
  const amplitude = flat * Math.hypot(1, across * cosDeg(tiltDeg))
  if (amplitude < 1e-12) return wrapBearingDeg(azimuthDeg)
  const sine = (across * d[2] * sinDeg(tiltDeg)) / amplitude
  if (Math.abs(sine) > 1) return wrapBearingDeg(azimuthDeg - farthestAcross(d, flat, tiltDeg) * Math.sign(across))
  const x = asinDeg(sine)
  return wrapBearingDeg(azimuthDeg - atan2Deg(across * cosDeg(tiltDeg), 1) - x)
}

/**
 * How far beside the sight line's bearing `d` is seen farthest across, degrees: where flat sin b / (flat cos b cos t + d_up sin t) is
 * greatest. Only asked where that lies before the camera on both sides: |d_up sin t| > flat cos t.
 */
function farthestAcross(d: Vec3, flat: number, tiltDeg: number): number {
  return 90 - asinDeg(Math.min(1, Math.max(-1, (-flat * cosDeg(tiltDeg)) / (d[2] * sinDeg(tiltDeg)))))
}

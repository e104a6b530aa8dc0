// Where does a straight piece of the world fall in the picture, when part of it lies behind the camera, or a lens bends it?
// Model: a polyline: two places where straight stays straight, else halved until it follows the curve. Space: world metres -> picture
// pixels.

import { addScaled, sub, type Vec3 } from '../math/index.ts'
import { undistort } from './distortion.ts'
import { axesOf, toCamera } from './pose.ts'
import { principalPointPx } from './principal.ts'
import { projectPoint } from './project.ts'
import { isPerspective, isStraight } from './projections/registry.ts'
import type { Camera } from './types.ts'

/** Nothing nearer to a perspective station's plane than this is drawn, metres. */
const NEAR_M = 0.02

export type PicturePlace = readonly [xPx: number, yPx: number]

/** A curve is followed this well, pixels, in so many halvings at most. */
const OFF_PX = 0.1
const HALVINGS = 7

/** The picture of a segment, its part before the camera, from `a` to `b`; empty when none of it has a picture. */
export function projectSegment(camera: Camera, a: Vec3, b: Vec3): readonly PicturePlace[] {
  let [p, q] = [a, b]
  if (isPerspective(camera)) {
    const da = -toCamera(camera.pose, a)[2]
    const db = -toCamera(camera.pose, b)[2]
    if (da < NEAR_M && db < NEAR_M) return []
    const cut = (): Vec3 => addScaled(a, sub(b, a), (NEAR_M - da) / (db - da))
    if (da < NEAR_M) p = cut()
    else if (db < NEAR_M) q = cut()
  }
  const [from, to] = [placeOf(camera, p), placeOf(camera, q)]
  if (isStraight(camera.lens)) return from && to ? [from, to] : []
  return curve(camera, [p, from], [q, to], HALVINGS)
}
function placeOf(camera: Camera, point: Vec3): PicturePlace | null {
  const at = projectPoint(camera, point)
  return at && [at.xPx, at.yPx]
}
type Seen = readonly [Vec3, PicturePlace | null]
/** The curve between two points with their places; what has no picture is left out. */
function curve(camera: Camera, [p, from]: Seen, [q, to]: Seen, left: number): PicturePlace[] {
  const middle = addScaled(p, sub(q, p), 0.5)
  const at = placeOf(camera, middle)
  const off = from && to && at ? Math.hypot(at[0] - (from[0] + to[0]) / 2, at[1] - (from[1] + to[1]) / 2) : Infinity
  // the first halves are always looked at: a curve may cross its chord in the middle
  if (left === 0 || (left < HALVINGS - 1 && off < OFF_PX) || (!from && !to && !at && left < HALVINGS - 3))
    return [from, at, to].filter((x): x is PicturePlace => x !== null)
  const first = curve(camera, [p, from], [middle, at], left - 1)
  return [...first, ...curve(camera, [middle, at], [q, to], left - 1).slice(at ? 1 : 0)]
}

/** Places along a bent horizon. */
const HORIZON_STEPS = 64

/** The horizon over the picture, from its left to its right edge; null where it does not cross, and in parallel and panoramic pictures. */
export function horizonLine(camera: Camera): readonly PicturePlace[] | null {
  const { lens, frame, pose } = camera
  if (!isPerspective(lens)) return null
  const { right, up, forward } = axesOf(pose)
  // points with zero vertical part: right.z X + up.z Y + forward.z f = 0, X and Y on the sensor from the principal point
  if (Math.abs(up[2]) < 1e-9) return null
  const { xPx: cx, yPx: cy, pxPerMm } = principalPointPx(camera)
  /** Height of the straight horizon at a tangent to the right, focal lengths up. */
  const upAt = (x: number): number => -(right[2] * x + forward[2]) / up[2]
  const k = lens.focalMm * pxPerMm
  if (isStraight(lens) || !lens.distortion)
    return [0, frame.widthPx].map((xPx): PicturePlace => [xPx, cy - upAt((xPx - cx) / k) * k])
  // as far as the lens sees to both sides, a little beyond the frame
  const d = lens.distortion
  const [x0, x1] = [-0.1, 1.1].map((s) => (undistort(d, (s * frame.widthPx - cx) / k, 0) ?? undistort(d, (Math.min(1, Math.max(0, s)) * frame.widthPx - cx) / k, 0))?.[0]) // prettier-ignore
  if (x0 === undefined || x1 === undefined) return null
  const { station } = pose
  const line = Array.from({ length: HORIZON_STEPS + 1 }, (_, i) => {
    const x = x0 + ((x1 - x0) * i) / HORIZON_STEPS
    const ray = addScaled(addScaled(forward, right, x), up, upAt(x))
    return placeOf(camera, addScaled(station, ray, 1))
  }).filter((p): p is PicturePlace => p !== null)
  return line.length > 1 ? line : null
}

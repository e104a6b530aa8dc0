// Where must a cylindrical or fisheye camera stand so that points just fill its picture?
// Model: no limit is linear here. For a depth, the station is moved sideways and up by the secant rule until the room left is the
// same at opposite sides; the depth itself is bisected until the scarcer room is nought. Space: camera axes; pixels.
// Source: handbook-4 and 11.

import { ok, refused, type Result } from '../base/index.ts'
import { formOf, projectPoint, type Camera } from '../camera/index.ts'
import type { Vec3 } from '../math/index.ts'
import { alongAxes, extremes, inAxes, type Flat } from './fit-points.ts'
import type { FitReason, Sides } from './fit-types.ts'

interface Room {
  /** Free pixels of the scarcer pair of sides (of a fisheye, across its circle); -Infinity where a point has no picture. */
  readonly least: number
  /** Left less right, top less bottom. */
  readonly x: number
  readonly y: number
}

function roomOf(camera: Camera, points: readonly Vec3[], sides: Sides): Room {
  const { widthPx: w, heightPx: h } = camera.frame
  // a picture that ends at a circle keeps the largest margin within it
  const all = formOf(camera).circlePx(camera.frame)
  const circle = all === null ? null : all - Math.max(sides.left * w, sides.right * w, sides.top * h, sides.bottom * h)
  let far = 0
  let [x0, x1, y0, y1] = [Infinity, -Infinity, Infinity, -Infinity]
  for (const q of points) {
    const at = projectPoint(camera, q)
    if (!at) return { least: -Infinity, x: 0, y: 0 }
    x0 = Math.min(x0, at.xPx)
    x1 = Math.max(x1, at.xPx)
    y0 = Math.min(y0, at.yPx)
    y1 = Math.max(y1, at.yPx)
    if (circle !== null) far = Math.max(far, Math.hypot(at.xPx - w / 2, at.yPx - h / 2))
  }
  const left = x0 - sides.left * w
  const right = w - sides.right * w - x1
  const top = y0 - sides.top * h
  const bottom = h - sides.bottom * h - y1
  const least = circle === null ? Math.min(left + right, top + bottom) : 2 * (circle - far)
  return { least, x: left - right, y: top - bottom }
}

/** The same room at opposite sides, at a depth: both directions in turn, each by the secant rule. */
function balanced(
  camera: Camera,
  points: readonly Vec3[],
  sides: Sides,
  z: number,
  from: readonly [number, number],
  unit: number,
) {
  let [x, y] = from
  const at = (u: number, v: number): Room => roomOf(alongAxes(camera, u, v, z), points, sides)
  let room = at(x, y)
  const tol = camera.frame.widthPx * 1e-10
  for (let turn = 0; turn < 40 && Number.isFinite(room.least); turn++) {
    if (Math.abs(room.x) < tol && Math.abs(room.y) < tol) break
    const h = unit * 1e-4
    const dx = at(x + h, y)
    const dy = at(x, y + h)
    const [a, b, c, d] = [(dx.x - room.x) / h, (dy.x - room.x) / h, (dx.y - room.y) / h, (dy.y - room.y) / h]
    const det = a * d - b * c
    if (!Number.isFinite(det) || Math.abs(det) < 1e-12) break
    const limit = unit * 2
    const clamp = (v: number): number => Math.min(limit, Math.max(-limit, v))
    x -= clamp((d * room.x - b * room.y) / det)
    y -= clamp((a * room.y - c * room.x) / det)
    room = at(x, y)
  }
  return { x, y, room }
}

/**
 * Fits by distance; the direction of view and the lens stay. Of many points those outermost in a first solution are added until no
 * other lies outside. Refused when the points are one.
 */
export function fitWide(
  camera: Camera,
  points: readonly Vec3[],
  sides: Sides,
  nearM: number,
): Result<Camera, FitReason> {
  let few = points.length > MANY ? points.filter((_, i) => i % Math.ceil(points.length / MANY) === 0) : points
  let result = solveFew(camera, few, points, sides, nearM)
  for (let round = 0; round < 12 && few.length < points.length && result.ok; round++) {
    const more = outermost(result.value, points).filter((p) => !few.includes(p))
    if (more.length === 0) break
    few = [...few, ...more]
    result = solveFew(camera, few, points, sides, nearM)
  }
  return result
}

/** More points than this are first thinned. */
const MANY = 400

/** The points at the four sides of a picture. */
function outermost(camera: Camera, points: readonly Vec3[]): Vec3[] {
  const best: Vec3[] = [points[0]!, points[0]!, points[0]!, points[0]!]
  const most = [-Infinity, -Infinity, -Infinity, -Infinity]
  for (const p of points) {
    const at = projectPoint(camera, p)
    if (!at) continue
    const side = [-at.xPx, at.xPx, -at.yPx, at.yPx]
    for (let k = 0; k < 4; k++)
      if (side[k]! > most[k]!) {
        most[k] = side[k]!
        best[k] = p
      }
  }
  return best
}

function solveFew(
  camera: Camera,
  few: readonly Vec3[],
  all: readonly Vec3[],
  sides: Sides,
  nearM: number,
): Result<Camera, FitReason> {
  const flat: Flat = inAxes(camera, all)
  const [x0, x1] = extremes(flat.x)
  const [y0, y1] = extremes(flat.y)
  const [z0, z1] = extremes(flat.z)
  const unit = Math.hypot(x1 - x0, y1 - y0, z1 - z0)
  if (!(unit > 0)) return refused('no-extent', 'All of it falls into one point of the picture.')
  let at: readonly [number, number] = [(x0 + x1) / 2, (y0 + y1) / 2]
  const solve = (z: number) => balanced(camera, few, sides, z, at, unit)
  const nearest = z0 - nearM
  // stepping back until it fits, then halving towards the nearest that still does
  let fits = nearest - unit
  for (let i = 0; ; i++) {
    const s = solve(fits)
    if (s.room.least >= 0) {
      at = [s.x, s.y]
      break
    }
    if (i === 40) return refused('no-extent', 'It cannot be brought into the picture.')
    fits -= unit * Math.pow(1.7, i)
  }
  const close = solve(nearest)
  if (close.room.least >= 0) return ok(alongAxes(camera, close.x, close.y, nearest))
  let short = nearest
  for (let i = 0; i < 60 && Math.abs(short - fits) > unit * 1e-13; i++) {
    const mid = (short + fits) / 2
    const s = solve(mid)
    if (s.room.least >= 0) {
      fits = mid
      at = [s.x, s.y]
    } else short = mid
  }
  const end = solve(fits)
  return ok(alongAxes(camera, end.x, end.y, fits))
}

// Where must the camera stand, or how wide must a parallel picture be, so that given points just fill the frame?
// Model: for a fixed direction of view each side of the frame is a linear limit on the station. The pair of opposite limits that
// meets last gives the depth; across the other pair the room left over is shared equally in pixels (bisection). A further limit
// keeps every point before the camera. Space: camera axes, metres. Source: handbook-11.

import { ok, refused, type Result } from '../base/index.ts'
import { axesOf, usedSensor, type Camera } from '../camera/index.ts'
import { addScaled, dot, scale, type Vec3 } from '../math/index.ts'

export type FitReason = 'no-points' | 'margins' | 'projection' | 'no-extent'
export interface Sides {
  readonly left: number
  readonly right: number
  readonly top: number
  readonly bottom: number
}
export interface FitOptions {
  /** Free part of the picture at each side, as a share of its width or height; 0 by default. */
  readonly margin?: number | Sides
  /** No point comes nearer to the station's plane than this, metres; 0.01 by default. */
  readonly nearM?: number
}
const NEAREST_M = 0.01

/**
 * The camera, turned as it is, whose picture the points just fill: perspective moves the station (smallest distance), parallel
 * changes the width and moves sideways. Refused without points, when margins leave no picture, when all points fall into one
 * (parallel), and for oblique and panoramic forms.
 */
export function fitPoints(
  camera: Camera,
  points: readonly Vec3[],
  options: FitOptions = {},
): Result<Camera, FitReason> {
  if (points.length === 0) return refused('no-points', 'Select what is to fill the frame first.')
  const m = options.margin ?? 0
  const sides: Sides = typeof m === 'number' ? { left: m, right: m, top: m, bottom: m } : m
  if (sides.left + sides.right >= 1 || sides.top + sides.bottom >= 1)
    return refused('margins', 'The margins leave no room for the picture.')
  const { right, up, forward } = axesOf(camera.pose)
  const flat = points.map((p): Vec3 => [dot(p, right), dot(p, up), dot(p, forward)])
  const kind = camera.lens.projection.kind
  if (kind === 'perspective') return ok(nearest(camera, flat, sides, options.nearM ?? NEAREST_M))
  if (kind === 'parallel') return widest(camera, flat, sides)
  return refused('projection', 'Only perspective and parallel pictures can be fitted.')
}

const fromAxes = (camera: Camera, [x, y, z]: Vec3): Vec3 => {
  const { right, up, forward } = axesOf(camera.pose)
  return addScaled(addScaled(scale(right, x), up, y), forward, z)
}

/** One pair of opposite sides: tangents of the limits, and the points' intercepts on the station's coordinate. */
interface Pair {
  readonly kMore: number
  readonly kLess: number
  readonly more: number
  readonly less: number
}

function nearest(camera: Camera, flat: readonly Vec3[], sides: Sides, nearM: number): Camera {
  const { lens, frame } = camera
  const { widthMm: w, heightMm: h } = usedSensor(lens, frame)
  const f = lens.focalMm
  const pair = (axis: 0 | 1, kMore: number, kLess: number): Pair => {
    let more = -Infinity
    let less = Infinity
    for (const p of flat) {
      more = Math.max(more, p[axis] - kMore * p[2])
      less = Math.min(less, p[axis] + kLess * p[2])
    }
    return { kMore, kLess, more, less }
  }
  const x = pair(0, (w * (0.5 - sides.right) + lens.crossMm) / f, (w * (0.5 - sides.left) - lens.crossMm) / f)
  const y = pair(1, (h * (0.5 - sides.top) + lens.riseMm) / f, (h * (0.5 - sides.bottom) - lens.riseMm) / f)
  const depth = (p: Pair): number => (p.less - p.more) / (p.kMore + p.kLess)
  const z = Math.min(depth(x), depth(y), ...limits(flat, nearM))
  const at: Vec3 = [across(flat, 0, x, z), across(flat, 1, y, z), z]
  return { ...camera, pose: { ...camera.pose, station: fromAxes(camera, at) } }
}

function limits(flat: readonly Vec3[], nearM: number): number[] {
  let least = Infinity
  for (const p of flat) least = Math.min(least, p[2])
  return [least - nearM]
}

/** The station's coordinate across a pair at depth z: on both limits when they meet there, else with equal room at both sides. */
function across(flat: readonly Vec3[], axis: 0 | 1, p: Pair, z: number): number {
  let lo = p.more + p.kMore * z
  let hi = p.less - p.kLess * z
  if (hi <= lo) return (lo + hi) / 2
  const room = (s: number): number => {
    let most = -Infinity
    let least = Infinity
    for (const q of flat) {
      const t = (q[axis] - s) / (q[2] - z)
      most = Math.max(most, t)
      least = Math.min(least, t)
    }
    return p.kMore - most - (least + p.kLess)
  }
  // room grows with s: more to the one side, less to the other
  for (let i = 0; i < 80; i++) {
    const mid = (lo + hi) / 2
    if (room(mid) < 0) lo = mid
    else hi = mid
  }
  return (lo + hi) / 2
}

function widest(camera: Camera, flat: readonly Vec3[], sides: Sides): Result<Camera, FitReason> {
  const { lens, frame } = camera
  if (lens.projection.kind !== 'parallel') return refused('projection', 'Only a parallel picture has a width to fit.')
  const aspect = frame.widthPx / frame.heightPx
  const span = (axis: 0 | 1): readonly [number, number] => {
    let lo = Infinity
    let hi = -Infinity
    for (const p of flat) {
      lo = Math.min(lo, p[axis])
      hi = Math.max(hi, p[axis])
    }
    return [lo, hi]
  }
  const [x0, x1] = span(0)
  const [y0, y1] = span(1)
  const widthM = Math.max(
    (x1 - x0) / (1 - sides.left - sides.right),
    ((y1 - y0) * aspect) / (1 - sides.top - sides.bottom),
  )
  if (!(widthM > 0)) return refused('no-extent', 'All of it falls into one point of the picture.')
  const heightM = widthM / aspect
  const perMm = widthM / usedSensor(lens, frame).widthMm
  // the middle of what is left free by the margins
  const x = (x0 + x1) / 2 + ((sides.right - sides.left) / 2) * widthM - lens.crossMm * perMm
  const y = (y0 + y1) / 2 + ((sides.top - sides.bottom) / 2) * heightM - lens.riseMm * perMm
  const now = axesOf(camera.pose)
  const z = dot(camera.pose.station, now.forward)
  return ok({
    ...camera,
    pose: { ...camera.pose, station: fromAxes(camera, [x, y, z]) },
    lens: { ...lens, projection: { kind: 'parallel', widthM } },
  })
}

// Where must the camera stand, how long must its lens be, how far shifted, or how wide must a parallel picture be, so that given
// points just fill the frame?
// Model: for a fixed direction of view each side of the frame is a linear limit. By distance the pair of opposite limits that meets
// last gives the depth; across the other pair the room left over is shared equally in pixels. By focal length and shift the limits
// are linear in f and in the shift. Cylindrical and fisheye pictures are solved by bisection (fit-wide.ts).
// Space: camera axes, metres; sensor mm. Source: handbook-11.

import { ok, refused, type Result } from '../base/index.ts'
import { type Camera, FOCAL_RANGE_MM, formOf, isStraight, usedSensor } from '../camera/index.ts'
import { alongAxes, asPoints, countOf, inAxes, type Flat, type Points } from './fit-points.ts'
import { fitDistorted } from './fit-distorted.ts'
import { fitExtent } from './fit-extent.ts'
import type { FitOptions, FitReason, Sides } from './fit-types.ts'
import { fitWide } from './fit-wide.ts'

const NEAREST_M = 0.01

/**
 * The camera, turned as it is, whose picture the points (tuples, or x, y, z one after the other in a typed array) just fill: two opposite margins are met exactly and no point lies beyond
 * one. By distance the station moves (smallest distance), by focal length the lens grows (longest), by shift the points are only
 * centred, by extent a parallel or oblique picture changes its width and moves in its plane. Linear in the number of points.
 * Refused without points, when margins leave no picture, when all points fall into one, when points lie behind a lens that
 * cannot move, when they are larger than the picture (by shift), when one lies beyond the axis's side of the frame (by focal
 * length alone), and where the projection has nothing of the kind to change.
 */
export function fitPoints(camera: Camera, points: Points, options: FitOptions = {}): Result<Camera, FitReason> {
  if (countOf(points) === 0) return refused('no-points', 'Select what is to fill the frame first.')
  const m = options.margin ?? 0
  const sides: Sides = typeof m === 'number' ? { left: m, right: m, top: m, bottom: m } : m
  if (Object.values(sides).some((v) => !(v >= 0)) || sides.left + sides.right >= 1 || sides.top + sides.bottom >= 1)
    return refused('margins', 'The margins leave no room for the picture.')
  const by = options.by ?? (formOf(camera).isCentral ? 'distance' : 'extent')
  if (formOf(camera).hasLens && !isStraight(camera.lens))
    return fitDistorted(camera, asPoints(points), sides, (c, s) => fitted(c, points, s, by, options))
  return fitted(camera, points, sides, by, options)
}

/** The fit to these margins, without a lens's distortion. */
function fitted(
  camera: Camera,
  points: Points,
  sides: Sides,
  by: NonNullable<FitOptions['by']>,
  options: FitOptions,
): Result<Camera, FitReason> {
  const form = formOf(camera)
  const flat = inAxes(camera, points)
  if (!form.isCentral) {
    if (by === 'extent' || by === 'distance') return fitExtent(camera, flat, sides, options.widthM)
    return refused('projection', 'A parallel picture is fitted by its width of view.')
  }
  if (form.hasLens) {
    if (by === 'distance') {
      const level = camera.pose.tiltDeg === 0 && camera.pose.rollDeg === 0
      const near = options.nearM ?? NEAREST_M
      return ok(options.keepHeight && level ? atHeight(camera, flat, sides, near) : nearest(camera, flat, sides, near))
    }
    if (by === 'extent') return refused('projection', 'Only a parallel picture has a width of view to fit.')
    return byLens(camera, flat, sides, by)
  }
  if (form.fieldOfView(camera.lens, camera.frame).horizontalDeg >= 360)
    return refused('projection', 'A full panorama shows everything already.')
  if (by !== 'distance') return refused('projection', 'A cylindrical or fisheye picture is fitted by its distance.')
  return fitWide(camera, asPoints(points), sides, options.nearM ?? NEAREST_M)
}

/** One pair of opposite sides: tangents of the limits, and the points' intercepts on the station's coordinate. */
interface Pair {
  readonly q: Float64Array
  readonly kMore: number
  readonly kLess: number
  readonly more: number
  readonly less: number
}
/** Limits of the two pairs of sides: (half the sensor less the margin, moved by the shift) / f. */
function tangents({ lens, frame }: Camera, sides: Sides) {
  const { widthMm: w, heightMm: h } = usedSensor(lens, frame)
  const f = lens.focalMm
  return {
    right: (w * (0.5 - sides.right) + lens.crossMm) / f,
    left: (w * (0.5 - sides.left) - lens.crossMm) / f,
    top: (h * (0.5 - sides.top) + lens.riseMm) / f,
    bottom: (h * (0.5 - sides.bottom) - lens.riseMm) / f,
  }
}

/** Both pairs and the least depth, in one pass over the points. */
function pairsOf(flat: Flat, k: ReturnType<typeof tangents>): { x: Pair; y: Pair; least: number } {
  const { x, y, z } = flat
  const { right, left, top, bottom } = k
  let moreX = -Infinity
  let lessX = Infinity
  let moreY = -Infinity
  let lessY = Infinity
  let least = Infinity
  for (let i = 0; i < x.length; i++) {
    const d = z[i]!
    const a = x[i]! - right * d
    const b = x[i]! + left * d
    const c = y[i]! - top * d
    const e = y[i]! + bottom * d
    if (a > moreX) moreX = a
    if (b < lessX) lessX = b
    if (c > moreY) moreY = c
    if (e < lessY) lessY = e
    if (d < least) least = d
  }
  return {
    x: { q: x, kMore: right, kLess: left, more: moreX, less: lessX },
    y: { q: y, kMore: top, kLess: bottom, more: moreY, less: lessY },
    least,
  }
}
const depthOf = (p: Pair): number => (p.less - p.more) / (p.kMore + p.kLess)

function nearest(camera: Camera, flat: Flat, sides: Sides, nearM: number): Camera {
  const { x, y, least } = pairsOf(flat, tangents(camera, sides))
  const z = Math.min(depthOf(x), depthOf(y), least - nearM)
  return alongAxes(camera, across(flat.z, x, z), across(flat.z, y, z), z)
}

/**
 * As `nearest`, but at the station's own height: up and down the frame is moved by rise, so that only the height of what is seen
 * matters. It shrinks with the distance: found by bisection.
 */
function atHeight(camera: Camera, flat: Flat, sides: Sides, nearM: number): Camera {
  const { lens, frame } = camera
  const { heightMm: h } = usedSensor(lens, frame)
  const f = lens.focalMm
  const { x, least } = pairsOf(flat, tangents(camera, sides))
  const room = h * (1 - sides.top - sides.bottom)
  const y = flat.station[1]
  const span = (z: number): readonly [number, number] => {
    let lo = Infinity
    let hi = -Infinity
    for (let i = 0; i < flat.y.length; i++) {
      const t = (flat.y[i]! - y) / (flat.z[i]! - z)
      if (t < lo) lo = t
      if (t > hi) hi = t
    }
    return [lo, hi]
  }
  const fits = (z: number): boolean => {
    const [lo, hi] = span(z)
    return f * (hi - lo) <= room
  }
  let at = Math.min(depthOf(x), least - nearM)
  if (!fits(at)) {
    let [short, far] = [at, at - 1]
    for (let i = 0; i < 60 && !fits(far); i++) far -= Math.pow(2, i)
    for (let i = 0; i < 80; i++) {
      const mid = (short + far) / 2
      if (fits(mid)) far = mid
      else short = mid
    }
    at = far
  }
  const [lo, hi] = span(at)
  const riseMm = (f * (lo + hi) + h * (sides.top - sides.bottom)) / 2
  return { ...alongAxes(camera, across(flat.z, x, at), y, at), lens: { ...lens, riseMm } }
}

/**
 * The station's coordinate across a pair at depth z: on both limits when they meet there, else with equal room at both sides.
 * The room's difference falls along straight pieces, so that Newton's step is exact once the two outermost points are known: when
 * they come out the same again it is done. A bracket guards it. A measured hot loop: a few passes over all points.
 */
function across(z: Float64Array, p: Pair, at: number): number {
  let lo = p.more + p.kMore * at
  let hi = p.less - p.kLess * at
  if (hi - lo <= 1e-12 * Math.max(1, Math.abs(lo), Math.abs(hi))) return (lo + hi) / 2
  const q = p.q
  let s = (lo + hi) / 2
  let first = -1
  let last = -1
  for (let step = 0; step < 60; step++) {
    const [a, b] = outermost(q, z, s, at)
    const [u, v] = [1 / (z[a]! - at), 1 / (z[b]! - at)]
    // more room on the one side than on the other: the difference grows with s
    const room = p.kMore - (q[a]! - s) * u - ((q[b]! - s) * v + p.kLess)
    if (room < 0) lo = s
    else hi = s
    const next = s - room / (u + v)
    if (next === s || (a === first && b === last)) return next > lo && next < hi ? next : s
    const stays = next > lo && next < hi
    // where the step left the bracket, the middle: the same points there prove nothing
    first = stays ? a : -1
    last = stays ? b : -1
    s = stays ? next : (lo + hi) / 2
  }
  return s
}
/** The points seen farthest to either side from a station at (s, at). */
function outermost(q: Float64Array, z: Float64Array, s: number, at: number): readonly [number, number] {
  let most = -Infinity
  let least = Infinity
  let first = 0
  let last = 0
  for (let i = 0; i < q.length; i++) {
    const t = (q[i]! - s) / (z[i]! - at)
    if (t > most) {
      most = t
      first = i
    }
    if (t < least) {
      least = t
      last = i
    }
  }
  return [first, last]
}

const tooWide = refused('too-large', `It would take a lens shorter than ${FOCAL_RANGE_MM.min} mm. Fit by distance.`)

/** By focal length, by shift, or by both: the station stays. */
function byLens(
  camera: Camera,
  flat: Flat,
  sides: Sides,
  by: 'focal' | 'shift' | 'focal+shift',
): Result<Camera, FitReason> {
  const { lens, frame } = camera
  const { widthMm: w, heightMm: h } = usedSensor(lens, frame)
  const n = flat.x.length
  let [x0, x1, y0, y1] = [Infinity, -Infinity, Infinity, -Infinity]
  for (let i = 0; i < n; i++) {
    const d = flat.z[i]! - flat.station[2]
    if (!(d > 1e-9)) return refused('behind', 'Some of it lies behind the camera. Step back, or fit by distance.')
    const tx = (flat.x[i]! - flat.station[0]) / d
    const ty = (flat.y[i]! - flat.station[1]) / d
    if (tx < x0) x0 = tx
    if (tx > x1) x1 = tx
    if (ty < y0) y0 = ty
    if (ty > y1) y1 = ty
  }
  const wide = w * (1 - sides.left - sides.right)
  const high = h * (1 - sides.top - sides.bottom)
  if (by === 'focal') {
    // each side: f t <= half the sensor less the margin, moved by the shift
    const limits = [
      [x1, w * (0.5 - sides.right) + lens.crossMm],
      [-x0, w * (0.5 - sides.left) - lens.crossMm],
      [y1, h * (0.5 - sides.top) + lens.riseMm],
      [-y0, h * (0.5 - sides.bottom) - lens.riseMm],
    ] as const
    // a limit on the axis's other side: a shift so large that the axis lies past the margin asks for a least focal length
    if (limits.some(([t, room]) => room < 0 || (room === 0 && t > 0)))
      return refused('off-axis', 'The shift puts the axis beyond a margin. Fit by focal length and shift instead.')
    const focalMm = Math.min(...limits.map(([t, room]) => (t > 0 ? room / t : Infinity)))
    if (!Number.isFinite(focalMm)) return refused('no-extent', 'All of it falls into one point of the picture.')
    if (focalMm <= 0) return refused('off-axis', 'No focal length brings it into the picture. Turn towards it first.')
    if (focalMm < FOCAL_RANGE_MM.min) return tooWide
    return ok({ ...camera, lens: { ...lens, focalMm: Math.min(FOCAL_RANGE_MM.max, focalMm) } })
  }
  const longest = by === 'shift' ? lens.focalMm : Math.min(wide / (x1 - x0), high / (y1 - y0))
  if (!Number.isFinite(longest)) return refused('no-extent', 'All of it falls into one point of the picture.')
  if (by !== 'shift' && longest < FOCAL_RANGE_MM.min) return tooWide
  // the shift belongs to the lens that is there, not to a longer one
  const focalMm = by === 'shift' ? longest : Math.min(FOCAL_RANGE_MM.max, longest)
  if (by === 'shift' && ((x1 - x0) * focalMm > wide * (1 + 1e-12) || (y1 - y0) * focalMm > high * (1 + 1e-12)))
    return refused('too-large', 'It is larger than the picture within its margins. Fit by distance or focal length.')
  const crossMm = (focalMm * (x0 + x1) + w * (sides.right - sides.left)) / 2
  const riseMm = (focalMm * (y0 + y1) + h * (sides.top - sides.bottom)) / 2
  return ok({ ...camera, lens: { ...lens, focalMm, crossMm, riseMm } })
}

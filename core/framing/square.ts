// How is a camera made square to a wall with the framing kept, centred on something, or its horizon laid through something?
// Model: square means level with the wall's normal as bearing; the picture's centre is kept by rise and cross (turned.ts). Centring
// solves one linear equation for cross or a move, or A cos b + B sin b = C for the bearing; what a bending lens leaves of a move or a
// bearing is taken off step by step. Space: world metres, sensor mm.
// Source: handbook-2; iso5456-4.

import {
  atan2Deg,
  bearingDifferenceDeg,
  cosDeg,
  DEG_PER_RAD,
  ok,
  refused,
  sinDeg,
  wrapBearingDeg,
  type Result,
} from '../base/index.ts'
import {
  axesOf,
  type Camera,
  isParallel,
  isPerspective,
  isStraight,
  onSensor,
  projectPoint,
  shearOf,
  throughSensor,
  toCamera,
  usedSensor,
  widthOfView,
} from '../camera/index.ts'
import { addScaled, sub, type Vec3 } from '../math/index.ts'
import { turnedKeepingCentre, type TurnReason } from './turned.ts'

/** A normal steeper than this is a floor's, a ceiling's or a flat roof's. */
const STEEPEST_WALL_DEG = 60

/** The bearing square to a wall that lies nearest to `nearDeg`; null when the normal is that of a floor or a flat roof. */
export function bearingSquareTo(wallNormal: Vec3, nearDeg: number): number | null {
  const flat = Math.hypot(wallNormal[0], wallNormal[1])
  if (flat === 0 || atan2Deg(Math.abs(wallNormal[2]), flat) > STEEPEST_WALL_DEG) return null
  const into = wrapBearingDeg(atan2Deg(-wallNormal[0], -wallNormal[1]))
  return Math.abs(bearingDifferenceDeg(nearDeg, into)) <= 90 ? into : wrapBearingDeg(into + 180)
}

export type SquareReason = TurnReason | 'not-a-wall' | 'projection'
export interface SquareOptions {
  /** Keep the picture's centre by rise and cross (perspective only); on by default. */
  readonly keepCentre?: boolean
}

/**
 * The level camera that looks square at a wall (either side of it, whichever is nearer to the present bearing). The station stays.
 * A parallel or oblique picture keeps its tilt: it only turns. Refused for floors and flat roofs, for panoramic forms, and when the
 * centre cannot be kept.
 */
export function squareUp(camera: Camera, wallNormal: Vec3, options: SquareOptions = {}): Result<Camera, SquareReason> {
  const bearingDeg = bearingSquareTo(wallNormal, camera.pose.bearingDeg)
  if (bearingDeg === null)
    return refused('not-a-wall', 'That is a floor or a flat roof. Point at an upright wall to square up to it.')
  if (isParallel(camera)) return ok({ ...camera, pose: { ...camera.pose, bearingDeg, rollDeg: 0 } })
  if (!isPerspective(camera)) return refused('projection', 'A panorama is not square to anything.')
  if (options.keepCentre ?? true) return turnedKeepingCentre(camera, { bearingDeg, tiltDeg: 0, rollDeg: 0 })
  return ok({ ...camera, pose: { ...camera.pose, bearingDeg, tiltDeg: 0, rollDeg: 0 } })
}

export type CentreReason = 'behind' | 'out-of-reach' | 'projection'

/**
 * The camera with a point on the upright line through the picture's middle: by cross (nothing turns or moves), by turning the
 * bearing, or by moving the station along the picture's right. Refused when the point lies behind, when the shift is out of reach,
 * and for panoramic forms (by bearing also for parallel ones, where turning about the station moves nothing that is on its axis).
 */
export function centreOn(
  camera: Camera,
  point: Vec3,
  options: { readonly by: 'cross' | 'bearing' | 'move' },
): Result<Camera, CentreReason> {
  const { lens, frame, pose } = camera
  const { widthMm } = usedSensor(lens, frame)
  const [x, y, z] = toCamera(pose, point)
  const widthM = widthOfView(lens)
  if (widthM !== null) {
    if (options.by === 'bearing') return refused('projection', 'A parallel picture is centred by a move or by cross.')
    const across = x - z * shearOf(lens).x
    const mPerMm = widthM / widthMm
    return options.by === 'cross' ? shifted(camera, across / mPerMm) : ok(moved(camera, across - lens.crossMm * mPerMm))
  }
  if (!isPerspective(lens)) return refused('projection', 'A panorama is centred by its bearing alone.')
  if (options.by === 'bearing') return turnedThroughLens(camera, point)
  if (-z <= 1e-9) return refused('behind', 'It lies behind the camera.')
  const place = onSensor(lens, x / -z, y / -z)
  const middle = throughSensor(lens, lens.crossMm, 0)
  if (!place || !middle) return folded()
  if (options.by === 'cross') return shifted(camera, place[0])
  const byM = settled(x - middle[0] * -z, (m) => {
    const at = onSensor(lens, (x - m) / -z, y / -z)
    return at && (lens.crossMm - at[0]) * (-z / lens.focalMm)
  })
  return byM === null ? folded() : ok(moved(camera, byM))
}
const folded = () => refused('out-of-reach', 'This lens folds its picture before it sees so far off its axis.')

const ROUNDS = 60
/** Where `off` is nought: steps by what it tells, which a lens bends only a little, from a start near it; null where there is none. */
function settled(start: number, off: (at: number) => number | null): number | null {
  let at = start
  for (let i = 0; i < ROUNDS; i++) {
    const miss = off(at)
    if (miss === null) return null
    const next = at - miss
    if (Math.abs(next - at) <= 1e-14 * Math.max(1, Math.abs(at))) return next
    at = next
  }
  return Math.abs(off(at) ?? Infinity) < 1e-9 ? at : null
}

/** By bearing: as through a straight lens, then what its bending leaves. */
function turnedThroughLens(camera: Camera, point: Vec3): Result<Camera, CentreReason> {
  const straight = turnedOnto(camera, point)
  if (!straight.ok || isStraight(camera.lens)) return straight
  const { lens, frame } = camera
  const { pose } = straight.value
  const pxPerDeg = (lens.focalMm * frame.widthPx) / usedSensor(lens, frame).widthMm / DEG_PER_RAD
  const bearingDeg = settled(pose.bearingDeg, (deg) => {
    const seen = projectPoint({ ...camera, pose: { ...pose, bearingDeg: deg } }, point)
    return seen && (frame.widthPx / 2 - seen.xPx) / pxPerDeg
  })
  return bearingDeg === null ? folded() : ok({ ...camera, pose: { ...pose, bearingDeg: wrapBearingDeg(bearingDeg) } })
}

const shifted = (camera: Camera, crossMm: number): Result<Camera, CentreReason> =>
  Math.abs(crossMm) > 10 * camera.lens.sensorMm.width
    ? refused('out-of-reach', `It would need ${crossMm.toFixed(0)} mm of cross; turn nearer to it first.`)
    : ok({ ...camera, lens: { ...camera.lens, crossMm } })

const moved = (camera: Camera, byM: number): Camera => ({
  ...camera,
  pose: { ...camera.pose, station: addScaled(camera.pose.station, axesOf(camera.pose).right, byM) },
})

/** The bearing at which x / depth = cross / f for the point: A cos b + B sin b = C, of its two roots the one nearer and ahead. */
function turnedOnto(camera: Camera, point: Vec3): Result<Camera, CentreReason> {
  const { pose, lens } = camera
  const [dx, dy, dz] = sub(point, pose.station)
  const [ca, sa] = [cosDeg(pose.tiltDeg), sinDeg(pose.tiltDeg)]
  const [cr, sr] = [cosDeg(pose.rollDeg), sinDeg(pose.rollDeg)]
  const { focalMm: f, crossMm: c } = lens
  const a = f * (cr * dx + sr * sa * dy) - c * ca * dy
  const b = f * (sr * sa * dx - cr * dy) - c * ca * dx
  const want = c * sa * dz + f * sr * ca * dz
  const most = Math.hypot(a, b)
  if (most < 1e-12 || Math.abs(want) > most)
    return refused('behind', 'No bearing brings it to the middle; it lies above or below the camera.')
  const middle = atan2Deg(b, a)
  const off = Math.acos(want / most) * DEG_PER_RAD
  const roots = [middle + off, middle - off]
    .map((deg) => ({ ...camera, pose: { ...pose, bearingDeg: wrapBearingDeg(deg) } }))
    .filter((turned) => -toCamera(turned.pose, point)[2] > 1e-9)
  const away = (turned: Camera): number => Math.abs(bearingDifferenceDeg(pose.bearingDeg, turned.pose.bearingDeg))
  const [best] = roots.sort((p, q) => away(p) - away(q))
  return best ? ok(best) : refused('behind', 'No bearing brings it to the middle; it lies above or below the camera.')
}

export type HorizonReason = 'not-level' | 'behind' | 'out-of-reach'
/** Within this of level a camera counts as level, degrees. */
const LEVEL_DEG = 1e-6

/**
 * The level camera raised or lowered to a feature's height, so that the horizon passes through it; a subject keeps its place in the
 * picture by rise. Refused unless the camera is level and in perspective, and when the subject lies behind.
 */
export function horizonThrough(camera: Camera, feature: Vec3, subject: Vec3): Result<Camera, HorizonReason> {
  const { pose, lens } = camera
  const level = Math.abs(pose.tiltDeg) < LEVEL_DEG && Math.abs(pose.rollDeg) < LEVEL_DEG
  if (!level || !isPerspective(lens))
    return refused(
      'not-level',
      'The horizon is laid through something in level perspective pictures. Level the camera first.',
    )
  const depth = -toCamera(pose, subject)[2]
  if (depth <= 1e-9) return refused('behind', 'The subject that should keep its place lies behind the camera.')
  const dz = feature[2] - pose.station[2]
  const [x, y] = toCamera(pose, subject)
  const [before, after] = [onSensor(lens, x / depth, y / depth), onSensor(lens, x / depth, (y - dz) / depth)]
  if (!before || !after)
    return refused('out-of-reach', 'This lens folds its picture before it sees so far off its axis.')
  const riseMm = lens.riseMm + after[1] - before[1]
  if (Math.abs(riseMm) > 10 * lens.sensorMm.height)
    return refused('out-of-reach', `It would need ${riseMm.toFixed(0)} mm of rise; step back from the subject first.`)
  return ok({
    ...camera,
    pose: { ...pose, station: [pose.station[0], pose.station[1], feature[2]] },
    lens: { ...lens, riseMm },
  })
}

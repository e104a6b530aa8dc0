// Which way does a measured view look, and how does it project?
// Model: plan, underside, elevations and axonometries are parallel pictures in fixed directions; cabinet, cavalier and planometric
// are oblique ones, whose plane through the station is true. Bearings count from one of the building's main directions.
// Space: degrees. Source: handbook-3; iso5456-3; iso5455 (scales).

import { asinDeg, atan2Deg, DEG_PER_RAD, ok, RAD_PER_DEG, refused, wrapBearingDeg, type Result } from '../base/index.ts'
import { axesOf, type Camera, isParallel, type Lens, type Pose, type Projection, shearOf } from '../camera/index.ts'
import { dot, type Vec3 } from '../math/index.ts'

/** Corner from which an axonometry looks, or the quarter that an elevation faces: clockwise from the main direction. */
export type Quarter = 0 | 1 | 2 | 3
export type MeasuredView =
  | { readonly kind: 'plan' }
  | { readonly kind: 'underside' }
  | { readonly kind: 'elevation'; readonly quarter: Quarter }
  | { readonly kind: 'isometric'; readonly corner: Quarter }
  /** ISO 5456-3's dimetric: the faced side nearly true; `left` shows its left neighbour too. */
  | { readonly kind: 'dimetric'; readonly quarter: Quarter; readonly hand: 'left' | 'right' }
  /** The dimetric of two to one: receding axes rise one on two. */
  | { readonly kind: 'dimetric-2-1'; readonly corner: Quarter }
  | { readonly kind: 'axonometric'; readonly bearingDeg: number; readonly tiltDeg: number }
  | { readonly kind: 'cabinet'; readonly quarter: Quarter }
  | { readonly kind: 'cavalier'; readonly quarter: Quarter }
  | { readonly kind: 'planometric'; readonly turnDeg: number; readonly receding: number }

/** Exact: asin(1 / sqrt 3), and the dimetric with foreshortenings 1 : 1 : 1/2. */
const ISOMETRIC_TILT_DEG = Math.asin(1 / Math.sqrt(3)) * DEG_PER_RAD
const DIMETRIC_TILT_DEG = Math.asin(1 / 3) * DEG_PER_RAD
const DIMETRIC_TURN_DEG = Math.atan(1 / Math.sqrt(7)) * DEG_PER_RAD
const RECEDING_DEG = 45

export interface MeasuredDirection {
  readonly pose: Pick<Pose, 'bearingDeg' | 'tiltDeg' | 'rollDeg'>
  /** The projection for a width of view in metres. */
  readonly projection: (widthM: number) => Projection
}

/** Direction and projection of a measured view of a building whose main direction has this bearing. */
export function measuredDirection(view: MeasuredView, mainBearingDeg = 0): MeasuredDirection {
  const parallel = (bearingDeg: number, tiltDeg: number): MeasuredDirection => ({
    pose: { bearingDeg: wrapBearingDeg(bearingDeg), tiltDeg, rollDeg: 0 },
    projection: (widthM) => ({ kind: 'parallel', widthM }),
  })
  const oblique = (bearingDeg: number, tiltDeg: number, angleDeg: number, receding: number): MeasuredDirection => ({
    pose: { bearingDeg: wrapBearingDeg(bearingDeg), tiltDeg, rollDeg: 0 },
    projection: (widthM) => ({ kind: 'oblique', widthM, angleDeg, receding }),
  })
  const quarter = (q: Quarter): number => mainBearingDeg + 90 * q
  switch (view.kind) {
    case 'plan':
      return parallel(mainBearingDeg, -90)
    case 'underside':
      return parallel(mainBearingDeg, 90)
    case 'elevation':
      return parallel(quarter(view.quarter), 0)
    case 'isometric':
      return parallel(quarter(view.corner) + 45, -ISOMETRIC_TILT_DEG)
    case 'dimetric':
      return parallel(
        quarter(view.quarter) + (view.hand === 'left' ? DIMETRIC_TURN_DEG : -DIMETRIC_TURN_DEG),
        -DIMETRIC_TILT_DEG,
      )
    case 'dimetric-2-1':
      return parallel(quarter(view.corner) + 45, -30)
    case 'axonometric':
      return parallel(view.bearingDeg, view.tiltDeg)
    case 'cabinet':
      return oblique(quarter(view.quarter), 0, RECEDING_DEG, 0.5)
    case 'cavalier':
      return oblique(quarter(view.quarter), 0, RECEDING_DEG, 1)
    case 'planometric':
      // what is higher is nearer to an eye that looks down: farther points go downwards
      return oblique(mainBearingDeg + view.turnDeg, -90, 270, view.receding)
  }
}

export type AxesReason = 'too-steep' | 'not-positive'
/**
 * Tilt (negative: from above) and turn from the angles above the horizontal of the axes that recede to the left and to the right:
 * sin^2 tilt = tan left tan right, tan^2 turn = tan right / tan left. The turn is added to the bearing of the axis that recedes to
 * the left. Refused unless both are positive and come to less than 90 degrees together.
 */
export function axonometricFromAngles(
  leftDeg: number,
  rightDeg: number,
): Result<{ readonly tiltDeg: number; readonly turnDeg: number }, AxesReason> {
  if (!(leftDeg > 0) || !(rightDeg > 0)) return refused('not-positive', 'Both angles must be above zero.')
  if (leftDeg + rightDeg >= 90) return refused('too-steep', 'The two angles must come to less than 90° together.')
  const a = Math.tan(leftDeg * RAD_PER_DEG)
  const b = Math.tan(rightDeg * RAD_PER_DEG)
  return ok({ tiltDeg: -asinDeg(Math.sqrt(a * b)), turnDeg: atan2Deg(Math.sqrt(b), Math.sqrt(a)) })
}

/** How an axis of the world is drawn. */
export interface DrawnAxis {
  /** Counterclockwise from the picture's right, of the axis's positive direction; null where it is seen end on. */
  readonly angleDeg: number | null
  /** Drawn length of one metre, in metres of the true plane. */
  readonly foreshortening: number
}

/** East, north and up (turned by `mainBearingDeg`) as a parallel or oblique picture draws them; null in other projections. */
export function drawnAxes(
  { pose, lens }: Pick<Camera, 'pose' | 'lens'>,
  mainBearingDeg = 0,
): { readonly x: DrawnAxis; readonly y: DrawnAxis; readonly z: DrawnAxis } | null {
  if (!isParallel(lens)) return null
  const shear = shearOf(lens)
  const { right, up, forward } = axesOf(pose)
  const b = mainBearingDeg * RAD_PER_DEG
  const [c, s] = [Math.cos(b), Math.sin(b)]
  const drawn = (d: Vec3): DrawnAxis => {
    const u = dot(d, right) + dot(d, forward) * shear.x
    const v = dot(d, up) + dot(d, forward) * shear.y
    const foreshortening = Math.hypot(u, v)
    return { angleDeg: foreshortening < 1e-9 ? null : wrapBearingDeg(atan2Deg(v, u)), foreshortening }
  }
  return { x: drawn([c, -s, 0]), y: drawn([s, c, 0]), z: drawn([0, 0, 1]) }
}

/** Standard reduction scales, 1 : k. Source: iso5455. */
export const STANDARD_SCALES = [1, 2, 5, 10, 20, 50, 100, 200, 500, 1000] as const

/** Width of view at a drawing scale 1 : k on paper of the frame's density, metres. */
export const widthAtScaleM = ({ widthPx, densityPpi }: Camera['frame'], k: number): number =>
  (k * widthPx * 0.0254) / densityPpi
/** The k of 1 : k at a width of view. */
export const scaleOfWidth = ({ widthPx, densityPpi }: Camera['frame'], widthM: number): number =>
  (widthM * densityPpi) / (widthPx * 0.0254)

/** The lens with another projection; a measured view has no rise or cross. */
export const measuredLens = (lens: Lens, projection: Projection): Lens => ({
  ...lens,
  projection,
  riseMm: 0,
  crossMm: 0,
})

// Which camera shows points in a measured view, as large as the frame allows or at a drawing scale?
// Model: a parallel camera in the view's direction, fitted to the points; its station's plane lies well before them, or for the
// oblique forms (whose plane through the station is true) through their middle. Space: metres. Source: handbook-3; iso5455.

import type { Result } from '../base/index.ts'
import { axesOf, type Camera, formOf, type Stand, topOf } from '../camera/index.ts'
import { addScaled, boxCentre, distance, dot, sub, type Box, type Vec3 } from '../math/index.ts'
import { fitPoints } from './fit.ts'
import type { FitOptions } from './fit-types.ts'
import { measuredDirection, measuredLens, widthAtScaleM, type MeasuredView } from './measured-views.ts'

export interface MeasuredTarget {
  readonly points: readonly Vec3[]
  readonly box: Box
}
export interface MeasuredOptions {
  readonly mainBearingDeg: number
  readonly margin: NonNullable<FitOptions['margin']>
  /** Drawing scale 1 : k; null: as large as the frame allows. */
  readonly scale: number | null
}

/** The camera of a measured view of the target, in the frame of `from`; refused where the points cannot be fitted. */
export function measuredCamera(
  from: Pick<Camera, 'lens' | 'frame'>,
  view: MeasuredView,
  target: MeasuredTarget,
  { mainBearingDeg, margin, scale }: MeasuredOptions,
): Result<Camera> {
  const d = measuredDirection(view, mainBearingDeg)
  const middle = boxCentre(target.box)
  const away = distance(target.box.min, target.box.max) || 1
  const oblique = Math.hypot(...Object.values(formOf(d.projection(1)).shear(d.projection(1)))) > 0
  const station = oblique ? middle : addScaled(middle, axesOf(d.pose).forward, -away)
  return fitPoints(
    { pose: { ...d.pose, station }, lens: measuredLens(from.lens, d.projection(1)), frame: from.frame },
    target.points,
    { margin, ...(scale === null ? {} : { widthM: widthAtScaleM(from.frame, scale) }) },
  )
}

const widthOf = (c: Camera): number => ('widthM' in c.lens.projection ? c.lens.projection.widthM : 1)

/** The stand of a measured camera: aimed at a point in the plane of the middle, so that going to perspective has a subject. */
export function measuredStand(camera: Camera, middle: Vec3): Stand {
  const { station, bearingDeg, tiltDeg } = camera.pose
  const { forward } = axesOf(camera.pose)
  const awayM = Math.max(dot(sub(middle, station), forward), 0.01 * widthOf(camera))
  const point = addScaled(station, forward, awayM)
  return { station, aim: { kind: 'point', point, topBearingDeg: topOf(bearingDeg, tiltDeg) }, rollDeg: 0 }
}

/** Whether all points lie inside a parallel camera's frame. */
export function holdsAll(camera: Camera, points: readonly Vec3[]): boolean {
  const r = fitPoints(camera, points, { margin: 0 })
  return r.ok && widthOf(r.value) <= widthOf(camera) * (1 + 1e-9)
}

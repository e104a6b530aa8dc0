// Where in the picture does a world point fall, and what ray leaves through a picture point?
// Model: the pose turns world into camera space; the rest is the projection's (projections/). Space: world metres <-> picture pixels.
// Source: handbook-0.

import { addScaled, normalize, scale, type Vec3 } from '../math/index.ts'
import { undistort } from './distortion.ts'
import { usedSensor, type FieldOfView } from './lens.ts'
import { axesOf, toCamera } from './pose.ts'
import type { Depths } from './projections/form.ts'
import { formOf, isStraight, widthOfView } from './projections/registry.ts'
import type { Camera, Frame, Lens, Matrix16, PicturePoint, Ray } from './types.ts'

/**
 * Column-major matrix taking camera space to OpenGL clip space (z -1..1), where the projection has one; a lens's distortion is left
 * out of it. nearM > 0 in perspective; parallel and oblique depths may be negative. RangeError for panoramic forms.
 */
export function clipFromCamera(camera: Camera, clip: Depths): Matrix16 {
  const form = formOf(camera)
  if (!form.clip) throw new RangeError(`clipFromCamera: projection = ${form.kind} has no matrix; it is resampled`)
  return form.clip(camera, clip)
}

/**
 * The picture point of a world point, with its depth in metres (along the axis; along the ray in panoramic forms). Null only
 * where no picture point exists: behind a perspective camera, past the fold of its lens, outside a fisheye's coverage, at the
 * station itself.
 */
export const projectPoint = (camera: Camera, point: Vec3): PicturePoint | null =>
  formOf(camera).project(camera, toCamera(camera.pose, point))

/**
 * The ray through a picture point, direction of unit length. Parallel and oblique rays start in the plane through the
 * station; the others at the station. Null past a lens's fold, outside a fisheye's circle, beyond the poles of a full panorama.
 */
export function rayThrough(camera: Camera, xPx: number, yPx: number): Ray | null {
  const ray = formOf(camera).unproject(camera, xPx, yPx)
  if (!ray) return null
  const { station } = camera.pose
  const { right, up, forward } = axesOf(camera.pose)
  const [x, y, z] = ray.direction
  const direction = normalize(addScaled(addScaled(scale(right, x), up, y), forward, -z))
  const [fx, fy] = ray.from
  return { origin: fx === 0 && fy === 0 ? station : addScaled(addScaled(station, right, fx), up, fy), direction }
}

/** Angles of view over the used sensor, without shift; parallel and oblique 0, panoramic forms their coverage. */
export const fieldOfView = (lens: Lens, frame: Frame): FieldOfView => formOf(lens).fieldOfView(lens, frame)

/**
 * World width of the picture at a depth along the axis, metres, from edge to edge on the line across through the axis (parallel
 * forms: everywhere the same). Where a lens's fold lies inside the picture: what it would be without distortion.
 */
export function widthAtDepthM({ lens, frame }: Pick<Camera, 'lens' | 'frame'>, depthM: number): number {
  const same = widthOfView(lens)
  if (same !== null) return same
  const { widthMm } = usedSensor(lens, frame)
  const straight = widthMm / lens.focalMm
  if (isStraight(lens) || !lens.distortion) return straight * depthM
  const [right, left] = [0.5, -0.5].map((side) =>
    undistort(lens.distortion!, (side * widthMm + lens.crossMm) / lens.focalMm, 0),
  )
  return depthM * (left && right ? right[0] - left[0] : straight)
}

/** World metres that a pixel covers at a depth along the axis: near the axis, where a lens distorts nothing. */
export const metresPerPx = ({ lens, frame }: Pick<Camera, 'lens' | 'frame'>, depthM: number): number =>
  (widthOfView(lens) ?? (usedSensor(lens, frame).widthMm * depthM) / lens.focalMm) / frame.widthPx

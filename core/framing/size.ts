// How does the subject keep its size when the lens or the projection changes?
// Model: in perspective the size at depth d goes as f / d. Space: world metres, sensor mm. Source: handbook-1 and 3.

import { ok, refused, type Result } from '../base/index.ts'
import {
  axesOf,
  type Camera,
  isPerspective,
  shearOf,
  toCamera,
  usedSensor,
  widthAtDepthM,
  widthOfView,
} from '../camera/index.ts'
import { addScaled, type Vec3 } from '../math/index.ts'

export type SizeReason = 'behind' | 'projection'

/** Another focal length; the station moves along the axis by depth (1 - f'/f), so that the subject keeps its place and size. */
export function holdSize(camera: Camera, subject: Vec3, focalMm: number): Result<Camera, SizeReason> {
  if (!isPerspective(camera)) return refused('projection', 'Only a perspective picture has a focal length to change.')
  const depth = -toCamera(camera.pose, subject)[2]
  if (depth <= 1e-9) return refused('behind', 'The subject lies behind the camera.')
  const station = addScaled(
    camera.pose.station,
    axesOf(camera.pose).forward,
    depth * (1 - focalMm / camera.lens.focalMm),
  )
  return ok({ ...camera, pose: { ...camera.pose, station }, lens: { ...camera.lens, focalMm } })
}

/**
 * The parallel picture (straight, not oblique) in which the subject has the place and size it has now in perspective. Refused when
 * the subject lies behind, and for other projections.
 */
export function toParallel(camera: Camera, subject: Vec3): Result<Camera, SizeReason> {
  if (!isPerspective(camera)) return refused('projection', 'Only a perspective picture becomes a parallel one.')
  const depth = -toCamera(camera.pose, subject)[2]
  if (depth <= 1e-9) return refused('behind', 'The subject lies behind the camera.')
  return ok({
    ...camera,
    lens: { ...camera.lens, projection: { kind: 'parallel', widthM: widthAtDepthM(camera, depth) } },
  })
}

/**
 * The perspective picture in which the subject has the place and size it has now in a parallel or oblique one: the station moves
 * along the axis until the width of view at the subject is the same; the focal length stays.
 */
export function toPerspective(camera: Camera, subject: Vec3): Result<Camera, SizeReason> {
  const { lens, frame, pose } = camera
  const widthM = widthOfView(lens)
  if (widthM === null) return refused('projection', 'Only a parallel or oblique picture becomes a perspective one.')
  const depth = -toCamera(pose, subject)[2]
  const wanted = (lens.focalMm * widthM) / usedSensor(lens, frame).widthMm
  const { right, up, forward } = axesOf(pose)
  // an oblique picture has sheared the subject sideways: the station follows
  const { x, y } = shearOf(lens)
  const back = addScaled(pose.station, forward, depth - wanted)
  const station = addScaled(addScaled(back, right, -x * depth), up, -y * depth)
  return ok({ ...camera, pose: { ...pose, station }, lens: { ...lens, projection: { kind: 'perspective' } } })
}

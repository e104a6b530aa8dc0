// The room is too small for the lens: how far back must the camera stand, and where must the near cut lie to see past the wall?
// Model: the distance is that of the exact fit. The near cut is parallel to the picture, so that it must clear the wall where the
// corner rays pass it: the largest axial depth of the four, and a millimetre. Space: world metres.
// Source: handbook-8 (sectional perspective) and 11.

import { ok, refused, type Result } from '../base/index.ts'
import { axesOf, type Camera, isPerspective, rayThrough, usedSensor } from '../camera/index.ts'
import { addScaled, dot, sub, type Vec3 } from '../math/index.ts'

export type StandBackReason = 'projection' | 'wall-missed' | 'cuts-subject'
/** A face of a wall: any point of it, and its normal (either way). */
export interface WallFace {
  readonly point: Vec3
  readonly normal: Vec3
}
/** Free beyond the wall, metres. */
const CLEAR_M = 0.001

/** Axial depth at which the near cut has passed a wall all over the picture; null where a corner's ray never meets the wall. */
export function depthBehindWall(camera: Camera, wall: WallFace): number | null {
  const { widthPx: w, heightPx: h } = camera.frame
  const { forward } = axesOf(camera.pose)
  let most = 0
  for (const [x, y] of [
    [0, 0],
    [w, 0],
    [0, h],
    [w, h],
  ] as const) {
    // prettier-ignore
    const ray = rayThrough(camera, x, y)
    const across = ray ? dot(ray.direction, wall.normal) : 0
    if (!ray || across === 0) return null
    const along = dot(sub(wall.point, ray.origin), wall.normal) / across
    if (!(along > 0)) return null
    most = Math.max(most, along * dot(ray.direction, forward))
  }
  return most + CLEAR_M
}

/**
 * Near cut for a camera that stands behind a wall (given by its inner face): just inside the room at every corner of the picture.
 * Refused when part of the picture looks past the wall's plane, when the cut would take away some of the subject, and unless in
 * perspective.
 */
export function nearCutBehind(
  camera: Camera,
  wall: WallFace,
  subject: readonly Vec3[],
): Result<number, StandBackReason> {
  if (!isPerspective(camera)) return refused('projection', 'Standing back through a wall is for perspective pictures.')
  const depthM = depthBehindWall(camera, wall)
  if (depthM === null)
    return refused(
      'wall-missed',
      'Part of the picture looks along the wall instead of through it. Square up to it first.',
    )
  const { forward } = axesOf(camera.pose)
  const nearest = Math.min(...subject.map((p) => dot(sub(p, camera.pose.station), forward)))
  if (nearest < depthM - 1e-9)
    return refused(
      'cuts-subject',
      'The cut that clears the wall would take away some of the subject. Square up first, or choose less.',
    )
  return ok(depthM)
}

/** The distance before a cut of a given width at which it fills the picture: D = f W / w. Source: handbook-8. */
export const distanceForWidthM = ({ lens, frame }: Pick<Camera, 'lens' | 'frame'>, widthM: number): number =>
  (lens.focalMm * widthM) / usedSensor(lens, frame).widthMm

/** The station moved back along the sight line. */
export const backedBy = (camera: Camera, byM: number): Camera => ({
  ...camera,
  pose: { ...camera.pose, station: addScaled(camera.pose.station, axesOf(camera.pose).forward, -byM) },
})

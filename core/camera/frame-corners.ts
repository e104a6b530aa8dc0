// Where do the frame's corners lie in the room at a depth?
import { addScaled, dot, type Vec3 } from '../math/index.ts'
import { axesOf } from './pose.ts'
import { rayThrough } from './project.ts'
import type { Camera } from './types.ts'

/**
 * The frame's corners at `depthM` along the axis, from the top left clockwise, with the places that their rays come from; null where
 * one looks sideways or backwards, as in panoramic projections.
 */
export function frameCorners(camera: Camera, depthM: number): { readonly at: Vec3; readonly from: Vec3 }[] | null {
  const { widthPx: w, heightPx: h } = camera.frame
  const { forward } = axesOf(camera.pose)
  const found: { at: Vec3; from: Vec3 }[] = []
  for (const [x, y] of [[0, 0], [w, 0], [w, h], [0, h]] as const) {
    const ray = rayThrough(camera, x, y)
    const ahead = ray ? dot(ray.direction, forward) : 0
    if (!ray || ahead <= 1e-6) return null
    // a parallel camera's rays begin in its plane: depth is counted from the station's
    const behind = dot(forward, camera.pose.station) - dot(forward, ray.origin)
    found.push({ at: addScaled(ray.origin, ray.direction, (depthM + behind) / ahead), from: ray.origin })
  } // prettier-ignore
  return found
}

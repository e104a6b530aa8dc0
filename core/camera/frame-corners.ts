// Where do the frame's corners, and its edges, lie in the room at a depth?
import { addScaled, dot, type Vec3 } from '../math/index.ts'
import { axesOf } from './pose.ts'
import { rayThrough } from './project.ts'
import { isStraight } from './projections/registry.ts'
import type { Camera } from './types.ts'

interface OnEdge {
  readonly at: Vec3
  readonly from: Vec3
}
/** Pieces that an edge is drawn in where a lens bends it. */
const PIECES = 12

/**
 * The frame's corners at `depthM` along the axis, from the top left clockwise, with the places that their rays come from; null where
 * one looks sideways or backwards, as in panoramic projections.
 */
export const frameCorners = (camera: Camera, depthM: number): OnEdge[] | null => onEdge(camera, depthM, 1)

/** The frame's edge at a depth, from the top left corner clockwise: its corners, or as many places as follow a lens that bends it. */
export const frameOutline = (camera: Camera, depthM: number): OnEdge[] | null =>
  onEdge(camera, depthM, isStraight(camera.lens) ? 1 : PIECES)

function onEdge(camera: Camera, depthM: number, pieces: number): OnEdge[] | null {
  const { widthPx: w, heightPx: h } = camera.frame
  const { forward } = axesOf(camera.pose)
  const corners = [[0, 0], [w, 0], [w, h], [0, h]] as const // prettier-ignore
  const found: OnEdge[] = []
  for (let i = 0; i < 4 * pieces; i++) {
    const [a, b] = [corners[Math.floor(i / pieces)]!, corners[(Math.floor(i / pieces) + 1) % 4]!]
    const t = (i % pieces) / pieces
    const ray = rayThrough(camera, a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t)
    const ahead = ray ? dot(ray.direction, forward) : 0
    if (!ray || ahead <= 1e-6) return null
    // a parallel camera's rays begin in its plane: depth is counted from the station's
    const behind = dot(forward, camera.pose.station) - dot(forward, ray.origin)
    found.push({ at: addScaled(ray.origin, ray.direction, (depthM + behind) / ahead), from: ray.origin })
  }
  return found
}

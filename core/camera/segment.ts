// Where does a straight piece of the world fall in the picture, when part of it lies behind the camera?
// Space: world metres -> picture pixels. A straight line stays straight in perspective, parallel and oblique pictures only.

import { addScaled, sub, type Vec3 } from '../math/index.ts'
import { toCamera } from './pose.ts'
import { projectPoint } from './project.ts'
import { isPerspective } from './projections/registry.ts'
import type { Camera } from './types.ts'

/** Nothing nearer to a perspective station's plane than this is drawn, metres. */
const NEAR_M = 0.02

export interface PictureSegment {
  readonly a: readonly [number, number]
  readonly b: readonly [number, number]
}

/** The picture of a segment, its part before the camera; null when all of it lies behind. */
export function projectSegment(camera: Camera, a: Vec3, b: Vec3): PictureSegment | null {
  let [p, q] = [a, b]
  if (isPerspective(camera)) {
    const da = -toCamera(camera.pose, a)[2]
    const db = -toCamera(camera.pose, b)[2]
    if (da < NEAR_M && db < NEAR_M) return null
    const cut = (): Vec3 => addScaled(a, sub(b, a), (NEAR_M - da) / (db - da))
    if (da < NEAR_M) p = cut()
    else if (db < NEAR_M) q = cut()
  }
  const from = projectPoint(camera, p)
  const to = projectPoint(camera, q)
  return from && to ? { a: [from.xPx, from.yPx], b: [to.xPx, to.yPx] } : null
}

// Which corner or edge of a thing is meant by a point of the picture near it?
// Model: of an object's feature edges (feature-edges.ts) near the pointer the nearest counts, its ends before its middle, as long as it is not hidden.
// Space: world metres; picture pixels. Source: handbook-8 (feature edges).

import { projectPoint, type Camera } from '#core/camera'
import { addScaled, distance, normalize, sub, type Vec3 } from '#core/math'
import { sightThrough, type Shown, type Sight } from '#core/section'
import type { MeshScene } from './scene.ts'
import type { Hit } from './types.ts'

export interface FeatureHit extends Hit {
  /** What was met within reach: a corner, an edge, or nothing but the surface. */
  readonly feature: 'corner' | 'edge' | 'surface'
  /** Both ends of the edge that was met. */
  readonly edge?: readonly [Vec3, Vec3]
}
/** A corner is reached from a little farther than an edge. */
const CORNER_REACH = 1.25

/** What is under a picture point, drawn to a corner or an edge of that object within `reachPx`; null where nothing is. */
export function pickFeature(
  scene: MeshScene,
  camera: Camera,
  [xPx, yPx]: readonly [number, number],
  reachPx: number,
  shown: Shown,
): FeatureHit | null {
  const ray = sightThrough(camera, shown, xPx, yPx)
  const hit = ray ? scene.pick(ray, shown) : null
  if (!hit || !ray) return null
  const edges = scene.edgesOf(hit.nodeId, shown)
  let corner: { point: Vec3; px: number } | null = null
  let edge: { point: Vec3; px: number; ends: readonly [Vec3, Vec3] } | null = null
  for (let i = 0; i < edges.length; i += 6) {
    const a: Vec3 = [edges[i]!, edges[i + 1]!, edges[i + 2]!]
    const b: Vec3 = [edges[i + 3]!, edges[i + 4]!, edges[i + 5]!]
    const [pa, pb] = [projectPoint(camera, a), projectPoint(camera, b)]
    if (!pa || !pb) continue
    for (const [point, at] of [
      [a, pa],
      [b, pb],
    ] as const) {
      // prettier-ignore
      const px = Math.hypot(at.xPx - xPx, at.yPx - yPx)
      if (px < reachPx * CORNER_REACH && (!corner || px < corner.px) && isSeen(scene, hit, ray, point, shown))
        corner = { point, px }
    }
    const near = nearestOn(a, b, pa, pb, xPx, yPx)
    if (near.px < reachPx && (!edge || near.px < edge.px) && isSeen(scene, hit, ray, near.point, shown))
      edge = { ...near, ends: [a, b] }
  }
  const found = corner ?? edge
  const feature = corner ? 'corner' : edge ? 'edge' : 'surface'
  return {
    ...hit,
    point: found?.point ?? hit.point,
    distanceM: distance(found?.point ?? hit.point, ray.origin),
    feature,
    ...(feature === 'edge' && { edge: edge!.ends }),
  }
}

interface At {
  readonly xPx: number
  readonly yPx: number
  readonly depthM: number
}
/** The point of a segment whose picture lies nearest to a picture point; perspective shortens what is farther. */
function nearestOn(a: Vec3, b: Vec3, pa: At, pb: At, x: number, y: number): { point: Vec3; px: number } {
  const [dx, dy] = [pb.xPx - pa.xPx, pb.yPx - pa.yPx]
  const l2 = dx * dx + dy * dy
  const t = l2 > 0 ? Math.min(1, Math.max(0, ((x - pa.xPx) * dx + (y - pa.yPx) * dy) / l2)) : 0
  const px = Math.hypot(pa.xPx + dx * t - x, pa.yPx + dy * t - y)
  // equal steps of the picture are no equal steps of the world: s = t da / (da t + db (1 - t))
  const [da, db] = [pa.depthM, pb.depthM]
  const s = da > 0 && db > 0 ? (t * da) / (t * da + (1 - t) * db) : t
  return { point: addScaled(a, sub(b, a), s), px }
}

/** Whether nothing stands before a point of the object: what a ray to it meets is it, or no nearer than a little. */
function isSeen(scene: MeshScene, hit: Hit, ray: Sight, point: Vec3, shown: Shown): boolean {
  // an edge of the far side of the object is not meant
  const away = distance(point, ray.origin)
  if (Math.abs(away - hit.distanceM) > 0.05 * hit.distanceM + 0.05) return false
  const way = sub(point, ray.origin)
  const met = scene.pick({ origin: ray.origin, direction: normalize(way) }, shown)
  return !met || met.distanceM > away - 0.004 * away - 1e-3
}

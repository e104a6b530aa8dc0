// Which corner or edge of a thing is meant by a point of the picture near it?
// Model: an object's feature edges are those with one triangle, or whose triangles meet at more than 25 degrees; equal positions
// are welded first. Of the edges near the pointer the nearest counts, its ends before its middle, as long as it is not hidden.
// Space: world metres; picture pixels. Source: handbook-8 (feature edges).

import { projectPoint, type Camera } from '#core/camera'
import { addScaled, distance, normalize, sub, type Vec3 } from '#core/math'
import { sightThrough, type Shown, type Sight } from '#core/section'
import type { MeshScene } from './scene.ts'
import type { Hit, Soup } from './types.ts'

export interface FeatureHit extends Hit {
  /** What was met within reach: a corner, an edge, or nothing but the surface. */
  readonly feature: 'corner' | 'edge' | 'surface'
}
const CREASE_COS = Math.cos((25 * Math.PI) / 180)
/** Objects with more triangles are taken by their surface alone. */
const MOST_TRIANGLES = 80_000
const WELD_M = 1e-5
/** A corner is reached from a little farther than an edge. */
const CORNER_REACH = 1.25

/** Ends of an object's feature edges, six numbers each. Linear in its triangles; a pass over the soup's indices. */
export function featureEdges({ positions: p, indices, nodeOfVertex }: Soup, node: number): Float64Array {
  const own: number[] = []
  for (let i = 0; i < indices.length; i += 3) if (nodeOfVertex[indices[i]!] === node) own.push(i)
  if (own.length > MOST_TRIANGLES) return new Float64Array(0)
  const ids = new Map<string, number>()
  const at: number[] = []
  const weld = (v: number): number => {
    const [x, y, z] = [p[v * 3]!, p[v * 3 + 1]!, p[v * 3 + 2]!]
    const key = `${Math.round(x / WELD_M)},${Math.round(y / WELD_M)},${Math.round(z / WELD_M)}`
    let id = ids.get(key)
    if (id === undefined) {
      id = at.length / 3
      ids.set(key, id)
      at.push(x, y, z)
    }
    return id
  }
  /** First triangle's normal, and whether the edge is one: undecided until a second triangle comes. */
  const edges = new Map<string, { a: number; b: number; n: Vec3; kept: boolean }>()
  for (const i of own) {
    const corners = [weld(indices[i]!), weld(indices[i + 1]!), weld(indices[i + 2]!)] as const
    const [a, b, c] = corners.map((k): Vec3 => [at[k * 3]!, at[k * 3 + 1]!, at[k * 3 + 2]!]) as [Vec3, Vec3, Vec3]
    const [u, v] = [sub(b, a), sub(c, a)]
    const n: Vec3 = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]]
    const l = Math.hypot(...n)
    if (!(l > 0)) continue
    const unit: Vec3 = [n[0] / l, n[1] / l, n[2] / l]
    for (let k = 0; k < 3; k++) {
      const [from, to] = [corners[k]!, corners[(k + 1) % 3]!]
      const key = from < to ? `${from}|${to}` : `${to}|${from}`
      const known = edges.get(key)
      if (!known) edges.set(key, { a: from, b: to, n: unit, kept: true })
      else known.kept = known.n[0] * unit[0] + known.n[1] * unit[1] + known.n[2] * unit[2] < CREASE_COS
    }
  }
  const kept = [...edges.values()].filter((e) => e.kept)
  const out = new Float64Array(kept.length * 6)
  kept.forEach((e, i) => {
    out.set(at.slice(e.a * 3, e.a * 3 + 3), i * 6)
    out.set(at.slice(e.b * 3, e.b * 3 + 3), i * 6 + 3)
  })
  return out
}

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
  const edges = scene.edgesOf(hit.nodeId)
  let corner: { point: Vec3; px: number } | null = null
  let edge: { point: Vec3; px: number } | null = null
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
    if (near.px < reachPx && (!edge || near.px < edge.px) && isSeen(scene, hit, ray, near.point, shown)) edge = near
  }
  const found = corner ?? edge
  const feature = corner ? 'corner' : edge ? 'edge' : 'surface'
  return {
    ...hit,
    point: found?.point ?? hit.point,
    distanceM: distance(found?.point ?? hit.point, ray.origin),
    feature,
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

// Which objects does a rectangle drawn on the picture take in?
// Model: an object is taken when its bounds lie wholly within the rectangle and some of it is seen there: met by one of a grid of
// rays, or by a ray to the middle of its bounds. Source: handbook-0 (projection).

import { projectPoint, type Camera } from '#core/camera'
import { boxCentre, boxCorners } from '#core/math'
import { sightThrough, type Shown } from '#core/section'
import type { MeshScene } from './scene.ts'
import type { NodeFacts } from './types.ts'

/** Picture pixels, any two opposite corners. */
export interface Band {
  readonly a: readonly [number, number]
  readonly b: readonly [number, number]
}
const GRID = 44

/** Ids of the objects with triangles of their own, in the order of the file. */
export function nodesInBand(scene: MeshScene, camera: Camera, band: Band, shown: Shown): string[] {
  const [x0, x1] = [Math.min(band.a[0], band.b[0]), Math.max(band.a[0], band.b[0])]
  const [y0, y1] = [Math.min(band.a[1], band.b[1]), Math.max(band.a[1], band.b[1])]
  const inside = (n: NodeFacts): boolean =>
    boxCorners(n.box).every((c) => {
      const p = projectPoint(camera, c)
      return p !== null && p.xPx >= x0 && p.xPx <= x1 && p.yPx >= y0 && p.yPx <= y1
    })
  const candidates = new Map(
    scene
      .nodesOf(shown)
      .filter((n) => n.materials.length > 0 && inside(n))
      .map((n) => [n.id, n]),
  )
  if (candidates.size === 0) return []
  const seen = new Set<string>()
  const look = (x: number, y: number): string | null => {
    // from the near cut to the far one; parallel pictures begin behind their plane
    const sight = sightThrough(camera, shown, x, y)
    const hit = sight ? scene.pick(sight, shown) : null
    if (hit && candidates.has(hit.nodeId)) seen.add(hit.nodeId)
    return hit?.nodeId ?? null
  }
  for (let i = 0; i < GRID; i++)
    for (let j = 0; j < GRID; j++) look(x0 + ((i + 0.5) / GRID) * (x1 - x0), y0 + ((j + 0.5) / GRID) * (y1 - y0))
  for (const n of candidates.values()) {
    if (seen.has(n.id)) continue
    const p = projectPoint(camera, boxCentre(n.box))
    if (p) look(p.xPx, p.yPx)
  }
  return [...candidates.keys()].filter((id) => seen.has(id))
}

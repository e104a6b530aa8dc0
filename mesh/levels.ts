// Which large faces lie level?
// Space: world metres.

import type { LevelFace } from '#core/checks'
import type { SceneFacts, Soup } from './types.ts'

/** A level face is large from this share of the model's plan on. */
const LARGE_SHARE = 0.008
/** Triangles within this of level (cosine), and of one height, make one face. */
const LEVEL_COS = 0.9998
const SAME_HEIGHT_M = 0.003

/** Large level faces of single objects, seen from above or below. Linear in the number of triangles. */
export function findLevelFaces(soup: Soup, facts: SceneFacts): LevelFace[] {
  const { min, max } = facts.box
  const least = LARGE_SHARE * (max[0] - min[0]) * (max[1] - min[1])
  const { positions: p, indices, nodeOfVertex } = soup
  const found = new Map<
    string,
    { node: number; z: number; area: number; x0: number; y0: number; x1: number; y1: number }
  >()
  for (let i = 0; i < indices.length; i += 3) {
    const node = nodeOfVertex[indices[i]!]!
    if (facts.nodes[node]!.kind === 'surroundings') continue
    const [a, b, c] = [indices[i]! * 3, indices[i + 1]! * 3, indices[i + 2]! * 3]
    const [za, zb, zc] = [p[a + 2]!, p[b + 2]!, p[c + 2]!]
    if (Math.max(za, zb, zc) - Math.min(za, zb, zc) > SAME_HEIGHT_M) continue
    const [ux, uy, uz] = [p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, zb - za]
    const [vx, vy, vz] = [p[c]! - p[a]!, p[c + 1]! - p[a + 1]!, zc - za]
    const flat = ux * vy - uy * vx
    const double = Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, flat)
    if (!(double > 0) || Math.abs(flat) < LEVEL_COS * double) continue
    const key = `${node}|${Math.round(za / SAME_HEIGHT_M)}|${Math.sign(flat)}`
    const face = found.get(key) ?? { node, z: 0, area: 0, x0: Infinity, y0: Infinity, x1: -Infinity, y1: -Infinity }
    const area = Math.abs(flat) / 2
    face.z += area * za
    face.area += area
    face.x0 = Math.min(face.x0, p[a]!, p[b]!, p[c]!)
    face.y0 = Math.min(face.y0, p[a + 1]!, p[b + 1]!, p[c + 1]!)
    face.x1 = Math.max(face.x1, p[a]!, p[b]!, p[c]!)
    face.y1 = Math.max(face.y1, p[a + 1]!, p[b + 1]!, p[c + 1]!)
    found.set(key, face)
  }
  return [...found.values()]
    .filter((f) => f.area >= least)
    .sort((a, b) => b.area - a.area)
    .map((f) => ({
      nodeId: facts.nodes[f.node]!.id,
      nodeName: facts.nodes[f.node]!.name,
      heightM: f.z / f.area,
      areaM2: f.area,
      min: [f.x0, f.y0] as const,
      max: [f.x1, f.y1] as const,
    }))
}

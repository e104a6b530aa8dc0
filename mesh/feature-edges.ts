// Which edges of an object are drawn and caught?
// Model: those with one triangle, or whose triangles meet at more than 25 degrees; equal positions are welded first.
// Space: world metres. Source: handbook-8 (feature edges).

import { sub, type Vec3 } from '#core/math'
import type { Soup } from './types.ts'

const CREASE_COS = Math.cos((25 * Math.PI) / 180)
/** Objects with more triangles are taken by their surface alone. */
const MOST_TRIANGLES = 80_000
const WELD_M = 1e-5

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

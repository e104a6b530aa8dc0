// Cut faces as triangles and lines that can be drawn.
// Space: metres of the scene; colours linear, 0..1.

import { inSpace } from '#core/section'
import { trianglesOf, type CutFace } from './cut-faces.ts'
import type { SceneFacts, Soup } from './types.ts'

export interface FaceMesh {
  /** Three corners a triangle, three numbers each, counterclockwise seen from the removed side. */
  readonly positions: Float32Array
  /** For each corner: the plane's normal. */
  readonly normals: Float32Array
  /** For each corner: the object's own colour. */
  readonly colours: Float32Array
  /** For each corner: which way its hatching runs, 0 or 1: neighbours in the list of objects differ. */
  readonly hatches: Float32Array
  /** Outlines: two ends a line, three numbers each. */
  readonly outlines: Float32Array
  /** Of each outline's end: the plane's normal. */
  readonly outlineNormals: Float32Array
}

/** Linear in the faces' corners. */
export function faceMesh(
  faces: readonly CutFace[],
  facts: SceneFacts,
  colourOf: (node: number) => readonly number[],
): FaceMesh {
  const nodes = new Map(facts.nodes.map((n, i) => [n.id, i]))
  const [positions, normals, colours, hatches]: number[][] = [[], [], [], []]
  const [outlines, outlineNormals]: number[][] = [[], []]
  for (const f of faces) {
    const node = nodes.get(f.nodeId) ?? 0
    const colour = colourOf(node)
    for (const polygon of f.polygons) {
      const flat = trianglesOf(polygon)
      for (let i = 0; i < flat.length; i += 2) {
        positions!.push(...inSpace(f.axes, flat[i]!, flat[i + 1]!))
        normals!.push(...f.axes.normal)
        colours!.push(...colour)
        hatches!.push(node & 1)
      }
    }
    const rings = f.polygons.flatMap((p) => [p.outer, ...p.holes])
    for (const [ring, isClosed] of [...rings.map((r) => [r, true] as const), ...f.open.map((r) => [r, false] as const)])
      for (let i = 0; i < ring.length - (isClosed ? 0 : 2); i += 2) {
        const j = (i + 2) % ring.length
        outlines!.push(...inSpace(f.axes, ring[i]!, ring[i + 1]!), ...inSpace(f.axes, ring[j]!, ring[j + 1]!))
        outlineNormals!.push(...f.axes.normal, ...f.axes.normal)
      }
  }
  const [p, n, c, h, o, m] = [positions, normals, colours, hatches, outlines, outlineNormals].map((l) => Float32Array.from(l!)) // prettier-ignore
  return { positions: p!, normals: n!, colours: c!, hatches: h!, outlines: o!, outlineNormals: m! }
}

/** The colour of an object: of its first corner. Linear, once a scene. */
export function nodeColours({ nodeOfVertex, albedo }: Soup): (node: number) => readonly number[] {
  const first = new Map<number, number>()
  for (let v = 0; v < nodeOfVertex.length; v++) if (!first.has(nodeOfVertex[v]!)) first.set(nodeOfVertex[v]!, v)
  return (node) => {
    const v = first.get(node)
    return v === undefined ? [0.5, 0.5, 0.5] : [0, 1, 2].map((k) => albedo[v * 3 + k]! / 255)
  }
}

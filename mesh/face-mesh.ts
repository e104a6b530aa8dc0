// Cut faces as triangles and lines that can be drawn.
// Space: metres of the scene; colours linear, 0..1.

import { classOf, MATERIAL_CLASSES, type ClassesByHand, type Contour, type PlaneAxes } from '#core/section'
import { trianglesOf, type CutFace } from './cut-faces.ts'
import type { SceneFacts, Soup } from './types.ts'

export interface FaceMesh {
  /** Three corners a triangle, three numbers each, counterclockwise seen from the removed side. */
  readonly positions: Float32Array
  /** For each corner: the plane's normal. */
  readonly normals: Float32Array
  /** For each corner: the object's own colour. */
  readonly colours: Float32Array
  /** For each corner: twice the number of its material's class, and one more where its hatching is mirrored: neighbours in the list of objects differ. */
  readonly hatches: Float32Array
  /** Outlines: two ends a line, three numbers each. */
  readonly outlines: Float32Array
  /** Of each outline's end: the plane's normal. */
  readonly outlineNormals: Float32Array
}

/** A list of numbers that grows; three at a time. */
class Threes {
  private values = new Float32Array(3072)
  private n = 0
  add(x: number, y: number, z: number): void {
    if (this.n + 3 > this.values.length) {
      const more = new Float32Array(this.values.length * 2)
      more.set(this.values)
      this.values = more
    }
    this.values[this.n++] = x
    this.values[this.n++] = y
    this.values[this.n++] = z
  }
  /** A point of a plane, by its flat coordinates. */
  on({ origin: o, right: r, up: u }: PlaneAxes, x: number, y: number): void {
    this.add(o[0] + r[0] * x + u[0] * y, o[1] + r[1] * x + u[1] * y, o[2] + r[2] * x + u[2] * y)
  }
  get all(): Float32Array {
    return this.values.slice(0, this.n)
  }
}

/** Linear in the faces' corners. */
export function faceMesh(
  faces: readonly CutFace[],
  facts: SceneFacts,
  colourOf: (node: number) => readonly number[],
  classes: ClassesByHand = {},
): FaceMesh {
  const nodes = new Map(facts.nodes.map((n, i) => [n.id, i]))
  const [positions, normals, colours, outlines, outlineNormals] = [new Threes(), new Threes(), new Threes(), new Threes(), new Threes()] // prettier-ignore
  const hatches: number[] = []
  const outline = ({ axes }: CutFace, ring: Contour, isClosed: boolean): void => {
    const n = axes.normal
    for (let i = 0; i < ring.length - (isClosed ? 0 : 2); i += 2) {
      const j = (i + 2) % ring.length
      outlines.on(axes, ring[i]!, ring[i + 1]!)
      outlines.on(axes, ring[j]!, ring[j + 1]!)
      outlineNormals.add(n[0], n[1], n[2])
      outlineNormals.add(n[0], n[1], n[2])
    }
  }
  for (const f of faces) {
    const node = nodes.get(f.nodeId) ?? 0
    const [r, g, b] = colourOf(node)
    const hatch = MATERIAL_CLASSES.indexOf(classOf(facts.nodes[node]?.materials[0] ?? '', classes)) * 2 + (node & 1)
    const n = f.axes.normal
    for (const polygon of f.polygons) {
      const flat = trianglesOf(polygon)
      for (let i = 0; i < flat.length; i += 2) {
        positions.on(f.axes, flat[i]!, flat[i + 1]!)
        normals.add(n[0], n[1], n[2])
        colours.add(r!, g!, b!)
        hatches.push(hatch)
      }
      outline(f, polygon.outer, true)
      for (const h of polygon.holes) outline(f, h, true)
    }
    for (const l of f.open) outline(f, l, false)
  }
  return {
    ...{ positions: positions.all, normals: normals.all, colours: colours.all, hatches: Float32Array.from(hatches) },
    ...{ outlines: outlines.all, outlineNormals: outlineNormals.all },
  }
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

// How does a loaded scene become one soup of world-space triangles with exact facts about its nodes?
// Model: transparent triangles go last, so that light can ignore them. Space: world, Z up (the root's matrix has turned the file
// already).

import {
  BufferAttribute,
  Color,
  InterleavedBufferAttribute,
  Matrix4,
  Mesh,
  MeshStandardMaterial,
  Object3D,
} from 'three'
import { joinBoxes } from '#core/math'
import { collect, finish, type Piece } from './nodes.ts'
import type { SceneFacts, Soup } from './types.ts'

/** Base colour of a material; its texture is taken as a light grey multiplier. */
function baseColour(material: unknown): Color {
  const m = material instanceof MeshStandardMaterial ? material : null
  const c = m ? m.color.clone() : new Color(0.7, 0.7, 0.7)
  return m?.map ? c.multiplyScalar(0.8) : c
}
const vertexColours = (material: unknown, mesh: Mesh): BufferAttribute | InterleavedBufferAttribute | null =>
  material instanceof MeshStandardMaterial && material.vertexColors
    ? (mesh.geometry.getAttribute('color') as BufferAttribute)
    : null

/**
 * The soup and the facts of everything below `root` (whose own name is not part of the paths). RangeError when a position is
 * not finite. Linear in the number of triangles.
 */
export function soupOf(root: Object3D): { soup: Soup; facts: SceneFacts } {
  root.updateMatrixWorld(true)
  const { drafts, pieces } = collect(root)
  const ordered = [...pieces.filter((p) => !p.clear), ...pieces.filter((p) => p.clear)]
  const count = (p: Piece): number => p.mesh.geometry.index?.count ?? p.mesh.geometry.getAttribute('position').count
  const vertices = ordered.reduce((n, p) => n + p.mesh.geometry.getAttribute('position').count, 0)
  const total = ordered.reduce((n, p) => n + count(p), 0)
  const positions = new Float32Array(vertices * 3)
  const indices = new Uint32Array(total)
  const nodeOfVertex = new Uint32Array(vertices)
  const albedo = new Uint8Array(vertices * 3)
  const emits = ordered.some((p) => isEmitter(p.mesh.material))
  const emission = new Float32Array(emits ? vertices * 3 : 0)
  let v = 0
  let k = 0
  let opaqueTriangles = 0
  for (const { mesh, node, clear } of ordered) {
    const geometry = mesh.geometry
    const position = geometry.getAttribute('position')
    const matrix: Matrix4 = mesh.matrixWorld
    const material = Array.isArray(mesh.material) ? mesh.material[0] : mesh.material
    const tone = vertexColours(material, mesh)
    const base = baseColour(material)
    const glow = isEmitter(material) ? material.emissive.clone().multiplyScalar(material.emissiveIntensity) : null
    const draft = drafts[node]!
    const min: [number, number, number] = [Infinity, Infinity, Infinity]
    const max: [number, number, number] = [-Infinity, -Infinity, -Infinity]
    const e = matrix.elements
    // a hot loop: plain numbers, no objects
    for (let i = 0; i < position.count; i++) {
      const at = (v + i) * 3
      const x = position.getX(i)
      const y = position.getY(i)
      const z = position.getZ(i)
      for (let k = 0; k < 3; k++) {
        const value = e[k]! * x + e[4 + k]! * y + e[8 + k]! * z + e[12 + k]!
        if (!Number.isFinite(value)) throw new RangeError(`soupOf: position ${i} of “${draft.name}” = ${value}`)
        positions[at + k] = value
        if (value < min[k]!) min[k] = value
        if (value > max[k]!) max[k] = value
      }
      nodeOfVertex[v + i] = node
      albedo[at] = 255 * base.r * (tone ? tone.getX(i) : 1)
      albedo[at + 1] = 255 * base.g * (tone ? tone.getY(i) : 1)
      albedo[at + 2] = 255 * base.b * (tone ? tone.getZ(i) : 1)
      if (glow) emission.set([glow.r, glow.g, glow.b], at)
    }
    const n = count({ mesh, node, clear })
    const index = geometry.index
    // a mirrored node turns its triangles' orientation
    const flip = matrix.determinant() < 0
    for (let i = 0; i + 2 < n; i += 3) {
      indices[k] = (index ? index.getX(i) : i) + v
      indices[k + (flip ? 2 : 1)] = (index ? index.getX(i + 1) : i + 1) + v
      indices[k + (flip ? 1 : 2)] = (index ? index.getX(i + 2) : i + 2) + v
      k += 3
    }
    if (!clear) opaqueTriangles += Math.floor(n / 3)
    draft.triangles += Math.floor(n / 3)
    if (position.count > 0) draft.box = draft.box ? joinBoxes(draft.box, { min, max }) : { min, max }
    v += position.count
  }
  const { facts, place } = finish(drafts)
  for (let i = 0; i < nodeOfVertex.length; i++) nodeOfVertex[i] = place[nodeOfVertex[i]!]!
  return {
    soup: { positions, indices: indices.subarray(0, k), nodeOfVertex, albedo, emission, opaqueTriangles },
    facts,
  }
}

const isEmitter = (m: unknown): m is MeshStandardMaterial =>
  m instanceof MeshStandardMaterial && m.emissiveIntensity * (m.emissive.r + m.emissive.g + m.emissive.b) > 0

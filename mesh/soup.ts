// How does a loaded scene become one soup of world-space triangles with facts about its nodes?
// Model: nodes are walked in file order; transparent triangles go last, so that light can ignore them. Space: world, Z up (the
// root's matrix has turned the file already).

import {
  BufferAttribute,
  Color,
  InterleavedBufferAttribute,
  Matrix4,
  Mesh,
  MeshStandardMaterial,
  Object3D,
} from 'three'
import type { Box } from '#core/math'
import { joinBoxes } from '#core/math'
import type { SceneFacts, Soup } from './types.ts'

interface Piece {
  readonly mesh: Mesh
  readonly node: number
  readonly clear: boolean
}
interface Draft {
  id: string
  name: string
  parentId: string | null
  kind: string | null
  storey: string | null
  box: Box | null
  triangles: number
}

const text = (v: unknown): string | null => (typeof v === 'string' && v ? v : null)

/** Names of siblings made unique with #2, #3 ... */
function siblingNames(children: readonly Object3D[]): string[] {
  const seen = new Map<string, number>()
  return children.map((c) => {
    const name = (text(c.userData['name']) ?? c.name) || c.type
    const n = (seen.get(name) ?? 0) + 1
    seen.set(name, n)
    return n === 1 ? name : `${name}#${n}`
  })
}

/** A primitive of a multi-material mesh (so marked by the loader) belongs to its parent node, not to a node of its own. */
const isPrimitive = (child: Object3D): boolean => child instanceof Mesh && child.userData['isPrimitive'] === true

function collect(root: Object3D): { drafts: Draft[]; pieces: Piece[] } {
  const drafts: Draft[] = []
  const pieces: Piece[] = []
  const visit = (object: Object3D, id: string, parent: number | null): void => {
    const inherited = parent === null ? null : drafts[parent]!
    const at =
      drafts.push({
        id,
        name: (text(object.userData['name']) ?? object.name) || object.type,
        parentId: inherited?.id ?? null,
        kind: text(object.userData['kind']) ?? inherited?.kind ?? null,
        storey: text(object.userData['storey']) ?? inherited?.storey ?? null,
        box: null,
        triangles: 0,
      }) - 1
    object.userData['nodeId'] = id
    addMesh(object, at)
    const own = object.children.filter((c) => !isPrimitive(c))
    for (const c of object.children)
      if (isPrimitive(c)) {
        c.userData['nodeId'] = id
        addMesh(c, at)
      }
    const names = siblingNames(own)
    own.forEach((c, i) => visit(c, `${id}/${names[i]}`, at))
  }
  const addMesh = (object: Object3D, node: number): void => {
    if (!(object instanceof Mesh)) return
    const m = Array.isArray(object.material) ? object.material[0] : object.material
    pieces.push({ mesh: object, node, clear: Boolean(m?.transparent) })
  }
  const names = siblingNames(root.children)
  root.children.forEach((c, i) => visit(c, names[i]!, null))
  return { drafts, pieces }
}

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

/** Boxes of groups are joined from their children; the scene's box leaves out surroundings. */
function finish(drafts: Draft[]): { facts: SceneFacts; place: number[] } {
  const byId = new Map(drafts.map((d) => [d.id, d]))
  for (const d of [...drafts].reverse()) {
    const parent = d.parentId === null ? undefined : byId.get(d.parentId)
    if (parent && d.box) parent.box = parent.box ? joinBoxes(parent.box, d.box) : d.box
    if (parent) parent.triangles += d.triangles
  }
  const full = drafts.filter((d): d is Draft & { box: Box } => d.box !== null)
  const leaves = full.filter((d) => !full.some((c) => c.parentId === d.id))
  const main = leaves.filter((d) => d.kind !== 'surroundings')
  const boxes = (main.length > 0 ? main : leaves).map((d) => d.box)
  const box = boxes.reduce<Box | null>((a, b) => (a ? joinBoxes(a, b) : b), null) ?? { min: [0, 0, 0], max: [0, 0, 0] }
  const roots = drafts.filter((d) => d.parentId === null)
  const facts = { nodes: full, box, triangles: roots.reduce((n, d) => n + d.triangles, 0) }
  // empty nodes are left out: where each draft stands in the list of facts
  return { facts, place: drafts.map((d) => full.indexOf(d as Draft & { box: Box })) }
}

// How does a loaded scene become one soup of world-space triangles with exact facts about its nodes?
// Model: transparent triangles go last, so that light can ignore them; surfaces with holes before them, so that theirs are one run. Space: world, Z up (the root's matrix has turned the file
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
import { joinBoxes, type Box } from '#core/math'
import { emissionOf } from './emission.ts'
import { lampsOf } from './lamps.ts'
import { collect, finish, trianglesOf, type Piece } from './nodes.ts'
import { cutOutMap, HoleGatherer, plainPicture, type PictureReader } from './holes.ts'
import type { SceneFacts, Soup } from './types.ts'

/** Base colour of a material; its texture is taken as a light grey multiplier. */
function baseColour(material: unknown): Color {
  const m = material instanceof MeshStandardMaterial ? material : null
  const c = m ? m.color.clone() : new Color(0.7, 0.7, 0.7)
  return m?.map ? c.multiplyScalar(0.8) : c
}
const materialOf = ({ material }: Mesh): unknown => (Array.isArray(material) ? material[0] : material)
const vertexColours = (material: unknown, mesh: Mesh): BufferAttribute | InterleavedBufferAttribute | null =>
  material instanceof MeshStandardMaterial && material.vertexColors
    ? (mesh.geometry.getAttribute('color') as BufferAttribute)
    : null

/**
 * The soup and the facts of everything below `root` (whose own name is not part of the paths). RangeError when a position is
 * not finite. `read` gives the pictures of cut-outs. Linear in the number of triangles.
 */
export function soupOf(root: Object3D, read: PictureReader = plainPicture): { soup: Soup; facts: SceneFacts } {
  root.updateMatrixWorld(true)
  const { drafts, pieces } = collect(root)
  const hasHoles = (p: Piece): boolean => cutOutMap(materialOf(p.mesh), p.mesh) !== null
  const opaque = pieces.filter((p) => !p.clear)
  const ordered = [...opaque.filter((p) => !hasHoles(p)), ...opaque.filter(hasHoles), ...pieces.filter((p) => p.clear)]
  const gatherer = new HoleGatherer(read)
  const count = (p: Piece): number => p.mesh.geometry.index?.count ?? p.mesh.geometry.getAttribute('position').count
  const vertices = ordered.reduce((n, p) => n + p.mesh.geometry.getAttribute('position').count, 0)
  const total = ordered.reduce((n, p) => n + count(p), 0)
  const positions = new Float32Array(vertices * 3)
  const indices = new Uint32Array(total)
  const nodeOfVertex = new Uint32Array(vertices)
  const albedo = new Uint8Array(vertices * 3)
  const emits = ordered.some((p) => emissionOf(p.mesh.material) !== null)
  const emission = new Float32Array(emits ? vertices * 3 : 0)
  const lamps = lampsOf(root)
  let v = 0
  let k = 0
  let opaqueTriangles = 0
  for (const { mesh, node, clear } of ordered) {
    const geometry = mesh.geometry
    const position = geometry.getAttribute('position')
    const matrix: Matrix4 = mesh.matrixWorld
    const material = materialOf(mesh)
    if (!clear) gatherer.add(mesh, material, v)
    const tone = vertexColours(material, mesh)
    const base = baseColour(material)
    const glow = emissionOf(material)
    const draft = drafts[node]!
    const box = copyPositions(position, matrix, positions, v * 3, draft.name)
    nodeOfVertex.fill(node, v, v + position.count)
    copyTones(albedo, v * 3, position.count, base, tone)
    if (glow) for (let i = 0; i < position.count; i++) emission.set([glow.r, glow.g, glow.b], (v + i) * 3)
    const n = count({ mesh, node, clear })
    // a mirrored node turns its triangles' orientation
    k = copyIndices(geometry.index?.array ?? null, n, v, matrix.determinant() < 0, indices, k)
    if (!clear) opaqueTriangles += Math.floor(n / 3)
    draft.triangles += Math.floor(n / 3)
    if (box) draft.box = draft.box ? joinBoxes(draft.box, box) : box
    v += position.count
  }
  const { facts } = finish(drafts, root)
  return {
    soup: {
      ...{ positions, indices: indices.subarray(0, k), nodeOfVertex, albedo, emission, opaqueTriangles },
      holes: gatherer.holes(),
      ...(lamps.length > 0 && { lamps }),
    },
    facts,
  }
}

/** The exact facts alone, without gathering triangles. RangeError when a position is not finite. */
export function exactFacts(root: Object3D): SceneFacts {
  root.updateMatrixWorld(true)
  const { drafts, pieces } = collect(root)
  for (const { mesh, node } of pieces) {
    const draft = drafts[node]!
    const box = copyPositions(mesh.geometry.getAttribute('position'), mesh.matrixWorld, null, 0, draft.name)
    if (box) draft.box = draft.box ? joinBoxes(draft.box, box) : box
    draft.triangles += trianglesOf(mesh)
  }
  return finish(drafts, root).facts
}

type Numbers = ArrayLike<number>

/** World positions of a mesh; its bounds, null when it has no corner. A hot loop: plain numbers, no objects. */
function copyPositions(
  position: BufferAttribute | InterleavedBufferAttribute,
  { elements: e }: Matrix4,
  out: Float32Array | null,
  start: number,
  name: string,
): Box | null {
  const n = position.count
  // a plain array is read straight, other layouts through their accessors
  const plain = position instanceof BufferAttribute && position.array instanceof Float32Array ? position.array : null
  const [e0, e1, e2, e4, e5, e6, e8, e9, e10, e12, e13, e14] = [0, 1, 2, 4, 5, 6, 8, 9, 10, 12, 13, 14].map((i) => e[i]!) as [number, number, number, number, number, number, number, number, number, number, number, number] // prettier-ignore
  let x0 = Infinity
  let y0 = Infinity
  let z0 = Infinity
  let x1 = -Infinity
  let y1 = -Infinity
  let z1 = -Infinity
  let sum = 0
  for (let i = 0, at = start; i < n; i++, at += 3) {
    const px = plain ? plain[i * 3]! : position.getX(i)
    const py = plain ? plain[i * 3 + 1]! : position.getY(i)
    const pz = plain ? plain[i * 3 + 2]! : position.getZ(i)
    const x = e0 * px + e4 * py + e8 * pz + e12
    const y = e1 * px + e5 * py + e9 * pz + e13
    const z = e2 * px + e6 * py + e10 * pz + e14
    if (out) {
      out[at] = x
      out[at + 1] = y
      out[at + 2] = z
    }
    if (x < x0) x0 = x
    if (x > x1) x1 = x
    if (y < y0) y0 = y
    if (y > y1) y1 = y
    if (z < z0) z0 = z
    if (z > z1) z1 = z
    // stays nought as long as all are numbers
    sum += (x + y + z) * 0
  }
  if (sum !== 0) throw new RangeError(`soupOf: a position of “${name}” is not a finite number`)
  if (n === 0) return null
  // the bounds of what was stored are rounded as the stored numbers are
  const kept = out ? Math.fround : (v: number): number => v
  return { min: [kept(x0), kept(y0), kept(z0)], max: [kept(x1), kept(y1), kept(z1)] }
}

function copyTones(
  albedo: Uint8Array,
  start: number,
  count: number,
  base: Color,
  tone: BufferAttribute | InterleavedBufferAttribute | null,
): void {
  const [r, g, b] = [255 * base.r, 255 * base.g, 255 * base.b]
  for (let i = 0, at = start; i < count; i++, at += 3) {
    albedo[at] = tone ? r * tone.getX(i) : r
    albedo[at + 1] = tone ? g * tone.getY(i) : g
    albedo[at + 2] = tone ? b * tone.getZ(i) : b
  }
}

/** Corners of a mesh's triangles, counted from `first`; the next free place in `out`. */
function copyIndices(
  from: Numbers | null,
  count: number,
  first: number,
  flip: boolean,
  out: Uint32Array,
  start: number,
): number {
  let k = start
  const second = flip ? 2 : 1
  const third = flip ? 1 : 2
  for (let i = 0; i + 2 < count; i += 3, k += 3) {
    out[k] = first + (from ? from[i]! : i)
    out[k + second] = first + (from ? from[i + 1]! : i + 1)
    out[k + third] = first + (from ? from[i + 2]! : i + 2)
  }
  return k
}

// Which nodes has a loaded scene, and what is known of them before their triangles are looked at?
// Model: nodes are walked in file order; a node's id is the path of names from the root, unique among siblings. Space: world, Z up.

import { Box3, Light, Mesh, Object3D, Vector3 } from 'three'
import type { Box } from '#core/math'
import { joinBoxes, type Vec3 } from '#core/math'
import { clipsOf } from './clips.ts'
import type { SceneFacts } from './types.ts'

export interface Piece {
  readonly mesh: Mesh
  readonly node: number
  readonly clear: boolean
}
export interface Draft {
  id: string
  name: string
  parentId: string | null
  kind: string | null
  storey: string | null
  box: Box | null
  triangles: number
  materials: string[]
  axes: readonly [Vec3, Vec3, Vec3]
  /** Its own origin in the world: where a node without triangles is. */
  origin: Vec3
}

/** Unit directions of an object's x, y and z in the world, counted with z up whatever the file's axes are. */
function axesOf(object: Object3D, yUp: boolean): readonly [Vec3, Vec3, Vec3] {
  const column = (k: number, sign: 1 | -1): Vec3 => {
    const v = new Vector3().setFromMatrixColumn(object.matrixWorld, k)
    const l = v.length() || 1
    return [(v.x * sign) / l || 0, (v.y * sign) / l || 0, (v.z * sign) / l || 0]
  }
  return yUp ? [column(0, 1), column(2, -1), column(1, 1)] : [column(0, 1), column(1, 1), column(2, 1)]
}

const text = (v: unknown): string | null => (typeof v === 'string' && v ? v : null)

/** Names of siblings made unique with #2, #3 ... */
function siblingNames(children: readonly Object3D[]): string[] {
  const seen = new Map<string, number>()
  return children.map((c) => {
    // a stroke in a name would read as a step of the path
    const name = ((text(c.userData['name']) ?? c.name) || c.type).replaceAll('/', '\u2215')
    const n = (seen.get(name) ?? 0) + 1
    seen.set(name, n)
    return n === 1 ? name : `${name}#${n}`
  })
}

/** A primitive of a multi-material mesh (so marked by the loader) belongs to its parent node, not to a node of its own. */
const isPrimitive = (child: Object3D): boolean => child instanceof Mesh && child.userData['isPrimitive'] === true

/** Every node below `root` in file order, with its id written into `userData.nodeId`, and its meshes. */
export function collect(root: Object3D): { drafts: Draft[]; pieces: Piece[] } {
  const drafts: Draft[] = []
  const pieces: Piece[] = []
  const visit = (object: Object3D, id: string, parent: number | null, yUp: boolean): void => {
    const inherited = parent === null ? null : drafts[parent]!
    const at =
      drafts.push({
        id,
        name: (text(object.userData['name']) ?? object.name) || object.type,
        parentId: inherited?.id ?? null,
        kind: text(object.userData['kind']) ?? (object instanceof Light ? 'light' : (inherited?.kind ?? null)),
        storey: text(object.userData['storey']) ?? inherited?.storey ?? null,
        box: null,
        triangles: 0,
        materials: [],
        axes: axesOf(object, yUp),
        origin: new Vector3().setFromMatrixPosition(object.matrixWorld).toArray(),
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
    own.forEach((c, i) => visit(c, `${id}/${names[i]}`, at, yUp))
  }
  const addMesh = (object: Object3D, node: number): void => {
    if (!(object instanceof Mesh)) return
    const m = Array.isArray(object.material) ? object.material[0] : object.material
    const draft = drafts[node]!
    const material = m?.name || 'unnamed'
    if (!draft.materials.includes(material)) draft.materials.push(material)
    pieces.push({ mesh: object, node, clear: Boolean(m?.transparent) })
  }
  const names = siblingNames(root.children)
  root.children.forEach((c, i) => visit(c, names[i]!, null, c.userData['up'] !== 'z'))
  return { drafts, pieces }
}

/** Triangles that a mesh draws. */
export const trianglesOf = (mesh: Mesh): number =>
  Math.floor((mesh.geometry.index?.count ?? mesh.geometry.getAttribute('position').count) / 3)

/**
 * The facts without looking at triangles: bounds come from each mesh's own box, so that a turned node's bounds are somewhat wide.
 * `soupOf` gives the exact ones.
 */
export function quickFacts(root: Object3D): SceneFacts {
  root.updateMatrixWorld(true)
  const { drafts, pieces } = collect(root)
  const box = new Box3()
  for (const { mesh, node } of pieces) {
    const draft = drafts[node]!
    draft.triangles += trianglesOf(mesh)
    if (!mesh.geometry.boundingBox) mesh.geometry.computeBoundingBox()
    box.copy(mesh.geometry.boundingBox!).applyMatrix4(mesh.matrixWorld)
    if (box.isEmpty()) continue
    const own: Box = { min: box.min.toArray(), max: box.max.toArray() }
    draft.box = draft.box ? joinBoxes(draft.box, own) : own
  }
  return finish(drafts, root).facts
}

/** Boxes of groups are joined from their children; the scene's box leaves out surroundings. */
export function finish(drafts: Draft[], root: Object3D): { facts: SceneFacts } {
  const byId = new Map(drafts.map((d) => [d.id, d]))
  // what each draws itself: an object with parts of its own may have faces beside theirs
  const own = drafts.flatMap(({ kind, box }) => (box ? [{ kind, box }] : []))
  for (const d of [...drafts].reverse()) {
    const parent = d.parentId === null ? undefined : byId.get(d.parentId)
    if (parent && d.box) parent.box = parent.box ? joinBoxes(parent.box, d.box) : d.box
    if (parent) parent.triangles += d.triangles
  }
  const main = own.filter((d) => d.kind !== 'surroundings')
  const boxes = (main.length > 0 ? main : own).map((d) => d.box)
  const box = boxes.reduce<Box | null>((a, b) => (a ? joinBoxes(a, b) : b), null) ?? { min: [0, 0, 0], max: [0, 0, 0] }
  const roots = drafts.filter((d) => d.parentId === null)
  // a light or an empty node has no extent, but it can be aimed at
  const nodes = drafts.map(({ origin, ...d }) => ({ ...d, box: d.box ?? { min: origin, max: origin } }))
  const clips = clipsOf(root)
  const facts = {
    nodes,
    box,
    triangles: roots.reduce((n, d) => n + d.triangles, 0),
    ...(clips.length > 0 && { clips }),
  }
  return { facts }
}

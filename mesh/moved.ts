// Where do rays meet objects that stand elsewhere than in their file?
// Model: what moves as one (an object with all below it, but for those below it that move by themselves) has trees of its own, in the file's place; a
// ray is taken there and what it meets is brought back. In the trees of all, such objects are passed through. Space: the scene's metres.

import { Matrix4, Vector3, Ray as ThreeRay } from 'three'
import { affineInverse, affinePoint, affineVolume, boxCorners, type Affine, type Box, type Vec3 } from '#core/math'
import { movesOf } from '#core/reel'
import { sliceTree, type Plane, type Shown, type SliceTree } from '#core/section'
import { Forest } from './trees.ts'
import type { NodeFacts, SceneFacts, Soup } from './types.ts'

/** So many sets of trees are kept. */
const KEPT = 400
/** Trees of opaque triangles and of clear ones. */
interface Trees {
  readonly opaque: Forest
  readonly clear: Forest
  /** For cuts; made with the first. */
  sections(): SliceTree
}
export interface MovedGroup extends Trees {
  /** World from its own place, and back. */
  readonly there: Matrix4
  readonly back: Matrix4
  /** How many times longer its lengths are there. */
  readonly size: number
}
export interface Moved {
  /** By node: whether it stands elsewhere. */
  readonly isMoved: Uint8Array
  readonly groups: readonly MovedGroup[]
  /** What is known of all nodes, their bounds where they stand: of what moves those of its moved bounds. */
  readonly nodes: readonly NodeFacts[]
  /** What an object moves with; undefined where it stands. */
  groupOf(id: string): MovedGroup | undefined
}

const matrixOf = (m: readonly number[]): Matrix4 => new Matrix4().fromArray([...m, 0, 0, 0, 1]).transpose()

export class MovedObjects {
  private readonly soup: Soup
  private readonly facts: SceneFacts
  private readonly known = new WeakMap<Shown, Moved | null>()
  private readonly trees = new Map<string, Trees>()

  constructor(soup: Soup, facts: SceneFacts) {
    this.soup = soup
    this.facts = facts
  }

  /** What stands elsewhere; null where nothing does. Linear in nodes for what is new, and in triangles for objects that never moved before. */
  of(shown: Shown): Moved | null {
    if (!shown.moved?.length) return null
    const known = this.known.get(shown)
    if (known !== undefined) return known
    const made = this.make(shown.moved)
    this.known.set(shown, made)
    return made
  }

  private make(moved: NonNullable<Shown['moved']>): Moved | null {
    const { nodes } = this.facts
    const moves = movesOf(moved)
    const isMoved = new Uint8Array(nodes.length)
    const ownerOf = new Map<string, string | null>()
    const members = new Map<string, number[]>()
    nodes.forEach(({ id, parentId }, i) => {
      // parents come before what they hold
      const owner = moves.has(id) ? id : parentId === null ? null : (ownerOf.get(parentId) ?? null)
      ownerOf.set(id, owner)
      if (owner === null) return
      isMoved[i] = 1
      const list = members.get(owner)
      if (list) list.push(i)
      else members.set(owner, [i])
    })
    if (members.size === 0) return null
    const byOwner = new Map<string, MovedGroup>()
    for (const [id, list] of members) {
      const there = moves.get(id)!
      // pressed flat it is not met
      const back = affineInverse(there)
      if (!back) continue
      const size = Math.cbrt(Math.abs(affineVolume(there)))
      byOwner.set(id, { ...this.treesOf(list), there: matrixOf(there), back: matrixOf(back), size })
    }
    const elsewhere = (n: NodeFacts): NodeFacts => {
      const owner = ownerOf.get(n.id)
      return owner ? { ...n, box: boxThere(n.box, moves.get(owner)!) } : n
    }
    return {
      isMoved,
      groups: [...byOwner.values()],
      nodes: nodes.map(elsewhere),
      groupOf: (id) => byOwner.get(ownerOf.get(id) ?? ''),
    }
  }

  private treesOf(members: readonly number[]): Trees {
    const key = members.join()
    const known = this.trees.get(key)
    if (known) return known
    const { positions, indices, nodeOfVertex, opaqueTriangles } = this.soup
    const takesPart = new Uint8Array(this.facts.nodes.length)
    for (const i of members) takesPart[i] = 1
    const own = (from: number, to: number): Uint32Array => {
      const out: number[] = []
      for (let i = from; i < to; i += 3)
        if (takesPart[nodeOfVertex[indices[i]!]!]) out.push(indices[i]!, indices[i + 1]!, indices[i + 2]!)
      return Uint32Array.from(out)
    }
    const split = opaqueTriangles * 3
    let sections: SliceTree | null = null
    const all = { opaque: own(0, split), clear: own(split, indices.length) }
    const made: Trees = {
      opaque: new Forest(positions, all.opaque),
      clear: new Forest(positions, all.clear),
      sections: () =>
        (sections ??= sliceTree({ positions, indices: Uint32Array.from([...all.opaque, ...all.clear]) }, nodeOfVertex)),
    }
    if (this.trees.size >= KEPT) this.trees.clear()
    this.trees.set(key, made)
    return made
  }
}

const inside = new ThreeRay()
/** The ray in a group's own place, and how many times longer lengths are along it there. The same value each time. */
export function rayWithin(ray: ThreeRay, { back }: MovedGroup): { readonly ray: ThreeRay; readonly longer: number } {
  inside.origin.copy(ray.origin).applyMatrix4(back)
  const { x, y, z } = ray.direction
  const m = back.elements
  inside.direction.set(m[0] * x + m[4] * y + m[8] * z, m[1] * x + m[5] * y + m[9] * z, m[2] * x + m[6] * y + m[10] * z)
  const longer = inside.direction.length()
  inside.direction.divideScalar(longer)
  return { ray: inside, longer }
}
const turned = new Matrix4()
/** A normal of a group's own place, there. */
export function normalThere(normal: Vector3, { back }: MovedGroup): Vector3 {
  const m = turned.copy(back).transpose().elements
  const { x, y, z } = normal
  return new Vector3(m[0] * x + m[4] * y + m[8] * z, m[1] * x + m[5] * y + m[9] * z, m[2] * x + m[6] * y + m[10] * z).normalize() // prettier-ignore
}
/** A plane in a group's own place; null where it has none there. */
export function planeWithin({ point, normal }: Plane, { there, back }: MovedGroup): Plane | null {
  const m = there.elements
  const [x, y, z] = normal
  const own: Vec3 = [m[0] * x + m[1] * y + m[2] * z, m[4] * x + m[5] * y + m[6] * z, m[8] * x + m[9] * y + m[10] * z]
  if (!(Math.hypot(...own) > 0)) return null
  return { point: new Vector3(...point).applyMatrix4(back).toArray(), normal: own }
}
/** Points of a group's own place, three numbers each, there. */
export function pointsThere(points: Float64Array, { there }: MovedGroup): Float64Array {
  const m = there.elements
  const out = new Float64Array(points.length)
  for (let i = 0; i < points.length; i += 3)
    for (let k = 0; k < 3; k++)
      out[i + k] = m[k]! * points[i]! + m[k + 4]! * points[i + 1]! + m[k + 8]! * points[i + 2]! + m[k + 12]!
  return out
}
function boxThere(box: Box, move: Affine): Box {
  const corners = boxCorners(box).map((c) => affinePoint(move, c))
  const ends = (of: (...v: number[]) => number): Vec3 => [0, 1, 2].map((k) => of(...corners.map((c) => c[k]!))) as unknown as Vec3 // prettier-ignore
  return { min: ends(Math.min), max: ends(Math.max) }
}

// What does a ray meet, what floor lies below, and which storeys has the building?
// Model: bounding-volume trees over the opaque triangles, others over the clear ones (see trees.ts). Space: world metres, Z up.

import { Ray as ThreeRay, Vector3 } from 'three'
import type { Ray } from '#core/camera'
import type { LevelFace } from '#core/checks'
import type { Vec3 } from '#core/math'
import { ALL_SHOWN, isCutAway, type ClassesByHand, type Shown, type Sight, type SliceTree } from '#core/section'
import { cutFaces, facesTree, type CutFace } from './cut-faces.ts'
import { faceHit } from './face-hit.ts'
import { faceMesh, nodeColours, type FaceMesh } from './face-mesh.ts'
import { featureEdges } from './feature-edges.ts'
import { hiddenOf, isHidden, wholeOf } from './hidden.ts'
import { isHole } from './holes.ts'
import { watertight, type Closedness } from './watertight.ts'
import { findLevelFaces } from './levels.ts'
import { findStoreys } from './storeys.ts'
import { findWalls, type WallFacts } from './walls.ts'
import { MovedObjects, normalThere, pointsThere, rayWithin, type Moved } from './moved.ts'
import { Forest } from './trees.ts'
import type { Hit, NodeFacts, SceneFacts, Soup, Storey } from './types.ts'

/** A face this near to level (cosine) can be stood on. */
const LEVEL_COS = 0.94
/** How far above the asked point a floor may lie and still count as the one below it (a threshold, a rug). */
const STEP_M = 0.05
const FAR_M = 1e5
/** Of a wall's normal, and of a point beside its plane. */
const UPRIGHT = 0.05
const SAME_WALL_M = 0.02
const EDGES_KEPT = 64
/** So far behind what was passed through a ray goes on, and so many things it passes through. */
const PAST_M = 1e-4
const MOST_PASSED = 256
const MOST_HOLES = 256
/** Gaps between boards are narrower than this. */
const BESIDE = [
  [0, 0],
  [0.013, 0.017],
  [-0.017, -0.013],
] as const

export interface RawHit {
  readonly point: Vector3
  readonly normal: Vector3
  readonly distance: number
  /** The triangle's first vertex, for looking up node and colour. */
  readonly vertex: number
  /** It lets light through. */
  readonly clear: boolean
}

export interface PassOptions {
  readonly shown: Shown
  /** Glass counts too. */
  readonly clearToo?: boolean
  /** Of what is shown, only this. */
  readonly accept?: (hit: RawHit) => boolean
}
export interface Passed {
  readonly hit: RawHit
  /** From the ray's own origin. */
  readonly distanceM: number
}

export class MeshScene {
  readonly soup: Soup
  readonly facts: SceneFacts
  private readonly opaque: Forest
  private readonly clear: Forest
  private readonly elsewhere: MovedObjects
  private readonly ray = new ThreeRay()
  private readonly hasFloors: boolean

  /** Builds the trees (about 1 ms per 1000 triangles). */
  constructor(soup: Soup, facts: SceneFacts) {
    this.soup = soup
    this.facts = facts
    const split = soup.opaqueTriangles * 3
    this.opaque = new Forest(soup.positions, soup.indices.subarray(0, split))
    this.clear = new Forest(soup.positions, soup.indices.subarray(split))
    this.elsewhere = new MovedObjects(soup, facts)
    this.hasFloors = facts.nodes.some((n) => n.kind === 'floor')
  }

  /** The first triangle met where all stands as in its file, from either side; `clearToo` includes glass. */
  cast(origin: Vec3, direction: Vec3, far = FAR_M, clearToo = false): RawHit | null {
    this.ray.origin.set(...origin)
    this.ray.direction.set(...direction)
    const a = this.first(this.opaque, this.ray, far, false)
    const b = clearToo ? this.first(this.clear, this.ray, a?.distance ?? far, true) : null
    return b ?? a
  }

  /** The first triangle met of what stands elsewhere, within `far`. */
  private castMoved({ groups }: Moved, origin: Vec3, direction: Vec3, far: number, clearToo: boolean): RawHit | null {
    let best: RawHit | null = null
    for (const g of groups) {
      this.ray.origin.set(...origin)
      this.ray.direction.set(...direction)
      const { ray, longer } = rayWithin(this.ray, g)
      const within: number = (best?.distance ?? far) * longer
      const a = this.first(g.opaque, ray, within, false)
      const hit: RawHit | null = (clearToo ? this.first(g.clear, ray, a?.distance ?? within, true) : null) ?? a
      if (!hit || hit.distance >= within) continue
      const { point, normal, distance } = hit
      best = { ...hit, point: point.applyMatrix4(g.there), normal: normalThere(normal, g), distance: distance / longer }
    }
    return best
  }

  private first(forest: Forest, ray: ThreeRay, far: number, clear: boolean): RawHit | null {
    const { holes, positions } = this.soup
    let passedM = 0
    for (let n = 0; n < MOST_HOLES; n++) {
      const hit = forest.first(ray, far - passedM)
      if (!hit?.face) break
      const { a, b, c, normal } = hit.face
      if (clear || !holes || !isHole(holes, positions, [a, b, c], hit.point)) {
        if (passedM > 0) ray.origin.addScaledVector(ray.direction, -passedM)
        return { point: hit.point, normal, distance: hit.distance + passedM, vertex: a, clear }
      }
      passedM += hit.distance + PAST_M
      ray.origin.addScaledVector(ray.direction, hit.distance + PAST_M)
    }
    if (passedM > 0) ray.origin.addScaledVector(ray.direction, -passedM)
    return null
  }

  /** Metres to the nearest triangle that counts of what `shown` shows where it stands, glass included; `far` where none is nearer. */
  nearest(point: Vector3, far: number, shown: Shown, counts: (vertex: number, at: Vector3) => boolean): number {
    const moved = this.elsewhere.of(shown)
    const stays = moved ? (v: number, at: Vector3): boolean => !this.isMoved(moved, v) && counts(v, at) : counts
    let best = this.clear.nearest(point, this.opaque.nearest(point, far, stays), stays)
    const there = new Vector3()
    for (const { opaque, clear, there: out, back, size } of moved?.groups ?? []) {
      const at = point.clone().applyMatrix4(back)
      const own = (v: number, p: Vector3): boolean => counts(v, there.copy(p).applyMatrix4(out))
      best = clear.nearest(at, opaque.nearest(at, best / size, own), own) * size
    }
    return best
  }
  private isMoved({ isMoved }: Moved, vertex: number): boolean {
    return isMoved[this.soup.nodeOfVertex[vertex]!] === 1
  }
  nodeAt(vertex: number): NodeFacts {
    return this.facts.nodes[this.soup.nodeOfVertex[vertex]!]!
  }

  /** Whether the surface of one model (all nodes whose path begins with the key) is closed. Linear. */
  closedness(modelKey: string): Closedness {
    const mine = this.facts.nodes.map((n) => n.id === modelKey || n.id.startsWith(`${modelKey}/`))
    const { indices, nodeOfVertex, positions } = this.soup
    const own: number[] = []
    for (let i = 0; i < indices.length; i += 3)
      if (mine[nodeOfVertex[indices[i]!]!]) own.push(indices[i]!, indices[i + 1]!, indices[i + 2]!)
    return watertight({ positions, indices: Uint32Array.from(own) })
  }

  /** What a sight line meets first (glass included), its normal turned towards the eye; null for the sky. */
  pick(sight: Ray | Sight, shown: Shown = ALL_SHOWN): Hit | null {
    return this.along(sight, { shown, clearToo: true })
  }

  /** The first floor along a sight line, passing through everything else; null when there is none. */
  pickFloor(sight: Ray | Sight, shown: Shown = ALL_SHOWN): Hit | null {
    return this.floorAlong(sight, shown)
  }

  /** The first surface along a sight line that can be stood on: level and seen from above, whatever it belongs to. */
  pickLevel(sight: Ray | Sight, shown: Shown = ALL_SHOWN): Hit | null {
    const [x, y, z] = sight.direction
    // met from above, not from within what it is the top of
    const isTop = (n: RawHit['normal']): boolean => n.z > LEVEL_COS && n.x * x + n.y * y + n.z * z < 0
    return this.along(sight, { shown, accept: (hit) => isTop(hit.normal) })
  }

  /**
   * The first face of a wall along a ray within `farM`: of what is marked as wall, or, where nothing is, of one of the large
   * upright planes found. Furniture is passed through.
   */
  wallAlong(ray: Ray, farM: number, shown: Shown = ALL_SHOWN): Hit | null {
    const marked = this.facts.nodes.some((n) => n.kind === 'wall')
    const isWall = (hit: RawHit): boolean => {
      if (Math.abs(hit.normal.z) > UPRIGHT) return false
      if (marked) return this.nodeAt(hit.vertex).kind === 'wall'
      return this.walls().walls.some(
        (w) =>
          Math.abs(w.normal[0] * hit.normal.x + w.normal[1] * hit.normal.y) > 0.9999 &&
          Math.abs((hit.point.x - w.point[0]) * w.normal[0] + (hit.point.y - w.point[1]) * w.normal[1]) < SAME_WALL_M,
      )
    }
    return this.along({ ...ray, farM }, { shown, accept: isWall })
  }

  /** Ends of an object's feature edges where it stands, six numbers each. */
  edgesOf(id: string, shown: Shown): Float64Array {
    const group = this.elsewhere.of(shown)?.groupOf(id)
    return group ? pointsThere(this.ownEdges(id), group) : this.ownEdges(id)
  }
  /** Those of its file; the last few are kept. */
  private ownEdges(id: string): Float64Array {
    const known = this.edges.get(id)
    if (known) return known
    const found = featureEdges(
      this.soup,
      this.facts.nodes.findIndex((n) => n.id === id),
    )
    if (this.edges.size >= EDGES_KEPT) this.edges.clear()
    this.edges.set(id, found)
    return found
  }
  private readonly edges = new Map<string, Float64Array>()

  /** What is known of all objects, their bounds where they stand. */
  nodesOf(shown: Shown): readonly NodeFacts[] {
    return this.elsewhere.of(shown)?.nodes ?? this.facts.nodes
  }

  /** What is known of an object; undefined when there is none of this id. */
  node(id: string): NodeFacts | undefined {
    return (this.byId ??= new Map(this.facts.nodes.map((n) => [n.id, n]))).get(id)
  }
  private byId: ReadonlyMap<string, NodeFacts> | null = null

  /** The floor straight below a point (furniture is passed through), or null over the void. */
  floorBelow(point: Vec3, shown: Shown = ALL_SHOWN): Hit | null {
    return this.floorAlong({ origin: [point[0], point[1], point[2] + STEP_M], direction: [0, 0, -1] }, shown)
  }

  /** A ray that slips between two boards is tried again a little beside. */
  private floorAlong(sight: Ray | Sight, shown: Shown): Hit | null {
    const accept = (hit: RawHit): boolean => this.isFloor(hit)
    const [x, y, z] = sight.origin
    for (const [dx, dy] of BESIDE) {
      const hit = this.along({ ...sight, origin: [x + dx, y + dy, z] }, { shown, accept })
      if (hit) return { ...hit, point: [hit.point[0] - dx, hit.point[1] - dy, hit.point[2]] }
    }
    return null
  }

  private isFloor(hit: RawHit): boolean {
    const level = Math.abs(hit.normal.z) > LEVEL_COS
    // an unmarked model: anything level that faces up
    return level && (this.hasFloors ? this.nodeAt(hit.vertex).kind === 'floor' : hit.normal.z > 0)
  }

  /** The first surface along a ray that is shown and accepted, its normal turned towards the eye; null when there is none. */
  along(sight: Ray | Sight, options: PassOptions): Hit | null {
    const raw = this.passing(sight, options)
    // what is asked for is a surface as it is: then a cut face is one too
    const face = options.accept ? null : this.faceAlong(sight, options.shown, raw?.distanceM)
    if (face || !raw) return face
    const { hit, distanceM } = raw
    const d = sight.direction
    const away = hit.normal.x * d[0] + hit.normal.y * d[1] + hit.normal.z * d[2] > 0 ? -1 : 1
    const node = this.nodeAt(hit.vertex)
    return {
      point: [hit.point.x, hit.point.y, hit.point.z],
      normal: [hit.normal.x * away, hit.normal.y * away, hit.normal.z * away],
      distanceM,
      nodeId: node.id,
      nodeName: node.name,
    }
  }

  /** The one loop that passes through what is hidden, cut away or not accepted: for every ray that is asked. */
  passing(sight: Ray | Sight, { shown, clearToo = false, accept }: PassOptions): Passed | null {
    const { origin, direction } = sight
    const farM = 'farM' in sight ? sight.farM : Infinity
    const hidden = hiddenOf(shown)
    const { list } = shown.cuts
    const left = wholeOf(shown)
    const moved = this.elsewhere.of(shown)
    let from = origin
    let gone = 0
    for (let i = 0; i < MOST_PASSED && gone <= farM; i++) {
      const far = Math.min(FAR_M, farM - gone)
      const stands = this.cast(from, direction, far, clearToo)
      const goes = moved && this.castMoved(moved, from, direction, stands?.distance ?? far, clearToo)
      const hit = goes ?? stands
      if (!hit) return null
      gone += hit.distance
      const isSeen =
        (goes !== null || !moved || !this.isMoved(moved, hit.vertex)) &&
        !isHidden(this.nodeAt(hit.vertex).id, hidden) &&
        (list.length === 0 ||
          isHidden(this.nodeAt(hit.vertex).id, left) ||
          !isCutAway(list, [hit.point.x, hit.point.y, hit.point.z]))
      if (isSeen && (!accept || accept(hit))) return { hit, distanceM: gone }
      gone += PAST_M
      from = [hit.point.x + direction[0] * PAST_M, hit.point.y + direction[1] * PAST_M, hit.point.z + direction[2] * PAST_M] // prettier-ignore
    }
    return null
  }

  /** The cut face that a ray meets before anything else; null where there is none, or cuts show no faces. */
  private faceAlong(sight: Ray | Sight, shown: Shown, before = Infinity): Hit | null {
    if (shown.cuts.list.length === 0 || (shown.cuts.face ?? 'open') === 'open') return null
    const farM = Math.min(before, 'farM' in sight ? sight.farM : FAR_M)
    return faceHit(this.knownFaces(shown), sight, farM, (id) => this.node(id)?.name ?? id)
  }
  /** The faces of what was asked for last: rays come in crowds. */
  knownFaces(shown: Shown): readonly CutFace[] {
    const { list, whole, closeM } = shown.cuts
    const key = JSON.stringify([list, whole, closeM, shown.hidden, shown.moved])
    if (this.lastFaces?.key !== key) this.lastFaces = { key, faces: this.faces(shown) }
    return this.lastFaces.faces
  }
  private lastFaces: { readonly key: string; readonly faces: readonly CutFace[] } | null = null

  /** What the cuts of `shown` lay open; the tree of sections is made with the first. */
  faces(shown: Shown): CutFace[] {
    if (shown.cuts.list.length === 0) return []
    return cutFaces((this.sections ??= facesTree(this.soup)), this.facts, shown, this.elsewhere.of(shown))
  }
  /** The same as triangles and lines to draw. */
  faceMesh(shown: Shown, classes: ClassesByHand = {}): FaceMesh {
    this.colours ??= nodeColours(this.soup)
    return faceMesh(this.faces(shown), this.facts, this.colours, classes)
  }
  private sections: SliceTree | null = null
  private colours: ReturnType<typeof nodeColours> | null = null

  /** The walls' planes and the building's directions; found once. */
  walls(): WallFacts {
    return (this.foundWalls ??= findWalls(this.soup, this.facts))
  }
  private foundWalls: WallFacts | null = null

  /** Large level faces; found once. */
  levels(): readonly LevelFace[] {
    return (this.foundLevels ??= findLevelFaces(this.soup, this.facts))
  }
  private foundLevels: readonly LevelFace[] | null = null

  /** Storeys from the ground up; see `findStoreys`. */
  storeys(): Storey[] {
    return findStoreys(this.soup, this.facts)
  }
}

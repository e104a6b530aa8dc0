// What does a ray meet, what floor lies below, and which storeys has the building?
// Model: bounding-volume trees over the opaque triangles, others over the clear ones (see trees.ts). Space: world metres, Z up.

import { Ray as ThreeRay, Vector3 } from 'three'
import type { Ray } from '#core/camera'
import type { LevelFace } from '#core/checks'
import type { Vec3 } from '#core/math'
import { featureEdges } from './features.ts'
import { isHidden } from './hidden.ts'
import { watertight, type Closedness } from './watertight.ts'
import { findLevelFaces, findWalls, type WallFacts } from './planes.ts'
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

export class MeshScene {
  readonly soup: Soup
  readonly facts: SceneFacts
  private readonly opaque: Forest
  private readonly clear: Forest
  private readonly ray = new ThreeRay()
  private readonly hasFloors: boolean

  /** Builds the trees (about 1 ms per 1000 triangles). */
  constructor(soup: Soup, facts: SceneFacts) {
    this.soup = soup
    this.facts = facts
    const split = soup.opaqueTriangles * 3
    this.opaque = new Forest(soup.positions, soup.indices.subarray(0, split))
    this.clear = new Forest(soup.positions, soup.indices.subarray(split))
    this.hasFloors = facts.nodes.some((n) => n.kind === 'floor')
  }

  /** The first triangle met, from either side; `clearToo` includes glass. */
  cast(origin: Vec3, direction: Vec3, far = FAR_M, clearToo = false): RawHit | null {
    this.ray.origin.set(...origin)
    this.ray.direction.set(...direction)
    const a = this.first(this.opaque, far, false)
    const b = clearToo ? this.first(this.clear, a?.distance ?? far, true) : null
    return b ?? a
  }

  private first(forest: Forest, far: number, clear: boolean): RawHit | null {
    const hit = forest.first(this.ray, far)
    if (!hit?.face) return null
    return { point: hit.point, normal: hit.face.normal, distance: hit.distance, vertex: hit.face.a, clear }
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

  /** What a picture ray meets first (glass included), its normal turned towards the eye; null for the sky. `hidden` ids are passed through. */
  pick(ray: Ray, hidden: ReadonlySet<string> = NONE): Hit | null {
    return this.along(ray.origin, ray.direction, true, (hit) => !isHidden(this.nodeAt(hit.vertex).id, hidden))
  }

  /** The first floor along a picture ray, passing through everything else; null when there is none. */
  pickFloor(ray: Ray, hidden: ReadonlySet<string> = NONE): Hit | null {
    return this.floorAlong(ray.origin, ray.direction, hidden)
  }

  /** The first surface along a ray that can be stood on: level and seen from above, whatever it belongs to. */
  pickLevel(ray: Ray, hidden: ReadonlySet<string> = NONE): Hit | null {
    const [x, y, z] = ray.direction
    // met from above, not from within what it is the top of
    const isTop = (n: RawHit['normal']): boolean => n.z > LEVEL_COS && n.x * x + n.y * y + n.z * z < 0
    return this.along(
      ray.origin,
      ray.direction,
      false,
      (hit) => isTop(hit.normal) && !isHidden(this.nodeAt(hit.vertex).id, hidden),
    )
  }

  /**
   * The first face of a wall along a ray within `farM`: of what is marked as wall, or, where nothing is, of one of the large
   * upright planes found. Furniture is passed through.
   */
  wallAlong(ray: Ray, farM: number, hidden: ReadonlySet<string> = NONE): Hit | null {
    const marked = this.facts.nodes.some((n) => n.kind === 'wall')
    const isWall = (hit: RawHit): boolean => {
      const node = this.nodeAt(hit.vertex)
      if (Math.abs(hit.normal.z) > UPRIGHT || isHidden(node.id, hidden)) return false
      if (marked) return node.kind === 'wall'
      return this.walls().walls.some(
        (w) =>
          Math.abs(w.normal[0] * hit.normal.x + w.normal[1] * hit.normal.y) > 0.9999 &&
          Math.abs((hit.point.x - w.point[0]) * w.normal[0] + (hit.point.y - w.point[1]) * w.normal[1]) < SAME_WALL_M,
      )
    }
    const hit = this.along(ray.origin, ray.direction, false, isWall)
    return hit && hit.distanceM <= farM ? hit : null
  }

  /** Ends of an object's feature edges, six numbers each; the last few are kept. */
  edgesOf(id: string): Float64Array {
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

  /** What is known of an object; undefined when there is none of this id. */
  node(id: string): NodeFacts | undefined {
    return (this.byId ??= new Map(this.facts.nodes.map((n) => [n.id, n]))).get(id)
  }
  private byId: ReadonlyMap<string, NodeFacts> | null = null

  /** The floor straight below a point (furniture is passed through), or null over the void. */
  floorBelow(point: Vec3, hidden: ReadonlySet<string> = NONE): Hit | null {
    return this.floorAlong([point[0], point[1], point[2] + STEP_M], [0, 0, -1], hidden)
  }

  /** A ray that slips between two boards is tried again a little beside. */
  private floorAlong(origin: Vec3, direction: Vec3, hidden: ReadonlySet<string>): Hit | null {
    const accept = (hit: RawHit): boolean => this.isFloor(hit) && !isHidden(this.nodeAt(hit.vertex).id, hidden)
    for (const [dx, dy] of BESIDE) {
      const hit = this.along([origin[0] + dx, origin[1] + dy, origin[2]], direction, false, accept)
      if (hit) return { ...hit, point: [hit.point[0] - dx, hit.point[1] - dy, hit.point[2]] }
    }
    return null
  }

  private isFloor(hit: RawHit): boolean {
    const level = Math.abs(hit.normal.z) > LEVEL_COS
    // an unmarked model: anything level that faces up
    return level && (this.hasFloors ? this.nodeAt(hit.vertex).kind === 'floor' : hit.normal.z > 0)
  }

  /** The first surface along a ray that is accepted, its normal turned towards the eye; others are passed through. */
  along(origin: Vec3, direction: Vec3, clearToo: boolean, accept: (hit: RawHit) => boolean): Hit | null {
    let from = origin
    let gone = 0
    for (let i = 0; i < 256; i++) {
      const hit = this.cast(from, direction, FAR_M, clearToo)
      if (!hit) return null
      gone += hit.distance
      if (accept(hit)) {
        const away =
          hit.normal.x * direction[0] + hit.normal.y * direction[1] + hit.normal.z * direction[2] > 0 ? -1 : 1
        const node = this.nodeAt(hit.vertex)
        return {
          point: [hit.point.x, hit.point.y, hit.point.z],
          normal: [hit.normal.x * away, hit.normal.y * away, hit.normal.z * away],
          distanceM: gone,
          nodeId: node.id,
          nodeName: node.name,
        }
      }
      const step = 1e-4
      gone += step
      from = [hit.point.x + direction[0] * step, hit.point.y + direction[1] * step, hit.point.z + direction[2] * step]
    }
    return null
  }

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
const NONE: ReadonlySet<string> = new Set()

/** Heights within this belong to one storey. */
const SAME_STOREY_M = 0.5
const MOST_LEVELS = 200_000
/** An unmarked level must cover this share of the building's plan. */
const STOREY_SHARE = 0.12

/**
 * Storeys of a model, lowest first. Floors marked in the file are grouped by their storey name and stand at the height where most
 * of their area lies (a stair, spread over many heights, is none). Without marks: heights where level upward faces
 * cover more than 12 % of the plan. At least one storey always comes back: the lowest point of the model.
 */
export function findStoreys(soup: Soup, facts: SceneFacts): Storey[] {
  const { nodes } = facts
  const marked = nodes.some((n) => n.kind === 'floor')
  const { min, max } = facts.box
  // areas by height in steps of a centimetre (coarser in models of kilometres); a group for each marked storey
  const stepM = Math.max(0.01, (max[2] - min[2]) / MOST_LEVELS)
  const levels = Math.ceil((max[2] - min[2]) / stepM) + 3
  const groups = new Map<string, Float64Array>()
  const areasOf = nodes.map((n) => {
    if (marked ? n.kind !== 'floor' : n.kind === 'surroundings') return null
    const name = marked ? (n.storey ?? n.name) : ''
    const areas = groups.get(name) ?? new Float64Array(levels)
    groups.set(name, areas)
    return areas
  })
  const { positions: p, indices, nodeOfVertex } = soup
  for (let i = 0; i < indices.length; i += 3) {
    const areas = areasOf[nodeOfVertex[indices[i]!]!]
    if (!areas) continue
    const a = indices[i]! * 3
    const b = indices[i + 1]! * 3
    const c = indices[i + 2]! * 3
    const ux = p[b]! - p[a]!
    const uy = p[b + 1]! - p[a + 1]!
    const vx = p[c]! - p[a]!
    const vy = p[c + 1]! - p[a + 1]!
    const flat = (ux * vy - uy * vx) / 2
    if (flat <= 0) continue
    const lo = Math.min(p[a + 2]!, p[b + 2]!, p[c + 2]!)
    const hi = Math.max(p[a + 2]!, p[b + 2]!, p[c + 2]!)
    if (hi - lo > 0.05) continue
    const level = Math.round((hi - min[2]) / stepM) + 1
    if (level >= 0 && level < levels) areas[level]! += flat
  }
  const found: Storey[] = []
  const plan = (max[0] - min[0]) * (max[1] - min[1])
  for (const [name, areas] of groups) {
    const total = areas.reduce((x, y) => x + y, 0)
    const least = marked ? total * 0.5 : plan * STOREY_SHARE
    const enough = [...areas.keys()].filter((k) => areas[k]! > 0 && areas[k]! >= least)
    for (const k of enough.sort((x, y) => areas[y]! - areas[x]!)) {
      const heightM = Math.round((min[2] + (k - 1) * stepM) * 100) / 100 || 0
      const near = found.some((s) => Math.abs(s.heightM - heightM) < SAME_STOREY_M)
      if (!near) found.push({ name: marked ? name : '', heightM, areaM2: areas[k]! })
    }
  }
  found.sort((x, y) => x.heightM - y.heightM)
  if (found.length === 0) found.push({ name: 'Base', heightM: facts.box.min[2], areaM2: plan })
  return found.map((s, i) => ({ ...s, name: s.name || (i === 0 ? 'Lowest floor' : `Floor ${i + 1}`) }))
}

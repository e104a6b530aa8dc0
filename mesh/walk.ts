// Where does a step on foot lead, and how far is the way free?
// Model: a walker is an upright body of a given radius. Walls are felt by level rays at several heights; along a wall the way
// slides. The ground is what a ray straight down meets from two steps above the feet: it may lie up to a step higher or lower,
// never more. The eye stays exactly at its height above the ground. Space: world metres, Z up. Source: handbook-11.

import type { Vec3 } from '#core/math'
import { ALL_SHOWN, type Shown } from '#core/section'
import type { MeshScene, RawHit } from './scene.ts'
import type { NodeFacts } from './types.ts'

export interface WalkOptions {
  readonly eyeHeightM: number
  /** Half the width of the body. */
  readonly radiusM: number
  /** The highest step up or down. */
  readonly stepM: number
  readonly shown: Shown
}
export const WALK_DEFAULTS: WalkOptions = { eyeHeightM: 1.58, radiusM: 0.22, stepM: 0.3, shown: ALL_SHOWN }

export interface Walked {
  readonly station: Vec3
  /** Whether something was in the way of the whole step. */
  readonly blocked: boolean
  /** Height of the ground stood on; null over nothing (then the way goes level). */
  readonly groundM: number | null
}
/** A long step is taken in pieces of this length, so that nothing thin is stepped through. */
const PIECE_M = 0.06
const HEAD_M = 0.08
/** Feet stand this deep in what they stand on, at most. */
const UNDER_M = 0.02
/** The lowest feeler, in steps over the ground: above the next two treads of a stair, which lie within reach. */
const KNEE_STEPS = 1.5
/** Gaps between boards are narrower than this. */
const BESIDE = [
  [0, 0],
  [0.02, 0.026],
  [-0.026, -0.02],
] as const
/** Cosine under which a side ray meets an edge rather than a wall. */
const SQUARELY = 0.9

/** The station after a level step by (dx, dy) metres. */
export function walkStep(
  scene: MeshScene,
  from: Vec3,
  step: readonly [number, number],
  options: Partial<WalkOptions> = {},
): Walked {
  const o = { ...WALK_DEFAULTS, ...options }
  const length = Math.hypot(step[0], step[1])
  const pieces = Math.max(1, Math.ceil(length / PIECE_M))
  let at: Vec3 = from
  let blocked = false
  let groundM = startingGround(scene, from, o)
  // between the boards of a shelf one goes out level, never up from board to board
  let inside = groundM !== null && !headroom(scene, from, groundM, o)
  // and what stands round one in the same piece is no wall on the way out
  const around = inside ? { ...o, shown: withoutPiece(scene, from, groundM!, o) } : o
  if (groundM !== null) at = [from[0], from[1], groundM + o.eyeHeightM]
  for (let i = 0; i < pieces && length > 0; i++) {
    const wish: readonly [number, number] = [step[0] / pieces, step[1] / pieces]
    const way = freed(scene, at, wish, groundM, inside ? around : o)
    blocked ||= way.blocked
    const next: Vec3 = [at[0] + way.by[0], at[1] + way.by[1], at[2]]
    if (groundM === null) {
      at = next
      groundM = groundBelow(scene, at, o)
      if (groundM !== null) at = [at[0], at[1], groundM + o.eyeHeightM]
      continue
    }
    const found = inside ? groundUnder(scene, next, o) : groundBelow(scene, next, o)
    if (inside && found !== null && found <= groundM + 1e-3) {
      groundM = found
      at = [next[0], next[1], found + o.eyeHeightM]
      inside = !headroom(scene, at, found, o)
      continue
    }
    // an edge without ground a step below, something too high to step on, or no room for the head: stay
    if (found === null || found > groundM + o.stepM + 1e-6 || !headroom(scene, next, found, o)) {
      blocked = true
      break
    }
    groundM = found
    at = [next[0], next[1], found + o.eyeHeightM]
  }
  return { station: at, blocked, groundM }
}

/**
 * Heights of the eye along a way, at each of its places over what the feet stand on there; null over nothing. The first place tells on which
 * floor it begins; from there on the ground is what lies within a step of the one before, so that a stair is gone up and a gallery above is
 * not jumped to. Where there is none the way goes on over the last one. Cost: a few rays a place.
 */
export function eyeHeights(
  scene: MeshScene,
  places: readonly Vec3[],
  options: Partial<WalkOptions> = {},
): (number | null)[] {
  const o = { ...WALK_DEFAULTS, ...options }
  let ground: number | null = null
  return places.map((p) => {
    const eye: Vec3 = ground === null ? p : [p[0], p[1], ground + o.eyeHeightM]
    const found =
      floorUnder(scene, eye, o) ?? (ground === null ? (scene.floorBelow(p, o.shown)?.point[2] ?? null) : null)
    if (found === null) return null
    // furniture is not climbed: what is higher than a step lies on the way, not under it
    if (ground !== null && found > ground + o.stepM + 1e-6) return ground + o.eyeHeightM
    ground = found
    return found + o.eyeHeightM
  })
}

/** What is walked on within two steps over the feet and one below them: where floors are marked, floors and stairs, nothing that stands there. */
function floorUnder(scene: MeshScene, eye: Vec3, o: WalkOptions): number | null {
  if (!scene.facts.nodes.some((n) => n.kind === 'floor')) return groundBelow(scene, eye, o)
  const top = eye[2] - o.eyeHeightM + 2 * o.stepM
  const accept = ({ normal, vertex }: RawHit): boolean =>
    Math.abs(normal.z) > WALKED_COS && WALKED.has(scene.nodeAt(vertex).kind ?? '')
  let highest: number | null = null
  for (const [dx, dy] of BESIDE) {
    const hit = scene.along(
      { origin: [eye[0] + dx, eye[1] + dy, top], direction: [0, 0, -1], farM: 3 * o.stepM + 1e-3 },
      { shown: o.shown, accept },
    )
    if (hit && (highest === null || hit.point[2] > highest)) highest = hit.point[2]
  }
  return highest
}
const WALKED: ReadonlySet<string> = new Set(['floor', 'stair'])
const WALKED_COS = 0.9

/** A piece of furniture: no deeper than this where it is thinnest, no higher than a storey, metres. */
const PIECE_DEEP_M = 1.3
const PIECE_HIGH_M = 3.5

/** What is shown without the piece of furniture that the body stands in, and what stands in that. */
function withoutPiece(scene: MeshScene, at: Vec3, ground: number, o: WalkOptions): Shown {
  const from: Vec3 = [at[0], at[1], ground + o.stepM]
  const over = scene.passing(
    { origin: from, direction: [0, 0, 1], farM: o.eyeHeightM },
    { shown: o.shown, clearToo: true },
  )
  const nodes = scene.nodesOf(o.shown)
  const met = over && scene.nodeAt(over.hit.vertex)
  const piece = met && nodes.find((n) => n.id === met.id)
  if (!piece) return o.shown
  const { min, max } = piece.box
  const isFurniture = Math.min(max[0] - min[0], max[1] - min[1]) <= PIECE_DEEP_M && max[2] - min[2] <= PIECE_HIGH_M
  if (!isFurniture) return o.shown
  const lies = ({ box }: NodeFacts): boolean =>
    box.min.every((v, i) => v >= min[i]! - NEAR_PIECE_M) && box.max.every((v, i) => v <= max[i]! + NEAR_PIECE_M)
  const gone = nodes.filter((n) => n.materials.length > 0 && lies(n)).map((n) => n.id)
  return { ...o.shown, hidden: [...o.shown.hidden, ...gone] }
}
/** What stands in a piece may stick out of it so far. */
const NEAR_PIECE_M = 0.1

/** What the feet are on: a surface above them only where it is one step up and a body has room over it. */
function startingGround(scene: MeshScene, from: Vec3, o: WalkOptions): number | null {
  const found = groundBelow(scene, from, o)
  const feet = from[2] - o.eyeHeightM
  if (found === null || found <= feet + 1e-3) return found
  return found <= feet + o.stepM + 1e-6 && headroom(scene, from, found, o) ? found : groundUnder(scene, from, o)
}
/** The ground under the feet, nothing above them. */
const groundUnder = (scene: MeshScene, eye: Vec3, o: WalkOptions): number | null =>
  groundBelow(scene, [eye[0], eye[1], eye[2] - 2 * o.stepM + UNDER_M], o)

/** The ground straight below, from two steps above the feet down to one below them; a gap between boards is bridged. */
function groundBelow(scene: MeshScene, eye: Vec3, o: WalkOptions): number | null {
  const top = eye[2] - o.eyeHeightM + 2 * o.stepM
  let highest: number | null = null
  for (const [dx, dy] of BESIDE) {
    const hit = firstShown(scene, [eye[0] + dx, eye[1] + dy, top], [0, 0, -1], 3 * o.stepM + 1e-3, o.shown)
    if (hit && (highest === null || top - hit.distance > highest)) highest = top - hit.distance
  }
  return highest
}

function headroom(scene: MeshScene, at: Vec3, ground: number, o: WalkOptions): boolean {
  const from: Vec3 = [at[0], at[1], ground + o.stepM]
  return firstShown(scene, from, [0, 0, 1], o.eyeHeightM - o.stepM + HEAD_M, o.shown) === null
}

/** The part of a small step that walls leave: slid along the first, stopped by a second. */
function freed(scene: MeshScene, at: Vec3, wish: readonly [number, number], ground: number | null, o: WalkOptions) {
  let by = wish
  let blocked = false
  for (let i = 0; i < 2; i++) {
    const wall = wallAhead(scene, at, by, ground, o)
    if (!wall) return { by, blocked }
    blocked = true
    // along the wall only
    const into = by[0] * wall[0] + by[1] * wall[1]
    by = [by[0] - into * wall[0], by[1] - into * wall[1]]
    if (Math.hypot(by[0], by[1]) < 1e-5) return { by: [0, 0] as const, blocked }
  }
  return wallAhead(scene, at, by, ground, o) ? { by: [0, 0] as const, blocked } : { by, blocked }
}

/** Level normal, against the way, of what stands within reach ahead; null when the way is free. */
function wallAhead(scene: MeshScene, at: Vec3, by: readonly [number, number], ground: number | null, o: WalkOptions) {
  const length = Math.hypot(by[0], by[1])
  if (length === 0) return null
  const d = [by[0] / length, by[1] / length] as const
  const base = ground ?? at[2] - o.eyeHeightM
  let nearest = Infinity
  let wall: readonly [number, number] | null = null
  for (const z of [base + KNEE_STEPS * o.stepM, base + o.eyeHeightM * 0.6, at[2]])
    for (const turn of [0, 0.6, -0.6, 1.2, -1.2]) {
      const c = Math.cos(turn)
      const s = Math.sin(turn)
      const ray: Vec3 = [d[0] * c - d[1] * s, d[0] * s + d[1] * c, 0]
      // the body is round: to the side less room is needed ahead
      const hit = firstShown(scene, [at[0], at[1], z], ray, o.radiusM + length * c, o.shown)
      if (!hit || hit.distance >= nearest) continue
      const flat = Math.hypot(hit.normal.x, hit.normal.y)
      if (flat < 0.05) continue
      const side = hit.normal.x * ray[0] + hit.normal.y * ray[1] > 0 ? -1 : 1
      const face = [(hit.normal.x / flat) * side, (hit.normal.y / flat) * side] as const
      // an edge that is only brushed is gone round: the round body turns about it
      const brushed = turn !== 0 && -(face[0] * ray[0] + face[1] * ray[1]) < SQUARELY
      const n = brushed ? ([-ray[0], -ray[1]] as const) : face
      // only what the step would come nearer to
      if (n[0] * by[0] + n[1] * by[1] >= -1e-9) continue
      nearest = hit.distance
      wall = n
    }
  return wall
}

/** Metres that a way is free, up to `farM`, at the eye and a little to its sides. */
export function freeWay(scene: MeshScene, from: Vec3, direction: Vec3, farM: number, shown: Shown): number {
  const side = [-direction[1], direction[0]] as const
  let free = farM
  for (const k of [0, 0.12, -0.12]) {
    const hit = firstShown(scene, [from[0] + side[0] * k, from[1] + side[1] * k, from[2]], direction, farM, shown)
    if (hit) free = Math.min(free, hit.distance)
  }
  return free
}

/** Glass stops too; hidden things and what is cut away do not. */
function firstShown(scene: MeshScene, origin: Vec3, direction: Vec3, farM: number, shown: Shown) {
  const met = scene.passing({ origin, direction, farM }, { shown, clearToo: true })
  return met && { distance: met.distanceM, normal: met.hit.normal }
}

// Where does the model's own animation put its objects at a moment?
// Model: a clip holds keys of place, turn and size of some nodes, each in the space of the node above it; between keys straight, along the shortest
// turn, in steps or as cubics by their tangents. Before its first and after its last key a clip stays. Source: gltf2 (animations, appendix C).
// Space: world metres, seconds.
import { affineInverse, affineOf, affineProduct, type Affine, type Vec3 } from '../math/index.ts'
import type { ObjectAffine } from './objects.ts'

export type ClipPath = 'translation' | 'rotation' | 'scale'
/** Keys of one thing of a node; a cubic has three values a key: tangent in, value, tangent out. */
export interface ClipTrack {
  readonly path: ClipPath
  readonly steps: 'LINEAR' | 'STEP' | 'CUBICSPLINE'
  /** Seconds, each later than the one before. */
  readonly timesS: Float32Array
  /** Three numbers a value, four of a turn (x, y, z, w). */
  readonly values: Float32Array
}
export interface ClipNode {
  readonly objectId: string
  /** World from what its place, turn and size are told in. */
  readonly above: Affine
  /** As the file has it. */
  readonly rest: { readonly translation: Vec3; readonly rotation: readonly number[]; readonly scale: Vec3 }
  readonly tracks: readonly ClipTrack[]
}
export interface ModelClip {
  readonly modelKey: string
  /** One of a kind within its model. */
  readonly name: string
  readonly durationS: number
  readonly nodes: readonly ClipNode[]
}
/** What comes after a clip's end: it stays, begins again, or goes back and forth. */
export type ClipRepeat = 'once' | 'again' | 'back'
/** A clip on a reel's time. */
export interface ClipPlay {
  readonly clip: ModelClip
  /** It begins at this moment of the reel. */
  readonly fromS: number
  /** So many of its seconds in one of the reel: above nought. */
  readonly speed: number
  readonly repeat: ClipRepeat
}

/** The moment of the clip at a moment of the reel. */
export function clipTime({ clip: { durationS: d }, fromS, speed, repeat }: ClipPlay, timeS: number): number {
  const t = Math.max(0, (timeS - fromS) * speed)
  if (repeat === 'once' || !(d > 0)) return Math.min(t, d)
  const rest = t % d
  if (repeat === 'again') return rest
  return Math.floor(t / d) % 2 === 0 ? rest : d - rest
}
/** Where clips put objects at a moment of the reel; of one object in the order of the list. */
export const playedAt = (plays: readonly ClipPlay[], timeS: number): readonly ObjectAffine[] =>
  plays.flatMap((p) => posed(p.clip, clipTime(p, timeS)))

/** Where a clip puts its objects, each beside what is above it; those that stay as the file has them are left out. */
export function posed({ nodes }: ModelClip, timeS: number): readonly ObjectAffine[] {
  return nodes.flatMap((node): ObjectAffine[] => {
    const now = { ...node.rest }
    for (const t of node.tracks) Object.assign(now, { [t.path]: trackAt(t, timeS) })
    const own = affineOf(now.translation, now.rotation, now.scale)
    const { out, local } = framesOf(node)
    if (!out || own.every((v, i) => Math.abs(v - local[i]!) < 1e-9)) return []
    return [{ objectId: node.objectId, affine: affineProduct(affineProduct(node.above, own), out) }]
  })
}

interface Frames {
  readonly local: Affine
  /** From the world to the node's own frame at rest; null where that has no size. */
  readonly out: Affine | null
}
const known = new WeakMap<ClipNode, Frames>()
function framesOf(node: ClipNode): Frames {
  let f = known.get(node)
  if (!f) {
    const local = affineOf(node.rest.translation, node.rest.rotation, node.rest.scale)
    known.set(node, (f = { local, out: affineInverse(affineProduct(node.above, local)) }))
  }
  return f
}

/** A track's value at a moment; a turn has the length of one. */
export function trackAt({ path, steps, timesS, values }: ClipTrack, timeS: number): readonly number[] {
  const width = path === 'rotation' ? 4 : 3
  const isCubic = steps === 'CUBICSPLINE'
  const at = (key: number, part = 0): readonly number[] => {
    const from = (isCubic ? key * 3 + part : key) * width
    return Array.from(values.subarray(from, from + width))
  }
  const last = timesS.length - 1
  // the last key that is not later
  let a = 0
  for (let lo = 0, hi = last; lo <= hi;) {
    const mid = (lo + hi) >> 1
    if (timesS[mid]! <= timeS) {
      a = mid
      lo = mid + 1
    } else hi = mid - 1
  }
  const span = a < last ? timesS[a + 1]! - timesS[a]! : 0
  const x = span > 0 ? Math.min(1, Math.max(0, (timeS - timesS[a]!) / span)) : 0
  const here = at(a, 1)
  if (x === 0 || steps === 'STEP') return path === 'rotation' ? unit(here) : here
  const next = at(a + 1, 1)
  if (isCubic) {
    const [out, into] = [at(a, 2), at(a + 1, 0)]
    const [x2, x3] = [x * x, x * x * x]
    const value = here.map((v, i) => (2 * x3 - 3 * x2 + 1) * v + span * (x3 - 2 * x2 + x) * out[i]! + (3 * x2 - 2 * x3) * next[i]! + span * (x3 - x2) * into[i]!) // prettier-ignore
    return path === 'rotation' ? unit(value) : value
  }
  return path === 'rotation' ? turnBetween(unit(here), unit(next), x) : here.map((v, i) => v + (next[i]! - v) * x)
}
function unit(q: readonly number[]): readonly number[] {
  const l = Math.hypot(...q)
  return l > 0 ? q.map((v) => v / l) : [0, 0, 0, 1]
}
/** Along the shortest way. */
function turnBetween(a: readonly number[], b: readonly number[], x: number): readonly number[] {
  const cos = a.reduce((s, v, i) => s + v * b[i]!, 0)
  const sign = cos < 0 ? -1 : 1
  const angle = Math.acos(Math.min(1, Math.abs(cos)))
  const sin = Math.sin(angle)
  // so small a turn is straight
  const [wa, wb] = sin > 1e-6 ? [Math.sin((1 - x) * angle) / sin, Math.sin(x * angle) / sin] : [1 - x, x]
  return unit(a.map((v, i) => wa * v + sign * wb * b[i]!))
}

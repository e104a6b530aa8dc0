// Which of the edges found are parallel in the building?
// Model: pairs of edges propose vanishing points; edges that agree with the same proposals belong together (merged while their sets of
// proposals share most). Deterministic. Source: tardif2009 (Non-iterative approach for fast and accurate vanishing point detection).

import type { FoundSegment } from './segments.ts'

export interface SuggestedBundle {
  /** Which way it goes in the picture: upright, or to a side. */
  readonly kind: 'up' | 'level'
  /** Places in the list of segments. */
  readonly members: readonly number[]
  /** Their lengths together, pixels. */
  readonly supportPx: number
  /** Homogeneous place where they meet, picture pixels. */
  readonly vanishing: readonly [number, number, number]
}

/** Edges looked at, the longest; proposals; an edge agrees within this angle; fewest edges of a bundle. */
const [EDGES, PROPOSALS, LEAST_MEMBERS] = [500, 600, 4]
const AGREES = (0.8 * Math.PI) / 180
/** Edges shorter than this part of the diagonal say too little of their direction. */
const LEAST_LENGTH = 0.015
/** Bundles whose meeting place lies within this of the vertical through the middle are upright. */
const UPRIGHT = Math.PI / 5

type Homogeneous = readonly [number, number, number]
const cross = (a: Homogeneous, b: Homogeneous): Homogeneous => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
]
const lineOf = ({ a, b }: FoundSegment): Homogeneous => cross([...a, 1], [...b, 1])

/** Angle between a segment and the way from its middle to a vanishing point. */
function misses({ a, b }: FoundSegment, v: Homogeneous): number {
  const mx = (a[0] + b[0]) / 2
  const my = (a[1] + b[1]) / 2
  const wx = v[0] - mx * v[2]
  const wy = v[1] - my * v[2]
  const dx = b[0] - a[0]
  const dy = b[1] - a[1]
  const n = Math.hypot(wx, wy) * Math.hypot(dx, dy)
  return n === 0 ? Math.PI / 2 : Math.asin(Math.min(1, Math.abs(wx * dy - wy * dx) / n))
}

/** The same numbers at every run. */
function numbers(seed: number): () => number {
  let s = seed
  return () => {
    s = (Math.imul(s, 1664525) + 1013904223) >>> 0
    return s / 4294967296
  }
}

const BITS = 32
const WORDS = Math.ceil(PROPOSALS / BITS)
const popcount = (v: number): number => {
  v -= (v >>> 1) & 0x55555555
  v = (v & 0x33333333) + ((v >>> 2) & 0x33333333)
  return Math.imul((v + (v >>> 4)) & 0x0f0f0f0f, 0x01010101) >>> 24
}
/** How much two sets differ: 0 the same, 1 nothing in common. */
function apart(sets: Uint32Array, a: number, b: number): number {
  let both = 0
  let any = 0
  for (let w = 0; w < WORDS; w++) {
    both += popcount(sets[a * WORDS + w]! & sets[b * WORDS + w]!)
    any += popcount(sets[a * WORDS + w]! | sets[b * WORDS + w]!)
  }
  return any === 0 ? 1 : 1 - both / any
}

function proposals(edges: readonly FoundSegment[]): Homogeneous[] {
  const next = numbers(7)
  // long ones more often: by the square root of their place
  const pick = (): number => Math.floor(next() ** 1.5 * edges.length)
  const found: Homogeneous[] = []
  for (let i = 0; i < PROPOSALS * 4 && found.length < PROPOSALS; i++) {
    const [p, q] = [pick(), pick()]
    if (p === q) continue
    const v = cross(lineOf(edges[p]!), lineOf(edges[q]!))
    const n = Math.hypot(...v)
    if (n > 0) found.push([v[0] / n, v[1] / n, v[2] / n])
  }
  return found
}

/** Bundles in the order of their support; the segments as `findSegments` gives them, the picture's size in the same pixels. */
export function suggestBundles(segments: readonly FoundSegment[], width: number, height: number): SuggestedBundle[] {
  const least = LEAST_LENGTH * Math.hypot(width, height)
  const edges = segments.filter((s) => s.lengthPx >= least).slice(0, EDGES)
  if (edges.length < LEAST_MEMBERS) return []
  const points = proposals(edges)
  const sets = new Uint32Array(edges.length * WORDS)
  edges.forEach((e, i) => points.forEach((v, k) => misses(e, v) < AGREES && (sets[i * WORDS + (k >>> 5)]! |= 1 << (k & 31)))) // prettier-ignore
  const groups = merged(sets, edges.length).filter((g) => g.length >= LEAST_MEMBERS)
  return groups
    .map((members) => bundleOf(members, edges, segments, width, height))
    .filter((b) => b.members.length >= LEAST_MEMBERS)
    .sort((a, b) => b.supportPx - a.supportPx)
    .slice(0, 6)
}

/** Groups of edges: the two nearest are merged, as long as any have something in common. */
function merged(sets: Uint32Array, count: number): number[][] {
  const groups = new Map<number, number[]>(Array.from({ length: count }, (_, i) => [i, [i]]))
  // the nearest other one of each
  const nearest = new Map<number, { to: number; by: number }>()
  const find = (i: number): void => {
    let best = { to: -1, by: 1 }
    for (const j of groups.keys())
      if (j !== i) {
        const by = apart(sets, i, j)
        if (by < best.by) best = { to: j, by }
      }
    nearest.set(i, best)
  }
  for (const i of groups.keys()) find(i)
  for (;;) {
    let i = -1
    let by = 1
    for (const [k, n] of nearest) if (n.by < by) [i, by] = [k, n.by]
    if (i < 0) return [...groups.values()]
    const j = nearest.get(i)!.to
    groups.get(i)!.push(...groups.get(j)!)
    groups.delete(j)
    nearest.delete(j)
    for (let w = 0; w < WORDS; w++) sets[i * WORDS + w]! &= sets[j * WORDS + w]!
    for (const [k, n] of nearest) if (k === i || n.to === i || n.to === j) find(k)
  }
}

function bundleOf(
  members: readonly number[],
  edges: readonly FoundSegment[],
  segments: readonly FoundSegment[],
  width: number,
  height: number,
): SuggestedBundle {
  const v = meeting(
    members.map((i) => edges[i]!),
    Math.max(width, height),
  )
  const own = members.filter((i) => misses(edges[i]!, v) < 2 * AGREES)
  // from the middle to where they meet: upright or to a side
  const wx = v[0] - (width / 2) * v[2]
  const wy = v[1] - (height / 2) * v[2]
  const isFar = Math.hypot(wx, wy) > 0.7 * height * Math.abs(v[2])
  const isUp = isFar && Math.abs(Math.atan2(wx, wy)) % Math.PI
  const off = isUp === false ? Math.PI : Math.min(isUp, Math.PI - isUp)
  return {
    kind: off < UPRIGHT ? 'up' : 'level',
    members: own.map((i) => segments.indexOf(edges[i]!)),
    supportPx: own.reduce((s, i) => s + edges[i]!.lengthPx, 0),
    vanishing: v,
  }
}
/** Where lines meet: the smallest direction of their weighted products, by inverse iteration on scaled pixels. */
function meeting(lines: readonly FoundSegment[], scale: number): Homogeneous {
  const m = [0, 0, 0, 0, 0, 0, 0, 0, 0]
  for (const s of lines) {
    const l = cross([s.a[0] / scale, s.a[1] / scale, 1], [s.b[0] / scale, s.b[1] / scale, 1])
    for (let r = 0; r < 3; r++) for (let c = 0; c < 3; c++) m[r * 3 + c]! += l[r]! * l[c]!
  }
  const trace = m[0]! + m[4]! + m[8]!
  for (let k = 0; k < 3; k++) m[k * 4]! += 1e-12 * trace
  // the adjugate is the inverse but for a factor
  const inverse = [
    m[4]! * m[8]! - m[5]! * m[7]!, m[2]! * m[7]! - m[1]! * m[8]!, m[1]! * m[5]! - m[2]! * m[4]!,
    m[5]! * m[6]! - m[3]! * m[8]!, m[0]! * m[8]! - m[2]! * m[6]!, m[2]! * m[3]! - m[0]! * m[5]!,
    m[3]! * m[7]! - m[4]! * m[6]!, m[1]! * m[6]! - m[0]! * m[7]!, m[0]! * m[4]! - m[1]! * m[3]!,
  ] // prettier-ignore
  let v: number[] = [0.577, 0.588, 0.567]
  for (let k = 0; k < 50; k++) {
    const w = [0, 1, 2].map((r) => inverse[r * 3]! * v[0]! + inverse[r * 3 + 1]! * v[1]! + inverse[r * 3 + 2]! * v[2]!)
    const n = Math.hypot(...w)
    if (n === 0) break
    v = w.map((x) => x / n)
  }
  return [v[0]! * scale, v[1]! * scale, v[2]!]
}

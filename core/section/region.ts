// Which part of a plane do closed lines fill, where they may cross, overlap and lie on each other?
// Model: points are rounded to a fine grid, lines are split where they meet until none crosses another; a sweep from left to right
// gives the winding number on both sides of each piece, and the pieces between filled and empty are chained, the filled part to their
// left. Winding not nought is filled: what overlaps counts once. Source: handbook-8; bentley1979 (sweep); hobby1999 (rounding).
// Rejected: triangulating first (overlaps would count twice).

import { boxed, clusters, convexContour, type LoopBox } from './clusters.ts'
import { splitCrossings } from './crossings.ts'
import { netOf, turn, type Net } from './net.ts'

export interface RegionOptions {
  /** What counts as filled; even-odd where nothing says which side is outside. */
  readonly rule?: 'winding' | 'evenOdd'
  /** Lines that part what is filled without bounding it, four numbers each; `keeps` says of each part whether it stays. */
  readonly partings?: readonly (readonly [number, number, number, number])[]
  readonly keeps?: (x: number, y: number) => boolean
}
/** Closed contours, two numbers a point, none crossing another: outer ones counterclockwise (area above nought), holes clockwise. */
export type Contour = Float64Array

/** Loops farther apart than this, as a part of the largest, never touch. */
const APART = 1e-8

/** Contours of what the loops (two numbers a point, closed by themselves) fill. n log n, and linear in the crossings. */
export function filledRegion(loops: readonly Float64Array[], options: RegionOptions = {}): Contour[] {
  const boxes = loops.filter((l) => l.length >= 6).map(boxed)
  let extent = 0
  for (const b of boxes) extent = Math.max(extent, b.x1 - b.x0, b.y1 - b.y0)
  return clusters(boxes, extent * APART).flatMap((c) => {
    const convex = c.length === 1 && !options.keeps ? convexContour(c[0]!) : null
    return convex ? [convex] : filledCluster(c, options)
  })
}
function filledCluster(cluster: readonly LoopBox[], options: RegionOptions): Contour[] {
  const { rule = 'winding', partings = [], keeps } = options
  const net = netOf(cluster, partings)
  if (!net) return []
  splitCrossings(net)
  const isFilled = rule === 'winding' ? (w: number): boolean => w !== 0 : (w: number): boolean => (w & 1) !== 0
  return chained(net, boundary(net, isFilled, keeps ?? null))
}

/** Lines between filled and empty, each as from and to with the filled part to the left. */
function boundary(
  net: Net,
  isFilled: (w: number) => boolean,
  keeps: ((x: number, y: number) => boolean) | null,
): number[] {
  const { x, y, a, b, weight } = net
  const below = windingsBelow(net)
  const out: number[] = []
  // a hair beside the middle of a line: within the part that begins there
  const off = 64
  const stays = (i: number, side: 1 | -1): boolean => {
    if (!keeps) return true
    const [dx, dy] = [x[b[i]!]! - x[a[i]!]!, y[b[i]!]! - y[a[i]!]!]
    const k = (side * off) / Math.hypot(dx, dy)
    const [mx, my] = [(x[a[i]!]! + x[b[i]!]!) / 2 - dy * k, (y[a[i]!]! + y[b[i]!]!) / 2 + dx * k]
    return keeps(net.origin[0] + mx * net.unit, net.origin[1] + my * net.unit)
  }
  for (let i = 0; i < a.length; i++) {
    const under = isFilled(below[i]!) && stays(i, -1)
    const over = isFilled(below[i]! + weight[i]!) && stays(i, 1)
    if (under === over) continue
    if (over) out.push(a[i]!, b[i]!)
    else out.push(b[i]!, a[i]!)
  }
  return out
}

/** The winding number just below each line (to the right of the way from its left to its right end). Source: bentley1979. */
function windingsBelow(net: Net): Int32Array {
  const { a, b, weight } = net
  const n = a.length
  const below = new Int32Array(n)
  const starts = Uint32Array.from(a, (_, i) => i)
  // points in the order of the sweep, so that sorting compares whole numbers
  const rank = ranks(net)
  // at the same point the lower line first
  starts.sort((i, j) => rank[a[i]!]! - rank[a[j]!]! || -turn(net, a[i]!, b[i]!, b[j]!))
  const ends = Uint32Array.from(a, (_, i) => i).sort((i, j) => rank[b[i]!]! - rank[b[j]!]!)
  const active: number[] = []
  let e = 0
  for (const i of starts) {
    while (e < n && rank[b[ends[e]!]!]! <= rank[a[i]!]!) {
      const gone = active.indexOf(ends[e++]!)
      if (gone >= 0) active.splice(gone, 1)
    }
    let lo = 0
    let hi = active.length
    while (lo < hi) {
      const mid = (lo + hi) >> 1
      const j = active[mid]!
      // where both begin at the same point, the direction tells
      const side = turn(net, a[j]!, b[j]!, a[i]!) || (a[j] === a[i] ? turn(net, a[j]!, b[j]!, b[i]!) : 0)
      if (side > 0) lo = mid + 1
      else hi = mid
    }
    const under = lo > 0 ? active[lo - 1]! : -1
    below[i] = under < 0 ? 0 : below[under]! + weight[under]!
    active.splice(lo, 0, i)
  }
  return below
}

/** For each point its place in the order from left to right, and from below where two lie above each other. */
function ranks({ x, y }: Net): Uint32Array {
  const order = Uint32Array.from(x, (_, i) => i).sort((i, j) => x[i]! - x[j]! || y[i]! - y[j]!)
  const rank = new Uint32Array(order.length)
  for (let k = 0; k < order.length; k++) rank[order[k]!] = k
  return rank
}

/** Chains the boundary: at each point on with the line that keeps the filled part together; points on a straight line are left out. */
function chained(net: Net, pairs: number[]): Contour[] {
  const { x, y, unit, origin } = net
  const next = new Map<number, number[]>()
  for (let i = 0; i < pairs.length; i += 2) {
    const known = next.get(pairs[i]!)
    if (known) known.push(pairs[i + 1]!)
    else next.set(pairs[i]!, [pairs[i + 1]!])
  }
  const take = (from: number, at: number): number => {
    const ways = next.get(at)
    if (!ways || ways.length === 0) return -1
    if (ways.length === 1) return ways.pop()!
    let best = 0
    for (let k = 1; k < ways.length; k++) if (clockwise(net, at, from, ways[k]!) < clockwise(net, at, from, ways[best]!)) best = k // prettier-ignore
    return ways.splice(best, 1)[0]!
  }
  const out: Contour[] = []
  for (const [start, ways] of next)
    while (ways.length > 0) {
      const ring = [start]
      let from = start
      let at = ways.pop()!
      while (at !== start && at !== -1) {
        ring.push(at)
        const on = take(from, at)
        from = at
        at = on
      }
      const corners = bends(net, ring)
      if (corners.length < 3) continue
      const flat = new Float64Array(corners.length * 2)
      corners.forEach((p, i) => {
        flat[i * 2] = origin[0] + x[p]! * unit
        flat[i * 2 + 1] = origin[1] + y[p]! * unit
      })
      out.push(flat)
    }
  return out
}
/** A ring without the points that lie on the way from the one kept before to the next. */
function bends(net: Net, ring: readonly number[]): number[] {
  const kept: number[] = []
  let before = ring.at(-1)!
  ring.forEach((p, i) => {
    if (isStraight(net, before, p, ring[i + 1] ?? kept[0] ?? ring[0]!)) return
    kept.push(p)
    before = p
  })
  return kept
}
/** Angle, radians, by which one turns clockwise about `at` from where one came to where one could go; above nought. */
function clockwise({ x, y }: Net, at: number, from: number, to: number): number {
  const back = Math.atan2(y[from]! - y[at]!, x[from]! - x[at]!)
  const on = Math.atan2(y[to]! - y[at]!, x[to]! - x[at]!)
  const angle = back - on
  return angle > 1e-12 ? angle : angle + 2 * Math.PI
}
/** Whether p lies on the way from q to r to within two places of the grid. */
function isStraight(net: Net, q: number, p: number, r: number): boolean {
  const { x, y } = net
  const long = Math.hypot(x[r]! - x[q]!, y[r]! - y[q]!)
  const on = (x[p]! - x[q]!) * (x[r]! - x[q]!) + (y[p]! - y[q]!) * (y[r]! - y[q]!)
  return long > 0 && Math.abs(turn(net, q, r, p)) <= 2 * long && on >= 0 && on <= long * long
}

/** Area, m2: above nought for contours that run counterclockwise. */
export function contourArea(c: Contour): number {
  const n = c.length
  // about the first point, so that places far from the origin lose nothing
  const [ox, oy] = [c[0] ?? 0, c[1] ?? 0]
  let twice = 0
  for (let i = 0, j = n - 2; i < n; j = i, i += 2)
    twice += (c[j]! - ox) * (c[i + 1]! - oy) - (c[i]! - ox) * (c[j + 1]! - oy)
  return twice / 2
}
export function contourLength(c: Contour): number {
  let sum = 0
  for (let i = 0, j = c.length - 2; i < c.length; j = i, i += 2) sum += Math.hypot(c[i]! - c[j]!, c[i + 1]! - c[j + 1]!)
  return sum
}

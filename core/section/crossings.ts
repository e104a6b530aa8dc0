// Splitting lines where they meet, so that none crosses another.
// Model: lines in the order of their left ends; each is tried against those whose extent it shares. New points are rounded to the grid,
// which can bend a line by half a place: rounds are repeated until nothing is split. Equal lines become one. Source: hobby1999.

import { addLine, turn, type Net } from './net.ts'

/** More rounds than ever needed in tests (three). */
const MOST_ROUNDS = 12
/** A point is on a line within this many places of the grid. */
const ON_LINE = 0.75
/** So near to its ends a line is not split at a point: points are that far apart (net.ts). */
const AT_END = 2.5

export function splitCrossings(net: Net): void {
  merge(net)
  // lines from this one on have not been tried yet
  let fresh = 0
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const cuts = meetings(net, fresh)
    if (cuts.size === 0) return
    fresh = apply(net, cuts)
  }
}

/** Points that lines are to be split at, by line; of pairs in which one is fresh. */
function meetings(net: Net, fresh: number): Map<number, number[]> {
  const { x, y, a, b } = net
  const n = a.length
  const cuts = new Map<number, number[]>()
  const left = new Float64Array(n)
  for (let i = 0; i < n; i++) left[i] = x[a[i]!]!
  const order = Uint32Array.from(left, (_, i) => i).sort((i, j) => left[i]! - left[j]!)
  // what the sweep passes, side by side in memory: line, right end, lower and upper end
  const line = new Uint32Array(n)
  const right = new Float64Array(n)
  const lower = new Float64Array(n)
  const upper = new Float64Array(n)
  let active = 0
  for (const i of order) {
    const from = left[i]! - 1
    const [ya, yb] = [y[a[i]!]!, y[b[i]!]!]
    const lo = (ya < yb ? ya : yb) - 1
    const hi = (ya < yb ? yb : ya) + 1
    let kept = 0
    for (let k = 0; k < active; k++) {
      if (right[k]! < from) continue
      if (kept !== k) {
        line[kept] = line[k]!
        right[kept] = right[k]!
        lower[kept] = lower[k]!
        upper[kept] = upper[k]!
      }
      if (lower[kept]! <= hi && upper[kept]! >= lo && (i >= fresh || line[kept]! >= fresh))
        meet(net, i, line[kept]!, cuts)
      kept++
    }
    line[kept] = i
    right[kept] = x[b[i]!]!
    lower[kept] = lo + 1
    upper[kept] = hi - 1
    active = kept + 1
  }
  return cuts
}

/** Notes that a line is split at a point, unless it ends there. */
function cut({ a, b }: Net, cuts: Map<number, number[]>, line: number, at: number): void {
  if (at === a[line] || at === b[line]) return
  const known = cuts.get(line)
  if (!known) cuts.set(line, [at])
  else if (!known.includes(at)) known.push(at)
}

// asked for every pair that comes near: nothing is made here that need not be
function meet(net: Net, i: number, j: number, cuts: Map<number, number[]>): void {
  const { x, y, a, b } = net
  const p = a[i]!
  const q = b[i]!
  const r = a[j]!
  const s = b[j]!
  const tp = turn(net, r, s, p)
  const tq = turn(net, r, s, q)
  const other = Math.sqrt((x[s]! - x[r]!) ** 2 + (y[s]! - y[r]!) ** 2)
  // wholly to one side
  const reach = ON_LINE * other
  if ((tp > reach && tq > reach) || (tp < -reach && tq < -reach)) return
  const tr = turn(net, p, q, r)
  const ts = turn(net, p, q, s)
  const long = Math.sqrt((x[q]! - x[p]!) ** 2 + (y[q]! - y[p]!) ** 2)
  let touches = false
  // ends that lie on the other line
  if (Math.abs(tr) <= ON_LINE * long && isBeside(net, p, q, r, long)) {
    touches = true
    cut(net, cuts, i, r)
  }
  if (Math.abs(ts) <= ON_LINE * long && isBeside(net, p, q, s, long)) {
    touches = true
    cut(net, cuts, i, s)
  }
  if (Math.abs(tp) <= reach && isBeside(net, r, s, p, other)) {
    touches = true
    cut(net, cuts, j, p)
  }
  if (Math.abs(tq) <= reach && isBeside(net, r, s, q, other)) {
    touches = true
    cut(net, cuts, j, q)
  }
  if (touches || p === r || p === s || q === r || q === s) return
  if (tp > 0 === tq > 0 || tr > 0 === ts > 0) return
  const t = tp / (tp - tq)
  const at = net.vertex(Math.round(x[p]! + t * (x[q]! - x[p]!)), Math.round(y[p]! + t * (y[q]! - y[p]!)))
  cut(net, cuts, i, at)
  cut(net, cuts, j, at)
}
const isBeside = ({ x, y }: Net, p: number, q: number, r: number, long: number): boolean => {
  if (r === p || r === q) return false
  const on = (x[r]! - x[p]!) * (x[q]! - x[p]!) + (y[r]! - y[p]!) * (y[q]! - y[p]!)
  return on > AT_END * long && on < long * (long - AT_END)
}

/** Splits the lines; says from which line on they are new. */
function apply(net: Net, cuts: Map<number, number[]>): number {
  const { x, y, a, b, weight } = net
  const kept = a.map((_, i) => i).filter((i) => !cuts.has(i))
  net.a = kept.map((i) => a[i]!)
  net.b = kept.map((i) => b[i]!)
  net.weight = kept.map((i) => weight[i]!)
  const fresh = kept.length
  for (const [i, points] of cuts) {
    const [p, q] = [a[i]!, b[i]!]
    const [dx, dy] = [x[q]! - x[p]!, y[q]! - y[p]!]
    const on = (r: number): number => (x[r]! - x[p]!) * dx + (y[r]! - y[p]!) * dy
    const way = [p, ...points.sort((r, s) => on(r) - on(s)), q]
    for (let k = 0; k + 1 < way.length; k++) addLine(net, way[k]!, way[k + 1]!, weight[i]!)
  }
  merge(net)
  return fresh
}

/**
 * Lines between the same points become one; loops that pass there and back leave a line of weight nought, which bounds nothing. Lines
 * stay in their order.
 */
function merge(net: Net): void {
  const { a, b, weight } = net
  const size = 2 ** Math.ceil(Math.log2(Math.max(16, a.length * 2)))
  const table = new Int32Array(size).fill(-1)
  const mask = size - 1
  let kept = 0
  for (let i = 0; i < a.length; i++) {
    const p = a[i]!
    const q = b[i]!
    const h = Math.imul(p, 0x9e3779b1) ^ Math.imul(q, 0x85ebca6b)
    let at = (h ^ (h >>> 15)) & mask
    let known = table[at]!
    while (known !== -1 && (a[known] !== p || b[known] !== q)) {
      at = (at + 1) & mask
      known = table[at]!
    }
    if (known !== -1) {
      weight[known]! += weight[i]!
      continue
    }
    table[at] = kept
    a[kept] = p
    b[kept] = q
    weight[kept++] = weight[i]!
  }
  a.length = b.length = weight.length = kept
}

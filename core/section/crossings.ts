// Splitting lines where they meet, so that none crosses another.
// Model: lines in the order of their left ends; each is tried against those whose extent it shares. New points are rounded to the grid,
// which can bend a line by half a place: rounds are repeated until nothing is split. Equal lines become one. Source: hobby1999.

import { addLine, turn, type Net } from './net.ts'

/** More rounds than ever needed in tests (three). */
const MOST_ROUNDS = 12
/** A point is on a line within this many places of the grid. */
const ON_LINE = 0.75

export function splitCrossings(net: Net): void {
  merge(net)
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const cuts = meetings(net)
    if (cuts.size === 0) return
    apply(net, cuts)
    merge(net)
  }
}

/** Points that lines are to be split at, by line. */
function meetings(net: Net): Map<number, number[]> {
  const { x, y, a, b } = net
  const cuts = new Map<number, number[]>()
  const cut = (line: number, at: number): void => {
    if (at === a[line] || at === b[line]) return
    const known = cuts.get(line)
    if (!known) cuts.set(line, [at])
    else if (!known.includes(at)) known.push(at)
  }
  const order = Array.from({ length: a.length }, (_, i) => i).sort((i, j) => x[a[i]!]! - x[a[j]!]!)
  const active: number[] = []
  for (const i of order) {
    const [ax, bx] = [x[a[i]!]!, x[b[i]!]!]
    const [lo, hi] = y[a[i]!]! < y[b[i]!]! ? [y[a[i]!]!, y[b[i]!]!] : [y[b[i]!]!, y[a[i]!]!]
    let kept = 0
    for (let k = 0; k < active.length; k++) {
      const j = active[k]!
      if (x[b[j]!]! < ax - 1) continue
      active[kept++] = j
      const [ya, yb] = [y[a[j]!]!, y[b[j]!]!]
      if (Math.max(ya, yb) < lo - 1 || Math.min(ya, yb) > hi + 1 || x[a[j]!]! > bx + 1) continue
      meet(net, i, j, cut)
    }
    active.length = kept
    active.push(i)
  }
  return cuts
}

function meet(net: Net, i: number, j: number, cut: (line: number, at: number) => void): void {
  const { x, y, a, b } = net
  const [p, q, r, s] = [a[i]!, b[i]!, a[j]!, b[j]!]
  const [tp, tq] = [turn(net, r, s, p), turn(net, r, s, q)]
  const [tr, ts] = [turn(net, p, q, r), turn(net, p, q, s)]
  const long = Math.hypot(x[q]! - x[p]!, y[q]! - y[p]!)
  const other = Math.hypot(x[s]! - x[r]!, y[s]! - y[r]!)
  let touches = false
  // ends that lie on the other line
  if (Math.abs(tr) <= ON_LINE * long && isBeside(net, p, q, r, long)) [touches] = [true, cut(i, r)]
  if (Math.abs(ts) <= ON_LINE * long && isBeside(net, p, q, s, long)) [touches] = [true, cut(i, s)]
  if (Math.abs(tp) <= ON_LINE * other && isBeside(net, r, s, p, other)) [touches] = [true, cut(j, p)]
  if (Math.abs(tq) <= ON_LINE * other && isBeside(net, r, s, q, other)) [touches] = [true, cut(j, q)]
  if (touches || p === r || p === s || q === r || q === s) return
  if (tp > 0 === tq > 0 || tr > 0 === ts > 0) return
  const t = tp / (tp - tq)
  const at = net.vertex(Math.round(x[p]! + t * (x[q]! - x[p]!)), Math.round(y[p]! + t * (y[q]! - y[p]!)))
  cut(i, at)
  cut(j, at)
}
const isBeside = ({ x, y }: Net, p: number, q: number, r: number, long: number): boolean => {
  if (r === p || r === q) return false
  const on = (x[r]! - x[p]!) * (x[q]! - x[p]!) + (y[r]! - y[p]!) * (y[q]! - y[p]!)
  return on > 0 && on < long * long
}

function apply(net: Net, cuts: Map<number, number[]>): void {
  const { x, y, a, b, weight } = net
  const gone = new Set(cuts.keys())
  const old = { a, b, weight }
  net.a = a.filter((_, i) => !gone.has(i))
  net.b = b.filter((_, i) => !gone.has(i))
  net.weight = weight.filter((_, i) => !gone.has(i))
  for (const [i, points] of cuts) {
    const [p, q] = [old.a[i]!, old.b[i]!]
    const [dx, dy] = [x[q]! - x[p]!, y[q]! - y[p]!]
    const on = (r: number): number => (x[r]! - x[p]!) * dx + (y[r]! - y[p]!) * dy
    const way = [p, ...points.sort((r, s) => on(r) - on(s)), q]
    for (let k = 0; k + 1 < way.length; k++) addLine(net, way[k]!, way[k + 1]!, old.weight[i]!)
  }
}

/** Lines between the same points become one; loops that pass there and back leave a line of weight nought, which bounds nothing. */
function merge(net: Net): void {
  const { a, b, weight } = net
  const at = new Map<number, number>()
  const points = net.x.length
  let kept = 0
  for (let i = 0; i < a.length; i++) {
    const key = a[i]! * points + b[i]!
    const known = at.get(key)
    if (known !== undefined) {
      weight[known]! += weight[i]!
      continue
    }
    at.set(key, kept)
    a[kept] = a[i]!
    b[kept] = b[i]!
    weight[kept++] = weight[i]!
  }
  a.length = b.length = weight.length = kept
}

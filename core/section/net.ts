// Lines between points of a fine grid, as sections are worked out with.
// Model: coordinates are whole numbers of 34 bits, the extent's own grid; equal points are one. Source: hobby1999 (rounding).

import type { LoopBox } from './clusters.ts'

/** The grid, as a part of the extent. */
const GRID = 2 ** -34

/** Lines between points of the grid; each goes from the point further left (or below) to the other. */
export interface Net {
  /** Grid coordinates, whole numbers. */
  x: number[]
  y: number[]
  /** Points of each line. */
  a: number[]
  b: number[]
  /** How often loops pass along it, less how often against it; nought for a parting. */
  weight: number[]
  readonly vertex: (gx: number, gy: number) => number
  readonly unit: number
  readonly origin: readonly [number, number]
}

/** The lines of loops and partings, rounded to the grid; null where there is no extent. */
export function netOf(
  loops: readonly LoopBox[],
  partings: readonly (readonly [number, number, number, number])[],
): Net | null {
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity]
  for (const b of loops) {
    x0 = Math.min(x0, b.x0)
    x1 = Math.max(x1, b.x1)
    y0 = Math.min(y0, b.y0)
    y1 = Math.max(y1, b.y1)
  }
  const extent = Math.max(x1 - x0, y1 - y0)
  if (!(extent > 0)) return null
  const unit = extent * GRID
  const places = new Places(loops.reduce((n, l) => n + l.loop.length / 2, 0))
  const net: Net = {
    x: [],
    y: [],
    a: [],
    b: [],
    weight: [],
    unit,
    origin: [x0, y0],
    vertex(gx, gy) {
      const known = places.near(net, gx, gy)
      if (known >= 0) return known
      net.x.push(gx)
      net.y.push(gy)
      places.add(net.x.length - 1, gx, gy)
      return net.x.length - 1
    },
  }
  const onGrid = (x: number, y: number): number => net.vertex(Math.round((x - x0) / unit), Math.round((y - y0) / unit))
  for (const { loop: l } of loops) {
    const n = l.length / 2
    if (n < 2) continue
    let before = onGrid(l[n * 2 - 2]!, l[n * 2 - 1]!)
    for (let i = 0; i < n; i++) {
      const here = onGrid(l[i * 2]!, l[i * 2 + 1]!)
      addLine(net, before, here, 1)
      before = here
    }
  }
  for (const p of partings) {
    const s = clippedTo(p, x0 - extent * 0.01, y0 - extent * 0.01, x1 + extent * 0.01, y1 + extent * 0.01)
    if (s) addLine(net, onGrid(s[0], s[1]), onGrid(s[2], s[3]), 0)
  }
  return net
}
/** Points nearer than this are one, in places of the grid: else lines that all but meet are split for ever. */
const SAME = 3
/** Points are sought by cells of so many places. */
const CELL = 256
class Places {
  /** First point of each bucket of cells, and the next one after each point; what shares a bucket by chance is told apart by its place. */
  private readonly heads: Int32Array
  private readonly next: number[] = []
  private readonly mask: number

  constructor(expected: number) {
    const size = 2 ** Math.ceil(Math.log2(Math.max(16, expected * 2)))
    this.heads = new Int32Array(size).fill(-1)
    this.mask = size - 1
  }
  private bucket(cx: number, cy: number): number {
    const h = Math.imul(cx, 0x9e3779b1) ^ Math.imul(cy, 0x85ebca6b)
    return (h ^ (h >>> 15)) & this.mask
  }
  add(i: number, gx: number, gy: number): void {
    const at = this.bucket(Math.floor(gx / CELL), Math.floor(gy / CELL))
    this.next[i] = this.heads[at]!
    this.heads[at] = i
  }
  /** The point that one at these coordinates is; -1 for a new one. */
  near({ x, y }: Net, gx: number, gy: number): number {
    const cx = Math.floor(gx / CELL)
    const cy = Math.floor(gy / CELL)
    const ox = gx - cx * CELL
    const oy = gy - cy * CELL
    const x1 = ox >= CELL - SAME ? 1 : 0
    const y1 = oy >= CELL - SAME ? 1 : 0
    for (let dx = ox <= SAME ? -1 : 0; dx <= x1; dx++)
      for (let dy = oy <= SAME ? -1 : 0; dy <= y1; dy++)
        for (let i = this.heads[this.bucket(cx + dx, cy + dy)]!; i >= 0; i = this.next[i]!)
          if (Math.abs(x[i]! - gx) <= SAME && Math.abs(y[i]! - gy) <= SAME) return i
    return -1
  }
}
/** Adds a line passed `weight` times from p to q. */
export function addLine(net: Net, p: number, q: number, weight: number): void {
  if (p === q) return
  const turned = net.x[p]! > net.x[q]! || (net.x[p] === net.x[q] && net.y[p]! > net.y[q]!)
  net.a.push(turned ? q : p)
  net.b.push(turned ? p : q)
  net.weight.push(turned ? -weight : weight)
}
/** A line cut to a rectangle; null outside. Source: liang1984. */
function clippedTo(
  [x0, y0, x1, y1]: readonly [number, number, number, number],
  ...[lx, ly, hx, hy]: [number, number, number, number]
): readonly [number, number, number, number] | null {
  let [from, to] = [0, 1]
  const [dx, dy] = [x1 - x0, y1 - y0]
  for (const [d, near, far] of [
    [dx, lx - x0, hx - x0],
    [dy, ly - y0, hy - y0],
  ] as const) {
    if (d === 0) {
      if (near > 0 || far < 0) return null
      continue
    }
    from = Math.max(from, Math.min(near / d, far / d))
    to = Math.min(to, Math.max(near / d, far / d))
  }
  return from < to ? [x0 + from * dx, y0 + from * dy, x0 + to * dx, y0 + to * dy] : null
}

/** Twice the area of the triangle p, q, r: above nought when r lies to the left of the way from p to q. */
export const turn = ({ x, y }: Net, p: number, q: number, r: number): number =>
  (x[q]! - x[p]!) * (y[r]! - y[p]!) - (y[q]! - y[p]!) * (x[r]! - x[p]!)

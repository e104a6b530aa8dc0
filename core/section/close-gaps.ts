// Open lines of a section whose ends nearly meet, joined.
// Model: ends and beginnings are paired, the narrowest gaps first; each is used once. What then meets itself is closed. Linear but for
// the sorting of the gaps found.

import { boxSize, type Box } from '../math/index.ts'
import type { Chain } from './slice.ts'

/** Closed lines, and those that stay open; gaps of up to `closeM` metres are closed. */
export function gapsClosed(chains: readonly Chain[], closeM: number): { closed: Chain[]; open: Chain[] } {
  const closed = chains.filter((c) => c.isClosed)
  const loose = chains.filter((c) => !c.isClosed)
  if (loose.length === 0 || !(closeM > 0)) return { closed, open: loose }
  const next = new Int32Array(loose.length).fill(-1)
  const before = new Int32Array(loose.length).fill(-1)
  for (const { from, to } of pairsWithin(loose, closeM)) {
    if (next[from] !== -1 || before[to] !== -1) continue
    next[from] = to
    before[to] = from
  }
  const open: Chain[] = []
  const done = new Uint8Array(loose.length)
  const follow = (first: number): void => {
    const mine: Chain[] = []
    let i = first
    while (i !== -1 && done[i] === 0) {
      done[i] = 1
      mine.push(loose[i]!)
      i = next[i]!
    }
    const isClosed = i === first
    const joined: Chain = {
      points: joinedPoints(mine),
      group: mine[0]!.group,
      isClosed,
      isOriented: mine.every((c) => c.isOriented),
    }
    if (!isClosed) open.push(joined)
    else if (joined.points.length >= 9) closed.push(joined)
  }
  for (let i = 0; i < loose.length; i++) if (before[i] === -1) follow(i)
  for (let i = 0; i < loose.length; i++) if (done[i] === 0) follow(i)
  return { closed, open }
}

function joinedPoints(chains: readonly Chain[]): Float64Array {
  const out = new Float64Array(chains.reduce((n, c) => n + c.points.length, 0))
  let at = 0
  for (const c of chains) {
    out.set(c.points, at)
    at += c.points.length
  }
  return out
}
/** Ends and beginnings within the distance, the nearest first: sought in cells of that size. */
function pairsWithin(chains: readonly Chain[], closeM: number): { from: number; to: number }[] {
  const cell = (x: number, y: number, z: number): string => `${x},${y},${z}`
  const at = (v: number): number => Math.floor(v / closeM)
  const starts = new Map<string, number[]>()
  chains.forEach(({ points: p }, i) => {
    const key = cell(at(p[0]!), at(p[1]!), at(p[2]!))
    const known = starts.get(key)
    if (known) known.push(i)
    else starts.set(key, [i])
  })
  const found: { from: number; to: number; gap: number }[] = []
  chains.forEach(({ points: p }, from) => {
    const n = p.length
    const [x, y, z] = [p[n - 3]!, p[n - 2]!, p[n - 1]!]
    for (let k = 0; k < 27; k++) {
      const key = cell(at(x) + (k % 3) - 1, at(y) + (Math.floor(k / 3) % 3) - 1, at(z) + Math.floor(k / 9) - 1)
      for (const to of starts.get(key) ?? []) {
        const q = chains[to]!.points
        const gap = Math.hypot(q[0]! - x, q[1]! - y, q[2]! - z)
        if (gap <= closeM) found.push({ from, to, gap })
      }
    }
  })
  return found.sort((a, b) => a.gap - b.gap)
}
/** From the end of an open line to its beginning, metres. */
export function gapOf({ points: p }: Chain): number {
  const n = p.length
  return Math.hypot(p[0]! - p[n - 3]!, p[1]! - p[n - 2]!, p[2]! - p[n - 1]!)
}

/** Gaps closed in rooms, and in models smaller than this across. */
const CLOSE_M = { room: 0.001, product: 0.0001, productM: 3 } as const
/** Gaps that are closed in a model of that extent where nothing is said, metres. */
export function gapClosed(box: Box | null): number {
  const size = box ? boxSize(box) : [Infinity]
  return Math.hypot(...size) < CLOSE_M.productM ? CLOSE_M.product : CLOSE_M.room
}

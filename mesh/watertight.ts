// Is a surface closed, so that it has an inside?
// Model: corners at the same place are one; in a closed surface every edge is passed as often in one direction as in the other.
// Edges are counted in an open-addressing table of numbers. Linear in the number of triangles. Source: botsch2010 (chapter 1).

import { welded } from '#core/section'
import type { Soup } from './types.ts'

export interface Closedness {
  readonly closed: boolean
  /** Edges with a face missing on one side. */
  readonly openEdges: number
}

export function watertight(soup: Pick<Soup, 'positions' | 'indices'>): Closedness {
  const { positions, indices } = soup
  const corner = welded(positions)
  const triangles = Math.floor(indices.length / 3)
  // three edges for each triangle, each shared by two: half full at most
  const size = tableSize(triangles * 3)
  const low = new Int32Array(size).fill(-1)
  const high = new Int32Array(size)
  const balance = new Int32Array(size)
  const mask = size - 1
  const pass = (a: number, b: number): void => {
    if (a === b) return
    const lo = a < b ? a : b
    const hi = a < b ? b : a
    let at = (Math.imul(lo, 0x9e3779b1) ^ Math.imul(hi, 0x85ebca6b)) & mask
    while (low[at] !== -1 && (low[at] !== lo || high[at] !== hi)) at = (at + 1) & mask
    low[at] = lo
    high[at] = hi
    balance[at]! += a < b ? 1 : -1
  }
  for (let t = 0; t < triangles * 3; t += 3) {
    const a = corner[indices[t]!]!
    const b = corner[indices[t + 1]!]!
    const c = corner[indices[t + 2]!]!
    // a face without area closes nothing and opens nothing
    if (a === b || b === c || c === a) continue
    pass(a, b)
    pass(b, c)
    pass(c, a)
  }
  let openEdges = 0
  for (let i = 0; i < size; i++) if (low[i] !== -1 && balance[i] !== 0) openEdges++
  return { closed: openEdges === 0 && triangles > 0, openEdges }
}

const tableSize = (entries: number): number => 2 ** Math.ceil(Math.log2(Math.max(16, entries * 1.6)))

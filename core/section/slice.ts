// Where does a plane cut a mesh: which closed lines, and which open ones?
// Model: equal positions are welded; a corner at distance >= 0 counts as above. An edge is cut where its ends differ, at a point worked
// out once, from the lower to the higher corner. Each cut triangle gives a piece from the edge that goes down through the plane to the
// one that comes up, so that the solid lies to its left, seen from the normal's tip: outer lines run counterclockwise, holes clockwise.
// The section is the limit from the kept side (the normal points to the removed one). Triangles with the same three corners count once.
// Space: world metres. Source: handbook-8.

import { requireNumber } from '../base/index.ts'
import { dot, normalize, type Vec3 } from '../math/index.ts'
import { LEAF_TRIANGLES, sliceTree, type Mesh, type SliceTree } from './slice-tree.ts'

export interface Plane {
  readonly point: Vec3
  /** Points to the removed side; any length but nought. */
  readonly normal: Vec3
}
/** A line of a section; the first point is not repeated. */
export interface Chain {
  /** Three numbers a point. */
  readonly points: Float64Array
  /** Object it belongs to. */
  readonly group: number
  readonly isClosed: boolean
  /** Whether all its triangles agreed on which side is outside; else its way round says nothing. */
  readonly isOriented: boolean
}

/** The lines in which a plane cuts a mesh; RangeError for a normal of no length. */
export function sliceMesh(mesh: Mesh, plane: Plane): { loops: Vec3[][]; open: Vec3[][] } {
  const loops: Vec3[][] = []
  const open: Vec3[][] = []
  for (const c of sliceChains(sliceTree(mesh), plane)) (c.isClosed ? loops : open).push(pointsOf(c))
  return { loops, open }
}
const pointsOf = ({ points: p }: Chain): Vec3[] =>
  Array.from({ length: p.length / 3 }, (_, i) => [p[i * 3]!, p[i * 3 + 1]!, p[i * 3 + 2]!] as const)

/** The same of a mesh made ready; linear in what is cut. */
export function sliceChains(tree: SliceTree, plane: Plane): Chain[] {
  const length = Math.hypot(...plane.normal)
  requireNumber('sliceChains', 'length of the normal', length, Number.MIN_VALUE)
  const normal = normalize(plane.normal)
  const cut = cutTriangles(tree, normal, dot(normal, plane.point))
  if (cut.count === 0) return []
  const pieces = link(tree, cut)
  // only where an edge has more than two triangles can one of them be there twice
  if (!pieces.isCrowded) return chainsOf(cut, pieces)
  const once = dropRepeated(cut, false)
  const chains = chainsOf(cut, once ? link(tree, cut) : pieces)
  if (chains.every((c) => c.isClosed && c.isOriented)) return chains
  // a face between two solids is there once for each; one modelled from both sides, or turned by mistake, is one
  if (!dropRepeated(cut, true)) return chains
  const fewer = chainsOf(cut, link(tree, cut))
  return loose(fewer) < loose(chains) ? fewer : chains
}
const loose = (chains: readonly Chain[]): number =>
  chains.reduce((n, c) => n + (c.isClosed ? (c.isOriented ? 0 : 1) : 2), 0)

/** Buffers that sections take turns with: made anew for each they would cost more than the section. */
class Scratch {
  private readonly kept = new Map<string, Int32Array | Uint8Array | Float64Array>()
  private sized<T extends Int32Array | Uint8Array | Float64Array>(
    name: string,
    length: number,
    make: (n: number) => T,
  ): T {
    const known = this.kept.get(name) as T | undefined
    if (known && known.length >= length) return known
    const made = make(2 ** Math.ceil(Math.log2(Math.max(64, length))))
    this.kept.set(name, made)
    return made
  }
  /** Longer than asked for perhaps; what is in it is left over. */
  ints(name: string, length: number): Int32Array {
    return this.sized(name, length, (n) => new Int32Array(n))
  }
  bytes(name: string, length: number): Uint8Array {
    return this.sized(name, length, (n) => new Uint8Array(n))
  }
  numbers(name: string, length: number): Float64Array {
    return this.sized(name, length, (n) => new Float64Array(n))
  }
}
const scratch = new Scratch()

/** Of each cut triangle the edge that goes down through the plane and the one that comes up: corner by corner, and distances. */
interface Cut {
  count: number
  /** Four corners a triangle: from above, to below; from below, to above. */
  ends: Int32Array
  /** Their distances. */
  far: Float64Array
}

function cutTriangles({ positions: p, corners, boxes, leaves }: SliceTree, n: Vec3, d: number): Cut {
  const [nx, ny, nz] = n
  const cut: Cut = { count: 0, ends: scratch.ints('ends', 4096), far: scratch.numbers('far', 4096) }
  // corners of a box that lie farthest against and along the normal
  const [lx, hx] = nx >= 0 ? [0, 3] : [3, 0]
  const [ly, hy] = ny >= 0 ? [1, 4] : [4, 1]
  const [lz, hz] = nz >= 0 ? [2, 5] : [5, 2]
  const stack = new Int32Array(64)
  let top = 0
  stack[top++] = 1
  while (top > 0) {
    const node = stack[--top]!
    const b = node * 6
    if (!(nx * boxes[b + lx]! + ny * boxes[b + ly]! + nz * boxes[b + lz]! - d <= 0)) continue
    if (!(nx * boxes[b + hx]! + ny * boxes[b + hy]! + nz * boxes[b + hz]! - d >= 0)) continue
    if (node < leaves) {
      stack[top++] = node * 2 + 1
      stack[top++] = node * 2
      continue
    }
    const end = Math.min(corners.length, (node - leaves + 1) * LEAF_TRIANGLES * 3)
    for (let t = (node - leaves) * LEAF_TRIANGLES * 3; t < end; t += 3) {
      const a = corners[t]!
      const c1 = corners[t + 1]!
      const c2 = corners[t + 2]!
      const da = nx * p[a * 3]! + ny * p[a * 3 + 1]! + nz * p[a * 3 + 2]! - d
      const db = nx * p[c1 * 3]! + ny * p[c1 * 3 + 1]! + nz * p[c1 * 3 + 2]! - d
      const dc = nx * p[c2 * 3]! + ny * p[c2 * 3 + 1]! + nz * p[c2 * 3 + 2]! - d
      const above = (da >= 0 ? 1 : 0) | (db >= 0 ? 2 : 0) | (dc >= 0 ? 4 : 0)
      if (above === 0 || above === 7) continue
      if (a === c1 || c1 === c2 || c2 === a) continue
      keep(cut, above, a, c1, c2, da, db, dc)
    }
  }
  return cut
}
function keep(cut: Cut, above: number, a: number, b: number, c: number, da: number, db: number, dc: number): void {
  const at = cut.count * 4
  if (at + 4 > cut.ends.length) {
    const [ends, far] = [cut.ends, cut.far]
    cut.ends = scratch.ints('ends', at * 2)
    cut.far = scratch.numbers('far', at * 2)
    cut.ends.set(ends.subarray(0, at))
    cut.far.set(far.subarray(0, at))
  }
  const { ends, far } = cut
  // a is turned to be the corner that lies alone on its side
  if (above === 2 || above === 5) {
    const [i, di] = [a, da]
    a = b
    da = db
    b = c
    db = dc
    c = i
    dc = di
  } else if (above === 4 || above === 3) {
    const [i, di] = [a, da]
    a = c
    da = dc
    c = b
    dc = db
    b = i
    db = di
  }
  cut.count++
  if (da >= 0) {
    // down along a-b, up along c-a
    ends[at] = a
    ends[at + 1] = b
    ends[at + 2] = c
    ends[at + 3] = a
    far[at] = da
    far[at + 1] = db
    far[at + 2] = dc
    far[at + 3] = da
  } else {
    // down along c-a, up along a-b
    ends[at] = c
    ends[at + 1] = a
    ends[at + 2] = a
    ends[at + 3] = b
    far[at] = dc
    far[at + 1] = da
    far[at + 2] = da
    far[at + 3] = db
  }
}

/** Leaves out triangles that have the same three corners as an earlier one, `turned` too or not; says whether there were any. */
function dropRepeated(cut: Cut, turned: boolean): boolean {
  const seen = new Set<string>()
  let kept = 0
  for (let i = 0; i < cut.count; i++) {
    const at = i * 4
    const own = [cut.ends[at]!, cut.ends[at + 1]!, cut.ends[at + 2]!, cut.ends[at + 3]!]
    const key = turned ? [...new Set(own)].sort((x, y) => x - y).join() : own.join()
    if (seen.has(key)) continue
    seen.add(key)
    if (kept !== i) {
      cut.ends.copyWithin(kept * 4, at, at + 4)
      cut.far.copyWithin(kept * 4, at, at + 4)
    }
    kept++
  }
  const dropped = kept < cut.count
  cut.count = kept
  return dropped
}

/** The pieces between cut edges; an edge is a place of the table. */
interface Pieces {
  /** Place of each piece's first and last point. */
  readonly from: Int32Array
  readonly to: Int32Array
  /** Number of points, and their coordinates. */
  readonly points: Float64Array
  readonly count: number
  /** Whether an edge has more than two triangles. */
  readonly isCrowded: boolean
  readonly group: Int32Array
}

function link({ positions: p, groups }: SliceTree, { count, ends, far }: Cut): Pieces {
  const size = 2 ** Math.ceil(Math.log2(Math.max(16, count * 3)))
  const mask = size - 1
  const table = scratch.ints('table', size)
  table.fill(-1, 0, size)
  const low = scratch.ints('low', count * 2)
  const high = scratch.ints('high', count * 2)
  const uses = scratch.bytes('uses', count * 2)
  uses.fill(0, 0, count * 2)
  const points = scratch.numbers('points', count * 6)
  const from = scratch.ints('from', count)
  const to = scratch.ints('to', count)
  const group = scratch.ints('group', count)
  let made = 0
  let isCrowded = false
  for (let k = 0; k < count * 2; k++) {
    const first = ends[k * 2]! < ends[k * 2 + 1]! ? k * 2 : k * 2 + 1
    const other = k * 4 + 1 - first
    const a = ends[first]!
    const b = ends[other]!
    const da = far[first]!
    const db = far[other]!
    let at = (Math.imul(a, 0x9e3779b1) ^ Math.imul(b, 0x85ebca6b)) >>> 0
    at = (at ^ (at >>> 15)) & mask
    while (table[at] !== -1 && (low[table[at]!] !== a || high[table[at]!] !== b)) at = (at + 1) & mask
    let place = table[at]!
    if (place === -1) {
      place = table[at] = made++
      low[place] = a
      high[place] = b
      // a corner in the plane is met exactly
      const t = da === 0 ? 0 : db === 0 ? 1 : da / (da - db)
      for (let i = 0; i < 3; i++) {
        const pa = p[a * 3 + i]!
        const pb = p[b * 3 + i]!
        points[place * 3 + i] = t === 1 ? pb : pa + t * (pb - pa)
      }
    }
    // going down and coming up once each
    const bit = k & 1 ? 2 : 1
    if (uses[place]! & bit) isCrowded = true
    uses[place]! |= bit
    if (k & 1) to[k >> 1] = place
    else {
      from[k >> 1] = place
      group[k >> 1] = groups ? groups[a]! : 0
    }
  }
  return { from, to, points, count: made, isCrowded, group }
}

/** Follows the pieces: open lines from their beginnings first, then what goes round; lines that meet end to end are one. */
function chainsOf({ count }: Cut, pieces: Pieces): Chain[] {
  const { from, to, group } = pieces
  const next = scratch.ints('next', count)
  const head = scratch.ints('head', pieces.count)
  // departures less arrivals
  const surplus = scratch.ints('surplus', pieces.count)
  head.fill(-1, 0, pieces.count)
  surplus.fill(0, 0, pieces.count)
  for (let i = count - 1; i >= 0; i--) {
    next[i] = head[from[i]!]!
    head[from[i]!] = i
    surplus[to[i]!]!--
    surplus[from[i]!]!++
  }
  const order = scratch.ints('order', count + 1)
  const out: Chain[] = []
  const open: Walk[] = []
  const follow = (first: number): void => {
    const start = from[first]!
    order[0] = start
    let n = 1
    let i = first
    head[start] = next[i]!
    for (;;) {
      const at = to[i]!
      if (at === start) {
        push(out, order.subarray(0, n), group[first]!, true, pieces.points, true)
        return
      }
      order[n++] = at
      i = head[at]!
      if (i === -1) {
        open.push({ places: Array.from(order.subarray(0, n)), group: group[first]!, isOriented: true })
        return
      }
      head[at] = next[i]!
    }
  }
  for (let place = 0; place < pieces.count; place++)
    for (let k = surplus[place]!; k > 0 && head[place] !== -1; k--) follow(head[place]!)
  for (let place = 0; place < pieces.count; place++) while (head[place] !== -1) follow(head[place]!)
  for (const w of joinedTurned(open))
    push(out, Int32Array.from(w.places), w.group, w.isOriented, pieces.points, w.isRing === true)
  return out
}
interface Walk {
  readonly places: number[]
  readonly group: number
  readonly isOriented: boolean
  readonly isRing?: boolean
}

/** Open lines that end at the same place, because triangles turn different sides out, made into one. */
function joinedTurned(open: Walk[]): Walk[] {
  if (open.length === 0) return open
  const at = new Map<number, Set<Walk>>()
  const note = (w: Walk): void => {
    for (const end of [w.places[0]!, w.places.at(-1)!]) {
      const known = at.get(end)
      if (known) known.add(w)
      else at.set(end, new Set([w]))
    }
  }
  const forget = (w: Walk): void => {
    for (const end of [w.places[0]!, w.places.at(-1)!]) at.get(end)?.delete(w)
  }
  open.forEach(note)
  const done: Walk[] = []
  const rest = new Set(open)
  for (const start of open) {
    if (!rest.delete(start)) continue
    forget(start)
    let mine = start
    for (let side = 0; side < 2;) {
      const end = mine.places.at(-1)!
      const other = [...(at.get(end) ?? [])][0]
      if (!other || mine.places[0] === end) {
        // then from its other end
        if (mine.places[0] === end && mine.places.length > 1) break
        mine = { ...mine, places: [...mine.places].reverse() }
        side++
        continue
      }
      rest.delete(other)
      forget(other)
      const more = other.places[0] === end ? other.places : [...other.places].reverse()
      mine = { places: [...mine.places, ...more.slice(1)], group: mine.group, isOriented: false }
    }
    const isRing = mine.places.length > 2 && mine.places[0] === mine.places.at(-1)
    done.push(isRing ? { ...mine, places: mine.places.slice(0, -1), isRing } : mine)
  }
  return done
}

/** Adds a line without its pieces of no length; what is only a point is left out. */
function push(
  out: Chain[],
  places: Int32Array,
  group: number,
  isOriented: boolean,
  p: Float64Array,
  isClosed: boolean,
): void {
  const points = new Float64Array(places.length * 3)
  let n = 0
  let px = NaN
  let py = NaN
  let pz = NaN
  for (let i = 0; i < places.length; i++) {
    const at = places[i]! * 3
    const x = p[at]!
    const y = p[at + 1]!
    const z = p[at + 2]!
    if (x === px && y === py && z === pz) continue
    points[n++] = px = x
    points[n++] = py = y
    points[n++] = pz = z
  }
  while (isClosed && n > 3 && points[0] === points[n - 3] && points[1] === points[n - 2] && points[2] === points[n - 1]) n -= 3 // prettier-ignore
  if (n < (isClosed ? 9 : 6)) return
  out.push({ points: n === points.length ? points : points.slice(0, n), group, isClosed, isOriented })
}

// Which triangles does a plane pass through, among very many?
// Model: triangles in the order of a space-filling curve, a few a leaf; the leaves' boxes are paired up to one box in a heap. A plane
// leaves out every box that lies on one side of it. Built in linear time. Source: morton1966.

import { welded } from './weld.ts'

export interface Mesh {
  /** World metres, three numbers a corner. */
  readonly positions: Float32Array | Float64Array
  /** Three corners a triangle, counterclockwise seen from outside. */
  readonly indices: Uint32Array
}
export interface SliceTree {
  readonly positions: Float32Array | Float64Array
  /** Three welded corners a triangle, in the order of the leaves. */
  readonly corners: Uint32Array
  /** Boxes of the heap from 1: six numbers each, least and most. */
  readonly boxes: Float32Array | Float64Array
  /** Leaves, a power of two; the leaf `i` is the heap's place `leaves + i`. */
  readonly leaves: number
  /** Object of each corner; null where all are one. */
  readonly groups: Uint32Array | null
}
/** Triangles a leaf (measured: 4 to 16 make little difference). */
export const LEAF_TRIANGLES = 8

/** Corners of different `groups` (a number a corner) are never one, so that sections stay apart by object. Linear. */
export function sliceTree({ positions, indices }: Mesh, groups: Uint32Array | null = null): SliceTree {
  const corner = welded(positions, groups)
  const triangles = Math.floor(indices.length / 3)
  const order = alongCurve(positions, indices, triangles)
  const corners = new Uint32Array(triangles * 3)
  for (let t = 0; t < triangles; t++) {
    const from = order[t]! * 3
    for (let k = 0; k < 3; k++) corners[t * 3 + k] = corner[indices[from + k]!]!
  }
  const leaves = 2 ** Math.ceil(Math.log2(Math.max(1, Math.ceil(triangles / LEAF_TRIANGLES))))
  return { positions, corners, boxes: boxesOf(positions, corners, leaves), leaves, groups }
}

function boxesOf(p: SliceTree['positions'], corners: Uint32Array, leaves: number): SliceTree['boxes'] {
  const boxes = p instanceof Float32Array ? new Float32Array(leaves * 12) : new Float64Array(leaves * 12)
  for (let i = 0; i < boxes.length; i += 6) {
    boxes[i] = boxes[i + 1] = boxes[i + 2] = Infinity
    boxes[i + 3] = boxes[i + 4] = boxes[i + 5] = -Infinity
  }
  for (let i = 0; i < corners.length; i++) {
    const box = (leaves + Math.floor(i / (3 * LEAF_TRIANGLES))) * 6
    const at = corners[i]! * 3
    for (let k = 0; k < 3; k++) {
      const v = p[at + k]!
      if (v < boxes[box + k]!) boxes[box + k] = v
      if (v > boxes[box + 3 + k]!) boxes[box + 3 + k] = v
    }
  }
  for (let node = leaves - 1; node >= 1; node--)
    for (let k = 0; k < 3; k++) {
      boxes[node * 6 + k] = Math.min(boxes[node * 12 + k]!, boxes[node * 12 + 6 + k]!)
      boxes[node * 6 + 3 + k] = Math.max(boxes[node * 12 + 3 + k]!, boxes[node * 12 + 9 + k]!)
    }
  return boxes
}

/** Ten bits an axis, spread so that those of three axes take turns. */
function spread(v: number): number {
  let x = v & 0x3ff
  x = (x | (x << 16)) & 0x30000ff
  x = (x | (x << 8)) & 0x300f00f
  x = (x | (x << 4)) & 0x30c30c3
  return (x | (x << 2)) & 0x9249249
}

/** Triangles by the curve's number of their middles. */
function alongCurve(p: SliceTree['positions'], indices: Uint32Array, triangles: number): Uint32Array {
  const lo = [Infinity, Infinity, Infinity]
  const hi = [-Infinity, -Infinity, -Infinity]
  const middles = new Float64Array(triangles * 3)
  for (let t = 0; t < triangles; t++)
    for (let k = 0; k < 3; k++) {
      const v = p[indices[t * 3]! * 3 + k]! + p[indices[t * 3 + 1]! * 3 + k]! + p[indices[t * 3 + 2]! * 3 + k]!
      middles[t * 3 + k] = v
      if (v < lo[k]!) lo[k] = v
      if (v > hi[k]!) hi[k] = v
    }
  const extent = Math.max(hi[0]! - lo[0]!, hi[1]! - lo[1]!, hi[2]! - lo[2]!)
  const scale = extent > 0 ? 1023.999 / extent : 0
  const codes = new Uint32Array(triangles)
  for (let t = 0; t < triangles; t++) {
    const [x, y, z] = [0, 1, 2].map((k) => Math.floor((middles[t * 3 + k]! - lo[k]!) * scale)) as [number, number, number] // prettier-ignore
    codes[t] = (spread(x) | (spread(y) << 1) | (spread(z) << 2)) >>> 0
  }
  return sortedBy(codes)
}

/** Places of the codes in rising order: three passes of ten bits. */
function sortedBy(codes: Uint32Array): Uint32Array {
  let from = Uint32Array.from(codes, (_, i) => i)
  let to = new Uint32Array(codes.length)
  for (const shift of [0, 10, 20]) {
    const counts = new Uint32Array(1025)
    for (let i = 0; i < codes.length; i++) counts[((codes[i]! >>> shift) & 1023) + 1]!++
    for (let b = 0; b < 1024; b++) counts[b + 1]! += counts[b]!
    for (let i = 0; i < from.length; i++) to[counts[(codes[from[i]!]! >>> shift) & 1023]!++] = from[i]!
    ;[from, to] = [to, from]
  }
  return from
}

// Long triangles in pieces, for drawing only: rasterisers lose the depth of a triangle that reaches past the eye and far out of the
// picture (seen: a wall 18 m long drawn in front of what stands 0.3 m before it, depending on the near plane).

import { BufferAttribute, BufferGeometry, type InterleavedBufferAttribute } from 'three'

/** Edges longer than this are halved, metres; in large models, than this part of their diagonal. */
const LONGEST_M = 8
const OF_DIAGONAL = 1 / 16

/** What edges may be at most in a model of that diagonal, metres. */
export const longestEdge = (diagonalM: number): number => Math.max(LONGEST_M, diagonalM * OF_DIAGONAL)

type Attribute = BufferAttribute | InterleavedBufferAttribute

/**
 * The geometry itself where no edge is longer than `longest` (in its own units), else one with the same surface and no longer
 * edge: each long edge is halved, whichever triangle has it, so that no gap opens. Attributes are interpolated. Where more than
 * `budget.left` triangles would be added the geometry stays as it is.
 */
export function withoutLongEdges(
  geometry: BufferGeometry,
  longest: number,
  budget: { left: number } = { left: 200_000 },
): BufferGeometry {
  const position = geometry.getAttribute('position') as Attribute | undefined
  if (!position || position.count === 0) return geometry
  if (!geometry.boundingBox) geometry.computeBoundingBox()
  const box = geometry.boundingBox!
  // not a number where a position is not one: such a geometry stays
  if (!(box.min.distanceTo(box.max) > longest)) return geometry
  const source = new Float64Array(position.count * 3)
  for (let i = 0; i < position.count; i++) {
    source[i * 3] = position.getX(i)
    source[i * 3 + 1] = position.getY(i)
    source[i * 3 + 2] = position.getZ(i)
  }
  const at: number[] | Float64Array = source
  const index = geometry.index
  const corners = index ? index.count : position.count
  const corner = (k: number): number => (index ? index.getX(k) : k)
  const limit2 = longest * longest
  const isLong = (a: number, b: number): boolean =>
    (at[a * 3]! - at[b * 3]!) ** 2 + (at[a * 3 + 1]! - at[b * 3 + 1]!) ** 2 + (at[a * 3 + 2]! - at[b * 3 + 2]!) ** 2 >
    limit2
  const long: number[] = []
  for (let k = 0; k + 2 < corners; k += 3) {
    const [a, b, c] = [corner(k), corner(k + 1), corner(k + 2)]
    if (isLong(a, b) || isLong(b, c) || isLong(c, a)) long.push(k)
  }
  return long.length === 0 ? geometry : new Halving(geometry, source, limit2).run(long, corners, corner, budget)
}

/** Halves long edges until none is left; midpoints are shared. */
class Halving {
  private readonly geometry: BufferGeometry
  private readonly at: number[]
  private readonly limit2: number
  private readonly midpoints = new Map<string, number>()
  /** Of each new vertex, the two that it lies between. */
  private readonly parents: [number, number][] = []
  private readonly first: number

  constructor(geometry: BufferGeometry, source: Float64Array, limit2: number) {
    this.geometry = geometry
    this.first = source.length / 3
    this.at = Array.from(source)
    this.limit2 = limit2
  }

  run(
    long: readonly number[],
    corners: number,
    corner: (k: number) => number,
    budget: { left: number },
  ): BufferGeometry {
    const pieces: number[] = []
    const stack: [number, number, number][] = long.map((k) => [corner(k), corner(k + 1), corner(k + 2)])
    const allowed = budget.left + long.length
    while (stack.length > 0) {
      const t = stack.pop()!
      const [p, q] = this.halves(t)
      if (p && q) stack.push(p, q)
      else pieces.push(...t)
      if (pieces.length / 3 + stack.length > allowed) return this.geometry
    }
    budget.left -= pieces.length / 3 - long.length
    const whole = new Set(long)
    const all: number[] = []
    for (let k = 0; k + 2 < corners; k += 3) if (!whole.has(k)) all.push(corner(k), corner(k + 1), corner(k + 2))
    for (const v of pieces) all.push(v)
    const made = new BufferGeometry()
    made.name = this.geometry.name
    for (const [name, a] of Object.entries(this.geometry.attributes)) made.setAttribute(name, this.extended(a))
    made.setIndex(all)
    return made
  }

  /** The two halves of a triangle across its longest edge, or none where no edge is long. */
  private halves([a, b, c]: readonly [number, number, number]):
    [] | [[number, number, number], [number, number, number]] {
    const [ab, bc, ca] = [this.length2(a, b), this.length2(b, c), this.length2(c, a)]
    const most = Math.max(ab, bc, ca)
    if (!(most > this.limit2)) return []
    if (most === ab) return this.across(a, b, c)
    return most === bc ? this.across(b, c, a) : this.across(c, a, b)
  }
  private across(a: number, b: number, c: number): [[number, number, number], [number, number, number]] {
    const m = this.midpoint(a, b)
    return [
      [a, m, c],
      [m, b, c],
    ]
  }
  private length2(a: number, b: number): number {
    const { at } = this
    return (
      (at[a * 3]! - at[b * 3]!) ** 2 + (at[a * 3 + 1]! - at[b * 3 + 1]!) ** 2 + (at[a * 3 + 2]! - at[b * 3 + 2]!) ** 2
    )
  }
  private midpoint(a: number, b: number): number {
    const key = a < b ? `${a},${b}` : `${b},${a}`
    const known = this.midpoints.get(key)
    if (known !== undefined) return known
    const made = this.at.length / 3
    for (let i = 0; i < 3; i++) this.at.push((this.at[a * 3 + i]! + this.at[b * 3 + i]!) / 2)
    this.parents.push([a, b])
    this.midpoints.set(key, made)
    return made
  }
  private extended(a: Attribute): BufferAttribute {
    const { itemSize, count } = a
    const values = new Float32Array((count + this.parents.length) * itemSize)
    for (let i = 0; i < count; i++) for (let c = 0; c < itemSize; c++) values[i * itemSize + c] = a.getComponent(i, c)
    // parents come before their midpoints
    this.parents.forEach(([p, q], k) => {
      const to = (this.first + k) * itemSize
      for (let c = 0; c < itemSize; c++) values[to + c] = (values[p * itemSize + c]! + values[q * itemSize + c]!) / 2
    })
    return new BufferAttribute(values, itemSize)
  }
}

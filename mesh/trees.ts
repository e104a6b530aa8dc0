// What does a ray meet first among very many triangles, and how is that made ready quickly?
// Model: triangles are sorted into the cells of a coarse grid by their middles, each cell gets a bounding-volume tree, and a ray
// visits cells in the order it enters them, until the next begins behind the nearest hit. The grid takes the place of a big tree's
// upper levels at the cost of one pass. Space: world metres. Source: handbook-11 (floors and rays).
// Rejected: the tree library's parallel builder (its workers' start cost more than they saved at a million triangles, two cores).

import { BufferAttribute, BufferGeometry, DoubleSide, Vector3, type Intersection, type Ray as ThreeRay } from 'three'
import { MeshBVH } from 'three-mesh-bvh'

/** Triangles in a leaf: trees that are built quickly, with rays hardly slower (measured from 8 to 32); more in large models. */
const LEAF = { usual: 12, large: 28, largeFrom: 400_000 } as const
/** A cell holds about this many triangles; fewer are one cell. */
const CELL_TRIANGLES = 5_000
const MOST_CELLS_A_SIDE = 14

interface Cell {
  readonly tree: MeshBVH
  readonly min: readonly [number, number, number]
  readonly max: readonly [number, number, number]
}

export class Forest {
  private readonly cells: readonly Cell[]
  private readonly entries: Float64Array
  private readonly order: Uint16Array

  /** Builds the trees; `indices` is not changed. Linear but for the trees' depth. */
  constructor(positions: Float32Array, indices: Uint32Array) {
    const attribute = new BufferAttribute(positions, 3)
    const targetLeafSize = indices.length / 3 >= LEAF.largeFrom ? LEAF.large : LEAF.usual
    this.cells = partition(positions, indices).map((part) => {
      const geometry = new BufferGeometry()
      geometry.setAttribute('position', attribute)
      geometry.setIndex(new BufferAttribute(part, 1))
      const tree = new MeshBVH(geometry, { targetLeafSize })
      const { min, max } = geometry.boundingBox!
      return { tree, min: [min.x, min.y, min.z] as const, max: [max.x, max.y, max.z] as const }
    })
    this.entries = new Float64Array(this.cells.length)
    this.order = new Uint16Array(this.cells.length)
  }

  /** The nearest hit from either side within `far`, or null. */
  first(ray: ThreeRay, far: number): Intersection | null {
    const { cells, entries, order } = this
    let n = 0
    for (let i = 0; i < cells.length; i++) {
      const t = entry(ray, cells[i]!)
      if (t > far) continue
      // kept sorted by insertion: few cells are met
      let k = n++
      for (; k > 0 && entries[k - 1]! > t; k--) {
        entries[k] = entries[k - 1]!
        order[k] = order[k - 1]!
      }
      entries[k] = t
      order[k] = i
    }
    let best: Intersection | null = null
    for (let k = 0; k < n; k++) {
      const limit = best ? best.distance : far
      if (entries[k]! > limit) break
      const hit = cells[order[k]!]!.tree.raycastFirst(ray, DoubleSide, 0, limit)
      if (hit && (!best || hit.distance < best.distance)) best = hit
    }
    return best
  }

  /** Metres to the nearest triangle that counts, by its first corner and the point of it that is nearest; `far` where none is nearer. */
  nearest(point: Vector3, far: number, counts: (vertex: number, at: Vector3) => boolean): number {
    let best = far
    const near = new Vector3()
    for (const cell of this.cells) {
      if (apart2(point, cell) >= best * best) continue
      const index = cell.tree.geometry.index!
      cell.tree.shapecast({
        boundsTraverseOrder: (box) => box.distanceToPoint(point),
        intersectsBounds: (_box, _isLeaf, score) => score! < best,
        intersectsTriangle: (triangle, i) => {
          triangle.closestPointToPoint(point, near)
          const d = near.distanceTo(point)
          if (d < best && counts(index.getX(i * 3), near)) best = d
          return false
        },
      })
    }
    return best
  }
}

/** Squared distance of a point from a box. */
function apart2({ x, y, z }: Vector3, { min, max }: Pick<Cell, 'min' | 'max'>): number {
  const [a, b, c] = [Math.max(min[0] - x, 0, x - max[0]), Math.max(min[1] - y, 0, y - max[1]), Math.max(min[2] - z, 0, z - max[2])] // prettier-ignore
  return a * a + b * b + c * c
}

/** Distance at which a ray enters a box, 0 inside, Infinity when it misses. */
function entry({ origin, direction }: ThreeRay, { min, max }: Cell): number {
  let near = 0
  let far = Infinity
  for (let i = 0; i < 3; i++) {
    const o = i === 0 ? origin.x : i === 1 ? origin.y : origin.z
    const d = i === 0 ? direction.x : i === 1 ? direction.y : direction.z
    if (d === 0) {
      if (o < min[i]! || o > max[i]!) return Infinity
      continue
    }
    const a = (min[i]! - o) / d
    const b = (max[i]! - o) / d
    near = Math.max(near, Math.min(a, b))
    far = Math.min(far, Math.max(a, b))
  }
  // rounding must not lose a hit on a box without thickness
  return near <= far + 1e-9 * Math.max(1, Math.abs(far)) ? near * (1 - 1e-12) : Infinity
}

/** Corners of the triangles by cell; empty cells are left out. */
function partition(p: Float32Array, indices: Uint32Array): Uint32Array[] {
  const triangles = Math.floor(indices.length / 3)
  if (triangles <= CELL_TRIANGLES) return triangles === 0 ? [] : [indices.slice(0, triangles * 3)]
  const middles = new Float32Array(triangles * 3)
  const lo = [Infinity, Infinity, Infinity]
  const hi = [-Infinity, -Infinity, -Infinity]
  for (let t = 0; t < triangles; t++) {
    const a = indices[t * 3]! * 3
    const b = indices[t * 3 + 1]! * 3
    const c = indices[t * 3 + 2]! * 3
    for (let k = 0; k < 3; k++) {
      const v = Math.fround((p[a + k]! + p[b + k]! + p[c + k]!) / 3)
      middles[t * 3 + k] = v
      if (v < lo[k]!) lo[k] = v
      if (v > hi[k]!) hi[k] = v
    }
  }
  const [nx, ny, nz] = cellsOf(triangles, [hi[0]! - lo[0]!, hi[1]! - lo[1]!, hi[2]! - lo[2]!])
  const scale = [nx, ny, nz].map((n, k) => (hi[k]! > lo[k]! ? (n! * 0.999999) / (hi[k]! - lo[k]!) : 0))
  const cell = new Uint16Array(triangles)
  const counts = new Uint32Array(nx! * ny! * nz!)
  for (let t = 0; t < triangles; t++) {
    const x = Math.floor((middles[t * 3]! - lo[0]!) * scale[0]!)
    const y = Math.floor((middles[t * 3 + 1]! - lo[1]!) * scale[1]!)
    const z = Math.floor((middles[t * 3 + 2]! - lo[2]!) * scale[2]!)
    const at = (z * ny! + y) * nx! + x
    cell[t] = at
    counts[at]!++
  }
  const parts = [...counts].map((n) => new Uint32Array(n * 3))
  const filled = new Uint32Array(parts.length)
  for (let t = 0; t < triangles; t++) {
    const part = parts[cell[t]!]!
    const at = filled[cell[t]!]!
    part[at] = indices[t * 3]!
    part[at + 1] = indices[t * 3 + 1]!
    part[at + 2] = indices[t * 3 + 2]!
    filled[cell[t]!] = at + 3
  }
  return parts.filter((part) => part.length > 0)
}

/** Cells along each axis: as near to cubes as the extents allow, about as many as the triangles want. */
function cellsOf(triangles: number, size: readonly [number, number, number]): readonly number[] {
  const wanted = triangles / CELL_TRIANGLES
  const longest = Math.max(...size, 1e-12)
  const flat = size.map((s) => Math.max(s / longest, 0.05))
  const k = Math.cbrt(wanted / (flat[0]! * flat[1]! * flat[2]!))
  return flat.map((s) => Math.min(MOST_CELLS_A_SIDE, Math.max(1, Math.round(s * k))))
}

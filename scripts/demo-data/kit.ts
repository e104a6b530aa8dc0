// The small workshop that the demo's hall and lamp are made with: solids with softened edges, turned pieces, tubes, leaves.
// Space: metres, Z up, +Y north. Every solid is closed and wound counterclockwise from outside.

import { seededRandom } from '#core/base'
import type { Vec3 } from '#core/math'
import type { GltfNode, GltfPrimitive } from '#formats/gltf'

type Rgb = readonly [number, number, number]

/** Growing arrays of one material's triangles. */
class Soup {
  readonly positions: number[] = []
  readonly normals: number[] = []
  readonly uvs: number[] = []
  readonly colours: number[] = []
  readonly indices: number[] = []

  vertex(p: Vec3, n: Vec3, uv: readonly [number, number], c: Rgb): number {
    this.positions.push(...p)
    this.normals.push(...n)
    this.uvs.push(...uv)
    this.colours.push(Math.round(c[0] * 255), Math.round(c[1] * 255), Math.round(c[2] * 255), 255)
    return this.positions.length / 3 - 1
  }
  primitive(material: string): GltfPrimitive {
    return {
      material,
      positions: Float32Array.from(this.positions),
      normals: Float32Array.from(this.normals),
      uvs: Float32Array.from(this.uvs),
      colours: Uint8Array.from(this.colours),
      indices: Uint32Array.from(this.indices),
    }
  }
}

/** Rotation (three rows) and shift: local -> world. */
export interface Place {
  readonly rows: readonly [Vec3, Vec3, Vec3]
  readonly at: Vec3
}
const IDENTITY: Place = {
  rows: [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ],
  at: [0, 0, 0],
}
const rotate = (p: Place, v: Vec3): Vec3 => {
  const r = p.rows
  return [
    r[0][0] * v[0] + r[0][1] * v[1] + r[0][2] * v[2],
    r[1][0] * v[0] + r[1][1] * v[1] + r[1][2] * v[2],
    r[2][0] * v[0] + r[2][1] * v[1] + r[2][2] * v[2],
  ]
}
const column = (p: Place, i: 0 | 1 | 2): Vec3 => [p.rows[0][i], p.rows[1][i], p.rows[2][i]]
function chain(outer: Place, inner: Place): Place {
  const c = ([0, 1, 2] as const).map((i) => rotate(outer, column(inner, i)))
  const s = rotate(outer, inner.at)
  return {
    rows: [0, 1, 2].map((k) => [c[0]![k]!, c[1]![k]!, c[2]![k]!] as Vec3) as unknown as [Vec3, Vec3, Vec3],
    at: [s[0] + outer.at[0], s[1] + outer.at[1], s[2] + outer.at[2]],
  }
}
export const shift = (x: number, y: number, z: number): Place => ({ ...IDENTITY, at: [x, y, z] })
/** Turned about an axis by degrees, right-hand rule, then shifted. */
export function turn(axis: 'x' | 'y' | 'z', deg: number, at: Vec3 = [0, 0, 0]): Place {
  const c = Math.cos((deg * Math.PI) / 180)
  const s = Math.sin((deg * Math.PI) / 180)
  const rows = {
    x: [[1, 0, 0], [0, c, -s], [0, s, c]],
    y: [[c, 0, s], [0, 1, 0], [-s, 0, c]],
    z: [[c, -s, 0], [s, c, 0], [0, 0, 1]],
  }[axis] as unknown as Place['rows'] // prettier-ignore
  return { rows, at }
}

export interface BoxOptions {
  readonly bevel?: number
  /** Direction of the wood's grain. */
  readonly grain?: 'x' | 'y' | 'z'
}

/** Draws into one node; `material`, `tint` and the place can be changed as work goes on. */
export class Pen {
  private readonly soups = new Map<string, Soup>()
  private place: Place = IDENTITY
  private material = 'plaster'
  private colour: Rgb = [1, 1, 1]
  private readonly random: () => number
  readonly name: string
  readonly extras: Record<string, unknown>

  constructor(name: string, extras: Record<string, unknown> = {}, seed = hash(name)) {
    this.name = name
    this.extras = extras
    this.random = seededRandom(seed)
  }

  /** The material for what follows, with a tint that multiplies its colour. */
  use(material: string, tint: number | Rgb = 1): this {
    this.material = material
    this.colour = typeof tint === 'number' ? [tint, tint, tint] : tint
    return this
  }
  /** A random number in [a, b), repeatable for this node. */
  between(a: number, b: number): number {
    return a + (b - a) * this.random()
  }
  pick<T>(list: readonly T[]): T {
    return list[Math.floor(this.random() * list.length)]!
  }
  /** A tint near 1 with a slight warmth, for boards and bricks that are not all alike. */
  varied(depth = 0.18, warmth = 0.05): Rgb {
    const v = 1 - depth * this.random()
    const w = warmth * (this.random() - 0.5)
    return [Math.min(1, v * (1 + w)), Math.min(1, v), Math.min(1, Math.max(0, v * (1 - w)))]
  }
  within(place: Place, draw: () => void): void {
    const before = this.place
    this.place = chain(before, place)
    draw()
    this.place = before
  }

  private soup(): Soup {
    let s = this.soups.get(this.material)
    if (!s) this.soups.set(this.material, (s = new Soup()))
    return s
  }
  private put(s: Soup, p: Vec3, n: Vec3, uv: readonly [number, number]): number {
    const w = rotate(this.place, p)
    const at = this.place.at
    return s.vertex([w[0] + at[0], w[1] + at[1], w[2] + at[2]], rotate(this.place, n), uv, this.colour)
  }

  /** A box with rounded-looking edges: face normals are carried over the bevels. 44 triangles (12 without bevel). */
  box(x0: number, y0: number, z0: number, x1: number, y1: number, z1: number, options: BoxOptions = {}): this {
    const lo: Vec3 = [Math.min(x0, x1), Math.min(y0, y1), Math.min(z0, z1)]
    const hi: Vec3 = [Math.max(x0, x1), Math.max(y0, y1), Math.max(z0, z1)]
    const size = [hi[0] - lo[0], hi[1] - lo[1], hi[2] - lo[2]]
    const bevel = Math.min(options.bevel ?? 0.004, Math.min(...size) * 0.45)
    const longest = size.indexOf(Math.max(...size))
    const grain = options.grain ? 'xyz'.indexOf(options.grain) : longest
    const u0 = this.random()
    const v0 = this.random()
    const s = this.soup()
    // vertex [axis][corner]: the corner's point moved inward along the two other axes, with the normal of the axis
    const ids: number[][] = [0, 1, 2].map((axis) =>
      Array.from({ length: 8 }, (_, c) => {
        const p = [0, 1, 2].map((k) => {
          const high = (c >> k) & 1
          const inset = k === axis ? 0 : bevel
          return high ? hi[k]! - inset : lo[k]! + inset
        }) as unknown as Vec3
        const n = [0, 0, 0]
        n[axis] = (c >> axis) & 1 ? 1 : -1
        const along = grain === axis ? (axis + 1) % 3 : grain
        const across = 3 - axis - along
        return this.put(s, p, n as unknown as Vec3, [u0 + p[along]! / 1.2, v0 + p[across]! / 0.6])
      }),
    )
    const tri = (a: number, b: number, c: number): void => void s.indices.push(a, b, c)
    const quad = (a: number, b: number, c: number, d: number): void => {
      tri(a, b, c)
      tri(a, c, d)
    }
    for (let axis = 0; axis < 3; axis++) {
      const j = (axis + 1) % 3
      const k = (axis + 2) % 3
      const f = ids[axis]!
      const at = (a: number, b: number, c: number): number => (a << axis) | (b << j) | (c << k)
      quad(f[at(1, 0, 0)]!, f[at(1, 1, 0)]!, f[at(1, 1, 1)]!, f[at(1, 0, 1)]!)
      quad(f[at(0, 0, 0)]!, f[at(0, 0, 1)]!, f[at(0, 1, 1)]!, f[at(0, 1, 0)]!)
      if (bevel <= 0) continue
      // the four edges parallel to this axis, between the faces of j and k
      for (const [b, c] of [
        [0, 0],
        [0, 1],
        [1, 0],
        [1, 1],
      ] as const) {
        const J = ids[j]!
        const K = ids[k]!
        const [p, q] = [at(0, b, c), at(1, b, c)]
        if (b === c) quad(J[p]!, K[p]!, K[q]!, J[q]!)
        else quad(K[p]!, J[p]!, J[q]!, K[q]!)
      }
    }
    if (bevel > 0)
      for (let c = 0; c < 8; c++) {
        const odd = ((c & 1) + ((c >> 1) & 1) + ((c >> 2) & 1)) % 2 === 1
        if (odd) tri(ids[0]![c]!, ids[1]![c]!, ids[2]![c]!)
        else tri(ids[0]![c]!, ids[2]![c]!, ids[1]![c]!)
      }
    return this
  }

  /** A box by centre and size. */
  block(cx: number, cy: number, cz: number, sx: number, sy: number, sz: number, options?: BoxOptions): this {
    return this.box(cx - sx / 2, cy - sy / 2, cz - sz / 2, cx + sx / 2, cy + sy / 2, cz + sz / 2, options)
  }

  /** A square-section bar between two points, `w` wide and `h` high (h along the most vertical direction). */
  bar(a: Vec3, b: Vec3, w: number, h: number, options?: BoxOptions): this {
    const d: Vec3 = [b[0] - a[0], b[1] - a[1], b[2] - a[2]]
    const l = Math.hypot(...d)
    const x: Vec3 = [d[0] / l, d[1] / l, d[2] / l]
    const flat = Math.hypot(x[0], x[1])
    const y: Vec3 = flat > 1e-6 ? [-x[1] / flat, x[0] / flat, 0] : [0, 1, 0]
    const z: Vec3 = [x[1] * y[2] - x[2] * y[1], x[2] * y[0] - x[0] * y[2], x[0] * y[1] - x[1] * y[0]]
    const rows = [0, 1, 2].map((k) => [x[k]!, y[k]!, z[k]!] as Vec3) as unknown as Place['rows']
    this.within({ rows, at: a }, () => this.box(0, -w / 2, -h / 2, l, w / 2, h / 2, { grain: 'x', ...options }))
    return this
  }

  /**
   * A turned piece about the Z axis through (cx, cy): profile of [radius, z] from bottom to top on the outside. Corners sharper
   * than `creaseDeg` stay sharp. A profile that returns to its start (or ends on the axis) is closed.
   */
  lathe(
    cx: number,
    cy: number,
    profile: readonly (readonly [number, number])[],
    segments = 24,
    creaseDeg = 35,
    wave?: (a: number) => number,
  ): this {
    const s = this.soup()
    const n = profile.length - 1
    const dirs = profile.slice(0, n).map((p, i) => {
      const q = profile[i + 1]!
      const l = Math.hypot(q[0] - p[0], q[1] - p[1]) || 1
      return [(q[1] - p[1]) / l, -(q[0] - p[0]) / l] as const
    })
    const closed = profile[0]![0] === profile[n]![0] && profile[0]![1] === profile[n]![1]
    const cosCrease = Math.cos((creaseDeg * Math.PI) / 180)
    const normalAt = (seg: number, end: 0 | 1): readonly [number, number] => {
      const own = dirs[seg]!
      let other = seg + (end ? 1 : -1)
      if (closed) other = (other + n) % n
      const next = dirs[other]
      if (!next || own[0] * next[0] + own[1] * next[1] < cosCrease) return own
      const x = own[0] + next[0]
      const y = own[1] + next[1]
      const l = Math.hypot(x, y) || 1
      return [x / l, y / l]
    }
    const u0 = this.random()
    let v = this.random()
    for (let i = 0; i < n; i++) {
      const p = profile[i]!
      const q = profile[i + 1]!
      const run = Math.hypot(q[0] - p[0], q[1] - p[1]) / 0.6
      const rings = [p, q].map((pt, end) => {
        const nr = normalAt(i, end as 0 | 1)
        return Array.from({ length: segments + 1 }, (_, k) => {
          const a = (k % segments) * ((2 * Math.PI) / segments)
          const r = pt[0] * (wave ? wave(a) : 1)
          const c = Math.cos(a)
          const si = Math.sin(a)
          return this.put(
            s,
            [cx + c * r, cy + si * r, pt[1]],
            [c * nr[0], si * nr[0], nr[1]],
            [u0 + ((k / segments) * Math.PI * 2 * Math.max(p[0], q[0])) / 1.2, v + end * run],
          )
        })
      })
      v += run
      const [a, b] = rings as [number[], number[]]
      for (let k = 0; k < segments; k++) {
        if (p[0] > 0) s.indices.push(a[k]!, a[k + 1]!, b[k]!)
        if (q[0] > 0) s.indices.push(a[k + 1]!, b[k + 1]!, b[k]!)
      }
    }
    return this
  }

  cylinder(cx: number, cy: number, z0: number, z1: number, r: number, segments = 20, bevel = 0.002): this {
    const b = Math.min(bevel, r * 0.4, (z1 - z0) * 0.4)
    return this.lathe(cx, cy, [[0, z0], [r - b, z0], [r, z0 + b], [r, z1 - b], [r - b, z1], [0, z1]], segments, 50) // prettier-ignore
  }

  ball(c: Vec3, r: number, segments = 12): this {
    const half = Math.max(3, Math.round(segments / 2))
    const profile = Array.from({ length: half + 1 }, (_, i) => {
      const a = (i / half) * Math.PI - Math.PI / 2
      return [i === 0 || i === half ? 0 : Math.cos(a) * r, c[2] + Math.sin(a) * r] as const
    })
    return this.lathe(c[0], c[1], profile, segments, 180)
  }

  /** A round rod through points, capped; bends are mitred. */
  tube(points: readonly Vec3[], r: number, segments = 8): this {
    const s = this.soup()
    const unit = (v: Vec3): Vec3 => {
      const l = Math.hypot(...v) || 1
      return [v[0] / l, v[1] / l, v[2] / l]
    }
    const minus = (a: Vec3, b: Vec3): Vec3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]]
    const crossed = (a: Vec3, b: Vec3): Vec3 => [
      a[1] * b[2] - a[2] * b[1],
      a[2] * b[0] - a[0] * b[2],
      a[0] * b[1] - a[1] * b[0],
    ]
    let side: Vec3 | null = null
    const rings: number[][] = []
    points.forEach((p, i) => {
      const before = points[i - 1] ?? p
      const after = points[i + 1] ?? p
      const t = unit(minus(after, before))
      const ref: Vec3 = side ?? (Math.abs(t[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0])
      const b = unit(crossed(t, ref))
      const n = unit(crossed(b, t))
      side = n
      rings.push(
        Array.from({ length: segments }, (_, k) => {
          const a = (k * 2 * Math.PI) / segments
          const d: Vec3 = [0, 1, 2].map((m) => b[m]! * Math.cos(a) + n[m]! * Math.sin(a)) as unknown as Vec3
          return this.put(s, [p[0] + d[0] * r, p[1] + d[1] * r, p[2] + d[2] * r], d, [k / segments, i])
        }),
      )
    })
    for (let i = 0; i + 1 < rings.length; i++)
      for (let k = 0; k < segments; k++) {
        const [a, b] = [rings[i]!, rings[i + 1]!]
        const m = (k + 1) % segments
        s.indices.push(a[k]!, b[k]!, b[m]!, a[k]!, b[m]!, a[m]!)
      }
    for (const [ring, end] of [
      [rings[0]!, 0],
      [rings.at(-1)!, 1],
    ] as const)
      for (let k = 1; k + 1 < segments; k++)
        if (end) s.indices.push(ring[0]!, ring[k + 1]!, ring[k]!)
        else s.indices.push(ring[0]!, ring[k]!, ring[k + 1]!)
    return this
  }

  /** A prism over a convex polygon in the plane square to `axis`, from a to b along it. */
  prism(axis: 'x' | 'y' | 'z', polygon: readonly (readonly [number, number])[], a: number, b: number): this {
    const s = this.soup()
    const at = (p: readonly [number, number], d: number): Vec3 =>
      axis === 'x' ? [d, p[0], p[1]] : axis === 'y' ? [p[0], d, p[1]] : [p[0], p[1], d]
    let area = 0
    polygon.forEach((p, i) => {
      const q = polygon[(i + 1) % polygon.length]!
      area += p[0] * q[1] - q[0] * p[1]
    })
    // (y, z), (z, x) and (x, y) are right-handed pairs; (x, z) is not
    const ccw = (axis === 'y' ? -area : area) > 0
    const pts = ccw ? polygon : [...polygon].reverse()
    const n = (d: number): Vec3 => (axis === 'x' ? [d, 0, 0] : axis === 'y' ? [0, d, 0] : [0, 0, d])
    const u0 = this.random()
    const cap = (d: number, sign: number): void => {
      const ids = pts.map((p) => this.put(s, at(p, d), n(sign), [u0 + p[0] / 1.2, p[1] / 0.6]))
      for (let i = 1; i + 1 < ids.length; i++)
        if (sign > 0) s.indices.push(ids[0]!, ids[i]!, ids[i + 1]!)
        else s.indices.push(ids[0]!, ids[i + 1]!, ids[i]!)
    }
    cap(b, 1)
    cap(a, -1)
    pts.forEach((p, i) => {
      const q = pts[(i + 1) % pts.length]!
      const l = Math.hypot(q[0] - p[0], q[1] - p[1]) || 1
      const d: readonly [number, number] = [(q[0] - p[0]) / l, (q[1] - p[1]) / l]
      const out = axis === 'y' ? at([-d[1], d[0]], 0) : at([d[1], -d[0]], 0)
      const ids = [at(p, a), at(q, a), at(q, b), at(p, b)].map((v, k) =>
        this.put(s, v, out, [u0 + (k === 1 || k === 2 ? l : 0) / 1.2, (k > 1 ? b - a : 0) / 0.6]),
      )
      s.indices.push(ids[0]!, ids[1]!, ids[2]!, ids[0]!, ids[2]!, ids[3]!)
    })
    return this
  }

  /** A thin leaf: a bent, pointed strip seen from both sides, from `base` along `dir` (unit), drooping. */
  leaf(base: Vec3, dir: Vec3, length: number, width: number, droop: number): this {
    const s = this.soup()
    const flat = Math.hypot(dir[0], dir[1]) || 1
    const side: Vec3 = [-dir[1] / flat, dir[0] / flat, 0]
    const rows: [number, number][] = []
    const steps = 4
    for (let i = 0; i <= steps; i++) {
      const t = i / steps
      const w = width * Math.sin(Math.PI * Math.pow(t, 0.75)) * 0.5
      const p: Vec3 = [
        base[0] + dir[0] * length * t,
        base[1] + dir[1] * length * t,
        base[2] + dir[2] * length * t - droop * t * t,
      ]
      const slope = -2 * droop * t + dir[2] * length
      const nl = Math.hypot(flat * length, slope)
      const n: Vec3 = [(-dir[0] / flat) * (slope / nl), (-dir[1] / flat) * (slope / nl), (flat * length) / nl]
      rows.push([
        this.put(s, [p[0] - side[0] * w, p[1] - side[1] * w, p[2]], n, [0, t]),
        this.put(s, [p[0] + side[0] * w, p[1] + side[1] * w, p[2]], n, [1, t]),
      ])
    }
    for (let i = 0; i < steps; i++) {
      const [a, b] = rows[i]!
      const [c, d] = rows[i + 1]!
      s.indices.push(a, d, b, a, c, d)
    }
    return this
  }

  node(): GltfNode {
    const primitives = [...this.soups].filter(([, s]) => s.indices.length > 0).map(([m, s]) => s.primitive(m))
    return { name: this.name, ...(Object.keys(this.extras).length ? { extras: this.extras } : {}), primitives }
  }
}

/** A small string hash (FNV-1a) for seeds. */
function hash(text: string): number {
  let h = 0x811c9dc5
  for (let i = 0; i < text.length; i++) h = Math.imul(h ^ text.charCodeAt(i), 0x01000193)
  return h >>> 0
}

export function trianglesOf(nodes: readonly GltfNode[]): number {
  return nodes.reduce(
    (n, node) =>
      n + (node.primitives ?? []).reduce((m, p) => m + p.indices.length / 3, 0) + trianglesOf(node.children ?? []),
    0,
  )
}

import { describe, expect, it } from 'vitest'
import type { GltfNode, GltfPrimitive } from '#formats/gltf'
import { Pen, shift, trianglesOf, turn } from './kit.ts'
import { lampScene } from './lamp.ts'

interface Solid {
  /** Signed volume by the divergence theorem: positive when triangles are wound outwards. */
  readonly volume: number
  /** Edges (by position) that are not used once in each direction. */
  readonly openEdges: number
  /** Triangles whose vertex normals point against their winding. */
  readonly flipped: number
}

function measure(primitives: readonly GltfPrimitive[]): Solid {
  let volume = 0
  let flipped = 0
  const edges = new Map<string, number>()
  for (const p of primitives) {
    const at = (i: number): [number, number, number] => [
      p.positions[i * 3]!,
      p.positions[i * 3 + 1]!,
      p.positions[i * 3 + 2]!,
    ]
    const key = (i: number): string => at(i).map((v) => Math.round(v * 1e5)).join(',') // prettier-ignore
    for (let t = 0; t < p.indices.length; t += 3) {
      const ids = [p.indices[t]!, p.indices[t + 1]!, p.indices[t + 2]!]
      const [a, b, c] = ids.map(at) as [[number, number, number], [number, number, number], [number, number, number]]
      const u = b.map((v, k) => v - a[k]!)
      const w = c.map((v, k) => v - a[k]!)
      const n = [u[1]! * w[2]! - u[2]! * w[1]!, u[2]! * w[0]! - u[0]! * w[2]!, u[0]! * w[1]! - u[1]! * w[0]!]
      volume += (a[0] * n[0]! + a[1] * n[1]! + a[2] * n[2]!) / 6
      const mean = [0, 1, 2].map((k) => ids.reduce((s, i) => s + p.normals[i * 3 + k]!, 0))
      if (n[0]! * mean[0]! + n[1]! * mean[1]! + n[2]! * mean[2]! < -1e-12) flipped++
      ids.forEach((i, k) => {
        const [from, to] = [key(i), key(ids[(k + 1) % 3]!)]
        if (from === to) return
        const name = from < to ? `${from}|${to}` : `${to}|${from}`
        edges.set(name, (edges.get(name) ?? 0) + (from < to ? 1 : -1))
      })
    }
  }
  return { volume, flipped, openEdges: [...edges.values()].filter((v) => v !== 0).length }
}
const solid = (draw: (pen: Pen) => void): Solid => {
  const pen = new Pen('test')
  draw(pen.use('oak'))
  return measure(pen.node().primitives!)
}
const whole = { openEdges: 0, flipped: 0 }

describe('the workshop’s solids are closed, wound outwards, and of the right volume', () => {
  it('a box with and without softened edges', () => {
    const plain = solid((p) => p.box(1, 2, 3, 3, 5, 4, { bevel: 0 }))
    expect(plain).toMatchObject({ ...whole, volume: expect.closeTo(6, 6) })
    const soft = solid((p) => p.box(1, 2, 3, 3, 5, 4, { bevel: 0.1 }))
    expect(soft).toMatchObject(whole)
    // a bevel of b takes b^2 / 2 along each of the twelve edges, a little less at the corners
    const edges = 4 * (2 + 3 + 1)
    expect(soft.volume).toBeGreaterThan(6 - (edges * 0.01) / 2 - 1e-9)
    expect(soft.volume).toBeLessThan(6 - ((edges - 24 * 0.1) * 0.01) / 2)
  })
  it('a box whose corners come in any order, and a bar along any direction', () => {
    expect(solid((p) => p.box(3, 5, 4, 1, 2, 3, { bevel: 0 })).volume).toBeCloseTo(6, 6)
    for (const to of [
      [2, 0, 0],
      [0, 0, 2],
      [1, -1, 1.4142],
    ] as const) {
      const bar = solid((p) => p.bar([0, 0, 0], to, 0.2, 0.1, { bevel: 0 }))
      expect(bar).toMatchObject(whole)
      expect(bar.volume).toBeCloseTo(0.02 * Math.hypot(...to), 5)
    }
  })
  it('turned pieces: a cylinder, a cone, a ball, a ring', () => {
    const n = 48
    const polygon = (n / 2) * Math.sin((2 * Math.PI) / n)
    const cylinder = solid((p) => p.lathe(1, 1, [[0, 0], [0.5, 0], [0.5, 2], [0, 2]], n)) // prettier-ignore
    expect(cylinder).toMatchObject({ ...whole, volume: expect.closeTo(polygon * 0.25 * 2, 5) })
    const cone = solid((p) => p.lathe(0, 0, [[0, 0], [0.5, 0], [0, 3]], n)) // prettier-ignore
    expect(cone).toMatchObject({ ...whole, volume: expect.closeTo(polygon * 0.25, 5) })
    const ball = solid((p) => p.ball([1, 2, 3], 0.5, 40))
    expect(ball).toMatchObject(whole)
    expect(ball.volume / ((4 / 3) * Math.PI * 0.125)).toBeGreaterThan(0.97)
    // Pappus: area of the section times the way of its middle
    const ring = solid((p) => p.lathe(0, 0, [[1, 0], [1.2, 0], [1.2, 0.2], [1, 0.2], [1, 0]], n)) // prettier-ignore
    expect(ring).toMatchObject(whole)
    expect(ring.volume).toBeCloseTo(polygon * (1.44 - 1) * 0.2, 5)
  })
  it('prisms square to each axis, clockwise or not', () => {
    const triangle = [[0, 0], [2, 0], [0, 1]] as const // prettier-ignore
    for (const axis of ['x', 'y', 'z'] as const) {
      expect(solid((p) => p.prism(axis, triangle, 1, 4))).toMatchObject({ ...whole, volume: expect.closeTo(3, 6) })
      expect(solid((p) => p.prism(axis, [...triangle].reverse(), 1, 4)).volume).toBeCloseTo(3, 6)
    }
  })
  it('tubes, straight and bent', () => {
    const n = 12
    const area = (n / 2) * Math.sin((2 * Math.PI) / n) * 0.01
    expect(solid((p) => p.tube([[0, 0, 0], [0, 0, 2]], 0.1, n))).toMatchObject({ ...whole, volume: expect.closeTo(area * 2, 5) }) // prettier-ignore
    const bent = solid((p) => p.tube([[0, 0, 0], [0, 0, 1], [0.5, 0, 1.5], [2, 0, 1.5]], 0.05, n)) // prettier-ignore
    expect(bent.openEdges).toBe(0)
    expect(bent.volume).toBeGreaterThan(0)
  })
  it('stays whole when placed and turned', () => {
    const placed = solid((p) =>
      p.within(shift(4, 0, 0), () =>
        p.within(turn('x', 33, [0, 1, 0]), () => p.box(0, 0, 0, 1, 1, 1, { bevel: 0.05 })),
      ),
    )
    expect(placed).toMatchObject(whole)
    expect(placed.volume).toBeGreaterThan(0.97)
  })
})

describe('a node', () => {
  it('repeats exactly for the same name and differs for another', () => {
    const colours = (name: string): Uint8Array => {
      const pen = new Pen(name)
      for (let i = 0; i < 4; i++) pen.use('oak', pen.varied(0.4)).box(i, 0, 0, i + 1, 1, 1)
      return pen.node().primitives![0]!.colours
    }
    expect(colours('a')).toEqual(colours('a'))
    expect(colours('a')).not.toEqual(colours('b'))
  })
  it('counts its triangles, those of its children too', () => {
    const box = new Pen('box').use('oak').box(0, 0, 0, 1, 1, 1, { bevel: 0 }).node()
    const tree: GltfNode = { name: 'group', children: [box, { name: 'inner', children: [box] }] }
    expect(trianglesOf([tree])).toBe(24)
  })
})

it('the lamp’s turned pieces are closed (its leaves and the seedlings’ are open by nature)', () => {
  const closed = lampScene().filter((n) => ['Seed tin', 'Dibber', 'Oak slab', 'Backdrop'].includes(n.name))
  expect(closed).toHaveLength(4)
  for (const node of closed) expect(measure(node.primitives!).volume, node.name).toBeGreaterThan(0)
})

import { describe, expect, it } from 'vitest'
import type { Vec3 } from '../math/index.ts'
import { sectionArea, sliceChains, sliceMesh, sliceTree, type Mesh } from './index.ts'

const mesh = (positions: readonly number[], indices: readonly number[]): Mesh => ({
  positions: Float64Array.from(positions),
  indices: Uint32Array.from(indices),
})
/** A box, its faces outwards. */
function box(min: Vec3, max: Vec3): Mesh {
  const p: number[] = []
  for (let i = 0; i < 8; i++) p.push(i & 1 ? max[0] : min[0], i & 2 ? max[1] : min[1], i & 4 ? max[2] : min[2])
  const quads = [[0, 2, 3, 1], [4, 5, 7, 6], [0, 1, 5, 4], [2, 6, 7, 3], [0, 4, 6, 2], [1, 3, 7, 5]] // prettier-ignore
  return mesh(
    p,
    quads.flatMap(([a, b, c, d]) => [a!, b!, c!, a!, c!, d!]),
  )
}
const join = (...all: readonly Mesh[]): Mesh => {
  let before = 0
  const indices: number[] = []
  for (const m of all) {
    indices.push(...[...m.indices].map((i) => i + before))
    before += m.positions.length / 3
  }
  return mesh(
    all.flatMap((m) => [...m.positions]),
    indices,
  )
}
/** A surface in rings, each joined to the next; `at` in radians. */
function lathe(around: number, along: number, at: (u: number, v: number) => Vec3, wraps: boolean): Mesh {
  const p: number[] = []
  const q: number[] = []
  const rows = wraps ? along : along + 1
  for (let j = 0; j < rows; j++) for (let i = 0; i < around; i++) p.push(...at((2 * Math.PI * i) / around, j / along))
  for (let j = 0; j < along; j++)
    for (let i = 0; i < around; i++) {
      const [a, b] = [j * around + i, j * around + ((i + 1) % around)]
      const up = ((j + 1) % rows) * around
      const [c, d] = [up + i, up + ((i + 1) % around)]
      q.push(a, b, d, a, d, c)
    }
  return mesh(p, q)
}
const sphere = (r: number, n: number): Mesh =>
  lathe(
    n,
    n / 2,
    (u, v) => {
      const [s, c] = [Math.sin(Math.PI * v), -Math.cos(Math.PI * v)]
      const flat = v === 0 || v === 1 ? 0 : s
      return [r * flat * Math.cos(u), r * flat * Math.sin(u), r * (v === 0 ? -1 : v === 1 ? 1 : c)]
    },
    false,
  )
const torus = (R: number, r: number, n: number): Mesh =>
  lathe(
    n,
    n,
    (u, v) => {
      const w = R + r * Math.cos(2 * Math.PI * v)
      return [w * Math.cos(u), w * Math.sin(u), r * Math.sin(2 * Math.PI * v)]
    },
    true,
  )
const areaOf = (m: Mesh, point: Vec3, normal: Vec3): number =>
  sectionArea(sliceMesh(m, { point, normal }).loops, normal)

describe('sections of meshes', () => {
  const cube = box([0, 0, 0], [1, 1, 1])
  it('is the limit from the kept side: the cube’s face z = 1 has area 1 with +Z and none with -Z (handbook-8)', () => {
    expect(areaOf(cube, [0, 0, 1], [0, 0, 1])).toBeCloseTo(1, 12)
    expect(sliceMesh(cube, { point: [0, 0, 1], normal: [0, 0, -1] })).toEqual({ loops: [], open: [] })
    expect(areaOf(cube, [0, 0, 0], [0, 0, -1])).toBeCloseTo(1, 12)
    expect(areaOf(cube, [0, 0, 0], [0, 0, 1])).toBe(0)
  })
  it('runs counterclockwise outside and clockwise round holes, seen from the normal’s tip; the first point is not repeated', () => {
    const inner = box([0.25, 0.25, 0.25], [0.75, 0.75, 0.75])
    const hollow = join(cube, { ...inner, indices: inner.indices.slice().reverse() })
    for (const normal of [
      [0, 0, 1],
      [0, 0, -1],
      [1, 0, 0],
      [0, -1, 0],
    ] as Vec3[]) {
      const { loops, open } = sliceMesh(hollow, { point: [0.5, 0.5, 0.5], normal })
      expect(open).toEqual([])
      expect(loops).toHaveLength(2)
      const areas = loops.map((l) => signedArea(l, normal)).sort((p, q) => q - p)
      expect(areas[0]).toBeCloseTo(1, 12)
      expect(areas[1]).toBeCloseTo(-0.25, 12)
      for (const l of loops) expect(l[0]).not.toEqual(l.at(-1))
      expect(sectionArea(loops, normal)).toBeCloseTo(0.75, 9)
    }
  })
  it('sphere: the circle of radius sqrt(r2 - h2) (handbook-8)', () => {
    const n = 256
    for (const h of [0, 0.3, -0.7, 0.95]) {
      const area = areaOf(sphere(1, n), [0, 0, h], [0, 0, 1])
      expect(area / (Math.PI * (1 - h * h))).toBeCloseTo(1, 2)
      expect(area).toBeLessThan(Math.PI * (1 - h * h))
    }
  })
  it('torus R 2, r 0.7: equator 17.5929, through the axis 3.0788, bitangent plane 10.9669 (handbook-8)', () => {
    const t = torus(2, 0.7, 512)
    expect(areaOf(t, [0, 0, 0], [0, 0, 1])).toBeCloseTo(17.5929, 2)
    expect(areaOf(t, [0, 0, 0], [1, 0.001, 0])).toBeCloseTo(3.0788, 2)
    // the plane through the middle that touches the tube above and below: Villarceau's two circles
    const a = Math.asin(0.7 / 2)
    expect(areaOf(t, [0, 0, 0], [Math.sin(a), 0, Math.cos(a)])).toBeCloseTo(10.9669, 1)
  })
  it('a cylinder cut aslant is an ellipse of area pi r2 / cos', () => {
    const tube = lathe(720, 3, (u, v) => [Math.cos(u) * (v % 1 === 0 ? 0 : 1), Math.sin(u) * (v % 1 === 0 ? 0 : 1), v < 0.5 ? -3 : 3], false) // prettier-ignore
    for (const deg of [0, 20, 50]) {
      const a = (deg * Math.PI) / 180
      expect(areaOf(tube, [0, 0, 0.1], [Math.sin(a), 0, Math.cos(a)])).toBeCloseTo(Math.PI / Math.cos(a), 3)
    }
  })
  it('overlapping and doubled solids count once; even-odd would take the overlap away', () => {
    const two = join(cube, box([0.5, 0.5, 0], [1.5, 1.5, 1]))
    const { loops } = sliceMesh(two, { point: [0, 0, 0.5], normal: [0, 0, 1] })
    expect(sectionArea(loops, [0, 0, 1])).toBeCloseTo(1.75, 9)
    expect(sectionArea(loops, [0, 0, 1], 'evenOdd')).toBeCloseTo(1.5, 9)
    expect(areaOf(join(cube, cube), [0, 0, 0.5], [0, 0, 1])).toBeCloseTo(1, 9)
    // side by side, sharing a face
    expect(areaOf(join(cube, box([1, 0, 0], [2, 1, 1])), [0, 0, 0.5], [0, 0, 1])).toBeCloseTo(2, 9)
  })
  it('doubled and empty triangles change nothing; what is not closed comes open', () => {
    const doubled = { ...cube, indices: Uint32Array.from([...cube.indices, ...cube.indices, 0, 0, 7, 3, 3, 3]) }
    expect(sliceMesh(doubled, { point: [0, 0, 0.4], normal: [0, 0, 1] }).loops).toHaveLength(1)
    expect(areaOf(doubled, [0, 0, 0.4], [0, 0, 1])).toBeCloseTo(1, 12)
    // without its side at x = 1
    const lidless = { ...cube, indices: cube.indices.slice(0, 30) }
    const { loops, open } = sliceMesh(lidless, { point: [0, 0, 0.4], normal: [0, 0, 1] })
    expect(loops).toEqual([])
    expect(open).toHaveLength(1)
    expect(open[0]!.map(([x]) => x)).toEqual(expect.arrayContaining([0, 1]))
  })
  it('triangles turned the wrong way are told, and the line is closed all the same', () => {
    const q = cube.indices.slice()
    ;[q[13], q[14]] = [q[14]!, q[13]!]
    const chains = sliceChains(sliceTree({ ...cube, indices: q }), { point: [0, 0, 0.4], normal: [0, 0, 1] })
    expect(chains).toHaveLength(1)
    expect(chains[0]).toMatchObject({ isClosed: true, isOriented: false })
  })
  it('objects stay apart', () => {
    const two = join(cube, box([1, 0, 0], [2, 1, 1]))
    const groups = Uint32Array.from({ length: 16 }, (_, i) => (i < 8 ? 0 : 1))
    const chains = sliceChains(sliceTree(two, groups), { point: [0, 0, 0.4], normal: [0, 0, 1] })
    expect(chains.map((c) => c.group).sort()).toEqual([0, 1])
  })
  it('planes through corners, edges and faces, in 124 directions through nine places: closed, and no jump to a hair before', () => {
    const steps = [-2, -1, 0, 1, 2]
    for (const a of steps)
      for (const b of steps)
        for (const c of steps)
          for (const x of [0, 0.5, 1])
            for (const z of [0, 0.5, 1]) {
              const n: Vec3 = [a, b, c]
              if (a === 0 && b === 0 && c === 0) continue
              const { loops, open } = sliceMesh(cube, { point: [x, 0.5, z], normal: n })
              const before = areaOf(cube, [x - 1e-7 * a, 0.5 - 1e-7 * b, z - 1e-7 * c], n)
              expect(open).toEqual([])
              expect(Math.abs(sectionArea(loops, n) - before)).toBeLessThan(1e-5)
            }
  })
  it('refuses a direction of no length', () => {
    expect(() => sliceMesh(cube, { point: [0, 0, 0], normal: [0, 0, 0] })).toThrow(RangeError)
  })
})

function signedArea(loop: readonly Vec3[], n: Vec3): number {
  let sum = 0
  loop.forEach((p, i) => {
    const q = loop[(i + 1) % loop.length]!
    sum += n[0] * (p[1] * q[2] - p[2] * q[1]) + n[1] * (p[2] * q[0] - p[0] * q[2]) + n[2] * (p[0] * q[1] - p[1] * q[0])
  })
  return sum / 2 / Math.hypot(...n)
}

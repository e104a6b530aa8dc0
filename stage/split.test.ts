import { BufferAttribute, BufferGeometry, PlaneGeometry, Triangle, Vector3 } from 'three'
import { describe, expect, it, vi } from 'vitest'
import { longestEdge, withoutLongEdges } from './split.ts'

const trianglesOf = (g: BufferGeometry): [number, number, number][] => {
  const n = g.index?.count ?? g.getAttribute('position').count
  const at = (k: number): number => g.index?.getX(k) ?? k
  return Array.from({ length: n / 3 }, (_, i) => [at(i * 3), at(i * 3 + 1), at(i * 3 + 2)])
}
const pointOf = (g: BufferGeometry, i: number): Vector3 =>
  new Vector3().fromBufferAttribute(g.getAttribute('position'), i)
function areaOf(g: BufferGeometry): number {
  return trianglesOf(g).reduce((sum, t) => sum + new Triangle(...(t.map((i) => pointOf(g, i)) as [Vector3, Vector3, Vector3])).getArea(), 0) // prettier-ignore
}
const edgesOf = (g: BufferGeometry): [Vector3, Vector3][] =>
  trianglesOf(g).flatMap(([a, b, c]) => [[a, b], [b, c], [c, a]].map(([p, q]) => [pointOf(g, p!), pointOf(g, q!)] as [Vector3, Vector3])) // prettier-ignore

describe('long triangles in pieces', () => {
  it('leaves a geometry without long edges as it is', () => {
    const g = new PlaneGeometry(2, 2)
    expect(withoutLongEdges(g, 4)).toBe(g)
    // longer than its box allows, but no edge of it is
    const fine = new PlaneGeometry(20, 20, 10, 10)
    expect(withoutLongEdges(fine, 4)).toBe(fine)
  })
  it('keeps surface, sides and what is written at the corners, and leaves no gap', () => {
    const g = new PlaneGeometry(18, 5)
    const made = withoutLongEdges(g, 4)
    expect(areaOf(made)).toBeCloseTo(90, 4)
    expect(Math.max(...edgesOf(made).map(([a, b]) => a.distanceTo(b)))).toBeLessThanOrEqual(4)
    for (let i = 0; i < made.getAttribute('position').count; i++) {
      const p = pointOf(made, i)
      expect(made.getAttribute('uv').getX(i)).toBeCloseTo(p.x / 18 + 0.5, 5)
      expect(made.getAttribute('uv').getY(i)).toBeCloseTo(p.y / 5 + 0.5, 5)
      expect(made.getAttribute('normal').getZ(i)).toBe(1)
    }
    for (const t of trianglesOf(made)) {
      const n = new Triangle(...(t.map((i) => pointOf(made, i)) as [Vector3, Vector3, Vector3])).getNormal(
        new Vector3(),
      )
      expect(n.z).toBeCloseTo(1, 6)
    }
    // each edge inside belongs to two triangles: none ends in the middle of another
    const count = new Map<string, number>()
    for (const [a, b] of edgesOf(made)) {
      const k = [a, b].map((p) => p.toArray().join()).sort().join('|') // prettier-ignore
      count.set(k, (count.get(k) ?? 0) + 1)
    }
    for (const [k, n] of count) {
      const [a, b] = k.split('|').map((p) => p.split(',').map(Number)) as [number[], number[]]
      const rim = (Math.abs(a[0]!) === 9 && a[0] === b[0]) || (Math.abs(a[1]!) === 2.5 && a[1] === b[1])
      expect(n).toBe(rim ? 1 : 2)
    }
  })
  it('stays with the whole ones where pieces would be too many, or a corner is no number', () => {
    const g = new PlaneGeometry(18, 5)
    const budget = { left: 10 }
    expect(withoutLongEdges(g, 0.5, budget)).toBe(g)
    expect(budget.left).toBe(10)
    const bad = new BufferGeometry().setAttribute('position', new BufferAttribute(new Float32Array([0, 0, 0, NaN, 0, 0, 9, 9, 0]), 3)) // prettier-ignore
    vi.spyOn(console, 'error').mockReturnValue()
    expect(withoutLongEdges(bad, 1)).toBe(bad)
    vi.restoreAllMocks()
  })
  it('asks for longer edges in larger models', () => {
    expect(longestEdge(20)).toBe(8)
    expect(longestEdge(1280)).toBe(80)
  })
})

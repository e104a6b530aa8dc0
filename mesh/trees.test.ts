import fc from 'fast-check'
import { Ray, Vector3 } from 'three'
import { describe, expect, it } from 'vitest'
import { seededRandom } from '#core/base'
import { Forest } from './trees.ts'

/** Small triangles strewn through a box, by a seed. */
function strewn(count: number, size: readonly [number, number, number], seed: number) {
  const rng = seededRandom(seed)
  const positions = new Float32Array(count * 9)
  for (let t = 0; t < count; t++) {
    const middle = size.map((s) => rng() * s)
    for (let c = 0; c < 3; c++)
      for (let k = 0; k < 3; k++) positions[t * 9 + c * 3 + k] = middle[k]! + (rng() - 0.5) * 0.4
  }
  return { positions, indices: Uint32Array.from({ length: count * 3 }, (_, i) => i) }
}
/** The nearest hit by looking at every triangle. Source: moller1997. */
function nearest(p: Float32Array, ray: Ray): number {
  const v = (i: number) => new Vector3(p[i * 3], p[i * 3 + 1], p[i * 3 + 2])
  let best = Infinity
  for (let t = 0; t < p.length / 9; t++) {
    const at = ray.intersectTriangle(v(t * 3), v(t * 3 + 1), v(t * 3 + 2), false, new Vector3())
    if (at) best = Math.min(best, at.distanceTo(ray.origin))
  }
  return best
}

describe.each([
  ['one cell', 3000, [4, 4, 4]],
  ['many cells', 40_000, [30, 20, 6]],
  ['a flat field', 40_000, [40, 30, 0]],
] as const)('%s', (_what, count, size) => {
  const { positions, indices } = strewn(count, size, 7)
  const before = indices.slice()
  const forest = new Forest(positions, indices)
  it('finds what a look at every triangle finds', () => {
    const unit = fc.double({ min: -1, max: 1, noNaN: true })
    const at = fc.tuple(...size.map((s) => fc.double({ min: -2, max: s + 2, noNaN: true })))
    fc.assert(
      fc.property(at, fc.tuple(unit, unit, unit), ([x, y, z], [dx, dy, dz]) => {
        const length = Math.hypot(dx, dy, dz)
        if (length < 1e-3) return
        const ray = new Ray(new Vector3(x, y, z), new Vector3(dx / length, dy / length, dz / length))
        const want = nearest(positions, ray)
        const got = forest.first(ray, 1e6)?.distance ?? Infinity
        if (want === Infinity) expect(got).toBe(Infinity)
        else expect(got).toBeCloseTo(want, 4)
        // within a limit, nothing beyond it
        if (want < Infinity) expect(forest.first(ray, want * 0.999)).toBeNull()
      }),
      { numRuns: count > 10_000 ? 25 : 100 },
    )
  })
  it('rays along an axis lose nothing either; the triangles given are left as they were', () => {
    for (const d of [new Vector3(0, 0, -1), new Vector3(1, 0, 0), new Vector3(0, -1, 0)]) {
      const ray = new Ray(new Vector3(size[0] / 2, size[1] / 2, size[2] / 2 + (d.z ? 9 : 0)), d)
      const want = nearest(positions, ray)
      expect(forest.first(ray, 1e6)?.distance ?? Infinity).toBeCloseTo(want, 4)
    }
    expect(indices).toEqual(before)
  })
})

it('nothing at all is never met', () => {
  const empty = new Forest(new Float32Array(), new Uint32Array())
  expect(empty.first(new Ray(new Vector3(), new Vector3(1, 0, 0)), 10)).toBeNull()
})

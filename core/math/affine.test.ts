import fc from 'fast-check'
import { Matrix4, Quaternion, Vector3 } from 'three'
import { describe, expect, it } from 'vitest'
import { affineAbout, affineInverse, affineOf, affinePoint, affineProduct, affineVolume, UNMOVED, type Vec3 } from './index.ts' // prettier-ignore

const n = fc.double({ min: -3, max: 3, noNaN: true })
const size = fc.double({ min: 0.2, max: 4, noNaN: true })
const moves = fc
  .tuple(fc.tuple(n, n, n), fc.tuple(n, n, n, n), fc.tuple(size, size, size))
  .filter(([, q]) => Math.hypot(...q) > 0.1)
  .map(([at, q, s]) => ({ at, q: q.map((v) => v / Math.hypot(...q)), s }))
const close = (a: readonly number[], b: readonly number[]): void => a.forEach((v, i) => expect(v).toBeCloseTo(b[i]!, 9))

describe('an affine move', () => {
  it('is that of the graphics library, by place, turn and size (judge: three)', () => {
    fc.assert(
      fc.property(moves, moves, fc.tuple(n, n, n), (a, b, p) => {
        const theirs = [a, b].map(({ at, q, s }) => new Matrix4().compose(new Vector3(...at), new Quaternion(...(q as [number, number, number, number])), new Vector3(...s))) // prettier-ignore
        const [x, y] = [affineOf(a.at, a.q, a.s), affineOf(b.at, b.q, b.s)]
        const both = theirs[0]!.clone().multiply(theirs[1]!)
        close(affinePoint(affineProduct(x, y), p as Vec3), new Vector3(...p).applyMatrix4(both).toArray())
        expect(affineVolume(x)).toBeCloseTo(theirs[0]!.determinant(), 8)
        close(affineProduct(affineInverse(x)!, x), UNMOVED)
      }),
    )
  })
  it('has no way back where all is pressed flat', () => {
    expect(affineInverse(affineOf([1, 2, 3], [0, 0, 0, 1], [1, 0, 1]))).toBeNull()
    expect(affineInverse(UNMOVED.map(() => NaN))).toBeNull()
  })
  it('is the same move about another origin', () => {
    fc.assert(
      fc.property(moves, fc.tuple(n, n, n), fc.tuple(n, n, n), ({ at, q, s }, p, by) => {
        const m = affineOf(at, q, s)
        const there = affinePoint(m, p as Vec3).map((v, i) => v + by[i]!)
        close(affinePoint(affineAbout(m, by as Vec3), p.map((v, i) => v + by[i]!) as unknown as Vec3), there)
      }),
    )
  })
})

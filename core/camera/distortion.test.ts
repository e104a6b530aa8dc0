import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { cameraOf } from '../../tests/support/cameras.ts'
import { distort, foldOf, projectPoint, rayThrough, undistort, type Brown } from './index.ts'
import { addScaled } from '../math/index.ts'

export const brown = (c: Partial<Brown> = {}): Brown => ({
  ...{ kind: 'brown', k1: 0, k2: 0, k3: 0, p1: 0, p2: 0 },
  ...c,
})
const lenses = fc.record({
  kind: fc.constant('brown' as const),
  k1: fc.double({ min: -0.4, max: 0.4, noNaN: true }),
  k2: fc.double({ min: -0.1, max: 0.1, noNaN: true }),
  k3: fc.double({ min: -0.03, max: 0.03, noNaN: true }),
  p1: fc.double({ min: -0.01, max: 0.01, noNaN: true }),
  p2: fc.double({ min: -0.01, max: 0.01, noNaN: true }),
})

describe('a lens that distorts', () => {
  it('comes back from both directions to 1e-9 of the focal length, up to where it folds', () => {
    fc.assert(
      fc.property(
        lenses,
        fc.double({ min: 0, max: 0.97, noNaN: true }),
        fc.double({ min: 0, max: 6.3, noNaN: true }),
        (d, part, turn) => {
          const r = part * Math.min(foldOf(d).radius, 3)
          const [x, y] = [r * Math.cos(turn), r * Math.sin(turn)]
          const seen = distort(d, x, y)!
          const back = undistort(d, ...seen)!
          expect(back).not.toBeNull()
          expect(Math.hypot(back[0] - x, back[1] - y)).toBeLessThan(1e-9)
        },
      ),
      { numRuns: 1000 },
    )
  })
  it('folds where the slope of its radius is nought, and nothing is seen beyond', () => {
    // 1 + 3 k1 r^2 = 0
    const d = brown({ k1: -0.12 })
    const { radius, reach } = foldOf(d)
    expect(radius).toBeCloseTo(1 / Math.sqrt(0.36), 12)
    expect(reach).toBeCloseTo(radius * (1 - 0.12 * radius ** 2), 12)
    expect(distort(d, radius * 1.001, 0)).toBeNull()
    expect(undistort(d, reach * 1.001, 0)).toBeNull()
    expect(undistort(d, reach * 0.999, 0)![0]).toBeLessThan(radius)
    expect(foldOf(brown({ k1: 0.1 })).radius).toBe(Infinity)
    expect(foldOf(brown()).reach).toBe(Infinity)
  })
  it('with tangential terms folds where the Jacobian loses its sign', () => {
    // along +x the first factor is 1 + 6 p2 x, the second 1 + 2 p2 x
    expect(foldOf(brown({ p2: -0.1 })).radius).toBeCloseTo(1 / 0.6, 6)
    expect(undistort(brown({ p1: 0.02, p2: -0.01 }), 0, 0)).toEqual([0, 0])
  })
  it('the picture of a point and the ray through it are each other’s reverse, shifted too', () => {
    fc.assert(
      fc.property(
        lenses,
        fc.double({ min: 0.1, max: 0.9, noNaN: true }),
        fc.double({ min: 0.1, max: 0.9, noNaN: true }),
        (d, u, v) => {
          const camera = cameraOf(
            { bearingDeg: 31, tiltDeg: 7, rollDeg: 3 },
            { focalMm: 35, riseMm: 3, crossMm: -2, distortion: d },
          )
          const [x, y] = [u * camera.frame.widthPx, v * camera.frame.heightPx]
          const ray = rayThrough(camera, x, y)
          if (!ray) return
          const at = projectPoint(camera, addScaled(ray.origin, ray.direction, 7))!
          expect(Math.hypot(at.xPx - x, at.yPx - y)).toBeLessThan(1e-6)
        },
      ),
    )
  })
  it('barrel draws a corner in, pincushion out, and the axis stays', () => {
    const at = (k1: number) => projectPoint(cameraOf({}, { focalMm: 24, distortion: brown({ k1 }) }), [3, 5, 2])!
    const straight = projectPoint(cameraOf({}, { focalMm: 24 }), [3, 5, 2])!
    const middle = cameraOf({}).frame.widthPx / 2
    expect(at(-0.05).xPx - middle).toBeLessThan(straight.xPx - middle)
    expect(at(0.05).xPx - middle).toBeGreaterThan(straight.xPx - middle)
  })
})

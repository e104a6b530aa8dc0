// Framing through a lens that distorts: fits meet their margins, what is to keep its place keeps it.
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { cameraOf } from '../../tests/support/cameras.ts'
import { projectPoint, rayThrough, type Brown, type Camera } from '../camera/index.ts'
import { addScaled, boxCorners, sub, type Vec3 } from '../math/index.ts'
import { centreOn, fitPoints, focalOfEdge, horizonThrough, levelKeepingCentre, squareUp } from './index.ts'

const lens = fc.record({
  focalMm: fc.double({ min: 20, max: 85, noNaN: true }),
  riseMm: fc.double({ min: -4, max: 4, noNaN: true }),
  crossMm: fc.double({ min: -4, max: 4, noNaN: true }),
  distortion: fc.record({
    kind: fc.constant('brown' as const),
    k1: fc.double({ min: -0.06, max: 0.06, noNaN: true }),
    k2: fc.double({ min: -0.004, max: 0.004, noNaN: true }),
    k3: fc.constant(0),
    p1: fc.double({ min: -0.002, max: 0.002, noNaN: true }),
    p2: fc.double({ min: -0.002, max: 0.002, noNaN: true }),
  }) as fc.Arbitrary<Brown>,
})
const things = boxCorners({ min: [-1.2, 5, 0.2], max: [0.9, 6.5, 2.1] })
const sides = (camera: Camera, points: readonly Vec3[]) => {
  const { widthPx: w, heightPx: h } = camera.frame
  const at = points.map((p) => projectPoint(camera, p)!)
  const [x, y] = [at.map((p) => p.xPx / w), at.map((p) => p.yPx / h)]
  return [Math.min(...x), 1 - Math.max(...x), Math.min(...y), 1 - Math.max(...y)] as const
}

describe('through a lens that distorts', () => {
  it('a fit by distance, focal length or shift meets two opposite margins exactly, and passes none', () => {
    fc.assert(
      fc.property(lens, fc.constantFrom('distance' as const, 'focal+shift' as const), (l, by) => {
        const r = fitPoints(cameraOf({ station: [0, 0, 1] }, l), things, { by, margin: 0.06 })
        if (!r.ok) throw new Error(r.message)
        const [left, right, top, bottom] = sides(r.value, things)
        const tight = Math.min(Math.max(left, right), Math.max(top, bottom))
        expect(Math.abs(tight - 0.06)).toBeLessThan(1e-6)
        for (const side of [left, right, top, bottom]) expect(side).toBeGreaterThan(0.06 - 1e-6)
      }),
      { numRuns: 60 },
    )
  })
  it('levelled and squared up the picture’s centre stays where it was', () => {
    fc.assert(
      fc.property(lens, fc.double({ min: -8, max: 8, noNaN: true }), (l, tiltDeg) => {
        const camera = cameraOf({ tiltDeg, rollDeg: 1, bearingDeg: 4 }, l)
        const { widthPx: w, heightPx: h } = camera.frame
        const centre = rayThrough(camera, w / 2, h / 2)!
        for (const r of [levelKeepingCentre(camera), squareUp(camera, [0, -1, 0])]) {
          if (!r.ok) throw new Error(r.message)
          const now = rayThrough(r.value, w / 2, h / 2)!
          expect(Math.hypot(...sub(now.direction, centre.direction))).toBeLessThan(1e-9)
        }
      }),
      { numRuns: 60 },
    )
  })
  it('a subject keeps its place when the horizon is laid through something; a point comes to the middle', () => {
    fc.assert(
      fc.property(lens, (l) => {
        const camera = cameraOf({ station: [0, 0, 1.6] }, l)
        const subject: Vec3 = [0.4, 4, 1.2]
        const r = horizonThrough(camera, [0, 3, 1.1], subject)
        if (!r.ok) throw new Error(r.message)
        expect(projectPoint(r.value, subject)!.yPx).toBeCloseTo(projectPoint(camera, subject)!.yPx, 6)
        for (const by of ['cross', 'move', 'bearing'] as const) {
          const c = centreOn(camera, subject, { by })
          if (!c.ok) throw new Error(c.message)
          expect(projectPoint(c.value, subject)!.xPx, by).toBeCloseTo(camera.frame.widthPx / 2, 6)
        }
      }),
      { numRuns: 60 },
    )
  })
  it('an edge dragged in Plan is where the picture’s edge is seen', () => {
    fc.assert(
      fc.property(lens, fc.constantFrom('left' as const, 'right' as const), fc.double({ min: 24, max: 70, noNaN: true }), (l, side, focalMm) => {
        const wanted = cameraOf({}, { ...l, focalMm })
        const ray = rayThrough(wanted, side === 'left' ? 0 : wanted.frame.widthPx, wanted.frame.heightPx / 2)!
        const at = addScaled(ray.origin, ray.direction, 3)
        const found = focalOfEdge(cameraOf({}, { ...l, focalMm: 40 }), side, at[0], at[1])
        expect(found! / focalMm).toBeCloseTo(1, 6)
      }),
      { numRuns: 60 },
    ) // prettier-ignore
  })
})

import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { projectPoint } from '../camera/index.ts'
import type { Vec3 } from '../math/index.ts'
import { parallelCamera, parallelFit, roundLength } from './index.ts'

const coordinate = fc.double({ min: -40, max: 40, noNaN: true })
const point = fc.tuple(coordinate, coordinate, coordinate)

describe('a parallel view', () => {
  it('shows all of the points within its margin, touching it on one side, clear of the head, from any direction', () => {
    fc.assert(
      fc.property(
        fc.array(point, { minLength: 2, maxLength: 9 }),
        fc.double({ min: 0, max: 360, noNaN: true }),
        fc.constantFrom(-90, -30, 0, 60),
        (points, bearingDeg, tiltDeg) => {
          const size = { width: 300, height: 200 }
          const direction = { bearingDeg, tiltDeg }
          const f = parallelFit(points, direction, size, { margin: 0.1, headPx: 30, narrowestM: 0.01 })
          const camera = parallelCamera(f.centre, direction, f.widthM, size)
          const at = points.map((p) => projectPoint(camera, p as Vec3)!)
          const [x, y] = [at.map((p) => p.xPx), at.map((p) => p.yPx)]
          expect(Math.min(...x)).toBeGreaterThan(-1e-6)
          expect(Math.max(...x)).toBeLessThan(300 + 1e-6)
          expect(Math.min(...y)).toBeGreaterThan(30 - 1e-6)
          expect(Math.max(...y)).toBeLessThan(200 + 1e-6)
          const across = (Math.max(...x) - Math.min(...x)) / 250
          const up = (Math.max(...y) - Math.min(...y)) / (170 / 1.2)
          if (f.widthM > 0.011) expect(Math.max(across, up)).toBeCloseTo(1, 6)
        },
      ),
    )
  })
  it('its scale bar is 1, 2 or 5 times a power of ten', () => {
    expect([0.07, 0.9, 1, 4.9, 5, 73, 1999].map(roundLength)).toEqual([0.05, 0.5, 1, 2, 5, 50, 1000])
  })
})

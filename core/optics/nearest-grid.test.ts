import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { NearestGrid } from './nearest-grid.ts'

describe('what is nearest about a place', () => {
  it('is never farther than any pixel within reach, nor nearer than all within a block more', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 40 }),
        fc.integer({ min: 1, max: 40 }),
        fc.double({ min: -20, max: 60, noNaN: true }),
        fc.double({ min: -20, max: 60, noNaN: true }),
        fc.double({ min: 0, max: 30, noNaN: true }),
        fc.integer(),
        (width, height, x, y, within, seed) => {
          const depths = Float32Array.from({ length: width * height }, (_, i) => 1 + ((Math.imul(i + seed, 2654435761) >>> 0) % 1000)) // prettier-ignore
          const about = (far: number): number => {
            let nearest = Infinity
            for (let v = -80; v <= 140; v++)
              for (let u = -80; u <= 140; u++) {
                if (u + 1 <= x - far || u > x + far || v + 1 <= y - far || v > y + far) continue
                // past the edges the picture goes on as it is there
                const [a, b] = [Math.min(width - 1, Math.max(0, u)), Math.min(height - 1, Math.max(0, v))]
                nearest = Math.min(nearest, depths[b * width + a]!)
              }
            return nearest
          }
          const found = new NearestGrid(depths, { width, height }).nearestM(x, y, within)
          expect(found).toBeLessThanOrEqual(about(within))
          if (x >= 0 && y >= 0 && x < width && y < height) expect(found).toBeGreaterThanOrEqual(about(within + 17))
        },
      ),
      { numRuns: 60 },
    )
  })
})

import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { clearance, type Polygon } from './index.ts'

const ring = (x: number, y: number, w: number, h: number): Float64Array =>
  Float64Array.from([x, y, x + w, y, x + w, y + h, x, y + h])
/** A room of 6 x 2.5 m in walls 0.3 m thick, and a table of 1 x 0.75 m in it. */
const room: Polygon[] = [
  { outer: ring(-0.3, -0.3, 6.6, 3.1), holes: [ring(0, 0, 6, 2.5)] },
  { outer: ring(2, 0, 1, 0.75), holes: [] },
]

describe('clear width and height in a section', () => {
  it('in the open, over the table, in the wall and out of doors', () => {
    expect(clearance(room, 4, 1)).toEqual({ widthM: 6, heightM: 2.5, isSolid: false })
    expect(clearance(room, 2.5, 1)).toEqual({ widthM: 6, heightM: 1.75, isSolid: false })
    expect(clearance(room, 1, 0.4).widthM).toBeCloseTo(2, 12)
    const wall = clearance(room, -0.1, 1.2)
    expect(wall.isSolid).toBe(true)
    expect(wall.widthM).toBeCloseTo(0.3, 12)
    expect(clearance(room, 8, 1)).toEqual({ widthM: null, heightM: null, isSolid: false })
  })
  it('anywhere in a box: its size, whatever the place is', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.001, max: 0.999, noNaN: true }),
        fc.double({ min: 0.001, max: 0.999, noNaN: true }),
        (u, v) => {
          const c = clearance([{ outer: ring(-1, 2, 7, 3), holes: [] }], -1 + 7 * u, 2 + 3 * v)
          expect(c.widthM).toBeCloseTo(7, 9)
          expect(c.heightM).toBeCloseTo(3, 9)
          expect(c.isSolid).toBe(true)
        },
      ),
    )
  })
})

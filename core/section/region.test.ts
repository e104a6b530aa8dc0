import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { contourArea, filledRegion, type Contour } from './region.ts'

/** How often a loop goes round a point, counted by crossings of the ray to the right: independent of the sweep. */
function winding(loop: ArrayLike<number>, px: number, py: number): number {
  let w = 0
  const n = loop.length
  for (let i = 0; i < n; i += 2) {
    const [ax, ay, bx, by] = [loop[i]!, loop[i + 1]!, loop[(i + 2) % n]!, loop[(i + 3) % n]!]
    if (ay <= py === by <= py) continue
    const x = ax + ((py - ay) / (by - ay)) * (bx - ax)
    if (x > px) w += by > ay ? 1 : -1
  }
  return w
}
const around = (loops: readonly ArrayLike<number>[], x: number, y: number): number =>
  loops.reduce((sum, l) => sum + winding(l, x, y), 0)
/** Coordinates on a small grid, so that corners and edges often lie on each other. */
const onGrid = fc.array(fc.tuple(fc.integer({ min: 0, max: 6 }), fc.integer({ min: 0, max: 6 })), {
  minLength: 3,
  maxLength: 9,
})
const anywhere = fc.array(fc.tuple(fc.double({ min: 0, max: 6, noNaN: true }), fc.double({ min: 0, max: 6, noNaN: true })), { minLength: 3, maxLength: 9 }) // prettier-ignore
const loopsOf = (all: [number, number][][]): Float64Array[] => all.map((l) => Float64Array.from(l.flat()))
/** Off the grid and its diagonals. */
const PROBES = Array.from({ length: 150 }, (_, i) => [((i * 0.618034) % 1) * 6.2 - 0.0937, ((i * 0.754878) % 1) * 6.2 - 0.0711] as const) // prettier-ignore
const square = (x: number, y: number, s: number): Float64Array => Float64Array.from([x, y, x + s, y, x + s, y + s, x, y + s]) // prettier-ignore

function check(loops: Float64Array[], rule: 'winding' | 'evenOdd'): void {
  const contours = filledRegion(loops, { rule })
  for (const [x, y] of PROBES) {
    const w = around(loops, x, y)
    expect(around(contours, x, y)).toBe((rule === 'winding' ? w !== 0 : w % 2 !== 0) ? 1 : 0)
  }
}

describe('what closed lines fill', () => {
  it('is filled where the winding number is not nought, once, at every point tried: loops that cross, overlap and touch', () => {
    fc.assert(fc.property(fc.array(onGrid, { minLength: 1, maxLength: 4 }), (all) => check(loopsOf(all), 'winding')))
    fc.assert(fc.property(fc.array(anywhere, { minLength: 1, maxLength: 3 }), (all) => check(loopsOf(all), 'winding')))
  })
  it('by even-odd the same way', () => {
    fc.assert(fc.property(fc.array(onGrid, { minLength: 1, maxLength: 4 }), (all) => check(loopsOf(all), 'evenOdd')))
  })
  it('overlaps count once, holes are clockwise, neighbours become one, points on straight lines are left out', () => {
    const area = (all: readonly Contour[]): number => all.reduce((s, c) => s + contourArea(c), 0)
    expect(area(filledRegion([square(0, 0, 2), square(1, 1, 2)]))).toBeCloseTo(7, 8)
    const frame = filledRegion([square(0, 0, 3), Float64Array.from([1, 1, 1, 2, 2, 2, 2, 1])])
    expect(frame.map(contourArea).sort((a, b) => b - a).map((v) => Math.round(v * 1e6) / 1e6)).toEqual([9, -1]) // prettier-ignore
    const side = filledRegion([square(0, 0, 1), square(1, 0, 1)])
    expect(side).toHaveLength(1)
    expect(side[0]).toHaveLength(8)
    expect(area(filledRegion([Float64Array.from([0, 0, 1, 0, 1, 0, 0, 0])]))).toBe(0)
    expect(filledRegion([])).toEqual([])
  })
  it('far from the origin and small as well', () => {
    const far = filledRegion([square(1e6, -2e6, 0.25), square(1e6 + 0.125, -2e6, 0.25)])
    expect(far.reduce((s, c) => s + contourArea(c), 0)).toBeCloseTo(0.25 * 0.375, 9)
  })
  it('parted by lines, only the parts that are kept stay', () => {
    const half = filledRegion([square(0, 0, 2)], { partings: [[1, -5, 1, 5]], keeps: (x) => x < 1 })
    expect(half).toHaveLength(1)
    expect(contourArea(half[0]!)).toBeCloseTo(2, 9)
    const quarter = filledRegion([square(0, 0, 2)], {
      partings: [[1, -5, 1, 5], [-5, 0.5, 5, 0.5]],
      keeps: (x, y) => x > 1 && y < 0.5,
    }) // prettier-ignore
    expect(quarter.map(contourArea)).toEqual([expect.closeTo(0.5, 9)])
  })
  it('random polygons parted by random lines: the parts to both sides add up', () => {
    fc.assert(
      fc.property(fc.array(anywhere, { minLength: 1, maxLength: 3 }), fc.double({ min: -1, max: 7, noNaN: true }), (all, at) => {
        const loops = loopsOf(all)
        const area = (options = {}): number => filledRegion(loops, options).reduce((s, c) => s + contourArea(c), 0)
        const parting = { partings: [[at, -50, at + 1, 50] as const] }
        const side = (x: number, y: number): boolean => (x - at) * 100 - (y + 50) > 0
        const both = area({ ...parting, keeps: side }) + area({ ...parting, keeps: (x: number, y: number) => !side(x, y) })
        expect(both).toBeCloseTo(area(), 7)
      }),
    ) // prettier-ignore
  })
})

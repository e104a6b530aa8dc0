import { describe, expect, it } from 'vitest'
import type { BrightPoint } from './bright-points.ts'
import { inRows } from './bright-rows.ts'

const point = (xPx: number, yPx: number, of: number, distanceM = 2): BrightPoint => ({ xPx, yPx, of, distanceM, core: [of], all: [of], light: [1, 1, 1], spanPx: [1, 1] }) // prettier-ignore

describe('rows of bright points', () => {
  it('are dashes of one line, in any order, round a bend too; what stands by itself is none', () => {
    const dashes = [0, 6, 12, 18].map((x, i) => point(x, x / 2, i + 1))
    const bend = [point(18, 16, 5), point(14, 22, 6)]
    const alone = [point(60, 9, 7), point(80, 9, 8), point(86, 9, 9)]
    const list = [alone[0]!, dashes[2]!, bend[1]!, dashes[0]!, alone[1]!, dashes[3]!, bend[0]!, dashes[1]!, alone[2]!]
    const rows = inRows(list, () => 5)
    expect([...dashes, ...bend].every((p) => rows.has(p))).toBe(true)
    expect(alone.some((p) => rows.has(p))).toBe(false)
  })
  it('are none where discs are wide, stand at other distances, farther apart, or are parts of one point', () => {
    const places = [0, 6, 12, 18, 24]
    const row = places.map((x, i) => point(x, 0, i))
    expect(inRows(row, () => 5).size).toBe(5)
    expect(inRows(row, () => 20).size).toBe(0)
    expect(inRows(row, () => 3.9).size).toBe(0)
    expect(inRows(places.map((x, i) => point(x, 0, i, 2 + i)), () => 5).size).toBe(0) // prettier-ignore
    expect(inRows(places.map((x) => point(x, 0, 1)), () => 5).size).toBe(0) // prettier-ignore
    expect(inRows([], () => 5).size).toBe(0)
  })
})

import { describe, expect, it } from 'vitest'
import { staffFor, staffMarks } from './staff.ts'

describe('a measuring staff', () => {
  it('is as high as the thing calls for, in round values; two metres in a building', () => {
    expect([0.004, 0.03, 0.12, 0.2, 0.56, 1.2, 2, 7].map(staffFor)).toEqual([0.01, 0.05, 0.2, 0.2, 1, 2, 2, 2])
    expect(staffFor(NaN)).toBe(2)
  })
  it('has its marks from the ground up, tenths with a number, and both ends', () => {
    const marks = staffMarks([1, 2, 3], 0.5)
    expect(marks).toHaveLength(51)
    expect(marks[0]).toMatchObject({ at: [1, 2, 3], rank: 2 })
    expect(marks.at(-1)!.at[2]).toBeCloseTo(3.5, 12)
    expect(marks.filter((m) => m.rank === 2)).toHaveLength(6)
  })
})

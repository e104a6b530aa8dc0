import { describe, expect, it } from 'vitest'
import { z } from 'zod'
import { list, names } from './lists.ts'

describe('long lists', () => {
  let looked = 0
  const item = z.object({ a: z.number().refine(() => ++looked > 0) })
  const some = list(item, 1000, 1)
  const faultOf = (v: unknown) => some.safeParse(v).error?.issues
  it('are read as the items’ schema reads them', () => {
    expect(some.parse([{ a: 1, b: 2 }])).toEqual([{ a: 1 }])
    expect(names(3, 5).parse(['a', 'abc'])).toEqual(['a', 'abc'])
  })
  it('are refused by their length without a look at an item', () => {
    looked = 0
    expect(faultOf(Array.from({ length: 1001 }, () => ({ a: 1 })))).toMatchObject([{ message: expect.stringMatching(/at most 1000/) }]) // prettier-ignore
    expect(looked).toBe(0)
    expect(faultOf([])).toMatchObject([{ message: expect.stringMatching(/at least 1/) }])
    expect(faultOf({ length: 3 })).toHaveLength(1)
    expect(names(3, 5).safeParse(Array(6).fill('a')).success).toBe(false)
  })
  it('end at the first wrong item and name it', () => {
    looked = 0
    const wrong = [{ a: 1 }, { a: 2 }, {}, ...Array.from({ length: 900 }, () => ({ a: 3 }))]
    expect(faultOf(wrong)).toMatchObject([{ path: [2, 'a'] }])
    expect(looked).toBe(2)
    expect(names(3, 5).safeParse(['a', '', 4]).error?.issues).toHaveLength(1)
    expect(z.object({ list: some }).safeParse({}).error?.issues).toMatchObject([{ path: ['list'] }])
  })
})

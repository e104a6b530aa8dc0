import { nextTick, ref, watch } from 'vue'
import { describe, expect, it } from 'vitest'
import { sameList } from './same-list.ts'

describe('a watched list', () => {
  it('changes when something in it does, not when what it is made from does', async () => {
    const document = ref({ name: 'a', sun: 1 })
    const told: (readonly number[])[] = []
    watch(sameList(() => [document.value.sun, 7]), (now) => told.push(now)) // prettier-ignore
    document.value = { name: 'b', sun: 1 }
    await nextTick()
    expect(told).toEqual([])
    document.value = { name: 'b', sun: 2 }
    await nextTick()
    expect(told).toEqual([[2, 7]])
  })
  it('takes not a number as itself, and another length as a change', () => {
    const values: unknown[] = [NaN]
    const list = sameList(() => [...values])
    const first = list()
    expect(list()).toBe(first)
    values.push(undefined)
    expect(list()).not.toBe(first)
  })
})

import { describe, expect, it } from 'vitest'
import { likelierUnit } from './index.ts'

describe('likelierUnit', () => {
  it.each([
    // an eye height where 1.58 m is usual
    ['1500', 'm', 1.58, '1500 mm', 1.5],
    ['158', 'm', 1.58, '158 cm', 1.58],
    ['-1500', 'm', 1.58, '-1500 mm', -1.5],
    // a project in millimetres where somebody thinks in metres
    ['1.6', 'mm', 1.58, '1.6 m', 1.6],
    ['2500', 'ft-in', 2, '2500 mm', 2.5],
  ] as const)('%s in %s where %d m is usual: %s', (typed, unit, usual, text, valueM) => {
    const guess = likelierUnit(typed, unit, usual, true)
    expect(guess?.text).toBe(text)
    expect(guess?.valueM).toBeCloseTo(valueM, 9)
  })
  it('does not ask about what is usual, has a unit, is a sum or nought, or fits no unit', () => {
    expect(likelierUnit('2.1', 'm', 1.58, true)).toBeNull()
    expect(likelierUnit('1500 mm', 'm', 1.58, true)).toBeNull()
    expect(likelierUnit('1500 + 2', 'm', 1.58, true)).toBeNull()
    expect(likelierUnit('0', 'm', 1.58, true)).toBeNull()
    expect(likelierUnit('99999999', 'm', 1.58)).toBeNull()
    expect(likelierUnit('1500', 'm', 0)).toBeNull()
  })
  it('small numbers are asked about only where asked to: a station may well lie near nought', () => {
    expect(likelierUnit('1.6', 'mm', 20)).toBeNull()
    expect(likelierUnit('1.6', 'mm', 1.58)).toBeNull()
  })
})

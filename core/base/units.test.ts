import { describe, expect, it } from 'vitest'
import {
  articled,
  formatLength,
  formatWithSigma,
  parseQuantity,
  seededRandom,
  sinDeg,
  wrapBearingDeg,
} from './index.ts'

const metres = (text: string, unit: 'm' | 'mm' | 'cm' | 'ft-in' = 'm') => {
  const r = parseQuantity(text, 'length', unit)
  return r.ok ? r.value : r.reason
}

describe('parseQuantity', () => {
  it.each([
    ['1.58', 1.58],
    ['1,58', 1.58],
    ['158 cm', 1.58],
    ['1500mm', 1.5],
    ['5\'11 1/2"', 1.8161],
    ['5 ft 11 in', 1.8034],
    ['1/2"', 0.0127],
    ['1.2 m + 35 cm', 1.55],
    ['2*(0.4 + 0.1)', 'syntax'],
    ['(0.4+0.1)*2', 1],
    ['-2 / 4', -0.5],
    ['3 - -1', 4],
    ['', 'empty'],
    ['abc', 'syntax'],
    ['1.5 deg', 'unit'],
    ['1/0 m', 'syntax'],
    ['1 m / 0', 'not-finite'],
    ['1 + ', 'syntax'],
    ['1e3', 1000],
    ['2.5e-1 m', 0.25],
    ['.5E2 cm', 0.5],
    ['1e', 'syntax'],
  ])('reads %s as %s', (text, want) => {
    const got = metres(text)
    if (typeof want === 'number') expect(got).toBeCloseTo(want, 9)
    else expect(got).toBe(want)
  })
  it('takes a bare number in the project’s unit', () => {
    expect(metres('1580', 'mm')).toBeCloseTo(1.58, 12)
    expect(metres('5', 'ft-in')).toBeCloseTo(1.524, 12)
  })
  it('reads angles and sensor lengths in their own units', () => {
    expect(parseQuantity('12.5°', 'angle')).toMatchObject({ ok: true, value: 12.5 })
    expect(parseQuantity('2.4 cm', 'sensor')).toMatchObject({ ok: true, value: 24 })
    expect(parseQuantity('24', 'sensor', 'm')).toMatchObject({ ok: true, value: 24 })
    expect(parseQuantity('2 m', 'angle')).toMatchObject({ ok: false, reason: 'unit' })
  })
})

describe('formatWithSigma', () => {
  // GUM (JCGM 100:2008) 7.2.6: a plus and minus has two digits, the value as many decimals
  it.each([
    [1.4036, 0.0042, 'm', '1.4036 ± 0.0042 m'],
    [0.13812, 0.00031, 'mm', '138.12 ± 0.31 mm'],
    [12.34567, 0.118, 'm', '12.35 ± 0.12 m'],
    [12.34567, 0.118, 'mm', '12346 ± 118 mm'],
    [0.5, 3e-9, 'm', '0.500000 ± 0.000000 m'],
    [2, 0, 'cm', '200.0000 ± 0.0000 cm'],
    [3, 0.0254, 'ft-in', `9'10 1/8" ± 1.0"`],
  ] as const)('%d m, sigma %d, in %s is %s', (v, sd, unit, text) => expect(formatWithSigma(v, sd, unit)).toBe(text)) // prettier-ignore
})
describe('formatLength', () => {
  it.each([
    [1.58, 'm', '1.58'],
    [1.58, 'mm', '1580'],
    [1.58, 'cm', '158.0'],
    [1.8161, 'ft-in', `5'11 1/2"`],
    [-0.3048, 'ft-in', `-1'0"`],
    [0.004, 'm', '0.0040'],
    [0, 'm', '0.00'],
    [-0.00001, 'm', '0.00'],
    [-0.0002, 'mm', '0'],
    [-0.0001, 'cm', '0.0'],
    [-0.004, 'm', '-0.0040'],
  ] as const)('%d m in %s is %s', (v, unit, text) => expect(formatLength(v, unit)).toBe(text))
  it('is read back as what was shown', () => {
    for (const u of ['mm', 'cm', 'm', 'ft-in'] as const) expect(metres(formatLength(2.54, u), u)).toBeCloseTo(2.54, 2)
  })
})

it('angles are exact at the quarters and wrap into 0..360', () => {
  expect(sinDeg(180)).toBe(0)
  expect(sinDeg(-90)).toBe(-1)
  expect(wrapBearingDeg(-0.0001)).toBeCloseTo(359.9999, 9)
  expect(Object.is(wrapBearingDeg(-360), 0)).toBe(true)
})

it('seeded numbers repeat', () => {
  const a = seededRandom(7)
  const b = seededRandom(7)
  expect([a(), a(), a()]).toEqual([b(), b(), b()])
})

it('a number has the article it is read with', () => {
  expect(['24', '18', '85', '8', '11', '110', '180', '1.8'].map((n) => articled(n).split(' ')[0])).toEqual(['A', 'An', 'An', 'An', 'An', 'A', 'A', 'A']) // prettier-ignore
})

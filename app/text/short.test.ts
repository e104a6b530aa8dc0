import { describe, expect, it } from 'vitest'
import { aimAt, newSetup } from '#model'
import { frameOf, lensOf, poseAt } from '../../tests/support/cameras.ts'
import { pictureName, type Given } from '../frame/still/name.ts'
import {
  aspectText,
  cutShort,
  differenceText,
  exposureShort,
  frameShort,
  leanText,
  lensShort,
  signed,
  standShort,
} from './short.ts'

describe('short forms', () => {
  it('of the exposure: its EV with the compensation, or what a meter reads out of doors', () => {
    const { exposure } = newSetup('room', aimAt([0, 0, 1.6], [3, 0, 1.6]))
    expect(exposureShort({ ...exposure, compensationEv: 1 })).toEqual(['EV 8.0', '6504 K'])
    expect(exposureShort(exposure, 14.23)).toEqual(['EV 14.2', 'metered'])
    expect(exposureShort({ ...exposure, outsideEv100: 12 }, 12)).toEqual(['EV 12.0', '6504 K'])
  })
  it('of stand, lens and frame', () => {
    expect(standShort(poseAt({ station: [0, 0, 4.48] }), 1.58, 'm')).toEqual(['1.58 m', 'level'])
    expect(standShort(poseAt({ tiltDeg: -7.25 }), 1.8161, 'ft-in')).toEqual([`5'11 1/2"`, 'tilt −7.3°'])
    expect(lensShort(lensOf({ riseMm: 2.1 }))).toEqual(['24 mm', 'rise +2.1'])
    expect(lensShort(lensOf({ riseMm: 2.1, crossMm: -3 }))).toEqual(['24 mm', '+2.1 −3.0'])
    expect(lensShort(lensOf({ projection: { kind: 'parallel', widthM: 24 } }))).toEqual(['parallel', '24 m'])
    expect(frameShort(frameOf(2400, 1600))).toEqual(['3:2', '2400 px'])
    const off = { on: false, distanceM: 0 }
    const cut = { near: off, far: off, cuts: [], face: 'open' as const }
    expect(cutShort(cut, 'm')).toEqual(['none', ''])
    const far = { on: true, distanceM: 12 }
    expect(cutShort({ ...cut, far }, 'm')).toEqual(['far 12.00', ''])
    expect(cutShort({ ...cut, near: { on: true, distanceM: 0.62 }, far }, 'cm')).toEqual(['near 62.0', 'far 1200.0'])
    const level = { id: 'a', name: 'A', on: true, reversed: false, kind: 'level' as const, heightM: 1.2 }
    expect(cutShort({ ...cut, cuts: [level], far }, 'm')).toEqual(['level 1.20', 'far 12.00'])
    expect(cutShort({ ...cut, cuts: [level, { ...level, id: 'b' }] }, 'm')).toEqual(['2 cuts', ''])
    expect(cutShort({ ...cut, cuts: [level], allOff: true }, 'm')).toEqual(['all off', ''])
    expect(aspectText({ widthPx: 1997, heightPx: 1000 })).toBe('2.00:1')
  })
  it('of stand and lens hold within ten letters, at any tilt, roll and shift', () => {
    for (const v of [-89.99, -35.3, -9.96, -0.04, 0.6, 9.94, 11, 45.5, 180]) {
      const second = [
        standShort(poseAt({ tiltDeg: Math.max(-90, Math.min(90, v)) }), 1.58, 'm')[1],
        standShort(poseAt({ rollDeg: v }), 1.58, 'm')[1],
        lensShort(lensOf({ riseMm: v }))[1],
        lensShort(lensOf({ crossMm: v }))[1],
        lensShort(lensOf({ riseMm: v, crossMm: -v }))[1],
        lensShort(lensOf({ projection: { kind: 'parallel', widthM: Math.abs(v) * 17.123 } }))[1],
      ]
      for (const t of second) expect([t, t.length <= 10]).toEqual([t, true])
    }
  })
  it('of leans, without pixels where verticals nearly lie', () => {
    expect(leanText({ leanLeftDeg: 3.754, leanRightDeg: -3.754, widestPx: 78.74 })).toBe('3.75°, 79 px')
    expect(leanText({ leanLeftDeg: 90, leanRightDeg: 90, widestPx: 2e19 })).toBe('90°')
  })
  it('of numbers with a sign and of differences', () => {
    expect([signed(2.06, 1), signed(-0.04, 1), signed(-3, 0)]).toEqual(['+2.1', '0.0', '−3'])
    expect(differenceText({ part: 'stand', path: 'aim.point.1', a: 2, b: 2.50049 })).toBe('stand, aim point y: 2 → 2.5')
  })
  it('of file names: the name, safe on every disk, then a number where another picture has it', () => {
    const names: string[] = []
    let given: Given = {}
    for (const [name, shows] of [
      ['Hall, east / 1:2', 'a'],
      ['Hall, east / 1:2', 'b'],
      ['Hall, east / 1:2', 'a'],
      ['Hall, east / 1:2', 'c'],
      ['///', 'a'],
      ['constructor', 'a'],
    ] as const) {
      const r = pictureName(name, shows, given)
      names.push(r.file)
      given = r.given
    }
    expect(names).toEqual([
      'Hall-east-12.png',
      'Hall-east-12-2.png',
      'Hall-east-12.png',
      'Hall-east-12-3.png',
      'picture.png',
      'constructor.png',
    ])
  })
})

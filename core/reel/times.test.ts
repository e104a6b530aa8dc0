import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { parseTime, RATES, TIME_UNITS, timecode, timeText } from './index.ts'

const read = (text: string, unit: (typeof TIME_UNITS)[number] = 'seconds', fps = 25): number | string => {
  const r = parseTime(text, unit, fps)
  return r.ok ? r.value : r.message
}
describe('times of a reel', () => {
  it('as timecode count frames of the rate, hours, minutes and seconds', () => {
    expect(timecode(0, 25)).toBe('00:00:00:00')
    expect(timecode(3.48, 25)).toBe('00:00:03:12')
    expect(timecode(3661.5, 24)).toBe('01:01:01:12')
    // frames of 24000/1001 are counted by 24
    expect(timecode(1001 / 1000, 24000 / 1001)).toBe('00:00:01:00')
  })
  it('are read as they are shown, and by their marks whatever is shown', () => {
    expect(read('3.5')).toBe(3.5)
    expect(read('3,5 s', 'frames')).toBe(3.5)
    expect(read('50', 'frames')).toBe(2)
    expect(read('50f')).toBe(2)
    expect(read('1.5 min')).toBe(90)
    expect(read('2+1')).toBe(3)
    expect(read('3:12')).toBe(3.48)
    expect(read('1:00:03:12')).toBe(3603.48)
    expect(read('1:00', 'frames', 24000 / 1001)).toBeCloseTo(1.001, 12)
  })
  it('that are none are refused in words', () => {
    expect(read('3:25')).toBe('Frames go from 0 to 24 at this rate.')
    expect(read('1:75:00')).toBe('Minutes and seconds go to 59.')
    expect(read('1:2:3:4:5')).toMatch(/hours:minutes:seconds:frames/)
    expect(read('')).toBe('Type a number.')
    expect(read('soon')).toMatch(/could not be read|not a unit/)
  })
  it('of whole frames come back exactly as they are written (property)', () => {
    const rate = fc.constantFrom(...Object.values(RATES))
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 400_000 }), rate, fc.constantFrom('frames' as const, 'timecode' as const), (n, fps, unit) => {
        const back = parseTime(timeText(n / fps, unit, fps), unit, fps)
        expect(back.ok && Math.abs(back.value - n / fps)).toBeLessThan(1e-9)
      }),
    ) // prettier-ignore
  })
})

import { describe, expect, it } from 'vitest'
import { timecode } from './times.ts'

describe('timecode', () => {
  it('counts frames of the rate, hours, minutes and seconds', () => {
    expect(timecode(0, 25)).toBe('00:00:00:00')
    expect(timecode(3.48, 25)).toBe('00:00:03:12')
    expect(timecode(3661.5, 24)).toBe('01:01:01:12')
    // frames of 24000/1001 are counted by 24
    expect(timecode(1001 / 1000, 24000 / 1001)).toBe('00:00:01:00')
  })
})

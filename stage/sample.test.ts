import { describe, expect, it } from 'vitest'
import { sampleAt } from './sample.ts'

const BLUR = { focusM: 3, fNumber: 2, shape: { blades: 6, rotationDeg: 0, roundness: 0 } }

describe('the places of a picture’s samples', () => {
  it('the first is in the middle of pixel, lens and sun', () => {
    expect(sampleAt(0, 16, BLUR)).toEqual({
      ...{ index: 0, of: 16, pixel: [0, 0], lens: [0, 0] },
      ...{ sun: [0, 0], sky: [0, 0, 0], noise: 0 },
    })
    expect(sampleAt(3, 1, BLUR).lens).toEqual([0, 0])
    expect(sampleAt(3, 16, null).lens).toEqual([0, 0])
  })
  it('are the same for the same number, within the pixel and the discs, and evenly spread', () => {
    const n = 64
    const all = Array.from({ length: n }, (_, i) => sampleAt(i, n, BLUR))
    expect(all.map((s) => s.pixel)).toEqual(Array.from({ length: n }, (_, i) => sampleAt(i, n, BLUR).pixel))
    for (const { pixel, lens, sun } of all) {
      expect(Math.max(...pixel.map(Math.abs))).toBeLessThanOrEqual(0.5)
      expect(Math.hypot(...lens)).toBeLessThan(1.1)
      expect(Math.hypot(...sun)).toBeLessThanOrEqual(0.5)
    }
    for (const k of [0, 1]) {
      expect(Math.abs(all.reduce((s, a) => s + a.pixel[k]!, 0) / n)).toBeLessThan(0.02)
      expect(Math.abs(all.reduce((s, a) => s + a.lens[k]!, 0) / n)).toBeLessThan(1e-9)
      expect(Math.abs(all.reduce((s, a) => s + a.sun[k]!, 0) / n)).toBeLessThan(0.06)
    }
    // an eighth of each dimension of the sky holds an eighth of the samples, two more or less
    for (const k of [0, 1, 2])
      for (let bin = 0; bin < 8; bin++)
        expect(Math.abs(all.filter((s) => Math.floor(s.sky[k]! * 8) === bin).length - n / 8)).toBeLessThanOrEqual(2)
    // three share a place of the sun
    expect(new Set(all.map((s) => s.sun.join())).size).toBe(22)
  })
})

import { describe, expect, it } from 'vitest'
import { findSegments, focalFromTags, refinedEdge, suggestBundles, type FoundSegment, type Grey } from './index.ts'

/** A grey picture drawn by a function of the pixel's middle, averaged over 4 x 4 places, with even noise. */
function drawn(width: number, height: number, at: (x: number, y: number) => number, noise = 0): Grey {
  const data = new Float32Array(width * height)
  let s = 9
  const next = (): number => {
    s = (Math.imul(s, 1664525) + 1013904223) >>> 0
    return s / 4294967296 - 0.5
  }
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      let sum = 0
      for (let i = 0; i < 16; i++) sum += at(x + ((i % 4) + 0.5) / 4, y + (Math.floor(i / 4) + 0.5) / 4)
      data[y * width + x] = Math.min(255, Math.max(0, sum / 16 + noise * next()))
    }
  return { width, height, data }
}
/** How far a place lies off the line through two others. */
const off = (p: readonly [number, number], a: readonly number[], b: readonly number[]): number =>
  Math.abs((b[0]! - a[0]!) * (a[1]! - p[1]) - (a[0]! - p[0]) * (b[1]! - a[1]!)) /
  Math.hypot(b[0]! - a[0]!, b[1]! - a[1]!)

describe('straight edges', () => {
  it('a turned square has four, within a third of a pixel of where they are', () => {
    const c = Math.cos(0.3)
    const s = Math.sin(0.3)
    const inside = (x: number, y: number): boolean => {
      const [u, v] = [(x - 60) * c + (y - 60) * s, -(x - 60) * s + (y - 60) * c]
      return Math.abs(u) < 35 && Math.abs(v) < 35
    }
    const found = findSegments(drawn(120, 120, (x, y) => (inside(x, y) ? 200 : 50), 12))
    expect(found.length).toBe(4)
    for (const f of found) {
      expect(f.lengthPx).toBeGreaterThan(60)
      const sides = [-35, 35].flatMap((k) => [
        [60 + k * c - 35 * s, 60 + k * s + 35 * c, 60 + k * c + 35 * s, 60 + k * s - 35 * c],
        [60 - 35 * c - k * s, 60 - 35 * s + k * c, 60 + 35 * c - k * s, 60 + 35 * s + k * c],
      ])
      const middle = [(f.a[0] + f.b[0]) / 2, (f.a[1] + f.b[1]) / 2] as const
      const nearest = Math.min(...sides.map((l) => off(middle, [l[0]!, l[1]!], [l[2]!, l[3]!])))
      expect(nearest).toBeLessThan(1 / 3)
    }
  })
  it('noise has none, nor has an even picture or one of a few pixels (the paper: one false alarm a picture at most)', () => {
    const noise = drawn(200, 200, () => 128, 160)
    expect(findSegments(noise).length).toBeLessThanOrEqual(1)
    expect(findSegments(drawn(60, 60, () => 90))).toEqual([])
    expect(findSegments({ width: 2, height: 2, data: new Uint8Array(4) })).toEqual([])
  })
  it('a segment laid beside an edge is moved onto it, to a tenth of a pixel; on even ground it is refused', () => {
    const grey = drawn(100, 80, (x, y) => (y > 30.4 + 0.1 * x ? 210 : 60), 10)
    const r = refinedEdge(grey, [10, 33], [90, 38], 5)!
    expect(r.support).toBeGreaterThan(0.8)
    expect(r.a[1]).toBeCloseTo(30.4 + 0.1 * r.a[0], 1)
    expect(r.b[1]).toBeCloseTo(30.4 + 0.1 * r.b[0], 1)
    expect(refinedEdge(grey, [10, 60], [90, 70], 4)).toBeNull()
    expect(refinedEdge(grey, [10, 10], [10, 10], 4)).toBeNull()
  })
})

describe('bundles of edges', () => {
  it('two and the uprights are told apart among strays', () => {
    let s = 3
    const next = (): number => {
      s = (Math.imul(s, 1664525) + 1013904223) >>> 0
      return s / 4294967296
    }
    const towards = (v: readonly [number, number]): FoundSegment => {
      const a = [100 + 800 * next(), 100 + 500 * next()] as const
      const l = Math.hypot(v[0] - a[0], v[1] - a[1])
      const n = 50 + 80 * next()
      const b = [a[0] + ((v[0] - a[0]) / l) * n, a[1] + ((v[1] - a[1]) / l) * n] as const
      return { a, b, lengthPx: n }
    }
    const made = [
      ...Array.from({ length: 20 }, () => towards([-600, 320])),
      ...Array.from({ length: 16 }, () => towards([1900, 340])),
      ...Array.from({ length: 14 }, () => towards([500, 40_000])),
      ...Array.from({ length: 12 }, () => towards([3000 * (next() - 0.5), 9000 * (next() - 0.5)])),
    ].sort((a, b) => b.lengthPx - a.lengthPx)
    const bundles = suggestBundles(made, 1000, 700)
    expect(bundles.length).toBeGreaterThanOrEqual(3)
    const three = bundles.slice(0, 3)
    expect(three.map((b) => b.kind).sort()).toEqual(['level', 'level', 'up'])
    const places = three.filter((b) => b.kind === 'level').map((b) => b.vanishing[0] / b.vanishing[2])
    expect(Math.min(...places)).toBeCloseTo(-600, -1)
    expect(Math.max(...places)).toBeCloseTo(1900, -1)
    for (const b of three) expect(b.members.length).toBeGreaterThanOrEqual(12)
  })
  it('too few edges make none', () => expect(suggestBundles([], 100, 100)).toEqual([]))
})

describe('what tags tell', () => {
  it('on 3:2 an equivalent is the same by width and by diagonal', () => {
    const r = focalFromTags({ focalMm: 17.1, equivalentMm: 26 }, 2400, 1600)
    expect(r.ok && r.value.from).toBe('equivalent')
    expect(r.ok && r.value.focalPx).toBeCloseTo((26 / 36) * 2400, 6)
    // half a millimetre evenly, and two parts in a hundred
    expect(r.ok && r.value.sdPx / r.value.focalPx).toBeCloseTo(Math.hypot(0.5 / Math.sqrt(3) / 26, 0.02), 4)
  })
  it('on 4:3 they are four per cent apart: the diagonal is taken, and the difference is part of the doubt', () => {
    const r = focalFromTags({ equivalentMm: 28 }, 4000, 3000)
    expect(r.ok && r.value.from).toBe('equivalent, by diagonal')
    expect(r.ok && r.value.focalPx / ((28 / 36) * 4000)).toBeCloseTo(5000 / 4000 / (43.2666 / 36), 4)
  })
  it('the sensor’s resolution tells best, and is left out where it does not fit', () => {
    const plane = { focalMm: 20, planeXResolution: 5000 / 36, planeUnitMm: 1, pixelWidth: 5000, pixelHeight: 3333 }
    const r = focalFromTags(plane, 5000, 3333)
    expect(r.ok && r.value).toMatchObject({ from: 'focal plane', sensorWidthMm: 36 })
    expect(r.ok && r.value.focalPx).toBeCloseTo((20 / 36) * 5000, 6)
    const resized = focalFromTags(plane, 2500, 1667)
    expect(resized.ok && resized.value.focalPx).toBeCloseTo((20 / 36) * 2500, 6)
    expect(resized.ok && resized.value.note).toMatch(/resized/)
    // if it was cut out of the whole, it is twice as long: within two sigma
    expect(resized.ok && resized.value.sdPx / resized.value.focalPx).toBeGreaterThan(0.5)
    const liar = focalFromTags({ ...plane, equivalentMm: 35 }, 5000, 3333)
    expect(liar.ok && liar.value.from).toBe('equivalent')
    expect(liar.ok && liar.value.note).toMatch(/does not fit/)
  })
  it('a crop makes it doubtful, and is told', () => {
    const r = focalFromTags({ equivalentMm: 24, pixelWidth: 2700, pixelHeight: 1800 }, 2100, 1300)
    expect(r.ok && r.value.note).toMatch(/cropped/)
    expect(r.ok && r.value.sdPx / r.value.focalPx).toBeGreaterThan(0.14)
  })
  it('nonsense is refused by name', () => {
    const reason = (t: Parameters<typeof focalFromTags>[0]): string => {
      const r = focalFromTags(t, 4000, 3000)
      return r.ok ? 'taken' : r.reason
    }
    expect(reason({})).toBe('no-tags')
    expect(reason({ focalMm: 24 })).toBe('sensor-unknown')
    expect(reason({ focalMm: -3 })).toBe('nonsense')
    expect(reason({ focalMm: 1e9, equivalentMm: 0 })).toBe('nonsense')
    expect(reason({ focalMm: NaN, equivalentMm: 65_535 })).toBe('nonsense')
    expect(reason({ focalMm: 0, equivalentMm: 0 })).toBe('no-tags')
    expect(reason({ focalMm: 20, planeXResolution: 72, planeUnitMm: 25.4, pixelWidth: 4000, pixelHeight: 3000 })).toBe('sensor-unknown') // prettier-ignore
  })
})

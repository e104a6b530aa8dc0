import { describe, expect, it } from 'vitest'
import { aperturePicture, encodedPicture } from './aperture-picture.ts'
import { aperturePoint, aperturePoints } from './aperture.ts'
import { apertureArea, brightPoints } from './bright-points.ts'

const SIZE = { width: 60, height: 40 }
/** Even grey at 5 m, with discs of light on it. */
function picture(lights: readonly { x: number; y: number; r: number; light: number; away: number }[]): Float32Array {
  const p = new Float32Array(SIZE.width * SIZE.height * 4)
  for (let y = 0; y < SIZE.height; y++)
    for (let x = 0; x < SIZE.width; x++) {
      const on = lights.find((l) => Math.hypot(x + 0.5 - l.x, y + 0.5 - l.y) <= l.r)
      const v = on?.light ?? 1
      p.set([v, v, v, on?.away ?? 5], (y * SIZE.width + x) * 4)
    }
  return p
}

describe('bright points', () => {
  it('are found in their place, with their distance and their light over the mean; the brightest first', () => {
    const { base, list } = brightPoints(picture([{ x: 15, y: 10, r: 2, light: 80, away: 3 }, { x: 45.5, y: 30.5, r: 1, light: 500, away: 8 }]), SIZE, () => 20) // prettier-ignore
    expect(base).toBeGreaterThan(0.9)
    expect(base).toBeLessThan(1.2)
    expect(list.map((p) => [p.xPx, p.yPx, p.distanceM].map((v) => Math.round(v * 100) / 100))).toEqual([[45.5, 30.5, 8], [15, 10, 3]]) // prettier-ignore
    const [, second] = list
    expect(second!.light[1]).toBeCloseTo((80 - base) * second!.core.length, 3)
    // the pixels about it belong to it too
    expect(second!.all.length).toBeGreaterThan(second!.core.length)
    expect(new Set(list.map((p) => p.of)).size).toBe(2)
  })
  it('a larger one is drawn in parts that share its light; each pixel belongs to one of them', () => {
    const { base, list } = brightPoints(picture([{ x: 30, y: 20, r: 8, light: 60, away: 3 }]), SIZE, () => 20)
    expect(list.length).toBeGreaterThan(3)
    expect(new Set(list.map((p) => p.of)).size).toBe(1)
    const pixels = list.reduce((s, p) => s + p.core.length, 0)
    expect(list.reduce((s, p) => s + p.light[0], 0)).toBeCloseTo((60 - base) * pixels, 0)
    const all = list.flatMap((p) => p.all)
    expect(new Set(all).size).toBe(all.length)
    // parts that are cut from one another cover their whole sides, and together as much as the light does
    const side = Math.max(...list.map((p) => p.spanPx[0]))
    expect(side).toBeGreaterThan(2)
    const middle = list.filter((p) => p.core.length === side * side)
    expect(middle.length).toBeGreaterThan(0)
    for (const p of middle) expect(p.spanPx).toEqual([side, side])
    for (const p of list) for (const s of p.spanPx) expect(s).toBeLessThanOrEqual(side)
  })
  it('tells how wide each is without the edges of its samples: nothing of a spark, a strip the way it runs', () => {
    const spanOf = (p: Float32Array) => brightPoints(p, SIZE, () => 20).list.map((q) => q.spanPx)
    expect(spanOf(picture([{ x: 45.5, y: 30.5, r: 1, light: 500, away: 8 }]))).toEqual([[1, 1]])
    expect(spanOf(picture([{ x: 45.5, y: 30.5, r: 0.5, light: 500, away: 8 }]))).toEqual([[0, 0]])
    const strip = picture([10, 11, 12, 13, 14, 15].map((x) => ({ x: x + 0.5, y: 20.5, r: 0.5, light: 90, away: 3 })))
    expect(spanOf(strip)).toEqual([[4, 0]])
  })
  it('what is in focus, hardly brighter, or as large as a window is none', () => {
    const lamp = picture([{ x: 30, y: 20, r: 2, light: 80, away: 3 }])
    expect(brightPoints(lamp, SIZE, () => 2).list).toEqual([])
    expect(brightPoints(picture([{ x: 30, y: 20, r: 2, light: 9, away: 3 }]), SIZE, () => 20).list).toEqual([])
    const window = picture([{ x: 30, y: 20, r: 18, light: 60, away: 3 }])
    expect(brightPoints(window, SIZE, () => 5).list).toEqual([])
    expect(brightPoints(new Float32Array(SIZE.width * SIZE.height * 4), SIZE, () => 20).list).toEqual([])
  })
  it('a lamp alone, with nothing about it that has light, is one over what that counts', () => {
    const alone = picture([{ x: 30, y: 20, r: 2, light: 80, away: 3 }]).map((v, i) => (i % 4 < 3 && v === 1 ? 0 : v))
    expect(brightPoints(alone, SIZE, () => 20).list).toEqual([])
    const { base, list } = brightPoints(alone, SIZE, () => 20, null, 0.5)
    expect(base).toBeGreaterThan(0.5)
    expect(base).toBeLessThan(0.7)
    expect(list).toHaveLength(1)
    // where enough has light that alone counts
    expect(
      brightPoints(picture([{ x: 30, y: 20, r: 2, light: 80, away: 3 }]), SIZE, () => 20, null, 1e-6).base,
    ).toBeGreaterThan(0.9)
  })
})

describe('bright points of another sample', () => {
  const both = picture([{ x: 15, y: 10, r: 2, light: 80, away: 3 }, { x: 45.5, y: 30.5, r: 1, light: 500, away: 8 }]) // prettier-ignore
  it('are those that no sample before had, over the mean of the first one', () => {
    const first = brightPoints(picture([{ x: 15, y: 10, r: 2, light: 80, away: 3 }]), SIZE, () => 20)
    const known = new Set(first.list.flatMap((p) => p.all))
    const more = brightPoints(both, SIZE, () => 20, { base: first.base, isPoint: (i) => known.has(i), isRefused: () => false }) // prettier-ignore
    expect(more.list.map((p) => p.distanceM)).toEqual([8])
    expect(more.base).toBe(first.base)
  })
  it('are none where they go on from a surface that was refused', () => {
    const window = picture([{ x: 30, y: 20, r: 9, light: 60, away: 3 }])
    const { list, refused, base } = brightPoints(window, SIZE, () => 3)
    expect(list).toEqual([])
    expect(refused.length).toBeGreaterThan(240)
    const strip = picture([{ x: 30, y: 20, r: 2, light: 60, away: 3 }])
    const [of, known] = [new Set(refused), { base, isPoint: () => false }]
    expect(brightPoints(strip, SIZE, () => 20, { ...known, isRefused: (i) => of.has(i) }).list).toEqual([])
    expect(brightPoints(strip, SIZE, () => 20, { ...known, isRefused: () => false }).list.length).toBe(1)
  })
})

describe('the area of an aperture', () => {
  it('is that of a circle, and of a regular polygon in it (closed forms)', () => {
    expect(apertureArea({ blades: 0, rotationDeg: 0, roundness: 1 })).toBe(Math.PI)
    for (const n of [5, 6, 7, 9]) {
      const straight = (n / 2) * Math.sin((2 * Math.PI) / n)
      expect(apertureArea({ blades: n, rotationDeg: 20, roundness: 0 }) / straight).toBeCloseTo(1, 3)
      expect(apertureArea({ blades: n, rotationDeg: 0, roundness: 1 })).toBeCloseTo(Math.PI, 6)
    }
  })
})

describe('a grey picture as aperture', () => {
  const SIDE = 16
  /** White in its right half, half grey at the upper left. */
  const grey = Uint8Array.from({ length: SIDE * SIDE }, (_, i) => (i % SIDE >= SIDE / 2 ? 255 : i < (SIDE * SIDE) / 2 ? 128 : 0)) // prettier-ignore
  const shape = { blades: 0, rotationDeg: 0, roundness: 1, picture: encodedPicture(grey) }
  it('is looked through as often as it is bright, and nowhere where it is black', () => {
    const n = 2000
    const places = Array.from({ length: n }, (_, i) => aperturePoint(shape, i + 1))
    const share = (f: (x: number, y: number) => boolean): number => places.filter(([x, y]) => f(x, y)).length / n
    expect(share((x, y) => x < 0 && y < 0)).toBe(0)
    expect(share((x) => x > 0)).toBeCloseTo(0.8, 1)
    expect(share((x, y) => x < 0 && y > 0)).toBeCloseTo(0.2, 1)
    expect(apertureArea(shape)).toBeCloseTo(4 * (0.5 + 0.25 * (128 / 255)), 6)
  })
  it('black, of another shape or no text of bytes it is none', () => {
    expect(aperturePicture({ picture: encodedPicture(new Uint8Array(SIDE * SIDE)) })).toBeNull()
    expect(aperturePicture({ picture: encodedPicture(new Uint8Array(17).fill(9)) })).toBeNull()
    expect(aperturePicture({ picture: '%%%' })).toBeNull()
    expect(aperturePicture({})).toBeNull()
  })
})

describe('the places of few samples', () => {
  it('begin in the middle of the lens and have their mean there', () => {
    for (const n of [1, 4, 16, 32]) {
      const places = aperturePoints({ blades: 6, rotationDeg: 0, roundness: 0 }, n)
      expect(places[0]).toEqual([0, 0])
      for (const k of [0, 1]) expect(places.reduce((s, p) => s + p[k]!, 0)).toBeCloseTo(0, 9)
    }
  })
})

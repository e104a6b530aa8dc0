import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { brightPoints, type BrightPoint, type KnownPoints } from './bright-points.ts'
import { brightPointsIn, rectsAbout, type PixelRect } from './bright-rects.ts'

const SIZE = { width: 120, height: 90 }
const BLOCK = 4
interface Light {
  readonly x: number
  readonly y: number
  readonly r: number
}
function picture(lights: readonly Light[]): Float32Array {
  const p = new Float32Array(SIZE.width * SIZE.height * 4)
  for (let y = 0; y < SIZE.height; y++)
    for (let x = 0; x < SIZE.width; x++) {
      const on = lights.some((l) => Math.hypot(x + 0.5 - l.x, y + 0.5 - l.y) <= l.r)
      p.set(on ? [90, 80, 70, 8] : [1, 1, 1, 5], (y * SIZE.width + x) * 4)
    }
  return p
}
/** Blocks as the GL tells them: four values each. */
function blocksOf(pixels: Float32Array, known: KnownPoints): Uint8Array {
  const [across, up] = [Math.ceil(SIZE.width / BLOCK), Math.ceil(SIZE.height / BLOCK)]
  const told = new Uint8Array(across * up * 4)
  for (let i = 0; i < SIZE.width * SIZE.height; i++) {
    if (pixels[i * 4]! < 60 || known.isPoint(i) || known.isRefused(i)) continue
    const [x, y] = [i % SIZE.width, Math.floor(i / SIZE.width)]
    told[(Math.floor(y / BLOCK) * across + Math.floor(x / BLOCK)) * 4] = 255
  }
  return told
}
const cut = (pixels: Float32Array, r: PixelRect) => {
  const part = new Float32Array(r.width * r.height * 4)
  for (let v = 0; v < r.height; v++)
    part.set(pixels.subarray(((r.y + v) * SIZE.width + r.x) * 4, ((r.y + v) * SIZE.width + r.x + r.width) * 4), v * r.width * 4) // prettier-ignore
  return { ...r, pixels: part }
}
const told = (list: readonly BrightPoint[]) =>
  list.map((p) => [p.xPx.toFixed(3), p.yPx.toFixed(3), [...p.core].sort((a, b) => a - b).join(), [...p.all].sort((a, b) => a - b).join()].join(' ')).sort() // prettier-ignore

describe('bright points in rectangles of a picture', () => {
  const light = fc.record({ x: fc.double({ min: 0, max: 120, noNaN: true }), y: fc.double({ min: 0, max: 90, noNaN: true }), r: fc.double({ min: 0.8, max: 11, noNaN: true }) }) // prettier-ignore
  it('are those of the whole picture, or the whole picture is asked for (random pictures)', () => {
    let inParts = 0
    fc.assert(
      fc.property(fc.array(light, { maxLength: 4 }), fc.array(light, { maxLength: 3 }), (before, more) => {
        const first = brightPoints(picture(before), SIZE, () => 20)
        const [points, none] = [new Set(first.list.flatMap((p) => p.all)), new Set(first.refused)]
        const base = first.base === Infinity ? 1 : first.base
        const known = { base, isPoint: (i: number) => points.has(i), isRefused: (i: number) => none.has(i) }
        const pixels = picture([...before, ...more])
        const rects = rectsAbout(blocksOf(pixels, known), 4, BLOCK, SIZE)
        const whole = brightPoints(pixels, SIZE, () => 20, known)
        const found = rects && brightPointsIn(rects.map((r) => cut(pixels, r)), SIZE, () => 20, known) // prettier-ignore
        if (!found) return
        inParts++
        expect(told(found.list)).toEqual(told(whole.list))
        expect([...found.refused].sort()).toEqual([...whole.refused].sort())
        // parts of one have one number, others another
        for (const p of found.list)
          for (const q of found.list) {
            const of = (a: BrightPoint) => whole.list.find((w) => w.core.includes(a.core[0]!))!.of
            expect(p.of === q.of).toBe(of(p) === of(q))
          }
      }),
      { numRuns: 150 },
    )
    expect(inParts).toBeGreaterThan(50)
  })
  it('rectangles hold their blocks and a border, never meet, and give way to the whole where they would be most of it', () => {
    const marked = (list: readonly number[]): Uint8Array => {
      const m = new Uint8Array(30 * 23 * 4)
      for (const i of list) m[i * 4] = 255
      return m
    }
    expect(rectsAbout(marked([]), 4, BLOCK, SIZE)).toEqual([])
    expect(rectsAbout(marked([0]), 4, BLOCK, SIZE)).toEqual([{ x: 0, y: 0, width: 16, height: 16 }])
    expect(rectsAbout(marked([30 * 10 + 3, 30 * 10 + 22]), 4, BLOCK, SIZE)).toEqual([{ x: 0, y: 28, width: 28, height: 28 }, { x: 76, y: 28, width: 28, height: 28 }]) // prettier-ignore
    expect(rectsAbout(marked([30 * 10 + 3, 30 * 10 + 8]), 4, BLOCK, SIZE)).toHaveLength(1)
    expect(rectsAbout(marked(Array.from({ length: 400 }, (_, i) => i)), 4, BLOCK, SIZE)).toBeNull()
    expect(rectsAbout(marked([30 * 3 + 3, 30 * 3 + 26, 30 * 19 + 3, 30 * 19 + 26, 30 * 11 + 14]), 4, BLOCK, SIZE)).toBeNull() // prettier-ignore
  })
})

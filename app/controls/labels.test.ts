import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { CONE_LETTERS, placedLabels, shortened } from './labels.ts'

const box = (l: { x: number; y: number }, text: string) => ({
  x0: l.x,
  x1: l.x + shortened(text, CONE_LETTERS).length * CONE_LETTERS.widthPx,
  y0: l.y - CONE_LETTERS.heightPx + 2,
  y1: l.y + 2,
})

describe('names beside points', () => {
  it('never lie over each other; a name alone always has its place; earlier ones stay when later ones come', () => {
    const mark = fc.record({ x: fc.nat(300), y: fc.nat(200), text: fc.string({ minLength: 1, maxLength: 60 }) })
    fc.assert(
      fc.property(fc.array(mark, { minLength: 1, maxLength: 25 }), (marks) => {
        const labels = placedLabels(marks)
        expect(labels[0]).not.toBeNull()
        const boxes = labels.flatMap((l, i) => (l ? [box(l, marks[i]!.text)] : []))
        boxes.forEach((a, i) =>
          boxes
            .slice(i + 1)
            .forEach((b) => expect(a.x0 < b.x1 && b.x0 < a.x1 && a.y0 < b.y1 && b.y0 < a.y1).toBe(false)),
        )
        expect(placedLabels(marks.slice(0, -1))).toEqual(labels.slice(0, -1))
      }),
    )
  })
  it('stay within the drawing, beside points that lie in it, and clear of what stands there', () => {
    const mark = fc.record({ x: fc.nat(300), y: fc.nat(200), text: fc.string({ minLength: 1, maxLength: 12 }) })
    const taken = [{ x0: 240, x1: 294, y0: 80, y1: 97 }]
    fc.assert(
      fc.property(fc.array(mark, { minLength: 1, maxLength: 12 }), (marks) => {
        const labels = placedLabels(marks, { width: 300, height: 200, taken })
        labels.forEach((l, i) => {
          if (!l) return
          const b = box(l, marks[i]!.text)
          expect(Math.min(b.x0, b.y0)).toBeGreaterThanOrEqual(0)
          expect(b.x1).toBeLessThanOrEqual(300)
          expect(b.y1).toBeLessThanOrEqual(200)
          expect(b.x0 < 294 && b.x1 > 240 && b.y0 < 97 && b.y1 > 80).toBe(false)
        })
        if (marks[0]!.x < 200 && marks[0]!.y > 30) expect(labels[0]).not.toBeNull()
      }),
    )
  })
  it('long names are cut', () => {
    expect(shortened('a'.repeat(40), CONE_LETTERS)).toBe(`${'a'.repeat(27)}…`)
    expect(shortened('Hall, east', CONE_LETTERS)).toBe('Hall, east')
  })
})

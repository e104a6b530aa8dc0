// Where do names beside points go, so that none lies over another?
// Model: one after the other, each takes the first of a few places about its point that is free; one for which there is none is left out
// (it shows when its point is pointed at). The order is the list's: earlier names stay where they are when later ones come.

export interface Labelled {
  readonly x: number
  readonly y: number
  readonly text: string
}
export interface PlacedLabel {
  /** Where the words begin, and the line they stand on. */
  readonly x: number
  readonly y: number
}
/** Room of a letter and of a line, page pixels; words longer than this are cut. */
export interface LetterRoom {
  readonly widthPx: number
  readonly heightPx: number
  readonly mostLetters: number
}
export const CONE_LETTERS: LetterRoom = { widthPx: 5.2, heightPx: 11, mostLetters: 28 }
/** Names on chips, in the mono. */
export const CHIP_LETTERS: LetterRoom = { widthPx: 6.5, heightPx: 16, mostLetters: 28 }
/** Names of marks over a photograph, in the mono. */
export const MARK_LETTERS: LetterRoom = { widthPx: 6.8, heightPx: 13, mostLetters: 12 }
const BESIDE_PX = 6
/** What names keep clear of, and the drawing they stay within: page pixels. */
export interface LabelRoom {
  readonly letters?: LetterRoom
  readonly width?: number
  readonly height?: number
  readonly taken?: readonly LabelBox[]
}
export interface LabelBox {
  readonly x0: number
  readonly x1: number
  readonly y0: number
  readonly y1: number
}

export const shortened = (text: string, { mostLetters }: LetterRoom): string =>
  text.length > mostLetters ? `${text.slice(0, mostLetters - 1)}…` : text

export function placedLabels(marks: readonly Labelled[], within: LabelRoom = {}): (PlacedLabel | null)[] {
  const { letters: room = CONE_LETTERS, width = Infinity, height = Infinity } = within
  const taken = [...(within.taken ?? [])]
  const isInside = (x: number, y: number): boolean => x >= 0 && x <= width && y >= 0 && y <= height
  return marks.map(({ x, y, text }) => {
    const w = shortened(text, room).length * room.widthPx
    const places: readonly PlacedLabel[] = [
      { x: x + BESIDE_PX, y: y - BESIDE_PX },
      { x: x + BESIDE_PX, y: y + BESIDE_PX + 6 },
      { x: x - BESIDE_PX - w, y: y - BESIDE_PX },
      { x: x - BESIDE_PX - w, y: y + BESIDE_PX + 6 },
      { x: x + BESIDE_PX, y: y - BESIDE_PX - room.heightPx },
      { x: x + BESIDE_PX, y: y + BESIDE_PX + 6 + room.heightPx },
    ]
    for (const p of places) {
      const box = { x0: p.x, x1: p.x + w, y0: p.y - room.heightPx + 2, y1: p.y + 2 }
      // a point outside the drawing may have its name where it likes: neither is seen
      if (isInside(x, y) && !(isInside(box.x0, box.y0) && isInside(box.x1, box.y1))) continue
      if (taken.some((t) => box.x0 < t.x1 && t.x0 < box.x1 && box.y0 < t.y1 && t.y0 < box.y1)) continue
      taken.push(box)
      return p
    }
    return null
  })
}

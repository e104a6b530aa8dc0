// Where are bright points new in a picture of which only a few places have to be read?
// Model: blocks of pixels that show something unknown, each with a border about it, joined where they meet; what lies wholly in such a
// rectangle is judged as in the whole picture, and what reaches out of one asks for the whole picture.
import { ABOUT, brightPoints, type BrightPoint, type BrightPoints, type KnownPoints } from './bright-points.ts'

interface Size {
  readonly width: number
  readonly height: number
}
/** Pixels: from (x, y) on. */
export interface PixelRect extends Size {
  readonly x: number
  readonly y: number
}
/** Pixels about a block that are read with it: a point is rarely larger. */
const BORDER_PX = 12
/** Of more blocks, or of a larger share of the picture, the whole is read. */
const MOST_BLOCKS = 300
const MOST_SHARE = 1 / 3

/**
 * Rectangles to be read for marked blocks of `blockPx` pixels a side, by rows (`marked`: anything but 0, every `stride`th value); none for
 * none, null where the whole picture is better.
 */
export function rectsAbout(marked: Uint8Array, stride: number, blockPx: number, size: Size): PixelRect[] | null {
  const across = Math.ceil(size.width / blockPx)
  let rects: PixelRect[] = []
  let n = 0
  for (let i = 0; i * stride < marked.length; i++) {
    if (!marked[i * stride]) continue
    if (++n > MOST_BLOCKS) return null
    const [bx, by] = [(i % across) * blockPx, Math.floor(i / across) * blockPx]
    const [x, y] = [Math.max(0, bx - BORDER_PX), Math.max(0, by - BORDER_PX)]
    const [right, top] = [
      Math.min(size.width, bx + blockPx + BORDER_PX),
      Math.min(size.height, by + blockPx + BORDER_PX),
    ]
    rects = joinedWith(rects, { x, y, width: right - x, height: top - y })
  }
  const area = rects.reduce((s, r) => s + r.width * r.height, 0)
  return area > MOST_SHARE * size.width * size.height ? null : rects
}
/** Rectangles with one more, joined with each that it meets. */
function joinedWith(rects: readonly PixelRect[], one: PixelRect): PixelRect[] {
  const meets = rects.filter((r) => r.x < one.x + one.width && one.x < r.x + r.width && r.y < one.y + one.height && one.y < r.y + r.height) // prettier-ignore
  if (meets.length === 0) return [...rects, one]
  const all = [...meets, one]
  const [x, y] = [Math.min(...all.map((r) => r.x)), Math.min(...all.map((r) => r.y))]
  const [right, top] = [Math.max(...all.map((r) => r.x + r.width)), Math.max(...all.map((r) => r.y + r.height))]
  return joinedWith(rects.filter((r) => !meets.includes(r)), { x, y, width: right - x, height: top - y }) // prettier-ignore
}

export interface ReadRect extends PixelRect {
  /** As for `brightPoints`, by rows of the rectangle. */
  readonly pixels: Float32Array
}
/**
 * What `brightPoints` finds in these rectangles of a picture, with the picture's indices and places; null where something that is not known
 * yet reaches out of its rectangle.
 */
export function brightPointsIn(
  rects: readonly ReadRect[],
  size: Size,
  discPx: (distanceM: number) => number,
  known: KnownPoints,
): BrightPoints | null {
  const [list, refused, joined]: [BrightPoint[], number[], number[]] = [[], [], []]
  for (const r of rects) {
    const inPicture = (i: number): number => (r.y + Math.floor(i / r.width)) * size.width + r.x + (i % r.width)
    const isPoint = (i: number): boolean => known.isPoint(inPicture(i))
    const isRefused = (i: number): boolean => known.isRefused(inPicture(i))
    const found = brightPoints(r.pixels, r, discPx, { base: known.base, isPoint, isRefused })
    if ([...found.list.flatMap((p) => p.core), ...found.refused].some((i) => reachesOut(i, r, size))) return null
    const before = Math.max(0, ...list.map((p) => p.of))
    for (const p of found.list)
      list.push({ ...p, core: p.core.map(inPicture), all: p.all.map(inPicture), xPx: p.xPx + r.x, yPx: p.yPx + r.y, of: p.of + before }) // prettier-ignore
    for (const i of found.refused) refused.push(inPicture(i))
    for (const i of found.joined) joined.push(inPicture(i))
  }
  return { base: known.base, list, refused, joined }
}
/** Whether a pixel lies so near to an edge of a rectangle, that is not the picture's, that what is about it is not in it. */
function reachesOut(i: number, r: PixelRect, { width, height }: Size): boolean {
  const [x, y] = [i % r.width, Math.floor(i / r.width)]
  return (
    (x < ABOUT && r.x > 0) ||
    (y < ABOUT && r.y > 0) ||
    (x >= r.width - ABOUT && r.x + r.width < width) ||
    (y >= r.height - ABOUT && r.y + r.height < height)
  )
}

// An aperture that is a grey picture: where samples look through it, and how much of its square is open.
// Model: cells of a square [-1, 1] about the middle of the lens; a place is chosen by the sum of the grey up to it, rows first, so that
// evenly spread numbers give places as dense as the picture is bright.

export interface AperturePicture {
  readonly side: number
  /** Rows from the top. */
  readonly grey: Uint8Array
  /** Sums up to each row, and within each row up to each cell, as shares. */
  readonly rows: Float64Array
  readonly cells: readonly Float64Array[]
  /** Mean grey, 0..1. */
  readonly mean: number
}
/** Cells a side that a picture may have, and has when it is made here. */
export const PICTURE_SIDE = { least: 4, most: 64, made: 48 } as const

const known = new Map<string, AperturePicture | null>()
/** The picture of a shape; null where it has none, or one that cannot be used (all black, or not a square). */
export function aperturePicture({ picture }: { readonly picture?: string | undefined }): AperturePicture | null {
  if (!picture) return null
  const before = known.get(picture)
  if (before !== undefined) return before
  const made = decoded(picture)
  if (known.size > 16) known.clear()
  known.set(picture, made)
  return made
}

function decoded(text: string): AperturePicture | null {
  let bytes: Uint8Array
  try {
    bytes = Uint8Array.from(atob(text), (c) => c.charCodeAt(0))
  } catch {
    return null
  }
  const side = Math.round(Math.sqrt(bytes.length))
  if (side * side !== bytes.length || side < PICTURE_SIDE.least || side > PICTURE_SIDE.most) return null
  const total = bytes.reduce((s, v) => s + v, 0)
  if (total === 0) return null
  const rows = new Float64Array(side + 1)
  const cells: Float64Array[] = []
  for (let y = 0; y < side; y++) {
    const row = new Float64Array(side + 1)
    for (let x = 0; x < side; x++) row[x + 1] = row[x]! + bytes[y * side + x]!
    rows[y + 1] = rows[y]! + row[side]! / total
    const sum = row[side]!
    if (sum > 0) for (let x = 0; x <= side; x++) row[x]! /= sum
    cells.push(row)
  }
  return { side, grey: bytes, rows, cells, mean: total / (255 * bytes.length) }
}
/** Cells of a picture as the document keeps them. */
export const encodedPicture = (grey: Uint8Array): string => btoa(String.fromCharCode(...grey))

/** The first step whose sum is over a share, and how far into it the share lies. */
function stepAt(sums: Float64Array, share: number): readonly [number, number] {
  let [low, high] = [0, sums.length - 2]
  while (low < high) {
    const mid = (low + high) >> 1
    if (sums[mid + 1]! > share) high = mid
    else low = mid + 1
  }
  const size = sums[low + 1]! - sums[low]!
  return [low, size > 0 ? Math.min(1, Math.max(0, (share - sums[low]!) / size)) : 0.5]
}
/** The place that two numbers of 0..1 stand for; x to the right, y up, in -1..1. */
export function placeInPicture(p: AperturePicture, u: number, v: number): readonly [number, number] {
  const [row, down] = stepAt(p.rows, v)
  const [column, along] = stepAt(p.cells[row]!, u)
  return [((column + along) / p.side) * 2 - 1, 1 - ((row + down) / p.side) * 2]
}

// How large is a picture, and is it whole? Read from the file's own structure, before anything is decoded.
// Source: jpeg-t81 (ITU-T T.81 B.1), png3, webp-container. What is not understood is told as unknown, never guessed.

import { refused, ok, type Result } from '#core/base'
import { photoTypeOf, type PhotoType } from './kinds.ts'

export interface PhotoHeader {
  readonly type: PhotoType
  /** As stored, before any turning; null where the header does not say. */
  readonly size: { readonly width: number; readonly height: number } | null
}
export type HeaderReason = 'no-picture' | 'cut-off' | 'empty' | 'too-large'
/** More than this is not decoded: it would not fit into a browser's memory. */
export const MOST_MEGAPIXELS = 150

const word = (b: Uint8Array, at: number): number => (b[at]! << 8) | b[at + 1]!
const long = (b: Uint8Array, at: number): number => ((word(b, at) << 16) | word(b, at + 2)) >>> 0
const little = (b: Uint8Array, at: number): number => b[at]! | (b[at + 1]! << 8) | (b[at + 2]! << 16)
const isFrame = (marker: number): boolean => marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker)

interface Found {
  readonly size: PhotoHeader['size']
  readonly isWhole: boolean
}
function jpeg(b: Uint8Array): Found {
  let size: PhotoHeader['size'] = null
  let at = 2
  while (at + 4 <= b.length) {
    if (b[at] !== 0xff) return { size, isWhole: false }
    const marker = b[at + 1]!
    if (marker === 0xff) at++
    else if (marker === 0xda) {
      // pictures follow; the end is the last thing in the file, or is followed by what phones add
      for (let i = at + 2; i + 1 < b.length; i++) if (b[i] === 0xff && b[i + 1] === 0xd9) return { size, isWhole: true }
      return { size, isWhole: false }
    } else {
      if (isFrame(marker) && at + 9 <= b.length) size = { width: word(b, at + 7), height: word(b, at + 5) }
      at += 2 + word(b, at + 2)
    }
  }
  return { size, isWhole: false }
}
function png(b: Uint8Array): Found {
  if (b.length < 33) return { size: null, isWhole: false }
  const size = { width: long(b, 16), height: long(b, 20) }
  for (let at = 8; at + 12 <= b.length;) {
    const length = long(b, at)
    if (long(b, at + 4) === 0x49454e44) return { size, isWhole: true }
    at += 12 + length
  }
  return { size, isWhole: false }
}
function webp(b: Uint8Array): Found {
  const bytes = b[4]! | (b[5]! << 8) | (b[6]! << 16) | (b[7]! << 24)
  const isExtended = String.fromCharCode(...b.subarray(12, 16)) === 'VP8X'
  const size = isExtended && b.length > 30 ? { width: little(b, 24) + 1, height: little(b, 27) + 1 } : null
  return { size, isWhole: bytes + 8 <= b.length + 1 }
}

/** Kind and size of a file that may be a photograph. */
export function readPhotoHeader(b: Uint8Array): Result<PhotoHeader, HeaderReason> {
  if (b.length === 0) return refused('empty', 'The file is empty.')
  const type = photoTypeOf(b)
  if (!type) return refused('no-picture', 'It is no picture that is read here: JPEG, PNG, WebP or AVIF.')
  const found = type === 'image/jpeg' ? jpeg(b) : type === 'image/png' ? png(b) : type === 'image/webp' ? webp(b) : { size: null, isWhole: true } // prettier-ignore
  if (!found.isWhole) return refused('cut-off', 'The file is cut off: a part of the picture is missing. Copy it again.')
  const { size } = found
  if (size && (size.width === 0 || size.height === 0)) return refused('empty', 'The picture has no size: 0 pixels wide or high.') // prettier-ignore
  const mega = size ? (size.width * size.height) / 1e6 : 0
  if (mega > MOST_MEGAPIXELS)
    return refused('too-large', `The picture has ${Math.round(mega)} megapixels; up to ${MOST_MEGAPIXELS} are read. Save it smaller.`) // prettier-ignore
  return ok({ type, size })
}

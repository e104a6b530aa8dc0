// Which files are photographs? Told by their first bytes, never by their names alone.

export const PHOTO_TYPES = ['image/jpeg', 'image/png', 'image/webp', 'image/avif'] as const
export type PhotoType = (typeof PHOTO_TYPES)[number]
export const PHOTO_ENDINGS = ['jpg', 'jpeg', 'png', 'webp', 'avif'] as const

const text = (b: Uint8Array, from: number, to: number): string => String.fromCharCode(...b.subarray(from, to))
/** The kind of picture that these first bytes (sixteen are enough) begin; null for any other file. */
export function photoTypeOf(b: Uint8Array): PhotoType | null {
  if (b[0] === 0xff && b[1] === 0xd8 && b[2] === 0xff) return 'image/jpeg'
  if (b[0] === 0x89 && text(b, 1, 8) === 'PNG\r\n\x1a\n') return 'image/png'
  if (text(b, 0, 4) === 'RIFF' && text(b, 8, 12) === 'WEBP') return 'image/webp'
  if (text(b, 4, 8) === 'ftyp' && ['avif', 'avis', 'mif1'].includes(text(b, 8, 12))) return 'image/avif'
  return null
}
export const isPhotoName = (name: string): boolean =>
  (PHOTO_ENDINGS as readonly string[]).includes(name.slice(name.lastIndexOf('.') + 1).toLowerCase())

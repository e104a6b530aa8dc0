import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { encodePngRgb } from '#formats/png'
import { isPhotoName, photoTypeOf, readPhotoHeader } from './index.ts'

const jpeg = new Uint8Array(readFileSync('node_modules/exif-js/example/DSCN0614_small.jpg'))
const png = encodePngRgb(new Uint8Array(4 * 3 * 3), 4, 3)
const reason = (b: Uint8Array): string => {
  const r = readPhotoHeader(b)
  return r.ok ? `${r.value.type} ${r.value.size?.width} x ${r.value.size?.height}` : r.reason
}

describe('what a file is', () => {
  it('is told by its first bytes', () => {
    expect(photoTypeOf(jpeg)).toBe('image/jpeg')
    expect(photoTypeOf(png)).toBe('image/png')
    expect(photoTypeOf(new TextEncoder().encode('RIFF0000WEBPVP8X'))).toBe('image/webp')
    expect(photoTypeOf(new TextEncoder().encode('\0\0\0\x20ftypavif'))).toBe('image/avif')
    expect(photoTypeOf(new TextEncoder().encode('GIF89a'))).toBeNull()
    expect(isPhotoName('A.B.JPG') && !isPhotoName('hall.glb')).toBe(true)
  })
  it('its size is read', () => {
    expect(reason(jpeg)).toBe('image/jpeg 400 x 300')
    expect(reason(png)).toBe('image/png 4 x 3')
  })
  it('what is none, empty, cut off, of no size or too large is refused by name', () => {
    expect(reason(new Uint8Array())).toBe('empty')
    expect(reason(new TextEncoder().encode('solid cube'))).toBe('no-picture')
    for (const part of [0.3, 0.9]) expect(reason(jpeg.subarray(0, jpeg.length * part))).toBe('cut-off')
    expect(reason(png.subarray(0, png.length - 14))).toBe('cut-off')
    const flat = png.slice()
    flat.set([0, 0, 0, 0], 20)
    expect(reason(flat)).toBe('empty')
    const huge = png.slice()
    huge.set([0, 0, 100, 0, 0, 0, 100, 0], 16)
    expect(reason(huge)).toBe('too-large')
  })
  it('no bytes after a first marker make it fail otherwise', () => {
    let s = 1
    for (let i = 0; i < 300; i++) {
      const b = jpeg.slice(0, 600)
      for (let k = 0; k < 20; k++) {
        s = (Math.imul(s, 1664525) + 1013904223) >>> 0
        b[3 + (s % 597)] = s >>> 24
      }
      expect(['cut-off', 'image/jpeg', 'empty', 'too-large']).toContain(reason(b).split(' ')[0])
    }
  })
})

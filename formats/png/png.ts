// How are pictures written as PNG, and how does a PNG say its pixel density?
// Model: signature, then chunks of length, type, data and CRC-32. Source: png3 (W3C PNG, third edition; pHYs 11.3.4.3).

import { zlibSync } from 'fflate'

const SIGNATURE = [137, 80, 78, 71, 13, 10, 26, 10] as const

const CRC_TABLE = Uint32Array.from({ length: 256 }, (_, n) => {
  let c = n
  for (let k = 0; k < 8; k++) c = c & 1 ? 0xedb88320 ^ (c >>> 1) : c >>> 1
  return c >>> 0
})
function crc32(bytes: Uint8Array): number {
  let c = 0xffffffff
  for (const b of bytes) c = CRC_TABLE[(c ^ b) & 255]! ^ (c >>> 8)
  return (c ^ 0xffffffff) >>> 0
}

function chunk(type: string, data: Uint8Array): Uint8Array {
  const out = new Uint8Array(12 + data.length)
  const view = new DataView(out.buffer)
  view.setUint32(0, data.length)
  for (let i = 0; i < 4; i++) out[4 + i] = type.charCodeAt(i)
  out.set(data, 8)
  view.setUint32(8 + data.length, crc32(out.subarray(4, 8 + data.length)))
  return out
}

function concat(parts: readonly Uint8Array[]): Uint8Array {
  const out = new Uint8Array(parts.reduce((n, p) => n + p.length, 0))
  let at = 0
  for (const p of parts) {
    out.set(p, at)
    at += p.length
  }
  return out
}

/** An 8-bit RGB PNG of width x height; `rgb` holds rows from the top, 3 bytes a pixel. */
export function encodePngRgb(rgb: Uint8Array, width: number, height: number): Uint8Array {
  if (rgb.length !== width * height * 3)
    throw new RangeError(`encodePngRgb: rgb.length = ${rgb.length}, wanted ${width * height * 3}`)
  const head = new Uint8Array(13)
  const view = new DataView(head.buffer)
  view.setUint32(0, width)
  view.setUint32(4, height)
  head.set([8, 2, 0, 0, 0], 8)
  const row = width * 3
  const raw = new Uint8Array((row + 1) * height)
  // filter 1 (left neighbour) suits smooth pictures and keeps the writer short
  for (let y = 0; y < height; y++) {
    const at = y * (row + 1)
    raw[at] = 1
    for (let i = 0; i < row; i++) raw[at + 1 + i] = rgb[y * row + i]! - (i >= 3 ? rgb[y * row + i - 3]! : 0)
  }
  return concat([
    Uint8Array.from(SIGNATURE),
    chunk('IHDR', head),
    chunk('IDAT', zlibSync(raw, { level: 6 })),
    chunk('IEND', new Uint8Array(0)),
  ])
}

/**
 * The same PNG with its pixel density (pixels per inch, written as whole pixels per metre) in front of its image data; an
 * earlier pHYs is replaced. RangeError when the bytes are not a PNG.
 */
export function withDensity(png: Uint8Array, ppi: number): Uint8Array {
  if (!SIGNATURE.every((b, i) => png[i] === b))
    throw new RangeError('withDensity: png does not begin with the PNG signature')
  const perMetre = Math.round(ppi / 0.0254)
  const data = new Uint8Array(9)
  new DataView(data.buffer).setUint32(0, perMetre)
  new DataView(data.buffer).setUint32(4, perMetre)
  data[8] = 1
  const parts: Uint8Array[] = [png.subarray(0, 8)]
  const view = new DataView(png.buffer, png.byteOffset, png.byteLength)
  let placed = false
  for (let at = 8; at + 8 <= png.length;) {
    const size = 12 + view.getUint32(at)
    const type = String.fromCharCode(...png.subarray(at + 4, at + 8))
    if (type === 'IDAT' && !placed) {
      parts.push(chunk('pHYs', data))
      placed = true
    }
    if (type !== 'pHYs') parts.push(png.subarray(at, at + size))
    at += size
  }
  return concat(parts)
}

/** Pixel density of a PNG in pixels per inch, or null when it does not say. */
export function densityOf(png: Uint8Array): number | null {
  const view = new DataView(png.buffer, png.byteOffset, png.byteLength)
  for (let at = 8; at + 8 <= png.length; at += 12 + view.getUint32(at)) {
    const type = String.fromCharCode(...png.subarray(at + 4, at + 8))
    if (type === 'pHYs') return png[at + 16] === 1 ? view.getUint32(at + 8) * 0.0254 : null
    if (type === 'IDAT') return null
  }
  return null
}

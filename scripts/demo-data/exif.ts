// Writes the few tags of a lens into a JPEG: for made photographs only. Source: cipa-dc008 (Exif 2.3), 4.6.

interface Tags {
  readonly make: string
  readonly model: string
  readonly focalMm: number
  readonly equivalentMm: number
  readonly pixelWidth: number
  readonly pixelHeight: number
}
type Entry = { readonly tag: number; readonly type: number; readonly count: number; readonly value: number | Buffer }

/** A directory at an offset within the TIFF part, what does not fit into it behind it. */
function directory(entries: readonly Entry[], at: number): Buffer {
  const head = Buffer.alloc(2 + entries.length * 12 + 4)
  head.writeUInt16BE(entries.length, 0)
  const tail: Buffer[] = []
  let next = at + head.length
  entries.forEach((e, i) => {
    const o = 2 + i * 12
    head.writeUInt16BE(e.tag, o)
    head.writeUInt16BE(e.type, o + 2)
    head.writeUInt32BE(e.count, o + 4)
    if (typeof e.value !== 'number') {
      head.writeUInt32BE(next, o + 8)
      tail.push(e.value)
      next += e.value.length
    } else if (e.type === 3) head.writeUInt16BE(e.value, o + 8)
    else head.writeUInt32BE(e.value, o + 8)
  })
  return Buffer.concat([head, ...tail])
}
const text = (tag: number, s: string): Entry => {
  const value = Buffer.from(`${s}\0${s.length % 2 ? '' : '\0'}`)
  return { tag, type: 2, count: s.length + 1, value }
}

/** What follows the first marker, without segments of tags. */
function withoutTags(jpeg: Uint8Array): Buffer {
  const kept: Uint8Array[] = []
  let at = 2
  while (jpeg[at] === 0xff && jpeg[at + 1] !== 0xda) {
    const end = at + 2 + ((jpeg[at + 2]! << 8) | jpeg[at + 3]!)
    if (jpeg[at + 1] !== 0xe1) kept.push(jpeg.subarray(at, end))
    at = end
  }
  return Buffer.concat([...kept, jpeg.subarray(at)])
}

/** The JPEG with these tags in the place of its own. */
export function withExif(jpeg: Uint8Array, t: Tags): Buffer {
  const focal = Buffer.alloc(8)
  focal.writeUInt32BE(Math.round(t.focalMm * 100), 0)
  focal.writeUInt32BE(100, 4)
  const named = [text(0x010f, t.make), text(0x0110, t.model)]
  const first = 8
  const ifd0 = (exifAt: number): Buffer =>
    directory([...named, { tag: 0x8769, type: 4, count: 1, value: exifAt }], first)
  const exifAt = first + ifd0(0).length
  const exif = directory(
    [
      { tag: 0x920a, type: 5, count: 1, value: focal },
      { tag: 0xa002, type: 4, count: 1, value: t.pixelWidth },
      { tag: 0xa003, type: 4, count: 1, value: t.pixelHeight },
      { tag: 0xa405, type: 3, count: 1, value: t.equivalentMm },
    ],
    exifAt,
  )
  const tiff = Buffer.concat([Buffer.from('MM\0*\0\0\0\x08', 'latin1'), ifd0(exifAt), exif])
  const body = Buffer.concat([Buffer.from('Exif\0\0', 'latin1'), tiff])
  const mark = Buffer.from([0xff, 0xe1, 0, 0])
  mark.writeUInt16BE(body.length + 2, 2)
  return Buffer.concat([jpeg.subarray(0, 2), mark, body, withoutTags(jpeg)])
}

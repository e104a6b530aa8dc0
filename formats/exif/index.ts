// Door of formats/exif: the tags of a photograph. Apart from its kind, so that only what reads tags loads the reader.
// Source: cipa-dc008 (Exif 2.3).

import ExifReader from 'exifreader'
import type { PhotoTags } from '#core/photo'

/** Millimetres of FocalPlaneResolutionUnit: inch, centimetre, and two that some cameras write. */
const UNIT_MM: Readonly<Record<number, number>> = { 2: 25.4, 3: 10, 4: 1, 5: 0.001 }

const numberOf = (tag: { value?: unknown } | undefined): number | undefined => {
  const v = tag?.value
  if (typeof v === 'number') return Number.isFinite(v) ? v : undefined
  if (!Array.isArray(v)) return undefined
  const [a, b] = v as unknown[]
  if (typeof a !== 'number') return undefined
  const n = typeof b === 'number' && v.length === 2 ? a / b : a
  return Number.isFinite(n) ? n : undefined
}
const textOf = (tag: { description?: string } | undefined): string => (tag?.description ?? '').replace(/\0/g, '').trim()

/** What a JPEG, PNG, WebP or AVIF says of camera and lens; nothing where it has no tags or they cannot be read. Never throws. */
export function readTags(bytes: ArrayBuffer): PhotoTags {
  try {
    const { exif = {} } = ExifReader.load(bytes, { expanded: true })
    const tags = exif as Record<string, { value?: unknown; description?: string } | undefined>
    const unit = numberOf(tags['FocalPlaneResolutionUnit'])
    const camera = [textOf(tags['Make']), textOf(tags['Model'])]
      .filter((t) => t !== '')
      .join(' ')
      .slice(0, 80)
    const found: PhotoTags = {
      focalMm: numberOf(tags['FocalLength']),
      equivalentMm: numberOf(tags['FocalLengthIn35mmFilm']),
      planeXResolution: numberOf(tags['FocalPlaneXResolution']),
      planeUnitMm: unit === undefined ? undefined : UNIT_MM[unit],
      pixelWidth: numberOf(tags['PixelXDimension']),
      pixelHeight: numberOf(tags['PixelYDimension']),
      ...(camera && { camera }),
    }
    return Object.fromEntries(Object.entries(found).filter(([, v]) => v !== undefined))
  } catch {
    return {}
  }
}

// Tags of real photographs, judged by ExifTool (`exiftool-vendored.pl`). The files come with the packages exif-js and jpeg-exif.
import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { focalFromTags } from '#core/photo'
import { readTags } from '#formats/exif'
import { withExif } from '../../scripts/demo-data/exif.ts'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { tmpdir } from 'node:os'

const TOOL = 'node_modules/exiftool-vendored.pl/bin/exiftool'
const FILES = [
  'node_modules/exif-js/example/DSCN0614_small.jpg',
  'node_modules/exif-js/example/dsc_09827.jpg',
  'node_modules/exif-js/example/Bush-dog.jpg',
  'node_modules/jpeg-exif/test/IMG_0001.JPG',
  'node_modules/jpeg-exif/test/IMG_0003.JPG',
]
function judged(file: string): Record<string, number | undefined> {
  const text = execFileSync('perl', [TOOL, '-j', '-n', '-FocalLength', '-FocalLengthIn35mmFormat', '-ExifImageWidth', '-ExifImageHeight', file], { encoding: 'utf8' }) // prettier-ignore
  return (JSON.parse(text) as Record<string, number | undefined>[])[0]!
}
const bytesOf = (file: string): ArrayBuffer => new Uint8Array(readFileSync(file)).buffer

describe('tags of real photographs', () => {
  it.each(FILES)('%s: as ExifTool reads them', (file) => {
    const tool = judged(file)
    const own = readTags(bytesOf(file))
    expect(own.focalMm).toEqual(tool['FocalLength'])
    expect(own.equivalentMm).toEqual(tool['FocalLengthIn35mmFormat'])
    expect(own.pixelWidth).toEqual(tool['ExifImageWidth'])
    expect(own.pixelHeight).toEqual(tool['ExifImageHeight'])
  })
  it('two tell a focal length that fits their own crop factor, one a square crop, two nothing', () => {
    const told = (file: string, w: number, h: number) => focalFromTags(readTags(bytesOf(file)), w, h)
    const compact = told(FILES[0]!, 400, 300)
    expect(compact.ok && compact.value.from).toBe('equivalent, by diagonal')
    expect(compact.ok && compact.value.focalPx).toBeCloseTo((102 / Math.hypot(36, 24)) * 500, 3)
    const mirror = told(FILES[1]!, 400, 266)
    // 190 mm on a sensor of 23.7 mm (two thirds of 35.5): in pixels of this copy
    expect(mirror.ok && Math.abs(mirror.value.focalPx / ((285 / 36) * 400) - 1)).toBeLessThan(0.01)
    expect(told(FILES[2]!, 400, 398)).toMatchObject({ ok: false, reason: 'no-tags' })
    const square = told(FILES[3]!, 2448, 2448)
    expect(square.ok && square.value.sdPx / square.value.focalPx).toBeGreaterThan(0.04)
  })
  it('what the demo’s photographs are given is what ExifTool reads', () => {
    const folder = mkdtempSync(join(tmpdir(), 'yoroi-exif-'))
    const file = join(folder, 'made.jpg')
    const plain = readFileSync(FILES[4]!)
    writeFileSync(file, withExif(plain, { make: 'Made', model: 'Demo', focalMm: 17.1, equivalentMm: 26, pixelWidth: 2400, pixelHeight: 1600 })) // prettier-ignore
    expect(judged(file)).toMatchObject({ FocalLength: 17.1, FocalLengthIn35mmFormat: 26 })
    expect(readTags(bytesOf(file))).toMatchObject({ focalMm: 17.1, equivalentMm: 26, camera: 'Made Demo' })
    rmSync(folder, { recursive: true })
  })
  it('bytes that are none, and tags that are broken, tell nothing and throw nothing', () => {
    expect(readTags(new ArrayBuffer(0))).toEqual({})
    const b = new Uint8Array(readFileSync(FILES[0]!))
    for (let i = 0; i < 60; i++) {
      const c = b.slice()
      for (let k = 20; k < 400; k++) if ((k * 7919 + i * 104729) % 11 === 0) c[k] = (k * i) & 255
      expect(() => readTags(c.buffer)).not.toThrow()
    }
  })
})

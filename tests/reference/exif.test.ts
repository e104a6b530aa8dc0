// Equivalents, angles and hyperfocal distances against ExifTool, which works them out from a photograph's tags. Source: exiftool.
import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { equivalentOf, fieldOfView, SENSORS } from '#core/camera'
import { depthOfField } from '#core/optics'
import { frameOf, lensOf } from '../support/cameras.ts'

const exiftool = createRequire(import.meta.url)('exiftool-vendored.pl') as string
const FOCALS = [8, 14, 24, 35, 50, 85, 200, 600]
/** Sensor pixels a millimetre: every size of the trade is a whole number of pixels. */
const PER_MM = 100
/** A grey pixel. */
const JPEG =
  '/9j/4AAQSkZJRgABAQEASABIAAD/2wBDAP//////////////////////////////////////////////////////////////////////////////////////wgALCAABAAEBAREA/8QAFBABAAAAAAAAAAAAAAAAAAAAAP/aAAgBAQABPxA='
/** It takes sensors of more than 100 mm across for a slip. */
const sensors = SENSORS.filter((s) => Math.hypot(s.width, s.height) < 100)
const cases = sensors.flatMap((sensor) => FOCALS.map((focalMm) => ({ sensor, focalMm })))
const fileOf = (i: number): string => `${String(i).padStart(3, '0')}.jpg`
/** Numbers of many digits are told as words. */
type Told = Record<'FocalLength35efl' | 'FOV' | 'CircleOfConfusion' | 'HyperfocalDistance', number | string>
let told: Told[]
const folder = mkdtempSync(join(tmpdir(), 'yoroi-exif-'))
beforeAll(() => {
  const run = (...args: string[]): string => execFileSync('perl', [exiftool, ...args, '-common_args', '-n'], { cwd: folder, encoding: 'utf8', stdio: ['ignore', 'pipe', 'ignore'] }) // prettier-ignore
  const writes = cases.flatMap(({ sensor, focalMm }, i) => {
    writeFileSync(join(folder, fileOf(i)), Buffer.from(JPEG, 'base64'))
    const tags = {
      FocalLength: focalMm,
      FNumber: 8,
      FocalPlaneXResolution: PER_MM,
      FocalPlaneYResolution: PER_MM,
      FocalPlaneResolutionUnit: 4, // millimetres
      ExifImageWidth: Math.round(sensor.width * PER_MM),
      ExifImageHeight: Math.round(sensor.height * PER_MM),
    }
    return [...Object.entries(tags).map(([k, v]) => `-${k}=${v}`), '-overwrite_original', fileOf(i), '-execute']
  })
  writeFileSync(join(folder, 'writes.txt'), writes.join('\n'))
  run('-@', 'writes.txt')
  told = JSON.parse(run('-j', '-FocalLength35efl', '-FOV', '-CircleOfConfusion', '-HyperfocalDistance', ...cases.map((_, i) => fileOf(i)))) as Told[] // prettier-ignore
}, 60_000)
afterAll(() => rmSync(folder, { recursive: true, force: true }))

describe.each(sensors)('on $name', (sensor) => {
  const sensorMm = { width: sensor.width, height: sensor.height }
  it('equivalents, angles and hyperfocal distances are those told of a photograph', () => {
    expect(told).toHaveLength(cases.length)
    cases.forEach(({ sensor: s, focalMm }, i) => {
      if (s !== sensor) return
      const { byDiagonalMm } = equivalentOf({ focalMm, sensorMm })
      expect(byDiagonalMm / Number(told[i]!.FocalLength35efl)).toBeCloseTo(1, 6)
      // the angle it tells is that of the equivalent on 36 x 24, with 3.14159 for pi
      const { horizontalDeg } = fieldOfView(lensOf({ focalMm: byDiagonalMm }), frameOf(3600, 2400))
      expect(horizontalDeg / Number(told[i]!.FOV)).toBeCloseTo(1, 5)
      const cocMm = Number(told[i]!.CircleOfConfusion)
      const r = depthOfField({ focalMm, fNumber: 8, focusM: 10, cocMm })
      // theirs is measured from the focal point, ours from the lens
      expect(r.ok && r.value.hyperfocalM - focalMm / 1000).toBeCloseTo(Number(told[i]!.HyperfocalDistance), 6)
    })
  })
})

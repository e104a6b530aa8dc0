import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { frameOf, lensOf } from '../../tests/support/cameras.ts'
import { equivalentOf, fieldOfView, focalOfAngle, focalOfEquivalent, focalOfExtent, heightAtDepthM, sensorOf, SENSORS, widthAtDepthM, type Brown } from './index.ts' // prettier-ignore

const barrel: Brown = { kind: 'brown', k1: -0.05, k2: 0.004, k3: 0, p1: 0.001, p2: -0.002 }

/**
 * Angles of view of eight focal lengths on five sensors, degrees across, up and diagonal: computed from 2 atan(d / 2 f); those on
 * 36 x 24 and 23.6 x 15.7 stand in lens makers' tables to a tenth (from memory).
 */
const SIZES = [[36, 24], [23.6, 15.7], [17.3, 13], [13.2, 8.8], [56, 41.5]] as const // prettier-ignore
const FOCAL = [14, 20, 24, 35, 50, 85, 135, 200] as const
const TABLE: readonly (readonly [number, number, number])[] = [
  // 36 x 24
  [104.25, 81.2, 114.18], [83.97, 61.93, 94.49], [73.74, 53.13, 84.06], [54.43, 37.85, 63.44],
  [39.6, 26.99, 46.79], [23.91, 16.07, 28.56], [15.19, 10.16, 18.21], [10.29, 6.87, 12.35],
  // 23.6 x 15.7
  [80.25, 58.56, 90.7], [61.08, 42.86, 70.65], [52.36, 36.22, 61.13], [37.26, 25.28, 44.09],
  [26.56, 17.85, 31.65], [15.81, 10.55, 18.93], [9.99, 6.66, 11.99], [6.75, 4.5, 8.11],
  // 17.3 x 13
  [63.42, 49.81, 75.4], [46.78, 36.01, 56.83], [39.64, 30.31, 48.53], [27.76, 21.04, 34.36],
  [19.63, 14.81, 24.42], [11.62, 8.75, 14.51], [7.33, 5.51, 9.16], [4.95, 3.72, 6.19],
  // 13.2 x 8.8
  [50.48, 34.89, 59.07], [36.53, 24.81, 43.27], [30.75, 20.78, 36.58], [21.36, 14.33, 25.54],
  [15.04, 10.06, 18.03], [8.88, 5.93, 10.66], [5.6, 3.73, 6.73], [3.78, 2.52, 4.54],
  // 56 x 41.5
  [126.87, 111.99, 136.23], [108.92, 92.11, 120.3], [98.8, 81.69, 110.89], [77.32, 61.32, 89.75],
  [58.5, 45.08, 69.75], [36.46, 27.44, 44.59], [23.43, 17.48, 28.95], [15.94, 11.85, 19.77],
] // prettier-ignore

describe('numbers of a lens', () => {
  it.each(TABLE.map((row, i) => [FOCAL[i % 8]!, SIZES[Math.floor(i / 8)]!, row] as const))('%d mm on %s', (focalMm, [width, height], row) => {
    const lens = lensOf({ focalMm, sensorMm: { width, height }, sensorUse: 'covers' })
    const fov = fieldOfView(lens, frameOf(width * 100, height * 100))
    ;[fov.horizontalDeg, fov.verticalDeg, fov.diagonalDeg].forEach((v, k) => expect(Math.abs(v - row[k]!)).toBeLessThan(0.011))
  }) // prettier-ignore
  it('come back from angle, width and height to the focal length, with a lens that distorts too, on all sensors', () => {
    fc.assert(
      fc.property(fc.double({ min: 18, max: 400, noNaN: true }), fc.constantFrom(...SENSORS), fc.boolean(), fc.double({ min: 0.5, max: 40, noNaN: true }), (mm, { width, height }, isBent, depthM) => {
        // as wide as on 36 x 24, so that the lens does not fold
        const focalMm = focalOfEquivalent({ width, height }, mm, 'diagonal')
        const lens = lensOf({ focalMm, sensorMm: { width, height }, riseMm: width / 40, crossMm: width / 50, distortion: isBent ? barrel : null })
        const frame = frameOf(1200, 900)
        const fov = fieldOfView(lens, frame)
        const other = { ...lens, focalMm: 3 * focalMm }
        for (const [kind, deg] of [['horizontal', fov.horizontalDeg], ['vertical', fov.verticalDeg], ['diagonal', fov.diagonalDeg]] as const) {
          const r = focalOfAngle(other, frame, kind, deg)
          expect(r.ok && r.value / focalMm).toBeCloseTo(1, 8)
        }
        for (const extent of [{ widthM: widthAtDepthM({ lens, frame }, depthM) }, { heightM: heightAtDepthM({ lens, frame }, depthM) }]) {
          const r = focalOfExtent({ lens: other, frame }, depthM, extent)
          expect(r.ok && r.value / focalMm).toBeCloseTo(1, 8)
        }
      }),
      { numRuns: 100 },
    )
  }) // prettier-ignore
  it('angles of 0 and 180, widths of nought and parallel pictures are refused', () => {
    const lens = lensOf()
    for (const deg of [0, 180, -5, NaN]) expect(focalOfAngle(lens, frameOf(3, 2), 'horizontal', deg).ok).toBe(false)
    expect(focalOfExtent({ lens, frame: frameOf(3, 2) }, 4, { widthM: 0 }).ok).toBe(false)
    expect(focalOfExtent({ lens, frame: frameOf(3, 2) }, -1, { widthM: 2 }).ok).toBe(false)
    const flat = lensOf({ projection: { kind: 'parallel', widthM: 4 } })
    expect(focalOfAngle(flat, frameOf(3, 2), 'vertical', 40).ok).toBe(false)
    expect(heightAtDepthM({ lens: flat, frame: frameOf(4, 3) }, 9)).toBeCloseTo(3, 12)
    // a barrel that folds at 1.29 focal lengths never sees 150 degrees
    const folds = { ...lens, distortion: { ...barrel, k1: -0.2, k2: 0, p1: 0, p2: 0 } }
    expect(focalOfAngle(folds, frameOf(3, 2), 'horizontal', 150)).toMatchObject({ ok: false, reason: 'reach' })
  })
  it('equivalents by diagonal and by width, which differ where the shapes do', () => {
    // 12.5 mm on 17.3 x 13: 25.0 by diagonal (crop 1.999), 26.0 by width (crop 2.081)
    const four = equivalentOf({ focalMm: 12.5, sensorMm: { width: 17.3, height: 13 } })
    expect(four.byDiagonalMm).toBeCloseTo(24.99, 1)
    expect(four.byWidthMm).toBeCloseTo(26.01, 1)
    expect(four.isSame).toBe(false)
    expect(equivalentOf({ focalMm: 50, sensorMm: { width: 24, height: 36 } })).toEqual({
      byDiagonalMm: 50,
      byWidthMm: 50,
      isSame: true,
    })
    for (const by of ['diagonal', 'width'] as const)
      expect(
        focalOfEquivalent({ width: 17.3, height: 13 }, by === 'width' ? four.byWidthMm : four.byDiagonalMm, by),
      ).toBeCloseTo(12.5, 12)
  })
  it('a sensor is found lying and upright', () => {
    expect(sensorOf({ width: 24, height: 36 })).toMatchObject({ sensor: { name: 'full frame' }, isUpright: true })
    expect(sensorOf({ width: 17.3, height: 13 })!.isUpright).toBe(false)
    expect(sensorOf({ width: 30, height: 20 })).toBeNull()
  })
})

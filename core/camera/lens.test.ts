import { describe, expect, it } from 'vitest'
import { fieldOfView, focalForAngle, imageCircleMm, usedSensor, type Lens } from './index.ts'
import { frameOf, lensOf } from '../../tests/support/cameras.ts'

// Angles of view on 36 x 24 mm: computed from 2 atan(d / 2f); the same figures stand in lens makers' tables.
const TABLE: [number, number, number, number][] = [
  [20, 83.97, 61.93, 94.49],
  [24, 73.74, 53.13, 84.06],
  [28, 65.47, 46.4, 75.38],
  [35, 54.43, 37.85, 63.44],
  [50, 39.6, 26.99, 46.79],
  [85, 23.91, 16.07, 28.56],
  [135, 15.19, 10.16, 18.21],
  [200, 10.29, 6.87, 12.35],
]

describe('fieldOfView', () => {
  it.each(TABLE)('%d mm matches the table of angles', (focalMm, h, v, d) => {
    const fov = fieldOfView(lensOf({ focalMm }), frameOf(1800, 1200))
    expect(fov.horizontalDeg).toBeCloseTo(h, 2)
    expect(fov.verticalDeg).toBeCloseTo(v, 2)
    expect(fov.diagonalDeg).toBeCloseTo(d, 2)
    expect(focalForAngle(36, fov.horizontalDeg)).toBeCloseTo(focalMm, 9)
  })
  it('ignores shift, is zero for parallel, the coverage for panoramas', () => {
    const shifted = fieldOfView(lensOf({ riseMm: 8, crossMm: -3 }), frameOf(1800, 1200))
    expect(shifted).toEqual(fieldOfView(lensOf(), frameOf(1800, 1200)))
    expect(fieldOfView(lensOf({ projection: { kind: 'parallel', widthM: 4 } }), frameOf(9, 6)).horizontalDeg).toBe(0)
    // 120 deg on 1800 x 1200 is 69.84 deg high (computed from rho = 859.437)
    const cyl = fieldOfView(lensOf({ projection: { kind: 'cylindrical', horizontalDeg: 120 } }), frameOf(1800, 1200))
    expect(cyl.verticalDeg).toBeCloseTo(69.84, 2)
  })
})

describe('usedSensor', () => {
  const use = (sensorUse: Lens['sensorUse'], w: number, h: number) => usedSensor(lensOf({ sensorUse }), frameOf(w, h))
  it.each([
    ['acrossWidth', 1000, 1000, 36],
    ['acrossHeight', 1000, 1000, 24],
    ['inside', 1000, 1000, 24],
    ['covers', 1000, 1000, 36],
    ['inside', 2000, 1000, 36],
    ['covers', 2000, 1000, 48],
  ] as const)('%s of %d x %d is %d mm wide', (sensorUse, w, h, wide) => {
    const used = use(sensorUse, w, h)
    expect(used.widthMm).toBeCloseTo(wide, 12)
    expect(used.heightMm).toBeCloseTo((wide * h) / w, 12)
  })
})

it('the image circle a shift needs', () => {
  // 12 mm along the short side 60.0 mm, along the long side 64.6 mm (computed)
  expect(imageCircleMm(lensOf({ riseMm: 12 }), frameOf(3, 2))).toBeCloseTo(60.0, 1)
  expect(imageCircleMm(lensOf({ crossMm: -12 }), frameOf(3, 2))).toBeCloseTo(64.6, 1)
})

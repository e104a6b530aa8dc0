import { describe, expect, it } from 'vitest'
import { cameraOf } from '../../tests/support/cameras.ts'
import { magnified, projectPoint } from './index.ts'

describe('a magnified part of the picture', () => {
  const POINT = [0.7, 5, 0.9] as const
  for (const [name, lens] of [
    ['plain', {}],
    ['shifted', { riseMm: 4, crossMm: -3 }],
    ['with a lens that bends', { distortion: { kind: 'brown', k1: -0.08, k2: 0.01, k3: 0, p1: 0.001, p2: -0.002 } }],
    ['across the height', { sensorUse: 'acrossHeight' }],
  ] as const)
    it(`shows what the frame shows there, so many times as large: ${name}`, () => {
      const camera = cameraOf({ bearingDeg: 4, tiltDeg: 3, rollDeg: 2 }, lens)
      const at = projectPoint(camera, POINT)!
      const part = magnified(camera, [at.xPx + 6, at.yPx - 4], 30, 150)!
      const there = projectPoint(part, POINT)!
      expect(there.xPx).toBeCloseTo(75 - 6 * 5, 8)
      expect(there.yPx).toBeCloseTo(75 + 4 * 5, 8)
    })
  it('is told of perspective lenses only', () => {
    expect(magnified(cameraOf({}, { projection: { kind: 'parallel', widthM: 4 } }), [5, 5], 30, 150)).toBeNull()
  })
})

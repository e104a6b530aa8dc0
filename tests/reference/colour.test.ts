// White balance against a colour library of the registry (colorjs.io): its Bradford adaptation, its illuminants, its sRGB.
import Color from 'colorjs.io'
import { RGBColorSpace, XYZ_D65 } from 'colorjs.io/fn'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { balanced, balanceMatrix, whitePoint } from '#core/optics'
import type { Vec3 } from '#core/math'

const xyzOf = ([x, y]: readonly [number, number]): [number, number, number] => [x / y, 1, (1 - x - y) / y]

describe('white balance', () => {
  it('adapts as the library does, colour by colour, for any light', () => {
    const unit = fc.double({ min: 0.02, max: 0.98, noNaN: true })
    // a space of the library's whose numbers are XYZ under the light: leaving it adapts to D65
    const under = (kelvin: number) =>
      new RGBColorSpace({
        id: `under-${kelvin}`,
        name: 'Under a light',
        white: xyzOf(whitePoint({ kelvin, tint: 0 })),
        base: XYZ_D65,
        toXYZ_M: [[1, 0, 0], [0, 1, 0], [0, 0, 1]],
        fromXYZ_M: [[1, 0, 0], [0, 1, 0], [0, 0, 1]],
      }) // prettier-ignore
    fc.assert(
      fc.property(fc.double({ min: 2000, max: 12_000, noNaN: true }), fc.tuple(unit, unit, unit), (kelvin, rgb) => {
        const xyz = new Color('srgb-linear', rgb).to('xyz-d65').coords as [number, number, number]
        const adapted = under(kelvin).to(XYZ_D65, xyz) as [number, number, number]
        const wanted = new Color('xyz-d65', adapted).to('srgb-linear').coords as [number, number, number]
        // its D65 and the light of 6504 K are apart by up to 0.0006 in x and y
        balanced(balanceMatrix({ kelvin, tint: 0 }), rgb as unknown as Vec3).forEach((v, k) =>
          expect(Math.abs(v - wanted[k]!)).toBeLessThan(0.006 * Math.max(1, ...wanted)),
        )
      }),
    )
  })
  it('knows its D65 and D50 within the handbook’s tolerance', () => {
    for (const [kelvin, white] of [
      [6504, Color.WHITES.D65],
      [5003, Color.WHITES.D50],
    ] as const) {
      // prettier-ignore
      const [X, Y, Z] = white as [number, number, number]
      const [x, y] = whitePoint({ kelvin, tint: 0 })
      expect(Math.abs(x - X / (X + Y + Z))).toBeLessThan(0.0006)
      expect(Math.abs(y - Y / (X + Y + Z))).toBeLessThan(0.0006)
    }
  })
})

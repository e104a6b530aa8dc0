import { describe, expect, it } from 'vitest'
import { Color, MeshBasicMaterial, MeshStandardMaterial } from 'three'
import type { Vec3 } from '#core/math'
import { Emitters } from './emitters.ts'
import { emissionOf, SCREEN_CDM2 } from './emission.ts'

/** A square of side `a` in the plane z = 2 that shines downward. */
function square(a: number, light: Vec3): Emitters {
  const h = a / 2
  const positions = Float32Array.from([-h, -h, 2, -h, h, 2, h, h, 2, h, -h, 2])
  const emission = Float32Array.from([0, 1, 2, 3].flatMap(() => light))
  return new Emitters({ positions, emission, indices: Uint32Array.from([0, 1, 2, 0, 2, 3]) })
}
const lux = (e: Emitters, from: Vec3, n = 4000): number =>
  e.looks(from, n, 0.5, 1e-3).reduce((s, r) => s + r.lux[1] * Math.max(0, r.direction[2]), 0)

describe('light from shining surfaces', () => {
  it('a small square gives luminance times area over the distance squared (inverse-square law)', () => {
    expect(lux(square(0.02, [1000, 1000, 1000]), [0, 0, 0])).toBeCloseTo((1000 * 0.02 ** 2) / 4, 3)
  })
  it('a large one what its form factor says (parallel square over a point, closed form)', () => {
    // Source: Howell, A Catalog of Radiation Heat Transfer Configuration Factors, B-4 (from memory): four quarters of side h at a distance c
    const [h, c, l] = [1, 2, 500]
    const x = h / c
    const quarter = ((2 * x) / Math.sqrt(1 + x * x)) * Math.atan(x / Math.sqrt(1 + x * x)) / (2 * Math.PI) // prettier-ignore
    expect(lux(square(2 * h, [l, l, l]), [0, 0, 0]) / (Math.PI * l * 4 * quarter)).toBeCloseTo(1, 2)
  })
  it('keeps its colour, shines to its front only, and a dark scene has none', () => {
    const e = square(0.5, [300, 200, 100])
    const [ray] = e.looks([0, 0, 0], 1, 0.5, 1e-3)
    expect(ray!.lux[0] / ray!.lux[2]).toBeCloseTo(3, 9)
    expect(e.looks([0, 0, 4], 8, 0.5, 1e-3).every((r) => r.lux[1] === 0)).toBe(true)
    const none = new Float32Array(0)
    expect(new Emitters({ positions: none, indices: new Uint32Array(0), emission: none }).isAny).toBe(false)
  })
})

describe('the luminance of a material', () => {
  it('is the file’s where it states a strength, a screen’s where it does not, none where it is dark or unlit', () => {
    const m = (strength: number, emissive = 0xffffff): Color | null =>
      emissionOf(new MeshStandardMaterial({ emissive, emissiveIntensity: strength }))
    expect(m(400_000)!.g).toBe(400_000)
    expect(m(1)!.g).toBe(SCREEN_CDM2)
    expect(m(5, 0x000000)).toBeNull()
    expect(emissionOf(new MeshBasicMaterial())).toBeNull()
  })
})

// Blur, diffraction, what is kept sharp, aperture shapes, white balance, vignetting: against the handbook's values and their sources.
import fc from 'fast-check'
import { glMatrix, mat3, vec3 } from 'gl-matrix'
import { describe, expect, it } from 'vitest'
import {
  apertureEdge,
  apertureM,
  aperturePoint,
  balanced,
  balanceMatrix,
  balanceOfGrey,
  blurDiscMm,
  clippedShares,
  depthOfField,
  diffractionMm,
  fNumberForBlur,
  keepSharp,
  nextStop,
  usualCocMm,
  vignette,
  whitePoint,
} from './index.ts'

describe('blur', () => {
  // handbook-6: 60 mm focused at 1.3 m, a point at 2.6 m
  it.each([[2, 0.7258], [4.5, 0.3226], [13, 0.1117]])('at f/%s is %s mm', (fNumber, mm) => {
    const at = { focalMm: 60, focusM: 1.3, distanceM: 2.6 }
    expect(blurDiscMm({ ...at, fNumber })).toBeCloseTo(mm, 4)
    expect(fNumberForBlur({ ...at, discMm: blurDiscMm({ ...at, fNumber }) })).toBeCloseTo(fNumber, 9)
  }) // prettier-ignore
  it('of the aperture’s edge rays is the same: similar triangles from aperture to focus plane and sensor', () => {
    fc.assert(
      fc.property(fc.double({ min: 14, max: 200, noNaN: true }), fc.double({ min: 1, max: 22, noNaN: true }), fc.double({ min: 0.5, max: 50, noNaN: true }), fc.double({ min: 0.4, max: 90, noNaN: true }), (focalMm, fNumber, focusM, distanceM) => {
        const o = { focalMm, fNumber, focusM, distanceM }
        // on the focus plane the disc is D |d - s| / d wide; the picture's principal distance is the focal length
        const disc = (apertureM(o) * Math.abs(distanceM - focusM)) / distanceM / focusM
        expect(disc * focalMm).toBeCloseTo(blurDiscMm(o), 6)
      }),
    ) // prettier-ignore
  })
  it('kept below the circle is what the depth of field says, both ways', () => {
    const cocMm = 0.03
    const dof = depthOfField({ focalMm: 50, fNumber: 8, focusM: 5, cocMm })
    if (!dof.ok) throw new Error(dof.message)
    for (const distanceM of [dof.value.nearM, dof.value.farM])
      expect(blurDiscMm({ focalMm: 50, fNumber: 8, focusM: 5, distanceM })).toBeCloseTo(cocMm, 9)
    const kept = keepSharp({ fromM: dof.value.farM, toM: dof.value.nearM, focalMm: 50, cocMm })
    expect(kept.ok && kept.value.focusM).toBeCloseTo(5, 9)
    expect(kept.ok && kept.value.fNumber).toBeCloseTo(8, 9)
    const far = keepSharp({ fromM: 2, toM: Infinity, focalMm: 24, cocMm })
    expect(far.ok && far.value.focusM).toBe(4)
    expect(keepSharp({ fromM: 0.01, toM: 2, focalMm: 50, cocMm }).ok).toBe(false)
  })
  it('of diffraction: 2.44 lambda N, more close up', () => {
    expect(diffractionMm({ focalMm: 50, fNumber: 16, focusM: 1e9 })).toBeCloseTo(0.02147, 5)
    expect(diffractionMm({ focalMm: 50, fNumber: 16, focusM: 0.1 })).toBeCloseTo(2 * 0.02147, 4)
  })
  it('by the sensor: 0.03 mm on 36 x 24', () => {
    expect(usualCocMm({ width: 36, height: 24 })).toBeCloseTo(0.03, 12)
    expect(usualCocMm({ width: 18, height: 12 })).toBeCloseTo(0.015, 12)
  })
  it('stops: engraved numbers one after the other', () => {
    expect([5.6, 8, 11].map((n) => nextStop(n, 1, 'full'))).toEqual([8, 11, 16])
    expect(nextStop(6, -1, 'full')).toBe(5.6)
    expect(nextStop(4, 1, 'third')).toBe(4.5)
    expect(nextStop(64, 1, 'half')).toBe(64)
    expect(nextStop(0.7, -1, 'full')).toBe(1)
  })
})

describe('aperture', () => {
  const N = 4000
  const points = (blades: number, rotationDeg = 0, roundness = 0) =>
    Array.from({ length: N }, (_, i) => aperturePoint({ blades, rotationDeg, roundness }, i))
  it.each([0, 5, 6, 7, 9, 11])('%s blades: evenly covered, within its edge, about its middle', (blades) => {
    const shape = { blades, rotationDeg: 13, roundness: 0.2 }
    const all = Array.from({ length: N }, (_, i) => aperturePoint(shape, i))
    const area = Array.from({ length: 3600 }, (_, k) => apertureEdge(shape, (k * Math.PI) / 1800) ** 2 / 2).reduce((s, v) => s + v * (Math.PI / 1800), 0) // prettier-ignore
    for (const [x, y] of all) expect(Math.hypot(x, y)).toBeLessThanOrEqual(apertureEdge(shape, Math.atan2(y, x)) + 0.01)
    expect(Math.abs(all.reduce((s, p) => s + p[0], 0) / N)).toBeLessThan(0.01)
    // as many in a small square as its part of the area
    for (const [cx, cy] of [[0, 0], [0.5, 0], [-0.35, 0.45]] as const) {
      const inside = all.filter(([x, y]) => Math.abs(x - cx) < 0.15 && Math.abs(y - cy) < 0.15).length
      expect(inside / N / (0.09 / area)).toBeCloseTo(1, 0.8)
    }
  }) // prettier-ignore
  it('corners: as many as blades, the first one up, turned clockwise', () => {
    const edge = Array.from({ length: 720 }, (_, k) => apertureEdge({ blades: 7, rotationDeg: 10, roundness: 0 }, (k * Math.PI) / 360)) // prettier-ignore
    const tops = edge.flatMap((v, k) => (v > edge[(k + 719) % 720]! && v >= edge[(k + 1) % 720]! ? [k / 2] : []))
    expect(tops).toHaveLength(7)
    expect(tops.some((deg) => Math.abs(deg - 80) <= 0.5)).toBe(true)
    expect(points(5, 0, 1).every(([x, y]) => Math.hypot(x, y) <= 1)).toBe(true)
  })
})

glMatrix.setMatrixArrayType(Array)

describe('white balance', () => {
  it('knows D65 and illuminant A (CIE 15: 0.31272, 0.32903 and 0.44758, 0.40745), and 4500 K of the handbook', () => {
    const near = (kelvin: number, x: number, y: number, within: number): void => {
      const [px, py] = whitePoint({ kelvin, tint: 0 })
      expect(Math.abs(px - x)).toBeLessThan(within)
      expect(Math.abs(py - y)).toBeLessThan(within)
    }
    near(6504, 0.31272, 0.32903, 0.0006)
    near(2856, 0.44758, 0.40745, 0.001)
    near(5000, 0.3457, 0.3587, 0.0002)
    near(4500, 0.3614, 0.3671, 0.0002)
  })
  it('6504 K without tint changes nothing', () => {
    balanceMatrix({ kelvin: 6504, tint: 0 }).forEach((v, k) => expect(v).toBeCloseTo(k % 4 === 0 ? 1 : 0, 12))
  })
  it('a grey under any light comes out neutral by the balance that is read from it', () => {
    fc.assert(
      fc.property(fc.double({ min: 1700, max: 24_000, noNaN: true }), fc.double({ min: -60, max: 60, noNaN: true }), fc.double({ min: 0.01, max: 50, noNaN: true }), (kelvin, tint, light) => {
        // the picture's value of a grey there: the balance turned round
        const m = balanceMatrix({ kelvin, tint })
        const [a, b, c, d, e, f, g, h, i] = m
        const turned = mat3.invert(mat3.create(), [a, d, g, b, e, h, c, f, i])!
        const rgb = [...vec3.transformMat3(vec3.create(), [light, light, light], turned)] as [number, number, number]
        if (!rgb.every((c) => c > 1e-6 && Number.isFinite(c))) return
        const found = balanceOfGrey(rgb)!
        const out = balanced(balanceMatrix(found), rgb)
        for (const c of out) expect(Math.abs(c / out[1] - 1)).toBeLessThan(0.002)
      }),
      { numRuns: 300 },
    ) // prettier-ignore
    expect(balanceOfGrey([0, 0, 0])).toBeNull()
  })
})

it('natural vignetting: the corner of 36 x 24 (cos^4, handbook-7)', () => {
  expect(vignette(24, 18, 12)).toBeCloseTo(0.304, 3)
  expect(vignette(35, 18, 12)).toBeCloseTo(0.524, 3)
  expect(Math.abs(vignette(50, 18, 12) - 0.71)).toBeLessThan(0.0006)
  expect(vignette(24, 18, 12, 0)).toBe(1)
})

it('what is clipped: a channel at its end is bright, all of them black is dark', () => {
  const px = (...c: number[]): number[] => [...c, 255]
  const data = [...px(255, 20, 20), ...px(0, 0, 0), ...px(0, 0, 9), ...px(120, 120, 120)]
  expect(clippedShares(data, 1)).toEqual({ bright: 0.25, dark: 0.25 })
  expect(clippedShares([], 1)).toEqual({ bright: 0, dark: 0 })
})

import { describe, expect, it } from 'vitest'
import { projectPoint } from '../camera/index.ts'
import type { Vec3 } from '../math/index.ts'
import { lengthAlong, placeOnPlane, solvePhoto, sunOfShadow, type PhotoPair } from './index.ts'

/** A camera over a level ground, as the core's own camera and as an estimate. */
const pose = { station: [2, -6, 1.7] as Vec3, bearingDeg: 8, tiltDeg: -4, rollDeg: 0.6 }
const [W, H, F] = [3000, 2000, 2100]
const lens = { focalPx: F, principal: [W / 2, H / 2] as const, distortion: { k1: -0.04, k2: 0, k3: 0, p1: 0, p2: 0 } }
const camera = {
  pose,
  lens: {
    projection: { kind: 'perspective' as const },
    focalMm: (F / W) * 36,
    sensorMm: { width: 36, height: 24 },
    sensorUse: 'acrossWidth' as const,
    riseMm: 0,
    crossMm: 0,
    distortion: { kind: 'brown' as const, ...lens.distortion },
  },
  frame: { widthPx: W, heightPx: H, densityPpi: 300, guides: [] },
}
const seen = (p: Vec3): readonly [number, number] => {
  const at = projectPoint(camera, p)!
  return [at.xPx, at.yPx]
}
const GROUND = { point: [0, 0, 0] as Vec3, normal: [0, 0, 1] as Vec3 }
const NONE = { unknowns: [], values: [] }

describe('a length in the photograph', () => {
  it('is exact where the camera is, level and upright', () => {
    const estimate = { lens, poses: [pose] }
    const on = placeOnPlane(estimate, seen([3, 1, 0]), GROUND)!
    on.forEach((v, i) => expect(v).toBeCloseTo([3, 1, 0][i]!, 8))
    for (const [a, b, d] of [
      [[3, 1, 0], [3, 1, 2.4], [0, 0, 1]],
      [[2, 0, 0], [4.5, 0, 0], [1, 0, 0]],
      [[2.5, -1, 0], [2.5, 3, 0], [0, 5, 0]],
    ] as [Vec3, Vec3, Vec3][]) {
      const r = lengthAlong({ estimate, covariance: NONE, sigmaPx: 0.5, from: seen(a), to: seen(b), direction: d, on: GROUND })
      expect(r.ok && r.value.lengthM).toBeCloseTo(Math.hypot(b[0] - a[0], b[1] - a[1], b[2] - a[2]), 7)
      expect(r.ok && r.value.sdM).toBeGreaterThan(0)
    } // prettier-ignore
  })
  it('is refused above the horizon, and along the sight', () => {
    const estimate = { lens, poses: [pose] }
    const ask = (from: readonly [number, number], direction: Vec3): string => {
      const r = lengthAlong({
        estimate,
        covariance: NONE,
        sigmaPx: 0.5,
        from,
        to: [W / 2, 1500],
        direction,
        on: GROUND,
      })
      return r.ok ? 'told' : r.reason
    }
    expect(ask([W / 2, 100], [0, 0, 1])).toBe('not-on-plane')
    const sight: Vec3 = [Math.sin((8 * Math.PI) / 180), Math.cos((8 * Math.PI) / 180), 0]
    expect(ask(seen([2 + 4 * sight[0], -6 + 4 * sight[1], 0]), [0, 0, 1])).toBe('told')
  })
  it('its plus and minus hold the truth as often as they say: 61 to 75 in 100 within one, 99 in 100 within three', () => {
    let s = 5
    const next = (): number => {
      s = (Math.imul(s, 1664525) + 1013904223) >>> 0
      return s / 4294967296
    }
    const normal = (): number => Math.sqrt(-2 * Math.log(next() + 1e-12)) * Math.cos(2 * Math.PI * next())
    let [one, three, n] = [0, 0, 0]
    for (let i = 0; i < 300; i++) {
      const noise = 0.7
      const off = ([x, y]: readonly [number, number]): readonly [number, number] => [x + noise * normal(), y + noise * normal()] // prettier-ignore
      const pairs: PhotoPair[] = Array.from({ length: 20 }, () => {
        const world: Vec3 = [-1 + 7 * next(), -1 + 6 * next(), 2.6 * next()]
        return { world, image: off(seen(world)) }
      })
      const r = solvePhoto({ imageWidth: W, imageHeight: H, lines: [], pairs, treatments: { focalPx: 'free', k1: 'free' }, start: { lens: { ...lens, focalPx: 2000 } } }) // prettier-ignore
      if (!r.ok) continue
      const { estimate, covariance, sigmaPx } = r.value
      const told = lengthAlong({ estimate, covariance, sigmaPx, from: off(seen([3, 2, 0])), to: off(seen([3, 2, 2])), direction: [0, 0, 1], on: GROUND }) // prettier-ignore
      if (!told.ok) continue
      n++
      const miss = Math.abs(told.value.lengthM - 2) / told.value.sdM
      if (miss < 1) one++
      if (miss < 3) three++
    }
    expect(n).toBeGreaterThan(290)
    expect(one / n).toBeGreaterThan(0.61)
    expect(one / n).toBeLessThan(0.75)
    expect(three / n).toBeGreaterThan(0.985)
  })
})

describe('the sun by a shadow', () => {
  it('stands opposite the shadow, as high as the top over its tip', () => {
    const r = sunOfShadow([0, 0, 2], [0, 2, 0])!
    expect(r.bearingDeg).toBeCloseTo(180, 10)
    expect(r.elevationDeg).toBeCloseTo(45, 10)
    expect(sunOfShadow([0, 0, 1], [1, 1, 2])).toBeNull()
  })
})

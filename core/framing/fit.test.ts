import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { projectPoint } from '../camera/index.ts'
import { boxCorners, type Vec3 } from '../math/index.ts'
import { anyPose, cameraOf } from '../../tests/support/cameras.ts'
import { fitPoints } from './index.ts'

/** The handbook's cube: x +-0.5, y 5..6, z 0..1, 24 mm, bearing 0. */
const CUBE = boxCorners({ min: [-0.5, 5, 0], max: [0.5, 6, 1] })
const fitted = (lens: object, margin = 0) => {
  const r = fitPoints(
    cameraOf({ station: [0, 0, 0], bearingDeg: 0, tiltDeg: 0, rollDeg: 0 }, lens, [1800, 1200]),
    CUBE,
    { margin },
  )
  if (!r.ok) throw new Error(r.message)
  return r.value
}
const edges = (camera: ReturnType<typeof fitted>, points: readonly Vec3[]) => {
  const at = points.map((p) => projectPoint(camera, p)!)
  const { widthPx: w, heightPx: h } = camera.frame
  const x = at.map((p) => p.xPx / w)
  const y = at.map((p) => p.yPx / h)
  return { left: Math.min(...x), right: 1 - Math.max(...x), top: Math.min(...y), bottom: 1 - Math.max(...y) }
}

describe('fitting by distance', () => {
  // handbook-11
  it.each([
    [{ focalMm: 24 }, [0, 4, 0.5]],
    [{ focalMm: 24, riseMm: 4 }, [0, 4, 0.33333]],
    [{ focalMm: 24, riseMm: 4, crossMm: 3 }, [-0.125, 4, 0.33333]],
  ])('%j stands where the handbook says', (lens, station) => {
    fitted(lens).pose.station.forEach((v, i) => expect(v).toBeCloseTo(station[i]!, 5))
  })
  it('leaves exactly the margin on the tight pair, and the same on both sides of the other', () => {
    const e = edges(fitted({ focalMm: 35, crossMm: -2 }, 0.05), CUBE)
    expect(Math.min(e.left, e.right, e.top, e.bottom)).toBeCloseTo(0.05, 9)
    expect(e.left).toBeCloseTo(e.right, 9)
    expect(e.top).toBeCloseTo(e.bottom, 9)
  })
  it('any points, any pose: nothing outside, two opposite margins touched', () => {
    const coordinate = fc.double({ min: -20, max: 20, noNaN: true })
    const points = fc.array(fc.tuple(coordinate, coordinate, coordinate), { minLength: 3, maxLength: 30 })
    fc.assert(
      fc.property(points, anyPose, fc.double({ min: 0, max: 0.3, noNaN: true }), (ps, pose, margin) => {
        const camera = cameraOf(pose, { focalMm: 28, riseMm: 2, crossMm: -1 }, [1500, 1000])
        const r = fitPoints(camera, ps, { margin, nearM: 1e-6 })
        if (!r.ok) return
        const e = edges(r.value, ps)
        const { left, right, top, bottom } = e
        for (const v of [left, right, top, bottom]) expect(v).toBeGreaterThan(margin - 1e-6)
        const tight = (a: number, b: number) => Math.abs(a - margin) < 1e-5 && Math.abs(b - margin) < 1e-5
        // or the nearest point stands as near as it may
        const depth = Math.min(...ps.map((p) => projectPoint(r.value, p)!.depthM))
        if (depth > 1e-4) expect(tight(left, right) || tight(top, bottom)).toBe(true)
      }),
      { numRuns: 200 },
    )
  })
})

describe('fitting a parallel picture', () => {
  it('fills the frame to the margins, shift and all', () => {
    const e = edges(fitted({ projection: { kind: 'parallel', widthM: 3 }, riseMm: 3, crossMm: 2 }, 0.1), CUBE)
    expect(e.top).toBeCloseTo(0.1, 9)
    expect(e.bottom).toBeCloseTo(0.1, 9)
    expect(e.left).toBeCloseTo(e.right, 9)
  })
})

it('refuses what cannot be fitted', () => {
  const camera = cameraOf({ station: [0, 0, 0], bearingDeg: 0, tiltDeg: 0, rollDeg: 0 }, {}, [100, 100])
  expect(fitPoints(camera, [])).toMatchObject({ ok: false, reason: 'no-points' })
  expect(fitPoints(camera, CUBE, { margin: 0.5 })).toMatchObject({ ok: false, reason: 'margins' })
  const round = { ...camera, lens: { ...camera.lens, projection: { kind: 'equirectangular' as const } } }
  expect(fitPoints(round, CUBE)).toMatchObject({ ok: false, reason: 'projection' })
})

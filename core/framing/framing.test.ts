import fc from 'fast-check'
import { taken } from '../../tests/support/taken.ts'
import { describe, expect, it } from 'vitest'
import { anyCamera, cameraOf } from '../../tests/support/cameras.ts'
import { addScaled, dot } from '../math/index.ts'
import { directionOf, projectPoint, rayThrough, type Camera } from '../camera/index.ts'
import { convergence, levelKeepingCentre } from './index.ts'

/** Cosine between the sight line of the picture’s centre and the level camera’s axis. */
const ahead = (c: Camera): number => {
  const ray = rayThrough(c, c.frame.widthPx / 2, c.frame.heightPx / 2)!
  return dot(ray.direction, directionOf(c.pose.bearingDeg, 0))
}

describe('levelKeepingCentre', () => {
  it('keeps the picture’s centre to 1e-9 of its width', () => {
    const perspective = fc.constant({ kind: 'perspective' } as const)
    fc.assert(
      fc.property(anyCamera(perspective), fc.boolean(), (camera, keepSize) => {
        fc.pre(Math.abs(camera.pose.tiltDeg) < 60)
        // within 60 degrees of level, with the shifts there are, the centre can be kept unless it points past the upright
        const value = taken(levelKeepingCentre(camera, { keepSize }), {
          'looks-away': () => ahead(camera) < 1e-6,
          'out-of-reach': () => ahead(camera) < 0.8,
        })
        const { widthPx: w, heightPx: h } = camera.frame
        const ray = rayThrough(camera, w / 2, h / 2)!
        const at = projectPoint(value, addScaled(ray.origin, ray.direction, 7))!
        expect(Math.abs(at.xPx - w / 2)).toBeLessThan(1e-9 * w * 10)
        expect(Math.abs(at.yPx - h / 2)).toBeLessThan(1e-9 * h * 10)
        expect(value.pose).toEqual({ ...camera.pose, tiltDeg: 0, rollDeg: 0 })
      }),
    )
  })
  it('keepSize keeps widths at the subject', () => {
    const camera = cameraOf({ tiltDeg: 12 }, { focalMm: 28 })
    const r = levelKeepingCentre(camera, { keepSize: true })
    const ray = rayThrough(camera, 900, 600)!
    const subject = addScaled(ray.origin, ray.direction, 5)
    const wide = (c: typeof camera) =>
      projectPoint(c, addScaled(subject, [1, 0, 0], 1e-4))!.xPx - projectPoint(c, subject)!.xPx
    expect(r.ok && wide(r.value) / wide(camera)).toBeCloseTo(1, 9)
  })
  it.each([
    [1, 0.419],
    [5, 2.1],
    [10, 4.232],
  ])('24 mm tilted %d deg becomes a rise of %d mm', (tiltDeg, rise) => {
    // rise' = f tan a (computed)
    const r = levelKeepingCentre(cameraOf({ tiltDeg }))
    expect(r.ok && r.value.lens.riseMm).toBeCloseTo(rise, 3)
  })
  it('the general case with earlier shift and roll', () => {
    // computed from handbook 2's general form
    const camera = cameraOf({ tiltDeg: -7.3, rollDeg: 1.2 }, { focalMm: 28, riseMm: 2, crossMm: -3 })
    const plain = levelKeepingCentre(camera)
    expect(plain.ok && [plain.value.lens.riseMm, plain.value.lens.crossMm]).toEqual([
      expect.closeTo(-1.510244, 6),
      expect.closeTo(-2.953754, 6),
    ])
    const sized = levelKeepingCentre(camera, { keepSize: true })
    expect(sized.ok && [sized.value.lens.focalMm, sized.value.lens.riseMm, sized.value.lens.crossMm]).toEqual([
      expect.closeTo(28.035101, 6),
      expect.closeTo(-1.512137, 6),
      expect.closeTo(-2.957457, 6),
    ])
  })
  it('is refused by name', () => {
    expect(levelKeepingCentre(cameraOf({ tiltDeg: 90 }))).toMatchObject({ ok: false, reason: 'looks-away' })
    expect(levelKeepingCentre(cameraOf({ tiltDeg: 88 }))).toMatchObject({ ok: false, reason: 'out-of-reach' })
    const parallel = cameraOf({}, { projection: { kind: 'parallel', widthM: 3 } })
    expect(levelKeepingCentre(parallel)).toMatchObject({ ok: false, reason: 'not-perspective' })
  })
})

describe('convergence', () => {
  it.each([
    [1, 0.75],
    [5, 3.754],
    [10, 7.533],
  ])('24 mm tilted %d deg leans %d deg at the edge', (tiltDeg, lean) => {
    // atan(18 tan a / 24) on the row through the principal point (computed)
    const c = convergence(cameraOf({ tiltDeg }))
    expect(c.leanLeftDeg).toBeCloseTo(lean, 3)
    expect(c.leanRightDeg).toBeCloseTo(-lean, 3)
  })
  it('the handbook’s example in full', () => {
    const c = convergence(cameraOf({ tiltDeg: 5 }), { mainBearingDeg: 20 })
    expect(c.leanLeftDeg).toBeCloseTo(3.75417, 5)
    expect(c.widestPx).toBeCloseTo(78.74, 2)
    expect(c.points).toBe(3)
  })
  it('measured against the projection itself', () => {
    fc.assert(
      fc.property(anyCamera(fc.constant({ kind: 'perspective' } as const)), (camera) => {
        fc.pre(Math.abs(camera.pose.tiltDeg) < 40 && Math.abs(camera.pose.rollDeg) < 40)
        const ray = rayThrough(camera, 0, camera.frame.heightPx / 2)!
        const p = addScaled(ray.origin, ray.direction, 6)
        const a = projectPoint(camera, addScaled(p, [0, 0, 1], -1e-4))!
        const b = projectPoint(camera, addScaled(p, [0, 0, 1], 1e-4))!
        const lean = (Math.atan2(b.xPx - a.xPx, a.yPx - b.yPx) * 180) / Math.PI
        expect(convergence(camera).leanLeftDeg).toBeCloseTo(lean, 3)
      }),
    )
  })
  it('counts one, two and three points, and none in parallel', () => {
    expect(convergence(cameraOf()).points).toBe(1)
    expect(convergence(cameraOf({ bearingDeg: 30 })).points).toBe(2)
    expect(convergence(cameraOf({ bearingDeg: 30 }), { mainBearingDeg: 30 }).points).toBe(1)
    expect(convergence(cameraOf({ bearingDeg: 30, tiltDeg: -3 })).points).toBe(3)
    expect(convergence(cameraOf({ tiltDeg: 20 }, { projection: { kind: 'parallel', widthM: 5 } }))).toMatchObject({
      points: 0,
      leanLeftDeg: 0,
    })
    expect(convergence(cameraOf({}, { projection: { kind: 'equirectangular' } })).leanLeftDeg).toBeNull()
  })
})

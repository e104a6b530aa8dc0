import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { taken } from '../../tests/support/taken.ts'
import { anyCamera, anyPoint, cameraOf } from '../../tests/support/cameras.ts'
import { directionOf, projectPoint, rayThrough, type Camera } from '../camera/index.ts'
import { addScaled, type Vec3 } from '../math/index.ts'
import {
  bearingSquareTo,
  centreOn,
  holdSize,
  horizonThrough,
  squareUp,
  tiltKeepingCentre,
  levelKeepingCentre,
  toParallel,
  toPerspective,
} from './index.ts'

const perspective = fc.constant({ kind: 'perspective' } as const)
const centreRay = (c: Camera) => rayThrough(c, c.frame.widthPx / 2, c.frame.heightPx / 2)!
const pictureOf = (c: Camera, p: Vec3) => {
  const at = projectPoint(c, p)
  return at ? [at.xPx, at.yPx] : null
}
const must = <T>(r: { ok: true; value: T } | { ok: false; message: string }): T => {
  if (!r.ok) throw new Error(r.message)
  return r.value
}

describe('squareUp', () => {
  it('keeps the centre and makes the wall’s own lines level and upright', () => {
    fc.assert(
      fc.property(anyCamera(perspective), fc.double({ min: 0, max: 360, noNaN: true }), (camera, wallDeg) => {
        fc.pre(Math.abs(camera.pose.tiltDeg) < 50)
        const r = squareUp(camera, directionOf(wallDeg, 0))
        // past the reach of the lens it must be refused; a wall looked at from its own side is within 45 degrees of square
        const value = taken(r, {
          'out-of-reach': () => true,
          'looks-away': () => Math.abs(Math.cos(((camera.pose.bearingDeg - wallDeg) * Math.PI) / 180)) < 0.999,
        })
        const { widthPx: w, heightPx: h } = camera.frame
        const ray = centreRay(camera)
        const at = projectPoint(value, addScaled(ray.origin, ray.direction, 6))!
        expect(Math.abs(at.xPx - w / 2)).toBeLessThan(1e-8 * w)
        expect(Math.abs(at.yPx - h / 2)).toBeLessThan(1e-8 * h)
        // two points along the wall have one height in the picture, two above each other one place across
        const p = addScaled(ray.origin, directionOf(value.pose.bearingDeg, 0), 5)
        const along = pictureOf(value, addScaled(p, directionOf(wallDeg + 90, 0), 2))!
        const base = pictureOf(value, p)!
        expect(along[1]).toBeCloseTo(base[1]!, 6)
        expect(pictureOf(value, [p[0], p[1], p[2] + 1.7])![0]).toBeCloseTo(base[0]!, 6)
      }),
    )
  })
  it('from zero shift: cross = f tan D, rise = f tan a / cos D', () => {
    // handbook-2; values computed
    const camera = cameraOf({ bearingDeg: 12, tiltDeg: -5 })
    const { lens, pose } = must(squareUp(camera, [0, -1, 0]))
    expect(pose.bearingDeg).toBe(0)
    expect(lens.crossMm).toBeCloseTo(24 * Math.tan((12 * Math.PI) / 180), 9)
    expect(lens.riseMm).toBeCloseTo((24 * Math.tan((-5 * Math.PI) / 180)) / Math.cos((12 * Math.PI) / 180), 9)
  })
  it('takes the nearer of the two sides, and leaves the shift when the centre need not stay', () => {
    expect(bearingSquareTo([0, -1, 0], 10)).toBe(0)
    expect(bearingSquareTo([0, -1, 0], 170)).toBe(180)
    expect(bearingSquareTo([0, 1, 0], 350)).toBe(0)
    const free = must(squareUp(cameraOf({ bearingDeg: 10 }, { crossMm: 3 }), [0, 1, 0], { keepCentre: false }))
    expect([free.pose.bearingDeg, free.lens.crossMm]).toEqual([0, 3])
  })
  it('turns a parallel picture and keeps its tilt', () => {
    const c = must(
      squareUp(cameraOf({ bearingDeg: 10, tiltDeg: -30 }, { projection: { kind: 'parallel', widthM: 3 } }), [1, 0, 0]),
    )
    expect(c.pose).toMatchObject({ bearingDeg: 90, tiltDeg: -30, rollDeg: 0 })
  })
  it('refuses floors, panoramas and walls seen along', () => {
    const reason = (r: ReturnType<typeof squareUp>) => (r.ok ? 'ok' : r.reason)
    expect(reason(squareUp(cameraOf(), [0, 0, 1]))).toBe('not-a-wall')
    expect(reason(squareUp(cameraOf(), [0, 0.3, 0.95]))).toBe('not-a-wall')
    expect(reason(squareUp(cameraOf({}, { projection: { kind: 'equirectangular' } }), [0, 1, 0]))).toBe('projection')
    expect(reason(squareUp(cameraOf({ bearingDeg: 89.9 }), [0, 1, 0]))).toBe('out-of-reach')
    expect(reason(squareUp(cameraOf({ bearingDeg: 90 }), [0, 1, 0]))).toBe('looks-away')
  })
})

describe('the reverse of levelling', () => {
  it('brings the centre onto the axis and undoes a levelling', () => {
    const tilted = cameraOf({ bearingDeg: 33, tiltDeg: -9 }, { focalMm: 28 })
    const levelled = must(levelKeepingCentre(tilted, { keepSize: true }))
    const back = must(tiltKeepingCentre(levelled, { keepSize: true }))
    expect(back.pose.tiltDeg).toBeCloseTo(-9, 9)
    expect(back.pose.bearingDeg).toBeCloseTo(33, 9)
    expect([back.lens.riseMm, back.lens.crossMm]).toEqual([0, 0])
    expect(back.lens.focalMm).toBeCloseTo(28, 9)
  })
  it('keeps the centre for any shift and roll', () => {
    fc.assert(
      fc.property(anyCamera(perspective), (camera) => {
        const value = taken(tiltKeepingCentre(camera), {
          'no-shift': () => camera.lens.riseMm === 0 && camera.lens.crossMm === 0,
        })
        const ray = centreRay(camera)
        const at = projectPoint(value, addScaled(ray.origin, ray.direction, 4))!
        expect(at.xPx / camera.frame.widthPx).toBeCloseTo(0.5, 7)
        expect(at.yPx / camera.frame.heightPx).toBeCloseTo(0.5, 7)
      }),
    )
  })
  it('is refused without a shift and for parallel pictures', () => {
    expect(tiltKeepingCentre(cameraOf())).toMatchObject({ reason: 'no-shift' })
    expect(tiltKeepingCentre(cameraOf({}, { riseMm: 1, projection: { kind: 'parallel', widthM: 2 } }))).toMatchObject({
      reason: 'not-perspective',
    })
  })
})

describe('centreOn', () => {
  const across = (c: Camera, p: Vec3): number => projectPoint(c, p)!.xPx / c.frame.widthPx
  it.each(['cross', 'bearing', 'move'] as const)('by %s: the point comes to the upright middle', (by) => {
    fc.assert(
      fc.property(anyCamera(perspective), anyPoint, (camera, point) => {
        fc.pre(Math.abs(camera.pose.tiltDeg) < 80)
        const r = centreOn(camera, point, { by })
        const ahead = projectPoint(camera, point)
        const c = taken(r, {
          behind: () => ahead === null || ahead.depthM <= 1e-9 || by === 'bearing',
          'out-of-reach': () => by === 'cross',
        })
        // a point beside the station magnifies every rounding
        fc.pre(projectPoint(c, point)!.depthM > 0.05)
        expect(across(c, point)).toBeCloseTo(0.5, 6)
        // only what was asked for changes
        if (by === 'cross') expect(c.pose).toEqual(camera.pose)
        else expect(c.lens).toEqual(camera.lens)
        if (by === 'bearing') expect(c.pose.station).toEqual(camera.pose.station)
        expect(c.pose.tiltDeg).toBe(camera.pose.tiltDeg)
      }),
    )
  })
  it.each(['cross', 'move'] as const)('parallel and oblique by %s', (by) => {
    for (const projection of [
      { kind: 'parallel', widthM: 4 },
      { kind: 'oblique', widthM: 4, angleDeg: 30, receding: 0.5 },
    ] as const) {
      const camera = cameraOf({ bearingDeg: 40, tiltDeg: -20 }, { projection, crossMm: 2 })
      expect(across(must(centreOn(camera, [3, 7, 1], { by })), [3, 7, 1])).toBeCloseTo(0.5, 9)
    }
  })
  it('refuses what lies behind, straight above, or out of reach', () => {
    expect(centreOn(cameraOf(), [0, -3, 0], { by: 'cross' })).toMatchObject({ reason: 'behind' })
    expect(centreOn(cameraOf({}, { crossMm: 2 }), [0, 0, 9], { by: 'bearing' })).toMatchObject({ reason: 'behind' })
    expect(centreOn(cameraOf(), [90, 0.1, 0], { by: 'cross' })).toMatchObject({ reason: 'out-of-reach' })
    expect(centreOn(cameraOf({}, { projection: { kind: 'parallel', widthM: 2 } }), [1, 1, 1], { by: 'bearing' })).toMatchObject({ reason: 'projection' }) // prettier-ignore
  })
})

describe('horizonThrough', () => {
  it('lays the horizon through the feature and keeps the subject in its place', () => {
    fc.assert(
      fc.property(anyCamera(perspective), anyPoint, anyPoint, (any, feature, subject) => {
        const camera = { ...any, pose: { ...any.pose, tiltDeg: 0, rollDeg: 0 } }
        const before = projectPoint(camera, subject)
        fc.pre(before !== null && before.depthM > 0.5)
        const r = horizonThrough(camera, feature, subject)
        const c = taken(r, { 'out-of-reach': () => true })
        const after = projectPoint(c, subject)!
        const scale = camera.frame.widthPx + camera.frame.heightPx + Math.abs(before!.yPx)
        expect(Math.abs(after.xPx - before!.xPx)).toBeLessThan(1e-7 * scale)
        expect(Math.abs(after.yPx - before!.yPx)).toBeLessThan(1e-7 * scale)
        // the feature is seen on the horizon: at the height where a level ray leaves
        expect(c.pose.station[2]).toBe(feature[2])
      }),
    )
  })
  it('is for level perspective pictures and subjects ahead', () => {
    expect(horizonThrough(cameraOf({ tiltDeg: 2 }), [0, 5, 1], [0, 5, 0])).toMatchObject({ reason: 'not-level' })
    expect(horizonThrough(cameraOf(), [0, 5, 1], [0, -5, 0])).toMatchObject({ reason: 'behind' })
    expect(horizonThrough(cameraOf(), [0, 5, 40], [0, 0.2, 0])).toMatchObject({ reason: 'out-of-reach' })
  })
})

describe('sizes held', () => {
  const subject: Vec3 = [0.4, 6, 0.3]
  const width = (c: Camera): number => {
    const right: Vec3 = directionOf(c.pose.bearingDeg + 90, 0)
    return pictureOf(c, addScaled(subject, right, 0.01))![0]! - pictureOf(c, subject)![0]!
  }
  it('holdSize keeps place and size through another focal length, shift included', () => {
    const camera = cameraOf({ tiltDeg: -4 }, { riseMm: 3, crossMm: -2 })
    const c = must(holdSize(camera, subject, 70))
    expect(pictureOf(c, subject)!.map((v) => v.toFixed(6))).toEqual(
      pictureOf(camera, subject)!.map((v) => v.toFixed(6)),
    )
    expect(width(c)).toBeCloseTo(width(camera), 6)
  })
  it('to parallel and back: the subject’s place and size stay', () => {
    const camera = cameraOf({ tiltDeg: -14, bearingDeg: 7 }, { riseMm: 3, crossMm: -2 })
    const flat = must(toParallel(camera, subject))
    pictureOf(flat, subject)!.forEach((v, i) => expect(v).toBeCloseTo(pictureOf(camera, subject)![i]!, 6))
    expect(width(flat)).toBeCloseTo(width(camera), 4)
    const back = must(toPerspective(flat, subject))
    back.pose.station.forEach((v, i) => expect(v).toBeCloseTo(camera.pose.station[i]!, 9))
    expect(back.lens).toEqual(camera.lens)
  })
  it('an oblique picture becomes a perspective one around the subject', () => {
    const flat = cameraOf({}, { projection: { kind: 'oblique', widthM: 5, angleDeg: 45, receding: 0.5 } })
    const c = must(toPerspective(flat, subject))
    pictureOf(c, subject)!.forEach((v, i) => expect(v).toBeCloseTo(pictureOf(flat, subject)![i]!, 6))
  })
  it('refuses what is behind and what is no such picture', () => {
    expect(holdSize(cameraOf(), [0, -1, 0], 50)).toMatchObject({ reason: 'behind' })
    expect(toParallel(cameraOf(), [0, -1, 0])).toMatchObject({ reason: 'behind' })
    expect(toPerspective(cameraOf(), subject)).toMatchObject({ reason: 'projection' })
    expect(holdSize(must(toParallel(cameraOf(), subject)), subject, 50)).toMatchObject({ reason: 'projection' })
  })
})

import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { projectPoint, type Camera, type Projection } from '../camera/index.ts'
import { boxCorners, type Vec3 } from '../math/index.ts'
import { anyFrame, anyLens, anyPose, cameraOf, frameOf, lensOf } from '../../tests/support/cameras.ts'
import { fitPoints, type FitOptions } from './index.ts'

/** The handbook's cube: x +-0.5, y 5..6, z 0..1, 24 mm, bearing 0. */
const CUBE = boxCorners({ min: [-0.5, 5, 0], max: [0.5, 6, 1] })
const level = { station: [0, 0, 0] as Vec3, bearingDeg: 0, tiltDeg: 0, rollDeg: 0 }
const fitted = (lens: object, options: FitOptions = {}, points: readonly Vec3[] = CUBE, pose: object = level) => {
  const r = fitPoints(cameraOf(pose, lens, [1800, 1200]), points, options)
  if (!r.ok) throw new Error(r.message)
  return r.value
}
/** Free shares of the picture at its sides. */
const edges = (camera: Camera, points: readonly Vec3[]) => {
  const at = points.map((p) => projectPoint(camera, p)!)
  const { widthPx: w, heightPx: h } = camera.frame
  const x = at.map((p) => p.xPx / w)
  const y = at.map((p) => p.yPx / h)
  return { left: Math.min(...x), right: 1 - Math.max(...x), top: Math.min(...y), bottom: 1 - Math.max(...y) }
}
const from = (min: number) => fc.double({ min, max: min + 8, noNaN: true })
const anyPoints: fc.Arbitrary<Vec3[]> = fc.array(fc.tuple(from(-4), from(-4), from(0)), { minLength: 2, maxLength: 30 })
const anySides = fc.record({
  left: fc.double({ min: 0, max: 0.3, noNaN: true }),
  right: fc.double({ min: 0, max: 0.3, noNaN: true }),
  top: fc.double({ min: 0, max: 0.3, noNaN: true }),
  bottom: fc.double({ min: 0, max: 0.3, noNaN: true }),
})
/** Room beyond the margins at each side; nothing may be below nought. */
const roomOf = (
  camera: Camera,
  points: readonly Vec3[],
  sides: { left: number; right: number; top: number; bottom: number },
) => {
  const e = edges(camera, points)
  return {
    left: e.left - sides.left,
    right: e.right - sides.right,
    top: e.top - sides.top,
    bottom: e.bottom - sides.bottom,
  }
}
const size = (points: readonly Vec3[]): number =>
  Math.max(...[0, 1, 2].map((k) => Math.max(...points.map((p) => p[k]!)) - Math.min(...points.map((p) => p[k]!))))

describe('fitting by distance', () => {
  // handbook-11
  it.each([
    [{ focalMm: 24 }, [0, 4, 0.5]],
    [{ focalMm: 24, riseMm: 4 }, [0, 4, 0.33333]],
    [{ focalMm: 24, riseMm: 4, crossMm: 3 }, [-0.125, 4, 0.33333]],
  ])('%j stands where the handbook says', (lens, station) => {
    fitted(lens).pose.station.forEach((v, i) => expect(v).toBeCloseTo(station[i]!, 5))
  })
  it('touches two opposite margins, with nothing outside and the other pair shared equally', () => {
    fc.assert(
      fc.property(
        anyPose,
        anyLens(fc.constant({ kind: 'perspective' })),
        anyFrame,
        anyPoints,
        anySides,
        (pose, lens, frame, points, sides) => {
          fc.pre(size(points) > 0.05 && frame.widthPx / frame.heightPx < 8 && frame.heightPx / frame.widthPx < 8)
          const r = fitPoints({ pose, lens, frame }, points, { margin: sides })
          if (!r.ok) throw new Error(r.message)
          const room = roomOf(r.value, points, sides)
          const tol = 1e-5
          for (const v of Object.values(room)) expect(v).toBeGreaterThan(-tol)
          // very deep clouds are stopped by the least distance before both sides are met
          const held = Math.min(...points.map((p) => projectPoint(r.value, p)!.depthM)) < 0.0101
          if (!held) expect(Math.min(room.left + room.right, room.top + room.bottom)).toBeLessThan(tol)
          expect(Math.abs(room.left - room.right)).toBeLessThan(tol)
          expect(Math.abs(room.top - room.bottom)).toBeLessThan(tol)
        },
      ),
      { numRuns: 150 },
    )
  })
  it('is shared equally where the least distance holds the camera before a deep cloud', () => {
    // found at random: a step out of the bracket landed on the same two points and was taken for the answer
    const camera = {
      pose: { station: [0, 0, 0], bearingDeg: 0, tiltDeg: 0, rollDeg: 0 } as const,
      lens: lensOf({ focalMm: 10, sensorMm: { width: 23.5, height: 15.6 }, riseMm: 0.7386363636363357 }),
      frame: frameOf(1034, 130),
    }
    const deep: Vec3[] = [[0, 0, 0.39747116815131606], [0, 0, 0], [0, -2.670574061332087, 0]] // prettier-ignore
    const r = fitPoints(camera, deep)
    if (!r.ok) throw new Error(r.message)
    const y = deep.map((p) => projectPoint(r.value, p)!.yPx)
    expect(Math.min(...y)).toBeCloseTo(130 - Math.max(...y), 6)
  })
  it('no nearer station exists: a brute-force search finds none', () => {
    const camera = fitted({ focalMm: 35, riseMm: 3, crossMm: -2 }, { margin: 0.05 }, CUBE, {
      ...level,
      bearingDeg: 20,
      tiltDeg: -12,
    })
    const deepest = Math.min(...CUBE.map((p) => projectPoint(camera, p)!.depthM))
    const { forward, right, up } = axes(camera)
    for (const closer of [0.002, 0.01, 0.05])
      for (let i = -40; i <= 40; i++)
        for (let j = -40; j <= 40; j++) {
          const station = [0, 1, 2].map(
            (k) => camera.pose.station[k]! + forward[k]! * closer * deepest + right[k]! * i * 0.01 + up[k]! * j * 0.01,
          ) as unknown as Vec3
          const e = edges({ ...camera, pose: { ...camera.pose, station } }, CUBE)
          expect(Math.min(e.left, e.right, e.top, e.bottom)).toBeLessThan(0.05)
        }
  })
  it('keeps every point the least distance before the station', () => {
    const deep: Vec3[] = [[0, 0, 0], [0, 40, 0], [0.001, 20, 0]] // prettier-ignore
    const camera = fitted({ focalMm: 24 }, { nearM: 0.5 }, deep)
    expect(Math.min(...deep.map((p) => projectPoint(camera, p)!.depthM))).toBeCloseTo(0.5, 9)
  })
})
const axes = (camera: Camera) => {
  const b = (camera.pose.bearingDeg * Math.PI) / 180
  const t = (camera.pose.tiltDeg * Math.PI) / 180
  return {
    forward: [Math.sin(b) * Math.cos(t), Math.cos(b) * Math.cos(t), Math.sin(t)],
    right: [Math.cos(b), -Math.sin(b), 0],
    up: [-Math.sin(b) * Math.sin(t), -Math.cos(b) * Math.sin(t), Math.cos(t)],
  }
}

describe('fitting at the eye’s height', () => {
  it('keeps the height of a level camera: rise shares the room above and below', () => {
    fc.assert(
      fc.property(
        anyLens(fc.constant({ kind: 'perspective' })),
        anyPoints,
        anySides,
        fc.double({ min: -3, max: 6, noNaN: true }),
        (lens, points, sides, z) => {
          fc.pre(size(points) > 0.05)
          const camera = { ...cameraOf({ station: [0, -20, z], bearingDeg: 30 }), lens }
          const r = fitPoints(camera, points, { margin: sides, keepHeight: true })
          if (!r.ok) throw new Error(r.message)
          expect(r.value.pose.station[2]).toBeCloseTo(z, 9)
          const room = roomOf(r.value, points, sides)
          for (const v of Object.values(room)) expect(v).toBeGreaterThan(-1e-5)
          expect(room.top).toBeCloseTo(room.bottom, 5)
          expect(room.left).toBeCloseTo(room.right, 5)
          const held = Math.min(...points.map((p) => projectPoint(r.value, p)!.depthM)) < 0.0101
          if (!held) expect(Math.min(room.left + room.right, room.top + room.bottom)).toBeLessThan(1e-5)
        },
      ),
      { numRuns: 120 },
    )
  })
  it('a tilted camera is fitted as ever', () => {
    const pose = { ...level, tiltDeg: -5 }
    expect(fitted({}, { keepHeight: true }, CUBE, pose)).toEqual(fitted({}, {}, CUBE, pose))
  })
})

describe('fitting by the lens', () => {
  const off: Vec3[] = boxCorners({ min: [0.2, 5, 0.1], max: [1.4, 6, 0.9] })
  it('by focal length: the longest at which nothing leaves the frame', () => {
    const camera = fitted({ focalMm: 24, riseMm: 1 }, { by: 'focal', margin: 0.04 }, off)
    expect(camera.pose.station).toEqual([0, 0, 0])
    const e = edges(camera, off)
    expect(Math.min(e.left, e.right, e.top, e.bottom)).toBeCloseTo(0.04, 9)
    const longer = { ...camera, lens: { ...camera.lens, focalMm: camera.lens.focalMm * 1.0005 } }
    expect(Math.min(...Object.values(edges(longer, off)))).toBeLessThan(0.04)
  })
  it('by shift: centred between its margins at the same size', () => {
    const sides = { left: 0.1, right: 0, top: 0.02, bottom: 0.06 }
    const camera = fitted({ focalMm: 40 }, { by: 'shift', margin: sides }, off)
    const room = roomOf(camera, off, sides)
    expect(room.left).toBeCloseTo(room.right, 9)
    expect(room.top).toBeCloseTo(room.bottom, 9)
    expect(camera.lens.focalMm).toBe(40)
  })
  it('by focal length and shift: the longest lens of all, two opposite margins met', () => {
    const both = fitted({ focalMm: 24 }, { by: 'focal+shift', margin: 0.05 }, off)
    const room = roomOf(both, off, { left: 0.05, right: 0.05, top: 0.05, bottom: 0.05 })
    for (const v of Object.values(room)) expect(v).toBeGreaterThan(-1e-9)
    expect(Math.min(room.left + room.right, room.top + room.bottom)).toBeCloseTo(0, 9)
    expect(both.lens.focalMm).toBeGreaterThan(fitted({ focalMm: 24 }, { by: 'focal', margin: 0.05 }, off).lens.focalMm)
  })
  it('ends at the longest lens there is, with the shift of that lens', () => {
    const far = boxCorners({ min: [40, 500, 3], max: [40.5, 500.5, 3.5] })
    for (const by of ['focal', 'focal+shift'] as const) {
      const camera = fitted({ focalMm: 24 }, { by }, far.map((p) => (by === 'focal' ? [0.1, p[1], 0.1 + (p[2] - 3)] : p) as Vec3)) // prettier-ignore
      expect(camera.lens.focalMm).toBe(2000)
      if (by === 'focal+shift') {
        const room = roomOf(camera, far, { left: 0, right: 0, top: 0, bottom: 0 })
        expect(room.left).toBeCloseTo(room.right, 6)
        expect(room.top).toBeCloseTo(room.bottom, 6)
        expect(room.left).toBeGreaterThan(0)
      }
    }
  })
  it('is as the handbook says: f = min(w/dx, h/dy), shift = f times the middle', () => {
    // handbook-11: the cube from the origin has dx = 1/5, dy = 1/5 from 0 to 1/5
    const camera = fitted({ focalMm: 24 }, { by: 'focal+shift' })
    expect(camera.lens.focalMm).toBeCloseTo(24 / 0.2, 9)
    expect([camera.lens.crossMm, camera.lens.riseMm]).toEqual([expect.closeTo(0, 9), expect.closeTo(12, 9)])
  })
})

describe('fitting by extent', () => {
  const sides = { left: 0.1, right: 0.05, top: 0.02, bottom: 0.08 }
  it.each<[string, Projection]>([
    ['parallel', { kind: 'parallel', widthM: 3 }],
    ['oblique', { kind: 'oblique', widthM: 3, angleDeg: 45, receding: 0.5 }],
    ['planometric', { kind: 'oblique', widthM: 3, angleDeg: 270, receding: 1 }],
  ])('%s pictures meet their margins exactly', (_name, projection) => {
    fc.assert(
      fc.property(anyPose, anyPoints, anyFrame, (pose, points, frame) => {
        fc.pre(size(points) > 0.05 && frame.widthPx / frame.heightPx < 20 && frame.heightPx / frame.widthPx < 20)
        const camera = { pose, frame, lens: cameraOf({}, { projection, riseMm: 2, crossMm: -4 }).lens }
        const r = fitPoints(camera, points, { margin: sides })
        if (!r.ok) throw new Error(r.message)
        // points in one line of sight leave nothing but rounding
        fc.pre((r.value.lens.projection as { widthM: number }).widthM > 0.01)
        const room = roomOf(r.value, points, sides)
        for (const v of Object.values(room)) expect(v).toBeGreaterThan(-1e-5)
        expect(Math.min(room.left + room.right, room.top + room.bottom)).toBeLessThan(1e-5)
        expect(room.left).toBeCloseTo(room.right, 4)
        expect(room.top).toBeCloseTo(room.bottom, 4)
      }),
      { numRuns: 60 },
    )
  })
  it('at a given width of view only the window moves', () => {
    const camera = fitted({ projection: { kind: 'parallel', widthM: 1 } }, { widthM: 8 })
    expect(camera.lens.projection).toEqual({ kind: 'parallel', widthM: 8 })
    const e = edges(camera, CUBE)
    expect(e.left).toBeCloseTo(e.right, 12)
    expect(e.right).toBeCloseTo((1 - 1 / 8) / 2, 12)
  })
})

describe('fitting wide pictures', () => {
  it.each<[string, Projection]>([
    ['cylindrical', { kind: 'cylindrical', horizontalDeg: 120 }],
    ['equidistant fisheye', { kind: 'fisheye', mapping: 'equidistant', coverageDeg: 170 }],
    ['equisolid fisheye', { kind: 'fisheye', mapping: 'equisolid', coverageDeg: 140 }],
    ['stereographic fisheye', { kind: 'fisheye', mapping: 'stereographic', coverageDeg: 180 }],
  ])('%s: two opposite margins met, nothing outside', (_name, projection) => {
    const points = [...CUBE, [1.2, 5.5, 0.4] as Vec3]
    const camera = fitted({ projection }, { margin: 0.03 }, points, { ...level, bearingDeg: 8, tiltDeg: -6 })
    const e = edges(camera, points)
    expect(e.left).toBeCloseTo(e.right, 7)
    expect(e.top).toBeCloseTo(e.bottom, 7)
    if (projection.kind === 'fisheye') {
      // a fisheye's picture is its circle: the farthest point lies on it, less the margin of the long side
      const radii = points.map((q) => projectPoint(camera, q)!).map((q) => Math.hypot(q.xPx - 900, q.yPx - 600))
      expect(Math.max(...radii)).toBeCloseTo(600 - 0.03 * 1800, 5)
    } else expect(Math.min(...Object.values(e))).toBeCloseTo(0.03, 8)
  })
  it('many points: none outside, found from a few', () => {
    const many = Array.from({ length: 5000 }, (_, i): Vec3 => [
      Math.sin(i) * 2,
      8 + Math.cos(i * 1.7),
      Math.sin(i * 0.37),
    ])
    const camera = fitted({ projection: { kind: 'cylindrical', horizontalDeg: 100 } }, { margin: 0.02 }, many)
    const e = edges(camera, many)
    expect(Math.min(...Object.values(e))).toBeCloseTo(0.02, 6)
  })
})

describe('refusals are named', () => {
  const of = (lens: object, options: FitOptions, points: readonly Vec3[] = CUBE) => {
    const r = fitPoints(cameraOf(level, lens), points, options)
    return r.ok ? 'fits' : r.reason
  }
  it.each<[string, object, FitOptions, Vec3[]]>([
    ['no-points', {}, {}, []],
    ['margins', {}, { margin: 0.5 }, CUBE],
    ['margins', {}, { margin: { left: -0.1, right: 0, top: 0, bottom: 0 } }, CUBE],
    ['no-extent', { projection: { kind: 'parallel', widthM: 2 } }, {}, [[1, 1, 1]]],
    ['no-extent', {}, { by: 'focal+shift' }, [[0, 5, 1]]],
    ['no-extent', {}, { by: 'focal' }, [[0, 5, 0]]],
    ['behind', {}, { by: 'focal' }, [[0, -5, 1]]],
    ['too-large', { focalMm: 200 }, { by: 'shift' }, CUBE],
    ['off-axis', { riseMm: 14 }, { by: 'focal' }, CUBE],
    [
      'too-large',
      {},
      { by: 'focal' },
      [
        [-40, 1, 0],
        [40, 1, 0],
      ],
    ],
    [
      'too-large',
      {},
      { by: 'focal+shift' },
      [
        [-40, 1, 0],
        [40, 1, 0],
      ],
    ],
    ['projection', {}, { by: 'extent' }, CUBE],
    ['projection', { projection: { kind: 'parallel', widthM: 2 } }, { by: 'focal' }, CUBE],
    ['projection', { projection: { kind: 'equirectangular' } }, {}, CUBE],
    ['projection', { projection: { kind: 'cylindrical', horizontalDeg: 90 } }, { by: 'shift' }, CUBE],
    ['no-extent', { projection: { kind: 'cylindrical', horizontalDeg: 90 } }, {}, [[0, 5, 0], [0, 5, 0]]], // prettier-ignore
  ])('%s', (reason, lens, options, points) => expect(of(lens, options, points)).toBe(reason))
})

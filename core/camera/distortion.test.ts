import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { cameraOf } from '../../tests/support/cameras.ts'
import { addScaled, sub } from '../math/index.ts'
import {
  cornerDistortion,
  distort,
  foldInPicture,
  foldOf,
  horizonLine,
  projectPoint,
  projectSegment,
  rayThrough,
  undistort,
  viewsOf,
  withCornerDistortion,
  type Brown,
} from './index.ts'

export const brown = (c: Partial<Brown> = {}): Brown => ({
  ...{ kind: 'brown', k1: 0, k2: 0, k3: 0, p1: 0, p2: 0 },
  ...c,
})
const lenses = fc.record({
  kind: fc.constant('brown' as const),
  k1: fc.double({ min: -0.4, max: 0.4, noNaN: true }),
  k2: fc.double({ min: -0.1, max: 0.1, noNaN: true }),
  k3: fc.double({ min: -0.03, max: 0.03, noNaN: true }),
  p1: fc.double({ min: -0.01, max: 0.01, noNaN: true }),
  p2: fc.double({ min: -0.01, max: 0.01, noNaN: true }),
})

describe('a lens that distorts', () => {
  it('comes back from both directions to 1e-9 of the focal length, up to where it folds', () => {
    fc.assert(
      fc.property(
        lenses,
        fc.double({ min: 0, max: 0.97, noNaN: true }),
        fc.double({ min: 0, max: 6.3, noNaN: true }),
        (d, part, turn) => {
          const r = part * Math.min(foldOf(d).radius, 3)
          const [x, y] = [r * Math.cos(turn), r * Math.sin(turn)]
          const seen = distort(d, x, y)!
          const back = undistort(d, ...seen)!
          expect(back).not.toBeNull()
          expect(Math.hypot(back[0] - x, back[1] - y)).toBeLessThan(1e-9)
        },
      ),
      { numRuns: 1000 },
    )
  })
  it('folds where the slope of its radius is nought, and nothing is seen beyond', () => {
    // 1 + 3 k1 r^2 = 0
    const d = brown({ k1: -0.12 })
    const { radius, reach } = foldOf(d)
    expect(radius).toBeCloseTo(1 / Math.sqrt(0.36), 12)
    expect(reach).toBeCloseTo(radius * (1 - 0.12 * radius ** 2), 12)
    expect(distort(d, radius * 1.001, 0)).toBeNull()
    expect(undistort(d, reach * 1.001, 0)).toBeNull()
    expect(undistort(d, reach * 0.999, 0)![0]).toBeLessThan(radius)
    expect(foldOf(brown({ k1: 0.1 })).radius).toBe(Infinity)
    expect(foldOf(brown()).reach).toBe(Infinity)
  })
  it('with tangential terms folds where the Jacobian loses its sign', () => {
    // along +x the first factor is 1 + 6 p2 x, the second 1 + 2 p2 x
    expect(foldOf(brown({ p2: -0.1 })).radius).toBeCloseTo(1 / 0.6, 6)
    expect(undistort(brown({ p1: 0.02, p2: -0.01 }), 0, 0)).toEqual([0, 0])
  })
  it('the picture of a point and the ray through it are each other’s reverse, shifted too', () => {
    fc.assert(
      fc.property(
        lenses,
        fc.double({ min: 0.1, max: 0.9, noNaN: true }),
        fc.double({ min: 0.1, max: 0.9, noNaN: true }),
        (d, u, v) => {
          const camera = cameraOf(
            { bearingDeg: 31, tiltDeg: 7, rollDeg: 3 },
            { focalMm: 35, riseMm: 3, crossMm: -2, distortion: d },
          )
          const [x, y] = [u * camera.frame.widthPx, v * camera.frame.heightPx]
          const ray = rayThrough(camera, x, y)
          if (!ray) return
          const at = projectPoint(camera, addScaled(ray.origin, ray.direction, 7))!
          expect(Math.hypot(at.xPx - x, at.yPx - y)).toBeLessThan(1e-6)
        },
      ),
    )
  })
  it('barrel draws a corner in, pincushion out, and the axis stays', () => {
    const at = (k1: number) => projectPoint(cameraOf({}, { focalMm: 24, distortion: brown({ k1 }) }), [3, 5, 2])!
    const straight = projectPoint(cameraOf({}, { focalMm: 24 }), [3, 5, 2])!
    const middle = cameraOf({}).frame.widthPx / 2
    expect(at(-0.05).xPx - middle).toBeLessThan(straight.xPx - middle)
    expect(at(0.05).xPx - middle).toBeGreaterThan(straight.xPx - middle)
  })
})

describe('lines through a lens that distorts', () => {
  const camera = cameraOf({}, { focalMm: 24, distortion: brown({ k1: -0.1 }) })
  it('follow the curve within a quarter of a pixel, and keep their ends', () => {
    const [a, b]: [[number, number, number], [number, number, number]] = [
      [-3, 5, 2.2],
      [3, 5, 2.2],
    ]
    const line = projectSegment(camera, a, b)
    expect(line.length).toBeGreaterThan(6)
    const end = projectPoint(camera, b)!
    expect(line.at(-1)).toEqual([end.xPx, end.yPx])
    for (let i = 0; i <= 100; i++) {
      const at = projectPoint(camera, addScaled(a, [6, 0, 0], i / 100))!
      const near = Math.min(
        ...line.slice(1).map((q, j) => {
          const p = line[j]!
          const [dx, dy] = [q[0] - p[0], q[1] - p[1]]
          const t = Math.max(0, Math.min(1, ((at.xPx - p[0]) * dx + (at.yPx - p[1]) * dy) / (dx * dx + dy * dy)))
          return Math.hypot(p[0] + t * dx - at.xPx, p[1] + t * dy - at.yPx)
        }),
      )
      expect(near).toBeLessThan(0.25)
    }
  })
  it('the horizon bends away from the middle of a barrel, and passes where far level points lie', () => {
    const down = { ...camera, pose: { ...camera.pose, tiltDeg: -8 } }
    const line = horizonLine(down)!
    const [sx, sy, sz] = down.pose.station
    const far = projectPoint(down, [sx + 2000, sy + 9000, sz])!
    const nearest = line.reduce((x, p) => (Math.abs(p[0] - far.xPx) < Math.abs(x[0] - far.xPx) ? p : x))
    expect(Math.abs(nearest[1] - far.yPx)).toBeLessThan(3)
    expect(line[0]![1]).toBeGreaterThan(line[32]![1])
  })
  it('is drawn from a straight view wide enough for all of the picture', () => {
    const { views, resampling } = viewsOf(camera)
    const [view] = views
    const out: [number, number] = [0, 0]
    const { widthPx: w, heightPx: h } = camera.frame
    for (const [x, y] of [
      [0, 0],
      [w, 0],
      [w / 2, h],
      [w * 0.3, h * 0.8],
    ] as const) {
      expect(resampling!(x, y, out)).toBe(true)
      expect(out[0]).toBeGreaterThan(0)
      expect(out[1]).toBeLessThan(view.frame.heightPx)
      // the same ray through both
      const [a, b] = [rayThrough(camera, x, y)!, rayThrough(view, ...out)!]
      expect(Math.hypot(...sub(a.direction, b.direction))).toBeLessThan(1e-9)
    }
    expect(viewsOf(cameraOf()).resampling).toBeNull()
    expect(() => viewsOf(cameraOf({}, { projection: { kind: 'equirectangular' } }))).toThrow(RangeError)
  })
  it('has the strength it was given, and tells where it folds', () => {
    const frame = camera.frame
    for (const part of [-0.06, -0.015, 0.02]) {
      const d = withCornerDistortion(
        { lens: { ...camera.lens, distortion: brown({ k1: 0.03, k2: -0.01 }) }, frame },
        part,
      )!
      expect(cornerDistortion({ lens: { ...camera.lens, distortion: d }, frame })).toBeCloseTo(part, 12)
      expect(d.k2 / d.k1).toBeCloseTo(-1 / 3, 12)
    }
    expect(foldInPicture(camera)).toBeNull()
    const folds = { lens: { ...camera.lens, distortion: brown({ k1: -0.5 }) }, frame }
    expect(foldInPicture(folds)).toBeCloseTo(24 * foldOf(brown({ k1: -0.5 })).reach, 9)
  })
})

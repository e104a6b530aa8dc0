import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { anyPoint, cameraOf, frameOf, lensOf } from '../../tests/support/cameras.ts'
import { addScaled, distance, dot } from '../math/index.ts'
import {
  axesOf,
  dolly,
  focalHoldingSize,
  orbit,
  poseOfStand,
  projectPoint,
  rayThrough,
  slide,
  standFromPlan,
  turnInPlace,
  type Camera,
  type Framing,
  type Stand,
} from './index.ts'

const free = { holdLevel: false, holdSquare: false }
const level = { holdLevel: true, holdSquare: false }
const stand: Stand = {
  station: [1, 2, 1.58],
  aim: { kind: 'point', point: [5, 4, 1.58], topBearingDeg: 0 },
  rollDeg: 0,
}
const from: Framing = { stand, lens: lensOf({ riseMm: 1 }) }
const cameraFor = (f: Framing): Camera => ({ pose: poseOfStand(f.stand), lens: f.lens, frame: frameOf(900, 600) })
const drag = fc.tuple(fc.integer({ min: -400, max: 400 }), fc.integer({ min: -250, max: 250 }))

describe('turning with something grabbed', () => {
  const place = fc.tuple(fc.integer({ min: 0, max: 900 }), fc.integer({ min: 0, max: 600 }))
  const posed = (bearingDeg: number, tiltDeg: number, rollDeg: number): Framing => ({
    stand: { station: [1, 2, 1.58], aim: { kind: 'direction', bearingDeg, tiltDeg }, rollDeg },
    lens: lensOf({ riseMm: 1, crossMm: -2 }),
  })
  const angle = (most: number) => fc.double({ min: -most, max: most, noNaN: true })
  it('keeps it under the pointer at any tilt and roll, to the pixel', () => {
    fc.assert(
      fc.property(angle(180), angle(84), angle(20), place, drag, (bearing, tilt, roll, grabbedPx, [dx, dy]) => {
        const start = posed(bearing, tilt, roll)
        const camera = cameraFor(start)
        const d = rayThrough(camera, ...grabbedPx)!.direction
        const next = turnInPlace(camera, start, dx, dy, { ...free, grabbedPx })
        const pose = poseOfStand(next.stand)
        expect(next.stand.station).toEqual(start.stand.station)
        // past the zenith nothing can hold it
        const to = rayThrough(camera, grabbedPx[0] + dx, grabbedPx[1] + dy)!.direction
        const across = dot(to, axesOf({ ...camera.pose, rollDeg: 0 }).right)
        if (Math.abs(pose.tiltDeg) > 89.9999 || Math.abs(d[2]) > Math.sqrt(1 - across * across) - 1e-9) return
        const at = projectPoint(cameraFor(next), addScaled([1, 2, 1.58], d, 10))!
        expect(at.xPx).toBeCloseTo(grabbedPx[0] + dx, 3)
        expect(at.yPx).toBeCloseTo(grabbedPx[1] + dy, 3)
      }),
    )
  })
  it('with the level kept holds it across, whatever the tilt, and moves rise by the way up and down', () => {
    fc.assert(
      fc.property(angle(180), angle(40), place, drag, (bearing, tilt, grabbedPx, [dx, dy]) => {
        const start = posed(bearing, tilt, 0)
        const camera = cameraFor(start)
        const d = rayThrough(camera, ...grabbedPx)!.direction
        const next = turnInPlace(camera, start, dx, dy, { ...level, grabbedPx })
        expect(poseOfStand(next.stand).tiltDeg).toBe(tilt)
        expect(next.lens.riseMm).toBeCloseTo(1 + (dy * 36) / 900, 9)
        // off by pixels across at a bearing turned a little further; what cannot be held comes as near as it can
        const off = (furtherDeg: number): number => {
          const c = cameraFor(next)
          const bearingDeg = c.pose.bearingDeg + furtherDeg
          const at = projectPoint({ ...c, pose: { ...c.pose, bearingDeg } }, addScaled([1, 2, 1.58], d, 10))
          return at ? Math.abs(at.xPx - grabbedPx[0] - dx) : Infinity
        }
        if (off(0) > 1e-3 && off(0) < Infinity)
          expect(off(0)).toBeLessThanOrEqual(Math.min(off(0.05), off(-0.05)) + 1e-6)
      }),
    )
  })
})

describe('turning in place', () => {
  it('keeps the station, and level drags keep tilt at exactly zero', () => {
    fc.assert(
      fc.property(drag, ([dx, dy]) => {
        const next = turnInPlace(cameraFor(from), from, dx, dy, level)
        expect(next.stand.station).toEqual(stand.station)
        expect(poseOfStand(next.stand).tiltDeg).toBe(0)
        // content follows the pointer: rise grows as the picture is drawn down
        expect(next.lens.riseMm).toBeCloseTo(1 + (dy * 36) / 900, 9)
      }),
    )
  })
  it('keep square moves cross instead of the bearing; what was grabbed stays under the pointer', () => {
    const next = turnInPlace(cameraFor(from), from, 90, -40, { holdLevel: true, holdSquare: true })
    expect(next.stand).toBe(stand)
    const p = addScaled(stand.station, rayThrough(cameraFor(from), 400, 300)!.direction, 5)
    const at = projectPoint(cameraFor(next), p)!
    expect([at.xPx, at.yPx]).toEqual([expect.closeTo(490, 6), expect.closeTo(260, 6)])
  })
})

describe('orbiting', () => {
  it('keeps the distance to the pivot and the pivot’s place in the picture', () => {
    fc.assert(
      fc.property(drag, anyPoint, ([dx, dy], pivot) => {
        fc.pre(distance(pivot, stand.station) > 0.3)
        const next = orbit(cameraFor(from), from, pivot, dx, dy, free)
        expect(distance(next.stand.station, pivot)).toBeCloseTo(distance(stand.station, pivot), 9)
        const before = projectPoint(cameraFor(from), pivot)
        const after = projectPoint(cameraFor(next), pivot)
        fc.pre(
          before !== null && after !== null && before.depthM > 0.1 && Math.abs(poseOfStand(next.stand).tiltDeg) < 89.5,
        )
        expect(after.xPx).toBeCloseTo(before.xPx, 4)
        expect(after.yPx).toBeCloseTo(before.yPx, 4)
      }),
    )
  })
})

describe('sliding', () => {
  it('keeps the grabbed point under the pointer, and the direction of view', () => {
    fc.assert(
      fc.property(drag, fc.double({ min: 0.3, max: 40, noNaN: true }), ([dx, dy], depth) => {
        const camera = cameraFor(from)
        const ray = rayThrough(camera, 300, 200)!
        const k = depth / projectPoint(camera, addScaled(ray.origin, ray.direction, 1))!.depthM
        const grabbed = addScaled(ray.origin, ray.direction, k)
        const next = slide(camera, from, depth, dx, dy)
        const at = projectPoint(cameraFor(next), grabbed)!
        expect(at.xPx).toBeCloseTo(300 + dx, 5)
        expect(at.yPx).toBeCloseTo(200 + dy, 5)
        expect(poseOfStand(next.stand).bearingDeg).toBeCloseTo(poseOfStand(stand).bearingDeg, 9)
      }),
    )
  })
})

describe('dolly and focal length', () => {
  it('goes a constant factor nearer; level keeps the height', () => {
    const p = [4, 8, 0.5] as const
    expect(distance(dolly(from, p, 0.9, free).stand.station, p)).toBeCloseTo(0.9 * distance(stand.station, p), 12)
    expect(dolly(from, p, 0.5, level).stand.station).toEqual([2.5, 5, 1.58])
    const parallel = { stand, lens: lensOf({ projection: { kind: 'parallel', widthM: 10 } }) }
    expect(dolly(parallel, p, 0.9, free).lens.projection).toMatchObject({ widthM: 9 })
  })
  it('a changed focal length keeps the subject’s size and place, with shift too', () => {
    // the station moves along the axis by depth (1 - f'/f): exact with shift
    const camera = cameraFor({ ...from, lens: lensOf({ riseMm: 4, crossMm: -2 }) })
    const held = focalHoldingSize({ stand, lens: camera.lens }, 3, 50)
    const ray = rayThrough(camera, 200, 350)!
    const k = 3 / projectPoint(camera, addScaled(ray.origin, ray.direction, 1))!.depthM
    const subject = addScaled(ray.origin, ray.direction, k)
    const at = projectPoint(cameraFor(held), subject)!
    expect([at.xPx, at.yPx, at.depthM]).toEqual([
      expect.closeTo(200, 6),
      expect.closeTo(350, 6),
      expect.closeTo((3 * 50) / 24, 9),
    ])
  })
})

it('a stand drawn in the plan is level at eye height and looks where the drag went', () => {
  const s = standFromPlan([2, 3], [2, 9], 2.9, 1.58, 0)
  expect(poseOfStand(s)).toEqual({ station: [2, 3, 4.48], bearingDeg: 0, tiltDeg: 0, rollDeg: 0 })
  expect(poseOfStand(standFromPlan([2, 3], [2, 3], 0, 1.2, 200)).bearingDeg).toBeCloseTo(200, 9)
  expect(cameraOf().pose.tiltDeg).toBe(0)
})

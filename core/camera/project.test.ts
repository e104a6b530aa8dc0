import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { anyCamera, anyPoint, anyPose, cameraOf, transform } from '../../tests/support/cameras.ts'
import { addScaled, distance, dot, length, sub } from '../math/index.ts'
import {
  axesOf,
  cameraFromWorld,
  clipFromCamera,
  horizonLine,
  poseOfStand,
  projectPoint,
  rayThrough,
  standMoved,
  standTurnedTo,
  toCamera,
} from './index.ts'

describe('axes', () => {
  it('are orthonormal and right-handed for every pose', () => {
    fc.assert(
      fc.property(anyPose, (pose) => {
        const { right, up, forward } = axesOf(pose)
        for (const v of [right, up, forward]) expect(length(v)).toBeCloseTo(1, 12)
        for (const [a, b] of [
          [right, up],
          [up, forward],
          [forward, right],
        ] as const)
          expect(dot(a, b)).toBeCloseTo(0, 12)
      }),
    )
  })
  it('follow the signs of bearing, tilt and roll', () => {
    expect(axesOf({ bearingDeg: 90, tiltDeg: 0, rollDeg: 0 }).forward).toEqual([1, 0, 0])
    expect(axesOf({ bearingDeg: 0, tiltDeg: 90, rollDeg: 0 }).forward[2]).toBe(1)
    // looking straight down the bearing is the direction of the picture's top edge
    expect(axesOf({ bearingDeg: 90, tiltDeg: -90, rollDeg: 0 }).up).toEqual([1, 0, 0])
    // rolled clockwise, the camera's right hand side sinks
    expect(axesOf({ bearingDeg: 0, tiltDeg: 0, rollDeg: 10 }).right[2]).toBeLessThan(0)
  })
  it('agree with the matrix', () => {
    fc.assert(
      fc.property(anyPose, anyPoint, (pose, p) => {
        const { point } = transform(cameraFromWorld(pose), p)
        expect(distance(point, toCamera(pose, p))).toBeLessThan(1e-9)
      }),
    )
  })
})

describe('stand', () => {
  it('aimed straight down or up keeps the picture’s top edge where topBearingDeg says', () => {
    const down = poseOfStand({
      station: [1, 2, 9],
      aim: { kind: 'point', point: [1, 2, 0], topBearingDeg: 30 },
      rollDeg: 0,
    })
    expect(down).toMatchObject({ tiltDeg: -90, bearingDeg: 30 })
    const up = poseOfStand({
      station: [1, 2, 0],
      aim: { kind: 'point', point: [1, 2, 9], topBearingDeg: 30 },
      rollDeg: 0,
    })
    const top = axesOf(up).up
    expect(top[0]).toBeCloseTo(Math.sin(Math.PI / 6), 9)
    expect(top[1]).toBeCloseTo(Math.cos(Math.PI / 6), 9)
  })
  it('aimed at itself keeps the last bearing and is level', () => {
    const s = {
      station: [1, 2, 3] as const,
      aim: { kind: 'point', point: [1, 2, 3], topBearingDeg: 77 } as const,
      rollDeg: 0,
    }
    expect(poseOfStand(s)).toMatchObject({ bearingDeg: 77, tiltDeg: 0 })
  })
  it('turned and turned back is where it was; moved carries the aim, alone does not', () => {
    const s = {
      station: [1, 2, 1.58] as const,
      aim: { kind: 'point', point: [4, 6, 1.58], topBearingDeg: 0 } as const,
      rollDeg: 0,
    }
    const turned = standTurnedTo(s, 200, -12)
    expect(poseOfStand(turned).bearingDeg).toBeCloseTo(200, 9)
    expect(poseOfStand(turned).tiltDeg).toBeCloseTo(-12, 9)
    const moved = standMoved(s, [1, 0, 0.2])
    expect(poseOfStand(moved)).toMatchObject({ ...poseOfStand(s), station: [2, 2, 1.78] })
    expect(standMoved(s, [1, 0, 0], true).aim).toMatchObject({ point: [4, 6, 1.58] })
  })
})

describe('projectPoint and rayThrough', () => {
  it('a ray through the projected point passes through the point, in every projection', () => {
    fc.assert(
      fc.property(anyCamera(), anyPoint, (camera, p) => {
        const at = projectPoint(camera, p)
        // very near the station or the edge of coverage, pixels lose their meaning
        fc.pre(at !== null && distance(p, camera.pose.station) > 0.5)
        fc.pre(Math.abs(at.xPx) < 1e6 && Math.abs(at.yPx) < 1e6)
        const ray = rayThrough(camera, at.xPx, at.yPx)
        // what falls on the picture form has a ray
        if (!ray) throw new Error('no ray')
        const along = dot(sub(p, ray.origin), ray.direction)
        expect(length(ray.direction)).toBeCloseTo(1, 12)
        expect(distance(addScaled(ray.origin, ray.direction, along), p)).toBeLessThan(1e-6)
        if (camera.lens.projection.kind !== 'oblique' && camera.lens.projection.kind !== 'parallel')
          expect(along).toBeGreaterThan(0)
      }),
      { numRuns: 400 },
    )
  })
  it('agrees with the matrices where there is one', () => {
    const flat = anyCamera().filter((c) => ['perspective', 'parallel', 'oblique'].includes(c.lens.projection.kind))
    fc.assert(
      fc.property(flat, anyPoint, (camera, p) => {
        const at = projectPoint(camera, p)
        fc.pre(at !== null && (camera.lens.projection.kind !== 'perspective' || at.depthM > 0.1))
        const { point } = transform(clipFromCamera(camera, { nearM: 0.1, farM: 200 }), toCamera(camera.pose, p))
        const { widthPx, heightPx } = camera.frame
        expect(((point[0] + 1) / 2) * widthPx).toBeCloseTo(at.xPx, 4)
        expect(((1 - point[1]) / 2) * heightPx).toBeCloseTo(at.yPx, 4)
      }),
      { numRuns: 300 },
    )
  })
  it('the matrices have the elements that the stage’s vertices use, and no others', () => {
    const flat = anyCamera().filter((c) => ['perspective', 'parallel', 'oblique'].includes(c.lens.projection.kind))
    fc.assert(
      fc.property(flat, (camera) => {
        const m = clipFromCamera(camera, { nearM: 0.1, farM: 200 })
        // by columns: x and y scaled, shifted by depth and moved; depth and w by depth alone
        expect([1, 2, 3, 4, 6, 7].map((i) => Math.abs(m[i]!))).toEqual([0, 0, 0, 0, 0, 0])
      }),
    )
  })
  it('rise shows more of what is above, cross more of what is to the right', () => {
    const above = cameraOf({}, { riseMm: 12 })
    // 12 mm of rise on 24 mm of height: the horizon falls to the lower edge
    expect(projectPoint(above, [0, 10, 0])).toMatchObject({ xPx: 900, yPx: 1200 })
    expect(projectPoint(cameraOf({}, { crossMm: 18 }), [0, 10, 0])).toMatchObject({ xPx: 0, yPx: 600 })
    expect(horizonLine(above)).toEqual([
      [0, 1200],
      [1800, 1200],
    ])
  })
  it('gives null behind a perspective camera and a depth below zero in parallel', () => {
    expect(projectPoint(cameraOf(), [0, -1, 0])).toBeNull()
    const par = cameraOf({}, { projection: { kind: 'parallel', widthM: 10 } })
    expect(projectPoint(par, [1, -1, 0])).toMatchObject({ xPx: 1080, depthM: -1 })
  })
  it('fisheye radii of the three mappings at 45 deg', () => {
    // 180 deg over 1200 px: 300.00 / 324.72 / 248.53 px (computed from r = theta, 2 sin, 2 tan)
    for (const [mapping, r] of [
      ['equidistant', 300.0],
      ['equisolid', 324.72],
      ['stereographic', 248.53],
    ] as const) {
      const c = cameraOf({}, { projection: { kind: 'fisheye', mapping, coverageDeg: 180 } }, [1200, 1200])
      expect(projectPoint(c, [1, 1, 0])!.xPx - 600).toBeCloseTo(r, 2)
    }
  })
  it('the horizon tilts against the roll and leaves the centre by the tilt', () => {
    const h = horizonLine(cameraOf({ tiltDeg: -10 }))!
    // y = -f tan(tilt) - rise: above the centre when looking down
    expect(h[0]![1]).toBeCloseTo(600 - 24 * Math.tan(Math.PI / 18) * 50, 9)
    const [left, right] = horizonLine(cameraOf({ rollDeg: 5 }))!
    expect(Math.atan2(left![1] - right![1], 1800)).toBeCloseTo((5 * Math.PI) / 180, 9)
  })
})

import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { anyPoint, anyPose, cameraOf } from '../../tests/support/cameras.ts'
import { addScaled, distance, type Vec3 } from '../math/index.ts'
import {
  aimConverted,
  aimPointOf,
  directionOf,
  orbit,
  poseOfStand,
  standAs,
  standMoved,
  toCamera,
  topTowards,
  type AimCentre,
  type Stand,
} from './index.ts'

const LAMP: Vec3 = [2, 5, 1]
const centreOf: AimCentre = (id, offset) => (id === 'lamp' ? addScaled(LAMP, offset, 1) : null)
const at = (station: Vec3, aim: Stand['aim'], rollDeg = 0): Stand => ({ station, aim, rollDeg })
const pointed = (station: Vec3, point: Vec3): Stand => at(station, { kind: 'point', point, topBearingDeg: 0 })
const same = (a: Stand, b: Stand): void => {
  const [p, q] = [poseOfStand(a, centreOf), poseOfStand(b, centreOf)]
  expect(directionOf(q.bearingDeg, q.tiltDeg).map((v) => v.toFixed(9))).toEqual(
    directionOf(p.bearingDeg, p.tiltDeg).map((v) => v.toFixed(9)),
  )
  expect(q.station).toEqual(p.station)
}

describe('the bearing of a vertical sight line', () => {
  it('is the one there was, whether the aim is picked straight above or below, or the station comes to stand under or over it', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 359.9, noNaN: true }), fc.double({ min: 0.5, max: 20, noNaN: true }), fc.boolean(), (b, away, isAbove) => {
        const level = at([1, 2, 1.6], { kind: 'direction', bearingDeg: b, tiltDeg: 0 })
        const point: Vec3 = [1, 2, 1.6 + (isAbove ? away : -away)]
        const picked = { ...level, aim: { kind: 'point' as const, point, topBearingDeg: topTowards(level.station, point, b) } }
        expect(Math.cos(((poseOfStand(picked).bearingDeg - b) * Math.PI) / 180)).toBeCloseTo(1, 9)
        // from beside it along the bearing to just under or over it
        const back = directionOf(b, 0)
        const beside = at(addScaled([1, 2, 1.6], back, -3), { kind: 'point', point, topBearingDeg: 0 })
        const near = standMoved(beside, [back[0] * 2, back[1] * 2, 0], true)
        const under = standMoved(near, [back[0], back[1], 0], true)
        expect(Math.cos(((poseOfStand(under).bearingDeg - b) * Math.PI) / 180)).toBeCloseTo(1, 6)
      }),
    ) // prettier-ignore
  })
})

describe('aims converted', () => {
  it('leave the picture where it is, whatever they are', () => {
    fc.assert(
      fc.property(anyPoint, anyPoint, (station, point) => {
        fc.pre(distance(station, point) > 0.1)
        const s = pointed(station, point)
        same(s, aimConverted(s, 'direction', 3))
        same(s, aimConverted(aimConverted(s, 'direction', 3), 'point', 7))
      }),
    )
  })
  it('an object becomes the point it is at, a direction a point as far ahead as asked', () => {
    const s = at([0, 0, 1], { kind: 'object', nodeId: 'lamp', offset: [0, 0, 0.5], topBearingDeg: 0 })
    expect(aimConverted(s, 'point', 3, centreOf).aim).toMatchObject({ kind: 'point', point: [2, 5, 1.5] })
    same(s, aimConverted(s, 'direction', 3, centreOf))
    const d = at([0, 0, 0], { kind: 'direction', bearingDeg: 90, tiltDeg: 0 })
    const p = aimPointOf(aimConverted(d, 'point', 4).aim)!
    expect(distance(p, [4, 0, 0])).toBeLessThan(1e-12)
    expect(aimConverted(d, 'direction', 4)).toBe(d)
  })
  it('looking straight up or down, the picture’s top stays', () => {
    for (const tiltDeg of [90, -90]) {
      const d = at([0, 0, 0], { kind: 'direction', bearingDeg: 40, tiltDeg })
      const back = poseOfStand(aimConverted(d, 'point', 2))
      expect(back.bearingDeg).toBeCloseTo(40, 9)
      expect(back.tiltDeg).toBe(tiltDeg)
    }
  })
})

describe('a stand for another pose', () => {
  it('is that pose, in the form it had', () => {
    fc.assert(
      fc.property(anyPose, anyPoint, fc.constantFrom('direction', 'point', 'object'), (pose, from, kind) => {
        fc.pre(Math.abs(pose.tiltDeg) < 89.9 && distance(from, LAMP) > 0.1)
        const old =
          kind === 'direction'
            ? at(from, { kind, bearingDeg: 1, tiltDeg: 2 })
            : kind === 'point'
              ? pointed(from, LAMP)
              : at(from, { kind: 'object', nodeId: 'lamp', offset: [0, 0, 0], topBearingDeg: 0 })
        const stand = standAs(old, pose, centreOf)
        const got = poseOfStand(stand, centreOf)
        expect(got.station).toEqual(pose.station)
        expect(got.rollDeg).toBe(pose.rollDeg)
        const [a, b] = [directionOf(got.bearingDeg, got.tiltDeg), directionOf(pose.bearingDeg, pose.tiltDeg)]
        expect(distance(a, b)).toBeLessThan(1e-9)
        expect(stand.aim.kind).toBe(kind === 'direction' ? 'direction' : 'point')
      }),
    )
  })
  it('keeps a point and an object that the sight line still meets', () => {
    const along = { station: [2, 1, 1] as Vec3, bearingDeg: 0, tiltDeg: 0, rollDeg: 3 }
    expect(standAs(pointed([2, -4, 1], LAMP), along).aim).toMatchObject({ kind: 'point', point: LAMP })
    const object = at([2, -4, 1], { kind: 'object', nodeId: 'lamp', offset: [0, 0, 0], topBearingDeg: 0 })
    expect(standAs(object, along, centreOf).aim).toMatchObject({ kind: 'object', nodeId: 'lamp' })
  })
  it('a new point lies as deep as the old one, unless that is out of the way', () => {
    const beside = { station: [3, 1, 1] as Vec3, bearingDeg: 0, tiltDeg: 0, rollDeg: 0 }
    expect(aimPointOf(standAs(pointed([2, -4, 1], LAMP), beside).aim)).toEqual([3, 5, 1])
    const away = { ...beside, bearingDeg: 180 }
    const p = aimPointOf(standAs(pointed([2, -4, 1], LAMP), away).aim)!
    expect(distance(p, beside.station)).toBeCloseTo(9, 9)
  })
})

describe('orbiting an object aimed at', () => {
  it('keeps it the aim, in the middle and as far away', () => {
    const stand = at([2, -1, 2], { kind: 'object', nodeId: 'lamp', offset: [0, 0, 0], topBearingDeg: 0 })
    const camera = { ...cameraOf(), pose: poseOfStand(stand, centreOf) }
    const options = { holdLevel: false, holdSquare: false, centreOf }
    const { stand: turned } = orbit(camera, { stand, lens: camera.lens }, LAMP, 220, -60, options)
    expect(turned.aim.kind).toBe('object')
    expect(distance(turned.station, LAMP)).toBeCloseTo(distance(stand.station, LAMP), 9)
    const [x, y] = toCamera(poseOfStand(turned, centreOf), LAMP)
    expect([x, y]).toEqual([expect.closeTo(0, 9), expect.closeTo(0, 9)])
  })
})

import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { distance, type Vec3 } from '../math/index.ts'
import {
  filmed,
  movedPoint,
  placeAt,
  placeBetween,
  type HoldShot,
  type ObjectAffine,
  type ObjectPlace,
  type Shot,
} from './index.ts'

const drawer: ObjectPlace = { objectId: 'drawer', moveM: [0, -0.4, 0], turnDeg: 0, hinge: [0, 0, 0] }
const door: ObjectPlace = { objectId: 'door', moveM: [0, 0, 0], turnDeg: 90, hinge: [1, 2, 0] }
const placedPoint = (p: Vec3, at: ObjectPlace): Vec3 => movedPoint(p, at.objectId, [at])
const view: HoldShot['view'] = {
  pose: { station: [0, -3, 1.5], bearingDeg: 0, tiltDeg: 0, rollDeg: 0 },
  lens: { projection: { kind: 'perspective' }, focalMm: 35, sensorMm: { width: 36, height: 24 }, sensorUse: 'inside', riseMm: 0, crossMm: 0, distortion: null } as never,
  ...{ focusM: 4, fNumber: 2, ev: 10, awayM: 3 },
} // prettier-ignore
const hold = (beside: Partial<Shot>): Shot => ({ kind: 'hold', view, durationS: 10, creep: 0, ...beside }) as Shot
const taken = (shot: Shot) => {
  const r = filmed(shot)
  if (!r.ok) throw new Error(r.message)
  return r.value
}

describe('where things stand', () => {
  it('what lies below a moved object moves by its own place first, then with it; of one object in the order of the list', () => {
    const chest: ObjectPlace = { objectId: 'chest', moveM: [10, 0, 0], turnDeg: 90, hinge: [0, 0, 0] }
    const lid: ObjectAffine = { objectId: 'chest/drawer/lid', affine: [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 2] }
    const inChest = { ...drawer, objectId: 'chest/drawer' }
    const all = [chest, lid, inChest]
    const [x, y, z] = movedPoint([1, 2, 3], 'chest/drawer/lid/knob', all)
    // up by 2, 0.4 to the front, a quarter clockwise about the origin, 10 along x
    expect([x, y, z].map((v) => v + 0)).toEqual([1.6 + 10, -1, 5])
    expect(movedPoint([1, 2, 3], 'chestnut', all)).toEqual([1, 2, 3])
    const twice = [drawer, { objectId: 'drawer', affine: [2, 0, 0, 0, 0, 2, 0, 0, 0, 0, 2, 0] }]
    expect(movedPoint([1, 2, 3], 'drawer', twice)).toEqual([2, 3.2, 6])
  })
  it('a door turns about its hinge, clockwise from above; a quarter is a quarter', () => {
    const p = placedPoint([2, 2, 0.5], door)
    expect(distance(p, [1, 1, 0.5])).toBeLessThan(1e-12)
    expect(distance(placedPoint([2, 2, 0.5], placeBetween(null, door, 0.5)!), [1 + Math.SQRT1_2, 2 - Math.SQRT1_2, 0.5])).toBeLessThan(1e-12) // prettier-ignore
  })
  it('between two places every point keeps its distance from the hinge (property)', () => {
    const n = fc.double({ min: -5, max: 5, noNaN: true })
    fc.assert(
      fc.property(n, n, fc.double({ min: 0, max: 1, noNaN: true }), (x, y, share) => {
        const at = placeBetween(null, door, share)
        const p: Vec3 = at ? placedPoint([x, y, 0], at) : [x, y, 0]
        expect(distance(p, [1, 2, 0])).toBeCloseTo(distance([x, y, 0], [1, 2, 0]), 9)
      }),
    )
  })
  it('moves from rest to rest in its part of the time, and stays at both ends', () => {
    const m = { from: null, to: drawer, fromShare: 0.2, toShare: 0.6 }
    expect(placeAt(m, 0.1)).toBeNull()
    expect(placeAt(m, 0.4)!.moveM[1]).toBeCloseTo(-0.2, 12)
    expect(placeAt(m, 0.9)).toBe(drawer)
    // nought seconds long: at once
    expect(placeAt({ ...m, fromShare: 0.5, toShare: 0.5 }, 0.5)).toBe(drawer)
  })
})

describe('keys of a shot', () => {
  it('pull the focus evenly in dioptres, zoom by a factor, expose and go at their own pace', () => {
    const shot = taken(hold({ creep: 0.5, keys: { focusM: [{ at: 0, value: 1 }, { at: 1, value: 4 }], focal: [{ at: 0, value: 1 }, { at: 1, value: 2 }], ev: [{ at: 0, value: 0 }, { at: 1, value: -1 }], progress: [{ at: 0, value: 0 }, { at: 0.5, value: 1 }] } } as never)) // prettier-ignore
    expect(shot.at(0)).toMatchObject({ focusM: 1, ev: 10 })
    expect(shot.at(5).focusM).toBeCloseTo(1 / 0.625, 9)
    expect(shot.at(10)).toMatchObject({ focusM: 4, ev: 9 })
    expect(shot.at(10).lens.focalMm).toBeCloseTo(70, 9)
    // all of its way is gone by half of the time
    expect(shot.at(5).pose.station[1]).toBeCloseTo(-1.5, 9)
    expect(shot.at(9).pose.station[1]).toBeCloseTo(-1.5, 9)
  })
  it('things that move are in the take; one that is watched stays in the middle of the picture', () => {
    const centre: Vec3 = [1, 2, 0.5]
    const shot = taken(hold({ objects: [{ from: null, to: { ...drawer, moveM: [3, 0, 0] }, fromShare: 0, toShare: 1 }], placed: [door, { ...drawer, moveM: [9, 9, 9] }], watch: { objectId: 'drawer', centre } } as never)) // prettier-ignore
    expect(shot.at(0).moved).toEqual([door])
    for (const t of [0, 3, 5, 10]) {
      const { pose, moved } = shot.at(t)
      const at = movedPoint(centre, 'drawer', moved!)
      const [dx, dy, dz] = [at[0] - pose.station[0], at[1] - pose.station[1], at[2] - pose.station[2]]
      expect(pose.bearingDeg).toBeCloseTo((Math.atan2(dx, dy) * 180) / Math.PI, 9)
      expect(pose.tiltDeg).toBeCloseTo((Math.atan2(dz, Math.hypot(dx, dy)) * 180) / Math.PI, 9)
    }
    expect(shot.at(10).moved).toContainEqual({ ...drawer, moveM: [3, 0, 0] })
  })
})

// Stands drawn on Plan and Side: plane geometry, and what the pose of the stand then is.
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Vec3 } from '#core/math'
import { heldOnPlan, heldOnSide, isNearUpright, levelWith, poseOfStand, standFromPlan, standFromSide } from './index.ts'

const at = fc.double({ min: -50, max: 50, noNaN: true })
const place = fc.tuple(at, at, at) as fc.Arbitrary<[number, number, number]>

describe('a stand drawn on Plan', () => {
  it('looks level from the first point to the second at eye height', () => {
    const pose = poseOfStand(standFromPlan([2, 3], [5, 6], 2.9, 1.58, 0))
    expect(pose.station).toEqual([2, 3, 4.48])
    expect(pose.bearingDeg).toBeCloseTo(45, 9)
    expect(pose.tiltDeg).toBeCloseTo(0, 9)
  })
  it('is held to the axis along which the pointer lies farther', () => {
    expect(heldOnPlan([5, 3.2, 9], [1, 3, 1.6])).toEqual([5, 3, 1.6])
    expect(heldOnPlan([1.5, 8, 9], [1, 3, 1.6])).toEqual([1, 8, 1.6])
  })
})

describe('a stand drawn on Side', () => {
  const station: Vec3 = [4, 2, 1.6]
  it('tells upright within three degrees', () => {
    const over = (deg: number): Vec3 => [4 + 10 * Math.tan((deg * Math.PI) / 180), 2, 11.6]
    expect(isNearUpright(station, over(2.99))).toBe(true)
    expect(isNearUpright(station, over(3.01))).toBe(false)
    expect(isNearUpright(station, station)).toBe(false)
  })
  it('keeps the bearing there was when it looks straight up or down', () => {
    for (const [rise, tilt] of [
      [5, 90],
      [-5, -90],
    ] as const) {
      const pose = poseOfStand(standFromSide(station, [4, 2, 1.6 + rise], 75))
      expect(pose.tiltDeg).toBeCloseTo(tilt, 6)
      expect(pose.bearingDeg).toBeCloseTo(75, 6)
    }
  })
  it('is held level or upright, whichever is nearer', () => {
    expect(heldOnSide([9, 2, 2], station)).toEqual([9, 2, 1.6])
    expect(heldOnSide([4.5, 2, 7], station)).toEqual([4, 2, 7])
  })
  it('moves along the bearing only, until level with the station', () => {
    fc.assert(
      fc.property(place, place, fc.double({ min: 0, max: 360, noNaN: true }), (p, s, deg) => {
        const q = levelWith(p, s, deg)
        const b = (deg * Math.PI) / 180
        const [along, across] = [
          [Math.sin(b), Math.cos(b)],
          [Math.cos(b), -Math.sin(b)],
        ] as const
        expect((q[0] - s[0]) * along[0]! + (q[1] - s[1]) * along[1]!).toBeCloseTo(0, 9)
        expect((q[0] - p[0]) * across[0]! + (q[1] - p[1]) * across[1]!).toBeCloseTo(0, 9)
        expect(q[2]).toBe(p[2])
      }),
    )
  })
})

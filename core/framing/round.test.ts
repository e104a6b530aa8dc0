import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { poseOfStand, projectPoint, toCamera, type Camera } from '../camera/index.ts'
import type { Vec3 } from '../math/index.ts'
import { poseRound, standOver, standRound } from './round.ts'

const num = (least: number, most: number) => fc.double({ min: least, max: most, noNaN: true })
const camera = (pose: Camera['pose'], flat: boolean): Camera => ({
  pose,
  lens: {
    projection: flat ? { kind: 'parallel', widthM: 7 } : { kind: 'perspective' },
    focalMm: 35,
    sensorMm: { width: 36, height: 24 },
    sensorUse: 'acrossWidth',
    riseMm: 3,
    crossMm: -2,
    distortion: null,
  },
  frame: { widthPx: 900, heightPx: 600, densityPpi: 300, guides: [] },
})

describe('round a thing', () => {
  it('it keeps its place, size and depth in the picture, wherever it is, in perspective and in parallel', () => {
    fc.assert(
      fc.property(
        fc.tuple(num(-9, 9), num(-9, 9), num(-9, 9)),
        num(0, 359),
        num(-89, 89),
        num(-180, 180),
        num(0, 359),
        num(-90, 90),
        fc.boolean(),
        (p, bearingDeg, tiltDeg, rollDeg, toBearing, toTilt, flat) => {
          const pose = { station: [1, 2, 1.6] as Vec3, bearingDeg, tiltDeg, rollDeg }
          const next = poseRound(pose, p, toBearing, toTilt)
          expect([next.bearingDeg, next.tiltDeg, next.rollDeg]).toEqual([expect.closeTo(toBearing, 9), toTilt, rollDeg])
          toCamera(next, p).forEach((v, i) => expect(v).toBeCloseTo(toCamera(pose, p)[i]!, 9))
          const [a, b] = [projectPoint(camera(pose, flat), p), projectPoint(camera(next, flat), p)]
          expect(a === null).toBe(b === null)
          if (a && b && a.depthM > 0.1) expect([b.xPx, b.yPx]).toEqual([expect.closeTo(a.xPx, 5), expect.closeTo(a.yPx, 5)]) // prettier-ignore
        },
      ),
    )
  })
  it('and back it is where it was; a centred aim stays the aim', () => {
    const s = { station: [0, -5, 1] as Vec3, aim: { kind: 'point', point: [0, 0, 1] as Vec3, topBearingDeg: 0 }, rollDeg: 0 } as const // prettier-ignore
    const there = standRound(s, [0, 0, 1], 90, -30)
    expect(there.aim).toMatchObject({ kind: 'point', point: [expect.closeTo(0, 9), expect.closeTo(0, 9), expect.closeTo(1, 9)] }) // prettier-ignore
    expect(there.station).toEqual([expect.closeTo(-4.330127, 6), expect.closeTo(0, 9), expect.closeTo(3.5, 9)])
    const back = standRound(there, [0, 0, 1], 0, 0)
    back.station.forEach((v, i) => expect(v).toBeCloseTo(s.station[i]!, 9))
  })
  it('straight over a point', () => {
    const pose = poseOfStand(standOver([3, 4, 0.9], 2.5, 40))
    expect(pose).toMatchObject({ station: [3, 4, 3.4], tiltDeg: -90, bearingDeg: expect.closeTo(40, 9) })
  })
})

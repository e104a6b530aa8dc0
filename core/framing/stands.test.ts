import { describe, expect, it } from 'vitest'
import { cameraOf } from '../../tests/support/cameras.ts'
import { directionOf, poseOfStand, projectPoint, type Stand } from '../camera/index.ts'
import { addScaled, boxCorners, dot, type Vec3 } from '../math/index.ts'
import {
  aimMoved,
  aligned,
  firstStandBefore,
  frontBearingDeg,
  isProduct,
  offsetAhead,
  rolledBy,
  standAtSide,
  stepAlong,
  type Axes,
} from './index.ts'

const nowhere = () => null
const at = (station: Vec3, point: Vec3): Stand => ({
  station,
  aim: { kind: 'point', point, topBearingDeg: 0 },
  rollDeg: 0,
})
const box = { min: [2, 3, 0] as Vec3, max: [4, 4, 2] as Vec3 }
const turned = (deg: number): Axes => [directionOf(deg + 90, 0), directionOf(deg, 0), [0, 0, 1]]

describe('at the sides of a box', () => {
  it.each(['front', 'back', 'left', 'right', 'above'] as const)(
    '%s: all of it is within the margins, its middle in the middle',
    (side) => {
      const camera = cameraOf({}, { riseMm: 3, crossMm: -2 }, [900, 600])
      const r = standAtSide(camera, box, side, { margin: 0.1, frontDeg: 20 })
      if (!r.ok) throw new Error(r.message)
      const seen = { ...camera, pose: poseOfStand(r.value.stand, nowhere), lens: r.value.lens }
      for (const c of boxCorners(box)) {
        const p = projectPoint(seen, c)!
        expect(p.xPx).toBeGreaterThan(89.999)
        expect(p.xPx).toBeLessThan(810.001)
        expect(p.yPx).toBeGreaterThan(59.999)
        expect(p.yPx).toBeLessThan(540.001)
      }
    },
  )
  it('turns with the thing’s own front; a thing without extent has a metre around it', () => {
    const camera = cameraOf()
    const from = (deg: number) => standAtSide(camera, box, 'front', { frontDeg: frontBearingDeg(turned(deg)) })
    const r = from(35)
    expect(r.ok && poseOfStand(r.value.stand, nowhere).bearingDeg).toBeCloseTo(35, 9)
    expect(frontBearingDeg([[1, 0, 0], [0, 0, 1], [0, -1, 0]])).toBe(0) // prettier-ignore
    const point: Vec3 = [1, 1, 1]
    expect(standAtSide(camera, { min: point, max: point }, 'left', {}).ok).toBe(true)
  })
})

describe('moves by numbers', () => {
  it('aligned, station and aim share the coordinate, and never become one point', () => {
    for (const axis of [0, 1, 2] as const) {
      const r = aligned(at([1, 2, 3], [4, 6, 8]), axis, nowhere)
      if (!r.ok || r.value.aim.kind !== 'point') throw new Error('refused')
      expect(r.value.aim.point[axis]).toBe([1, 2, 3][axis])
      expect(r.value.station).toEqual([1, 2, 3])
    }
    expect(aligned(at([1, 2, 3], [1, 2, 9]), 2, nowhere)).toMatchObject({ reason: 'one-point' })
    // an object stays where it is: the station comes
    const s: Stand = {
      station: [1, 2, 3],
      aim: { kind: 'object', nodeId: 'a', offset: [0, 0, 0], topBearingDeg: 0 },
      rollDeg: 0,
    }
    expect(aligned(s, 0, () => [7, 8, 9])).toMatchObject({ ok: true, value: { station: [7, 2, 3] } })
  })
  it('steps go level along the view; an object’s offset is along its own axes', () => {
    const [fx, fy] = stepAlong(30, [0, 1, 0], 'view', 2)
    expect([fx, fy]).toEqual([expect.closeTo(1, 12), expect.closeTo(Math.sqrt(3), 12)])
    expect(stepAlong(30, [1, 0, 2], 'world', 0.5)).toEqual([0.5, 0, 1])
    const s: Stand = {
      station: [0, 0, 0],
      aim: { kind: 'object', nodeId: 'a', offset: [0, 0, 0], topBearingDeg: 0 },
      rollDeg: 0,
    }
    const r = aimMoved(s, [0, 1, 0], () => turned(90))
    // its x looks south, its y east: a step north is one against its x
    expect(r.ok && r.value.aim.kind === 'object' && r.value.aim.offset.map((v) => Math.round(v * 1e9) / 1e9 || 0)).toEqual([-1, 0, 0]) // prettier-ignore
    expect(
      aimMoved({ ...s, aim: { kind: 'direction', bearingDeg: 0, tiltDeg: 0 } }, [1, 0, 0], () => undefined).ok,
    ).toBe(false)
  })
  it('an aim at what lies ahead leaves the sight line where it is', () => {
    const pose = { station: [0, 0, 1.5] as Vec3, bearingDeg: 17, tiltDeg: -4, rollDeg: 0 }
    const axes = turned(50)
    for (const awayM of [null, 2.5]) {
      const offset = offsetAhead(pose, box, axes, awayM)
      const middle: Vec3 = [3, 3.5, 1]
      const aim = axes.reduce<Vec3>((p, a, k) => addScaled(p, a, offset[k]!), middle)
      const way = aim.map((v, k) => v - pose.station[k]!) as unknown as Vec3
      expect(dot(way, directionOf(17, -4)) / Math.hypot(...way)).toBeCloseTo(1, 12)
      if (awayM) expect(Math.hypot(...way)).toBeCloseTo(2.5, 9)
    }
  })
  it('rolls stay from above -180 to 180', () => {
    const s = at([0, 0, 0], [1, 0, 0])
    expect([90, 180, 270, -90, 720].map((d) => rolledBy(s, d).rollDeg)).toEqual([90, 180, -90, -90, 0])
  })
})

describe('the first stand', () => {
  const room = { min: [0, 0, -0.3] as Vec3, max: [18, 9, 8] as Vec3 }
  it('is inside a room at eye height over its floor, level', () => {
    expect(isProduct(room)).toBe(false)
    const s = firstStandBefore(room, { floorM: 0, eyeHeightM: 1.58, inside: true })
    expect(s.station[2]).toBeCloseTo(1.58, 9)
    expect(s.aim).toMatchObject({ kind: 'point', point: [9, 4.5, 1.58] })
  })
  it('sees a product whole from the front, a house from outside, both as large as fits', () => {
    for (const [far, focalMm, isThing] of [
      [[0.1, 0.1, 0.3], 70, true],
      [[0.9, 0.1, 0.05], 70, true],
      [[10, 10, 6], 24, false],
      [[12, 9, 40], 24, false],
    ] as const) {
      const box = { min: [-far[0], -far[1], 0] as Vec3, max: far as Vec3 }
      expect(isProduct(box)).toBe(isThing)
      const stand = firstStandBefore(box, { floorM: 0, eyeHeightM: 1.58, inside: false })
      const camera = cameraOf(poseOfStand(stand), { focalMm }, [900, 600])
      const seen = boxCorners(box).map((corner) => projectPoint(camera, corner)!)
      const filled = Math.max(...seen.map((p) => Math.max(Math.abs(p.xPx - 450) / 450, Math.abs(p.yPx - 300) / 300)))
      expect(filled).toBeCloseTo(0.88, 6)
    }
  })
})

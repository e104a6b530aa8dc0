import { describe, expect, it } from 'vitest'
import { cameraOf, frameOf } from '../../tests/support/cameras.ts'
import { projectPoint, type Camera } from '../camera/index.ts'
import type { Vec3 } from '../math/index.ts'
import {
  axonometricFromAngles,
  backedBy,
  depthBehindWall,
  distanceForWidthM,
  drawnAxes,
  distancesBetween,
  measuredDirection,
  nearCutBehind,
  roundStepM,
  scaleOfWidth,
  snapBearing,
  snapTo,
  widthAtScaleM,
  type MeasuredView,
} from './index.ts'

const cameraFor = (view: MeasuredView, main = 0, widthM = 10): Camera => {
  const d = measuredDirection(view, main)
  return cameraOf({ station: [1, 2, 3], ...d.pose }, { projection: d.projection(widthM) }, [1000, 1000])
}
/** Where a step of a metre along an axis goes in the picture, in metres of the true plane, x right and y up. */
const step = (c: Camera, d: Vec3): [number, number] => {
  const [a, b] = [[0, 0, 0] as Vec3, d].map((p) => projectPoint(c, p)!)
  return [(b!.xPx - a!.xPx) / 100, (a!.yPx - b!.yPx) / 100]
}
const X: Vec3 = [1, 0, 0]
const Y: Vec3 = [0, 1, 0]
const Z: Vec3 = [0, 0, 1]

describe('measured directions', () => {
  it('a plan has north up and east right, an underside is its mirror', () => {
    const plan = cameraFor({ kind: 'plan' })
    expect(step(plan, X)).toEqual([expect.closeTo(1), expect.closeTo(0)])
    expect(step(plan, Y)).toEqual([expect.closeTo(0), expect.closeTo(1)])
    const under = cameraFor({ kind: 'underside' })
    expect(step(under, X)).toEqual([expect.closeTo(1), expect.closeTo(0)])
    expect(step(under, Y)).toEqual([expect.closeTo(0), expect.closeTo(-1)])
  })
  it('four elevations look along the main directions of a turned building', () => {
    for (const quarter of [0, 1, 2, 3] as const) {
      const c = cameraFor({ kind: 'elevation', quarter }, 17)
      expect(c.pose.bearingDeg).toBeCloseTo((17 + 90 * quarter) % 360)
      expect(step(c, Z)).toEqual([expect.closeTo(0), expect.closeTo(1)])
    }
  })
  it.each([0, 1, 2, 3] as const)('isometric corner %d: 30 degrees, 120 apart, 0.8165 on all', (corner) => {
    // ISO 5456-3
    const axes = drawnAxes(cameraFor({ kind: 'isometric', corner }))!
    for (const a of [axes.x, axes.y, axes.z]) expect(a.foreshortening).toBeCloseTo(0.8165, 4)
    expect(axes.z.angleDeg).toBeCloseTo(90)
    for (const a of [axes.x, axes.y]) expect(Math.abs(((a.angleDeg! + 360) % 60) - 30)).toBeCloseTo(0, 6)
  })
  it.each(['left', 'right'] as const)('dimetric %s: 7.181 and 41.410 degrees, 0.9428 twice and 0.4714', (hand) => {
    // ISO 5456-3's dimetric (7 and 42 degrees, 1 : 1 : 1/2 there); exact values computed
    const axes = drawnAxes(cameraFor({ kind: 'dimetric', quarter: 0, hand }))!
    const above = (deg: number) => Math.min(deg, Math.abs(180 - deg))
    expect([
      above(axes.x.angleDeg! > 180 ? 360 - axes.x.angleDeg! : axes.x.angleDeg!),
      above(axes.y.angleDeg!),
    ]).toEqual([expect.closeTo(7.181, 3), expect.closeTo(41.41, 3)])
    expect([axes.x, axes.y, axes.z].map((a) => a.foreshortening)).toEqual([
      expect.closeTo(0.9428, 4),
      expect.closeTo(0.4714, 4),
      expect.closeTo(0.9428, 4),
    ])
  })
  it('two to one: 26.565 degrees, 0.7906 twice and 0.8660', () => {
    const axes = drawnAxes(cameraFor({ kind: 'dimetric-2-1', corner: 0 }))!
    expect(axes.x.angleDeg).toBeCloseTo(26.565, 3)
    expect(axes.y.angleDeg).toBeCloseTo(180 - 26.565, 3)
    expect([axes.x, axes.y, axes.z].map((a) => a.foreshortening)).toEqual([
      expect.closeTo(0.7906, 4),
      expect.closeTo(0.7906, 4),
      expect.closeTo(0.866, 4),
    ])
  })
  it('typed axis angles come out in the picture', () => {
    for (const [left, right] of [
      [30, 30],
      [7.181, 41.41],
      [15, 50],
    ] as const) {
      // prettier-ignore
      const r = axonometricFromAngles(left, right)
      if (!r.ok) throw new Error(r.message)
      // the axis that recedes to the left is north
      const axes = drawnAxes(cameraFor({ kind: 'axonometric', bearingDeg: r.value.turnDeg, tiltDeg: r.value.tiltDeg }))!
      expect(180 - axes.y.angleDeg!).toBeCloseTo(left, 6)
      expect(axes.x.angleDeg).toBeCloseTo(right, 6)
    }
    expect(axonometricFromAngles(45, 45)).toMatchObject({ reason: 'too-steep' })
    expect(axonometricFromAngles(0, 45)).toMatchObject({ reason: 'not-positive' })
  })
  it.each([
    ['cabinet', 0.5],
    ['cavalier', 1],
  ] as const)('%s: the front true, depth at 45 degrees by %d', (kind, receding) => {
    const c = cameraFor({ kind, quarter: 0 })
    expect(step(c, X)).toEqual([expect.closeTo(1), expect.closeTo(0)])
    expect(step(c, Z)).toEqual([expect.closeTo(0), expect.closeTo(1)])
    const k = receding * Math.SQRT1_2
    expect(step(c, Y)).toEqual([expect.closeTo(k), expect.closeTo(k)])
    expect(drawnAxes(c)!.y).toEqual({ angleDeg: expect.closeTo(45), foreshortening: expect.closeTo(receding) })
  })
  it('planometric: the plan true and turned, heights upwards', () => {
    const c = cameraFor({ kind: 'planometric', turnDeg: 30, receding: 1 })
    expect(step(c, Z)).toEqual([expect.closeTo(0), expect.closeTo(1)])
    expect(Math.hypot(...step(c, X))).toBeCloseTo(1)
    expect(drawnAxes(cameraFor({ kind: 'planometric', turnDeg: 45, receding: 2 / 3 }))!.z.foreshortening).toBeCloseTo(
      2 / 3,
    )
  })
  it('an axis seen end on has no angle; perspective draws no axes', () => {
    expect(drawnAxes(cameraFor({ kind: 'plan' }))!.z).toEqual({ angleDeg: null, foreshortening: expect.closeTo(0) })
    expect(drawnAxes(cameraOf())).toBeNull()
  })
  it('scales are those of the paper', () => {
    const frame = frameOf(3508, 2480)
    // A4 across at 300 ppi is 0.297 m: at 1 : 50 it shows 14.85 m
    expect(widthAtScaleM(frame, 50)).toBeCloseTo(14.85, 2)
    expect(scaleOfWidth(frame, widthAtScaleM(frame, 20))).toBeCloseTo(20, 9)
  })
})

describe('standing back through the wall', () => {
  const wall = { point: [0, 0, 0] as Vec3, normal: [0, 1, 0] as Vec3 }
  it('square to the wall the cut lies a millimetre inside it', () => {
    expect(depthBehindWall(cameraOf({ station: [0, -1.2, 1.5] }), wall)).toBeCloseTo(1.201, 9)
  })
  it('at an angle it clears the wall at the corner that needs most', () => {
    // computed: the edge ray at atan(18/24) to the axis, the axis at 10 degrees to the wall's normal
    const c = cameraOf({ station: [0, -1, 0], bearingDeg: 10 })
    const t = Math.atan(18 / 24) + (10 * Math.PI) / 180
    expect(depthBehindWall(c, wall)).toBeCloseTo((1 / Math.cos(t)) * Math.cos(Math.atan(18 / 24)) + 0.001, 9)
  })
  it('refuses what would cut the subject or looks along the wall', () => {
    const c = cameraOf({ station: [0, -1, 0] })
    expect(nearCutBehind(c, wall, [[0, 3, 0]])).toEqual({ ok: true, value: expect.closeTo(1.001, 9) })
    expect(nearCutBehind(c, wall, [[0, 0.0005, 0]])).toMatchObject({ reason: 'cuts-subject' })
    expect(nearCutBehind(cameraOf({ station: [0, -1, 0], bearingDeg: 70 }), wall, [[9, 3, 0]])).toMatchObject({
      reason: 'wall-missed',
    })
    expect(nearCutBehind(cameraOf({}, { projection: { kind: 'parallel', widthM: 3 } }), wall, [])).toMatchObject({
      reason: 'projection',
    })
  })
  it('a cut of W fills the frame from f W / w', () => {
    expect(distanceForWidthM(cameraOf({}, { focalMm: 24 }), 6)).toBeCloseTo(4, 12)
    expect(backedBy(cameraOf({ station: [1, 1, 1] }), 2).pose.station).toEqual([1, -1, 1])
  })
})

describe('measuring', () => {
  it('distance, height, way over the ground and slope', () => {
    const m = distancesBetween([1, 1, 0.5], [4, 5, 2.5])
    expect(m).toMatchObject({ levelM: 5, riseM: 2, alongM: [3, 4, 2] })
    expect(m.distanceM).toBeCloseTo(Math.sqrt(29), 12)
    expect(m.bearingDeg).toBeCloseTo(36.8699, 4)
    expect(m.slopeDeg).toBeCloseTo(21.8014, 4)
  })
  it('straight up has no bearing, nothing has no slope', () => {
    expect(distancesBetween([0, 0, 0], [0, 0, 2])).toMatchObject({ bearingDeg: null, slopeDeg: 90 })
    expect(distancesBetween([1, 2, 3], [1, 2, 3])).toMatchObject({ distanceM: 0, slopeDeg: 0 })
  })
})

describe('snapping', () => {
  const lines = [
    { at: 2.5, label: 'centre line' },
    { at: 2.58, label: 'wall' },
  ]
  it('takes the nearest line, else a round value, else nothing', () => {
    expect(snapTo(2.53, lines, 0.1, 0.1)).toEqual({ value: 2.5, label: 'centre line' })
    expect(snapTo(2.56, lines, 0.1, 0.1)).toEqual({ value: 2.58, label: 'wall' })
    expect(snapTo(7.03, lines, 0.1, 0.1)).toEqual({ value: 7, label: '' })
    expect(snapTo(7.051, lines, 0.04, 0.1)).toEqual({ value: 7.051, label: null })
    expect(snapTo(7.05, lines, 0.01)).toEqual({ value: 7.05, label: null })
  })
  it('bearings go to the building’s directions, then half way between them', () => {
    expect(snapBearing(106, 17, 1.5)).toEqual({ value: 107, label: 'square' })
    expect(snapBearing(61.2, 17, 1.5)).toEqual({ value: 62, label: '45°' })
    expect(snapBearing(359.4, 0, 1)).toEqual({ value: 0, label: 'square' })
    expect(snapBearing(80, 17, 1.5)).toEqual({ value: 80, label: null })
  })
  it('round steps are 1, 2 or 5 times a power of ten, a few pixels wide', () => {
    expect(roundStepM(0.01)).toBe(0.1)
    expect(roundStepM(0.02)).toBe(0.2)
    expect(roundStepM(0.0009)).toBe(0.01)
    expect(roundStepM(0.05)).toBe(0.5)
  })
})

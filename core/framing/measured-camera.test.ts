// A measured view as a camera: its width at a scale is the paper's (ISO 5455), and it holds what it was fitted to.
import { describe, expect, it } from 'vitest'
import { boxCentre, boxCorners, type Box, type Vec3 } from '#core/math'
import { axesOf, poseOfStand, projectPoint, type Camera } from '../camera/index.ts'
import { cameraOf } from '../../tests/support/cameras.ts'
import { holdsAll, measuredCamera, measuredStand, turnedInPlan, type MeasuredView } from './index.ts'

const box: Box = { min: [2, -1, 0], max: [12, 5, 3] }
const target = { box, points: boxCorners(box) }
const from = cameraOf({}, { riseMm: 3 }, [2400, 1600])
const camera = (view: MeasuredView, scale: number | null): Camera => {
  const r = measuredCamera(from, view, target, { mainBearingDeg: 0, margin: 0.05, scale })
  if (!r.ok) throw new Error(r.message)
  return r.value
}

describe('a measured camera', () => {
  // ISO 5455: at 1 : 50 a metre is 20 mm; 2400 px at 300 to the inch are 203.2 mm of paper, 10.16 m of the world
  it('is as wide as the paper times the scale', () => {
    const p = camera({ kind: 'elevation', quarter: 0 }, 50).lens.projection
    expect('widthM' in p && p.widthM).toBeCloseTo(10.16, 9)
  })
  it('fits the corners when no scale is asked for, and only then always', () => {
    for (const view of [{ kind: 'plan' }, { kind: 'isometric', corner: 1 }, { kind: 'cabinet', quarter: 2 }] as const) {
      const c = camera(view, null)
      expect(holdsAll(c, target.points)).toBe(true)
      for (const p of target.points) {
        const at = projectPoint(c, p)!
        expect(at.xPx).toBeGreaterThan(0)
        expect(at.xPx).toBeLessThan(from.frame.widthPx)
        expect(at.yPx).toBeGreaterThan(0)
        expect(at.yPx).toBeLessThan(from.frame.heightPx)
      }
    }
    expect(holdsAll(camera({ kind: 'elevation', quarter: 0 }, 20), target.points)).toBe(false)
  })
  it('stands aimed at the plane of the middle, looking the same way', () => {
    for (const view of [{ kind: 'plan' }, { kind: 'underside' }, { kind: 'elevation', quarter: 3 }] as const) {
      const c = camera(view, null)
      const stand = measuredStand(c, boxCentre(box))
      const pose = poseOfStand(stand)
      expect(pose.bearingDeg).toBeCloseTo(c.pose.bearingDeg, 6)
      expect(pose.tiltDeg).toBeCloseTo(c.pose.tiltDeg, 6)
      const { forward } = axesOf(c.pose)
      const point = (stand.aim as { point: Vec3 }).point
      const off = boxCentre(box).reduce((s, m, k) => s + (m - point[k]!) * forward[k]!, 0)
      expect(off).toBeCloseTo(0, 6)
    }
  })
})

it('turns a place in plan and back', () => {
  const [u, v] = turnedInPlan([3, 4, 1], 30)
  // along 30 degrees of bearing: x cos b - y sin b (rotation of the plane)
  expect(u).toBeCloseTo(3 * Math.cos(Math.PI / 6) - 4 * 0.5, 12)
  const [x, y] = turnedInPlan([u, v, 0], -30)
  expect(x).toBeCloseTo(3, 12)
  expect(y).toBeCloseTo(4, 12)
})

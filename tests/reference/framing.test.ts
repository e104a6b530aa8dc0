// Measured views and fits against outside judges: three's orthographic camera, and a general-purpose 1-D search.
import { Box3, OrthographicCamera, Vector3 } from 'three'
import { describe, expect, it } from 'vitest'
import { projectPoint } from '#core/camera'
import { fitPoints, measuredDirection, type MeasuredView } from '#core/framing'
import { boxCorners, type Vec3 } from '#core/math'
import { cameraOf } from '../support/cameras.ts'

const BOX = { min: [-2, 1, 0] as Vec3, max: [3, 2.5, 1.2] as Vec3 }

describe('against three’s orthographic camera', () => {
  it.each<MeasuredView>([
    { kind: 'isometric', corner: 0 },
    { kind: 'isometric', corner: 3 },
    { kind: 'dimetric', quarter: 1, hand: 'right' },
    { kind: 'dimetric-2-1', corner: 2 },
    { kind: 'elevation', quarter: 1 },
    { kind: 'axonometric', bearingDeg: 31, tiltDeg: -24 },
  ])('%j draws every corner at the same place', (view) => {
    const d = measuredDirection(view, 12)
    const r = fitPoints(cameraOf(d.pose, { projection: d.projection(1) }, [1200, 900]), boxCorners(BOX), {
      margin: 0.04,
    })
    if (!r.ok) throw new Error(r.message)
    const { station, bearingDeg, tiltDeg } = r.value.pose
    const widthM = (r.value.lens.projection as { widthM: number }).widthM
    // three's own camera, put up by its lookAt with z up
    const three = new OrthographicCamera(-widthM / 2, widthM / 2, (widthM / 2) * 0.75, (-widthM / 2) * 0.75, -100, 100)
    three.up.set(0, 0, 1)
    three.position.set(...station)
    const [b, t] = [bearingDeg, tiltDeg].map((v) => (v * Math.PI) / 180) as [number, number]
    three.lookAt(
      station[0] + Math.sin(b) * Math.cos(t),
      station[1] + Math.cos(b) * Math.cos(t),
      station[2] + Math.sin(t),
    )
    three.updateMatrixWorld()
    const box = new Box3()
    for (const c of boxCorners(BOX)) {
      const ndc = new Vector3(...c).project(three)
      const at = projectPoint(r.value, c)!
      expect(at.xPx).toBeCloseTo(((ndc.x + 1) / 2) * 1200, 6)
      expect(at.yPx).toBeCloseTo(((1 - ndc.y) / 2) * 900, 6)
      box.expandByPoint(ndc)
    }
    // the margins as three sees them
    expect(Math.min(1 - box.max.x, box.min.x + 1, 1 - box.max.y, box.min.y + 1) / 2).toBeCloseTo(0.04, 9)
  })
})

describe('against a search', () => {
  it.each([
    [24, 0, 0],
    [50, 4, -3],
    [85, -2, 6],
  ])('%d mm, rise %d, cross %d: the distance is where bisection by projecting finds it', (focalMm, riseMm, crossMm) => {
    const points = boxCorners(BOX)
    const camera = cameraOf({ bearingDeg: -20, tiltDeg: -8 }, { focalMm, riseMm, crossMm })
    const r = fitPoints(camera, points, { margin: 0.06 })
    if (!r.ok) throw new Error(r.message)
    // along the line through the found station parallel to the axis, nothing but projecting points
    const { station } = r.value.pose
    const [b, t] = [-20, -8].map((v) => (v * Math.PI) / 180) as [number, number]
    const forward = [Math.sin(b) * Math.cos(t), Math.cos(b) * Math.cos(t), Math.sin(t)]
    const fits = (s: number): boolean => {
      const pose = { ...camera.pose, station: station.map((v, i) => v + forward[i]! * s) as unknown as Vec3 }
      return points.every((p) => {
        const at = projectPoint({ ...camera, pose }, p)
        if (!at) return false
        const [x, y] = [at.xPx / 1800, at.yPx / 1200]
        return x >= 0.06 && x <= 0.94 && y >= 0.06 && y <= 0.94
      })
    }
    let [lo, hi] = [-5, 1]
    for (let i = 0; i < 60; i++) {
      const mid = (lo + hi) / 2
      if (fits(mid)) lo = mid
      else hi = mid
    }
    expect(lo).toBeCloseTo(0, 7)
  })
})

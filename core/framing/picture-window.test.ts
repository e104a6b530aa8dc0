import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { cameraOf } from '../../tests/support/cameras.ts'
import { projectPoint, withWidthOfView, type Brown, type Camera } from '../camera/index.ts'
import { distance, dot, sub } from '../math/index.ts'
import { lensOfEnd, pictureWindow, shiftPerMetre } from './index.ts'

const bent: Brown = { kind: 'brown', k1: -0.04, k2: 0.003, k3: 0, p1: 0, p2: 0 }
const cameras = fc
  .record({
    focalMm: fc.double({ min: 16, max: 200, noNaN: true }),
    riseMm: fc.double({ min: -8, max: 8, noNaN: true }),
    crossMm: fc.double({ min: -8, max: 8, noNaN: true }),
    distortion: fc.constantFrom(null, bent),
    projection: fc.constantFrom({ kind: 'perspective' as const }, { kind: 'parallel' as const, widthM: 9 }),
    bearingDeg: fc.double({ min: 0, max: 360, noNaN: true }),
    tiltDeg: fc.double({ min: -40, max: 40, noNaN: true }),
  })
  .map(({ bearingDeg, tiltDeg, ...lens }) => cameraOf({ bearingDeg, tiltDeg }, lens))

describe('the picture in the room', () => {
  it('ends where the middles of its edges are seen, at its depth', () => {
    fc.assert(
      fc.property(cameras, fc.double({ min: 0.5, max: 20, noNaN: true }), (camera, depthM) => {
        const { widthPx: w, heightPx: h } = camera.frame
        const [left, right] = pictureWindow(camera, 'right', depthM)!.ends.map((p) => projectPoint(camera, p)!)
        expect([left!.xPx, left!.yPx, right!.xPx, right!.yPx].map((v, i) => Math.abs(v - [0, h / 2, w, h / 2][i]!) < 1e-6)).not.toContain(false)
        const up = pictureWindow(camera, 'up', depthM)!
        expect(projectPoint(camera, up.ends[1])!.yPx).toBeCloseTo(0, 6)
        expect(projectPoint(camera, up.ends[1])!.depthM).toBeCloseTo(depthM, 9)
        expect(dot(sub(up.ends[1], up.ends[0]), up.along)).toBeGreaterThan(0)
        expect(distance(up.middle, up.ends[0])).toBeCloseTo(distance(up.middle, up.ends[1]), 9)
      }),
    )
  }) // prettier-ignore
  it('an end dragged to where it is keeps the lens; to elsewhere, the lens has it there', () => {
    fc.assert(
      fc.property(cameras, fc.constantFrom('right' as const, 'up' as const), fc.constantFrom(0 as const, 1 as const), fc.double({ min: 0.6, max: 1.4, noNaN: true }), (camera, across, end, by) => {
        const depthM = 4
        const atM = pictureWindow(camera, across, depthM)!.fromAxisM[end] * by
        // an edge near the axis, or on it, hardly moves with the lens
        if (Math.abs(atM) < 0.1) return
        const r = lensOfEnd(camera, across, end, atM, depthM)!
        const lens = 'focalMm' in r ? { ...camera.lens, focalMm: r.focalMm } : withWidthOfView(camera.lens, r.widthM)
        const now: Camera = { ...camera, lens }
        // off its axis a lens that distorts bends the edge itself: its middle lies a hair beside
        const near = camera.lens.distortion ? 0.03 * Math.abs(atM) : 1e-9
        expect(Math.abs(pictureWindow(now, across, depthM)!.fromAxisM[end] - atM)).toBeLessThan(near)
      }),
    )
  }) // prettier-ignore
  it('is refused on the axis, and moves by the shift that it says', () => {
    const camera = cameraOf({}, { focalMm: 24 })
    expect(lensOfEnd(camera, 'right', 1, -1, 4)).toBeNull()
    expect(lensOfEnd(camera, 'right', 1, 0, 4)).toBeNull()
    const mm = shiftPerMetre(camera, 6)
    const moved = { ...camera, lens: { ...camera.lens, riseMm: mm * 0.5 } }
    const [was, is] = [camera, moved].map((c) => pictureWindow(c, 'up', 6)!.middle)
    expect(is![2] - was![2]).toBeCloseTo(0.5, 12)
    // image circle of 64.6 mm at 6 m through 24 mm (12 mm of shift along the longer side)
    const { circle } = pictureWindow(camera, 'up', 6)!
    expect(distance(...circle!)).toBeCloseTo((64.6 * 6) / 24, 1)
  })
})

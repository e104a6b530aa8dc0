import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { anyCamera, anyPoint } from '../../tests/support/cameras.ts'
import { projectPoint } from '../camera/index.ts'
import { lensOfWindow, windowOf } from './index.ts'

describe('the window of a frame in another picture', () => {
  it('has the frame’s shape, lies in the middle and touches two sides', () => {
    expect(windowOf({ widthPx: 700, heightPx: 500 }, { widthPx: 3000, heightPx: 2000 })).toEqual({
      xPx: 0,
      yPx: expect.closeTo((500 - 1400 / 3) / 2, 9),
      widthPx: 700,
      heightPx: expect.closeTo(1400 / 3, 9),
    })
  })
  it('is shown exactly by its lens: every point falls on the same place of the frame', () => {
    const flat = anyCamera().filter((c) => ['perspective', 'parallel', 'oblique'].includes(c.lens.projection.kind))
    fc.assert(
      fc.property(flat, anyCamera(), anyPoint, (from, other, p) => {
        const seen = projectPoint(from, p)
        fc.pre(seen !== null && (from.lens.projection.kind !== 'perspective' || seen.depthM > 0.1))
        const w = windowOf(from.frame, other.frame)
        const k = other.frame.widthPx / w.widthPx
        const at = projectPoint(
          {
            pose: from.pose,
            lens: lensOfWindow(from, { ...other.lens, distortion: null }, other.frame),
            frame: other.frame,
          },
          p,
        )!
        const far = Math.max(1, Math.abs(at.xPx), Math.abs(at.yPx))
        expect(Math.abs(at.xPx - (seen.xPx - w.xPx) * k) / far).toBeLessThan(1e-9)
        expect(Math.abs(at.yPx - (seen.yPx - w.yPx) * k) / far).toBeLessThan(1e-9)
      }),
      { numRuns: 500 },
    )
  })
})

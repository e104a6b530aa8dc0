// Which depths the picture keeps: the model's own, or those between the cuts.
import { PerspectiveCamera, Vector3 } from 'three'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { apertureM, blurDiscMm } from '#core/optics'
import { cameraOf } from '../tests/support/cameras.ts'
import { aimEye, type LensPlace, type ViewCuts } from './aim.ts'
import type { StageScene } from './scene.ts'
import { onLens } from './sample.ts'
import { lensPlace } from './lens-sample.ts'

/** A model between 2 and 12 m before the station. */
const stage = { depthRange: () => ({ nearM: 2, farM: 12 }) } as unknown as StageScene
const size = { width: 300, height: 200 }
/** Whether a point this far ahead on the axis lies between near and far. */
const keeps = (cut: Partial<ViewCuts>, awayM: number, lens: object = {}): boolean => {
  const eye = new PerspectiveCamera()
  const all = { nearM: null, farM: null, ...cut }
  aimEye(eye, stage, cameraOf({}, lens, [300, 200]), null, size, [0, 0], all)
  const z = new Vector3(0, awayM, 0).applyMatrix4(eye.matrixWorldInverse).applyMatrix4(eye.projectionMatrix).z
  return z >= -1 && z <= 1
}

describe('what the picture keeps', () => {
  it('is all of the model where nothing is cut', () => {
    for (const away of [2, 7, 12]) expect(keeps({}, away)).toBe(true)
  })
  it('begins exactly at the near cut and ends at the far one', () => {
    expect(keeps({ nearM: 4 }, 3.999)).toBe(false)
    expect(keeps({ nearM: 4 }, 4.001)).toBe(true)
    expect(keeps({ farM: 9 }, 8.999)).toBe(true)
    expect(keeps({ farM: 9 }, 9.001)).toBe(false)
  })
  it('parallel pictures are cut behind their station’s plane too', () => {
    const parallel = { projection: { kind: 'parallel', widthM: 8 } }
    expect(keeps({ nearM: -3 }, -2.9, parallel)).toBe(true)
    expect(keeps({ nearM: -3 }, -3.1, parallel)).toBe(false)
  })
  it('cuts that cross, or lie before the eye, leave a matrix that can be used', () => {
    for (const cut of [{ nearM: 9, farM: 4 }, { nearM: -5 }, { farM: -1 }]) {
      const eye = new PerspectiveCamera()
      aimEye(eye, stage, cameraOf({}, {}, [300, 200]), null, size, [0, 0], { nearM: null, farM: null, ...cut })
      expect(eye.projectionMatrix.elements.every(Number.isFinite)).toBe(true)
    }
  })
})

describe('seen from beside the middle of the lens', () => {
  it('the plane of focus stays where it is, a shifted lens’s too; all else moves as its disc says', () => {
    const shifted = { focalMm: 50, riseMm: 5, crossMm: -4 }
    const at = (lens: LensPlace | null, p: readonly [number, number, number]): [number, number] => {
      const eye = new PerspectiveCamera()
      aimEye(eye, stage, cameraOf({}, shifted, [300, 200]), null, size, [0, 0], undefined, lens)
      const v = new Vector3(...p).applyMatrix4(eye.matrixWorldInverse).applyMatrix4(eye.projectionMatrix)
      return [(v.x * 300) / 2, (v.y * 200) / 2]
    }
    const unit = fc.double({ min: -1, max: 1, noNaN: true })
    fc.assert(
      fc.property(unit, unit, fc.double({ min: 2.5, max: 11, noNaN: true }), unit, unit, (u, v, focusM, x, z) => {
        const camera = cameraOf({}, shifted, [300, 200])
        const blur = { focusM, fNumber: 2, shape: { blades: 0, rotationDeg: 0, roundness: 1 } }
        const radius = apertureM({ focalMm: 50, fNumber: 2, focusM }) / 2
        const lens = { xM: u * radius, yM: v * radius, focusM }
        const plane = [x, focusM, z] as const
        const [a, b] = [at(null, plane), at(lens, plane)]
        expect(Math.hypot(a[0] - b[0], a[1] - b[1])).toBeLessThan(1e-3)
        const far = [x, focusM * 1.6, z] as const
        const [c, d] = [at(null, far), at(lens, far)]
        const disc = blurDiscMm({ focalMm: 50, fNumber: 2, focusM, distanceM: focusM * 1.6 }) * (300 / 36)
        expect(Math.hypot(c[0] - d[0], c[1] - d[1])).toBeCloseTo((disc / 2) * Math.hypot(u, v), 3)
        // what a lens that blurs takes is within its aperture
        const place = lensPlace(camera, blur, onLens(blur, 3, 16))!
        expect(Math.hypot(place.xM, place.yM)).toBeLessThan(radius * 1.1)
      }),
    )
  })
  it('nothing is blurred where there is no lens, or focus lies within the focal length', () => {
    const blur = { focusM: 0.04, fNumber: 2, shape: { blades: 5, rotationDeg: 0, roundness: 0 } }
    expect(lensPlace(cameraOf({}, { focalMm: 50 }, [300, 200]), blur, [0.2, 0.1])).toBeNull()
    const parallel = cameraOf({}, { projection: { kind: 'parallel', widthM: 4 } }, [300, 200])
    expect(lensPlace(parallel, { ...blur, focusM: 3 }, [0.2, 0.1])).toBeNull()
  })
})

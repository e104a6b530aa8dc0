// Which depths the picture keeps: the model's own, or those between the cuts.
import { PerspectiveCamera, Vector3 } from 'three'
import { describe, expect, it } from 'vitest'
import { cameraOf } from '../tests/support/cameras.ts'
import { aimEye, type ViewCuts } from './aim.ts'
import type { StageScene } from './scene.ts'

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

// The camera's matrices against outside judges: gl-matrix (frustum, perspective, ortho) and three's cameras.
import { mat4 } from 'gl-matrix'
import { Matrix4, OrthographicCamera, PerspectiveCamera, Vector3 } from 'three'
import { describe, expect, it } from 'vitest'
import { clipFromCamera, cameraFromWorld, fieldOfView, projectPoint, usedSensor } from '#core/camera'
import { cameraOf } from '../support/cameras.ts'

const expectMatrix = (got: ArrayLike<number>, want: ArrayLike<number>, digits = 6) => {
  for (let i = 0; i < 16; i++) expect(got[i], `element ${i}`).toBeCloseTo(want[i]!, digits)
}
const doubles = () => new Array<number>(16).fill(0) as unknown as mat4
const clip = { nearM: 0.1, farM: 80 }

describe('against gl-matrix', () => {
  it.each([
    [24, 0, 0],
    [24, 2.1, 0],
    [35, -6, 3.6],
    [17, 11, -12],
  ])('frustum: %d mm, rise %d, cross %d', (focalMm, riseMm, crossMm) => {
    const camera = cameraOf({}, { focalMm, riseMm, crossMm })
    const n = clip.nearM / focalMm
    const want = mat4.frustum(
      doubles(),
      n * (-18 + crossMm),
      n * (18 + crossMm),
      n * (-12 + riseMm),
      n * (12 + riseMm),
      clip.nearM,
      clip.farM,
    )
    expectMatrix(clipFromCamera(camera, clip), want, 10)
  })
  it('perspective and ortho', () => {
    const camera = cameraOf({}, { focalMm: 50 })
    const fov = (fieldOfView(camera.lens, camera.frame).verticalDeg * Math.PI) / 180
    expectMatrix(clipFromCamera(camera, clip), mat4.perspectiveNO(doubles(), fov, 1.5, clip.nearM, clip.farM), 10)
    const parallel = cameraOf({}, { projection: { kind: 'parallel', widthM: 9 }, riseMm: 6, crossMm: -4 })
    // 36 mm of sensor stand for 9 m: 6 mm are 1.5 m, -4 mm are -1 m
    const want = mat4.orthoNO(doubles(), -4.5 - 1, 4.5 - 1, -3 + 1.5, 3 + 1.5, -5, 40)
    expectMatrix(clipFromCamera(parallel, { nearM: -5, farM: 40 }), want, 10)
  })
})

describe('against three', () => {
  const pose = { station: [3, -2, 1.58] as const, bearingDeg: 37, tiltDeg: -11, rollDeg: 4 }
  it('view matrix of a camera turned by three itself', () => {
    const camera = cameraOf(pose)
    const judge = new PerspectiveCamera()
    judge.up.set(0, 0, 1)
    judge.position.set(...pose.station)
    const a = (pose.tiltDeg * Math.PI) / 180
    const b = (pose.bearingDeg * Math.PI) / 180
    judge.lookAt(
      pose.station[0] + Math.sin(b) * Math.cos(a),
      pose.station[1] + Math.cos(b) * Math.cos(a),
      pose.station[2] + Math.sin(a),
    )
    judge.rotateZ((-pose.rollDeg * Math.PI) / 180)
    judge.updateMatrixWorld()
    expectMatrix(cameraFromWorld(camera.pose), judge.matrixWorldInverse.elements, 9)
  })
  it('a shifted lens is a window of a larger picture (setViewOffset)', () => {
    // 36 x 24 shifted up by 6 and right by 4.5 mm lies inside a picture of 45 x 36 mm at the same focal length
    const camera = cameraOf({}, { focalMm: 24, riseMm: 6, crossMm: 4.5 }, [1440, 960])
    const judge = new PerspectiveCamera((2 * Math.atan(36 / 48) * 180) / Math.PI, 45 / 36, clip.nearM, clip.farM)
    judge.setViewOffset(45 * 40, 36 * 40, 9 * 40, 0, 36 * 40, 24 * 40)
    judge.updateProjectionMatrix()
    expectMatrix(clipFromCamera(camera, clip), judge.projectionMatrix.elements, 9)
  })
  it('orthographic camera, point by point', () => {
    const camera = cameraOf(pose, { projection: { kind: 'parallel', widthM: 12 } })
    const judge = new OrthographicCamera(-6, 6, 4, -4, -50, 50)
    judge.matrixWorldInverse = new Matrix4().fromArray(cameraFromWorld(camera.pose) as number[])
    for (const p of [
      [1, 5, 0.3],
      [-2, 8, 4],
      [10, -1, 1],
    ] as const) {
      const v = new Vector3(...p).applyMatrix4(judge.matrixWorldInverse).applyMatrix4(judge.projectionMatrix)
      const at = projectPoint(camera, p)!
      expect(at.xPx).toBeCloseTo(((v.x + 1) / 2) * 1800, 6)
      expect(at.yPx).toBeCloseTo(((1 - v.y) / 2) * 1200, 6)
    }
  })
  it('focal length of three’s camera with the same film width', () => {
    const camera = cameraOf({}, { focalMm: 31 }, [1600, 900])
    const judge = new PerspectiveCamera(50, 16 / 9)
    judge.filmGauge = 36
    judge.setFocalLength(31)
    expect(judge.fov).toBeCloseTo(fieldOfView(camera.lens, camera.frame).verticalDeg, 9)
    expect(usedSensor(camera.lens, camera.frame).heightMm).toBeCloseTo(judge.getFilmHeight(), 9)
  })
})

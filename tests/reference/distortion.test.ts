// Lens distortion against OpenCV's projectPoints and initUndistortRectifyMap. Source: opencv-calib.
import { createRequire } from 'node:module'
import { beforeAll, describe, expect, it } from 'vitest'
import { distort, projectPoint, rayThrough, undistort, usedSensor, type Brown, type Camera } from '#core/camera'
import { addScaled } from '#core/math'
import { cameraOf } from '../support/cameras.ts'

// required, not imported: it has a `then` that never comes to an end, and what is imported is awaited
// eslint-disable-next-line @typescript-eslint/no-explicit-any -- the library's types leave these functions out
const cv = createRequire(import.meta.url)('@techstark/opencv-js') as any
beforeAll(async () => {
  if (!cv.Mat) await new Promise<void>((done) => (cv.onRuntimeInitialized = () => done()))
}, 60_000)

const LENSES: readonly [string, Brown][] = [
  ['slight barrel', { kind: 'brown', k1: -0.02, k2: 0, k3: 0, p1: 0, p2: 0 }],
  ['strong barrel', { kind: 'brown', k1: -0.12, k2: 0.02, k3: -0.002, p1: 0, p2: 0 }],
  ['pincushion', { kind: 'brown', k1: 0.06, k2: 0.004, k3: 0, p1: 0, p2: 0 }],
  ['decentred', { kind: 'brown', k1: -0.05, k2: 0.01, k3: 0.001, p1: 0.002, p2: -0.0015 }],
]
const STEPS = 40
/** Picture points all over the frame. */
const grid = ({ frame }: Camera): [number, number][] =>
  Array.from({ length: STEPS + 1 }, (_, i) =>
    Array.from({ length: STEPS + 1 }, (_, j): [number, number] => [
      (frame.widthPx * i) / STEPS,
      (frame.heightPx * j) / STEPS,
    ]),
  ).flat()
const coefficients = (d: Brown) => cv.matFromArray(1, 5, cv.CV_64F, [d.k1, d.k2, d.p1, d.p2, d.k3])

describe.each(LENSES)('%s', (_, distortion) => {
  it('draws points where projectPoints does, over the whole frame, to 1e-6 of the focal length', () => {
    const camera = cameraOf({}, { focalMm: 24, riseMm: 2.5, crossMm: -1.2, distortion })
    const { lens, frame } = camera
    const focalPx = (lens.focalMm * frame.widthPx) / usedSensor(lens, frame).widthMm
    const perMm = focalPx / lens.focalMm
    const cameraMatrix = cv.matFromArray(3, 3, cv.CV_64F, [focalPx, 0, frame.widthPx / 2 - lens.crossMm * perMm, 0, focalPx, frame.heightPx / 2 + lens.riseMm * perMm, 0, 0, 1]) // prettier-ignore
    // seven metres off along each ray: the camera looks along +Y from the origin's station
    const points = grid(camera).map(([x, y]) => {
      const ray = rayThrough(camera, x, y)!
      return addScaled(ray.origin, ray.direction, 7)
    })
    const [sx, sy, sz] = camera.pose.station
    const object = cv.matFromArray(points.length, 1, cv.CV_64FC3, points.flatMap((p) => [p[0] - sx, -(p[2] - sz), p[1] - sy])) // prettier-ignore
    const none = cv.Mat.zeros(3, 1, cv.CV_64F)
    const image = new cv.Mat()
    cv.projectPoints(object, none, none, cameraMatrix, coefficients(distortion), image)
    points.forEach((p, i) => {
      const at = projectPoint(camera, p)!
      const off = Math.hypot(image.data64F[2 * i] - at.xPx, image.data64F[2 * i + 1] - at.yPx)
      expect(off / focalPx, `point ${i}`).toBeLessThan(1e-6)
    })
  })
  it('maps straight pixels as initUndistortRectifyMap does, and comes back to 1e-9', () => {
    const [width, height, focal] = [360, 240, 240]
    const matrix = cv.matFromArray(3, 3, cv.CV_64F, [focal, 0, width / 2, 0, focal, height / 2, 0, 0, 1])
    const [mapX, mapY] = [new cv.Mat(), new cv.Mat()]
    cv.initUndistortRectifyMap(matrix, coefficients(distortion), cv.Mat.eye(3, 3, cv.CV_64F), matrix, new cv.Size(width, height), cv.CV_32FC1, mapX, mapY) // prettier-ignore
    for (let row = 0; row < height; row += 7)
      for (let column = 0; column < width; column += 7) {
        const [x, y] = [(column - width / 2) / focal, (row - height / 2) / focal]
        const [dx, dy] = distort(distortion, x, y)!
        // its map is of single precision
        expect(Math.abs(mapX.floatAt(row, column) - (dx * focal + width / 2)) / focal).toBeLessThan(1e-6)
        expect(Math.abs(mapY.floatAt(row, column) - (dy * focal + height / 2)) / focal).toBeLessThan(1e-6)
        const back = undistort(distortion, dx, dy)!
        expect(Math.hypot(back[0] - x, back[1] - y)).toBeLessThan(1e-9)
      }
  })
})

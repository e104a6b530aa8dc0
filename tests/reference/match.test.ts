// Cameras of photographs against OpenCV's solvePnP and calibrateCameraExtended, and against real photographs of a chessboard.
// Source: opencv-calib; the chessboard's corners: tests/fixtures/chessboard-left.json, which says where they are from.
import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { beforeAll, describe, expect, it } from 'vitest'
import { projectPoint, undistort } from '#core/camera'
import { seededRandom } from '#core/base'
import type { Vec3 } from '#core/math'
import { matchBundles, matchPoints, matchViews, type PhotoLine, type PhotoPair, type PicturePlace } from '#core/match'
import { cameraOf } from '../support/cameras.ts'

// required, not imported: see distortion.test.ts
// eslint-disable-next-line @typescript-eslint/no-explicit-any -- the library's types leave these functions out
const cv = createRequire(import.meta.url)('@techstark/opencv-js') as any
beforeAll(async () => {
  if (!cv.Mat) await new Promise<void>((done) => (cv.onRuntimeInitialized = () => done()))
}, 60_000)

interface Board {
  readonly published: { readonly f: number; readonly d: readonly number[] }
  readonly recalculated: { readonly rmsPx: number }
  readonly views: readonly { readonly file: string; readonly rvec: Vec3; readonly corners: readonly PicturePlace[] }[]
}
const board = JSON.parse(readFileSync('tests/fixtures/chessboard-left.json', 'utf8')) as Board
const [ACROSS, DOWN, SQUARE_M] = [9, 6, 0.025]
const SIZE = { imageWidth: 640, imageHeight: 480 }
/** The file's first pixel has its middle at 0, ours at a half. */
const views: PhotoPair[][] = board.views.map((v) =>
  v.corners.map(([x, y], i) => ({
    world: [SQUARE_M * (i % ACROSS), SQUARE_M * Math.floor(i / ACROSS), 0],
    image: [x + 0.5, y + 0.5],
  })),
)
function value<T>(r: { ok: true; value: T } | { ok: false; message: string }): T {
  if (!r.ok) throw new Error(r.message)
  return r.value
}

describe('thirteen photographs of a chessboard', () => {
  it.each([
    ['all of the lens', ['focalPx', 'principalX', 'principalY', 'k1', 'k2', 'p1', 'p2', 'k3'], 0, 0.408],
    ['k1 alone', ['focalPx', 'principalX', 'principalY', 'k1'], 1, 0.421],
  ] as const)('%s: the rms of calibrateCameraExtended, and its lens', (_, solve, only, rmsPx) => {
    const ours = value(matchViews({ ...SIZE, views, solve }))
    const [object, image] = [new cv.MatVector(), new cv.MatVector()]
    for (const v of views) {
      object.push_back(cv.matFromArray(v.length, 1, cv.CV_32FC3, v.flatMap((p) => p.world))) // prettier-ignore
      image.push_back(cv.matFromArray(v.length, 1, cv.CV_32FC2, v.flatMap((p) => [p.image[0] - 0.5, p.image[1] - 0.5]))) // prettier-ignore
    }
    const [k, d, a, b, e] = Array.from({ length: 5 }, () => new cv.Mat())
    const flags =
      cv.CALIB_FIX_ASPECT_RATIO + (only ? cv.CALIB_FIX_K2 + cv.CALIB_FIX_K3 + cv.CALIB_ZERO_TANGENT_DIST : 0)
    const theirs = cv.calibrateCameraExtended(object, image, new cv.Size(640, 480), k, d, new cv.MatVector(), new cv.MatVector(), a, b, e, flags, new cv.TermCriteria(3, 100, 1e-14)) as number // prettier-ignore
    expect(ours.rmsPx).toBeLessThan(theirs * (1 + 1e-6))
    expect(ours.rmsPx).toBeCloseTo(rmsPx, 3)
    const { lens } = ours.estimate
    expect(lens.focalPx).toBeCloseTo(k.data64F[0], 3)
    expect(lens.principal[0] - 0.5).toBeCloseTo(k.data64F[2], 3)
    expect(lens.principal[1] - 0.5).toBeCloseTo(k.data64F[5], 3)
    expect(lens.distortion.k1).toBeCloseTo(d.data64F[0], 4)
    // its sd of the focal length: with the ratio of both held, the second is the free one
    expect(ours.sd.focalPx! / a.data64F[1]).toBeGreaterThan(0.9)
    expect(ours.sd.focalPx! / a.data64F[1]).toBeLessThan(1.1)
  })
  it('a single one tells the focal length within 2 % from its rows and columns, where the board is tilted by 24 degrees', () => {
    const { d, f } = board.published
    const [k1, k2, p1, p2, k3] = d as [number, number, number, number, number]
    const c = [342.783, 236.071] as const
    const straight = ([x, y]: PicturePlace): PicturePlace => {
      const [u, v] = undistort({ kind: 'brown', k1, k2, p1, p2, k3 }, (x - c[0]) / f, (y - c[1]) / f)!
      return [c[0] + f * u, c[1] + f * v]
    }
    let judged = 0
    board.views.forEach(({ rvec }, v) => {
      const turn = new cv.Mat()
      cv.Rodrigues(cv.matFromArray(3, 1, cv.CV_64F, rvec), turn)
      const tiltDeg = (Math.acos(Math.abs(turn.data64F[8])) * 180) / Math.PI
      if (tiltDeg < 24) return
      const points = views[v]!.map((p) => straight(p.image))
      const row = (j: number): PhotoLine => ({
        direction: [1, 0, 0],
        points: points.slice(j * ACROSS, (j + 1) * ACROSS),
      })
      const column = (i: number): PhotoLine => ({ direction: [0, 1, 0], points: points.filter((_, k) => k % ACROSS === i) }) // prettier-ignore
      const lines = [...Array.from({ length: DOWN }, (_, j) => row(j)), ...Array.from({ length: ACROSS }, (_, i) => column(i))] // prettier-ignore
      const r = matchBundles(lines, { ...SIZE, principal: c })
      judged++
      expect(Math.abs(value(r).focalPx / f - 1), `${board.views[v]!.file}, tilted ${tiltDeg.toFixed(0)}`).toBeLessThan(
        0.02,
      )
    })
    expect(judged).toBeGreaterThan(2)
  })
})

describe('random scenes', () => {
  it('have the pose that solvePnP refines to, from the same noisy points', () => {
    const random = seededRandom(9)
    for (let i = 0; i < 20; i++) {
      const c = cameraOf({ station: [1, -2, 1.6], bearingDeg: 360 * random(), tiltDeg: 30 * random() - 15, rollDeg: 4 * random() }, { focalMm: 20 + 30 * random() }) // prettier-ignore
      const focalPx = c.lens.focalMm * 50
      const pairs: PhotoPair[] = []
      while (pairs.length < 12) {
        const world: Vec3 = [1 + 16 * (random() - 0.5), -2 + 16 * (random() - 0.5), 4 * random()]
        const seen = projectPoint(c, world)
        if (!seen || seen.depthM < 1 || seen.xPx < 0 || seen.yPx < 0 || seen.xPx > 1800 || seen.yPx > 1200) continue
        pairs.push({ world, image: [seen.xPx + random() - 0.5, seen.yPx + random() - 0.5] })
      }
      const ours = value(matchPoints({ imageWidth: 1800, imageHeight: 1200, pairs, solve: { focal: false, principal: false, k1: false }, guess: { focalPx } })) // prettier-ignore
      const [r, t] = [new cv.Mat(), new cv.Mat()]
      cv.solvePnP(cv.matFromArray(12, 1, cv.CV_64FC3, pairs.flatMap((p) => p.world)), cv.matFromArray(12, 1, cv.CV_64FC2, pairs.flatMap((p) => p.image)), cv.matFromArray(3, 3, cv.CV_64F, [focalPx, 0, 900, 0, focalPx, 600, 0, 0, 1]), cv.Mat.zeros(1, 5, cv.CV_64F), r, t, false, cv.SOLVEPNP_ITERATIVE) // prettier-ignore
      const turn = new cv.Mat()
      cv.Rodrigues(r, turn)
      const m = turn.data64F as Float64Array
      // the station is where the pose is nought
      const station = [0, 1, 2].map(
        (k) => -(m[k]! * t.data64F[0] + m[3 + k]! * t.data64F[1] + m[6 + k]! * t.data64F[2]),
      )
      ours.pose.station.forEach((v, k) => expect(Math.abs(v - station[k]!)).toBeLessThan(1e-4))
      expect(Math.asin(m[8]!) * (180 / Math.PI)).toBeCloseTo(ours.pose.tiltDeg, 3)
    }
  })
})

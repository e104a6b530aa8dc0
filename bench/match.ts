// The camera of a photograph: how long it takes from many lines and points, and the lens of thirteen photographs against OpenCV's.
import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { projectPoint } from '#core/camera'
import { seededRandom } from '#core/base'
import type { Vec3 } from '#core/math'
import { leaveOneOut, solvePhoto, matchViews, type PhotoAsked, type PhotoLine, type PhotoPair, type PicturePlace } from '#core/match' // prettier-ignore
import { cameraOf } from '../tests/support/cameras.ts'
import { median, ms, type Row } from './harness.ts'

/** Thirty lines in three bundles and twenty points, half a pixel off. */
function scene(): PhotoAsked {
  const random = seededRandom(2)
  const c = cameraOf({ station: [1, -4, 1.6], bearingDeg: 25, tiltDeg: 6 }, { focalMm: 28 })
  const at = (p: Vec3): PicturePlace => {
    const { xPx, yPx } = projectPoint(c, p)!
    return [xPx + random() - 0.5, yPx + random() - 0.5]
  }
  const place = (): Vec3 => [2 + 4 * random(), 1 + 5 * random(), 3 * random()]
  const lines = Array.from({ length: 30 }, (_, i): PhotoLine => {
    const d: Vec3 = [[1, 0, 0], [0, 1, 0], [0, 0, 1]][i % 3] as unknown as Vec3 // prettier-ignore
    const p = place()
    return { direction: d, points: [at(p), at([p[0] + d[0], p[1] + d[1], p[2] + d[2]])] }
  })
  const pairs = Array.from({ length: 20 }, (): PhotoPair => {
    const world = place()
    return { world, image: at(world) }
  })
  return { imageWidth: 1800, imageHeight: 1200, lines, pairs, treatments: { focalPx: 'free', principalX: 'free', principalY: 'free', k1: 'free' } } // prettier-ignore
}
const timed = (run: () => unknown, times: number): number =>
  median(
    Array.from({ length: times }, () => {
      const t = performance.now()
      run()
      return performance.now() - t
    }),
  )

export async function match(): Promise<Row[]> {
  const asked = scene()
  const first = solvePhoto(asked)
  if (!first.ok) throw new Error(first.message)
  const { estimate } = first.value
  // a hand moves an end: the answer before is the start
  let i = 0
  const dragged = (): PhotoAsked => {
    const [a, b] = asked.lines[0]!.points as [PicturePlace, PicturePlace]
    const moved: PhotoLine = { ...asked.lines[0]!, points: [a, [b[0] + (++i % 7) - 3, b[1] + (i % 5) - 2]] }
    return { ...asked, lines: [moved, ...asked.lines.slice(1)], previous: estimate }
  }
  const live = timed(() => solvePhoto(dragged()), 60)
  const cold = timed(() => solvePhoto(asked), 20)
  const rest = timed(() => leaveOneOut(asked, first.value), 5)

  // eslint-disable-next-line @typescript-eslint/no-explicit-any -- the library's types leave these functions out
  const cv = createRequire(import.meta.url)('@techstark/opencv-js') as any
  if (!cv.Mat) await new Promise<void>((done) => (cv.onRuntimeInitialized = () => done()))
  const board = JSON.parse(readFileSync('tests/fixtures/chessboard-left.json', 'utf8')) as { views: { corners: PicturePlace[] }[] } // prettier-ignore
  const views = board.views.map((v) => v.corners.map(([x, y], i): PhotoPair => ({ world: [0.025 * (i % 9), 0.025 * Math.floor(i / 9), 0], image: [x + 0.5, y + 0.5] }))) // prettier-ignore
  const [object, image] = [new cv.MatVector(), new cv.MatVector()]
  for (const v of views) {
    object.push_back(cv.matFromArray(54, 1, cv.CV_32FC3, v.flatMap((p) => p.world))) // prettier-ignore
    image.push_back(cv.matFromArray(54, 1, cv.CV_32FC2, v.flatMap((p) => [p.image[0] - 0.5, p.image[1] - 0.5]))) // prettier-ignore
  }
  const [ours, theirs]: [number[], number[]] = [[], []]
  let [a, b] = [0, 0]
  for (let i = 0; i < 9; i++) {
    let t = performance.now()
    const r = matchViews({ imageWidth: 640, imageHeight: 480, views, solve: ['focalPx', 'principalX', 'principalY', 'k1', 'k2', 'p1', 'p2', 'k3'] }) // prettier-ignore
    ours.push(performance.now() - t)
    a = r.ok ? r.value.rmsPx : Infinity
    const [k, d, s, e, f] = Array.from({ length: 5 }, () => new cv.Mat())
    t = performance.now()
    b = cv.calibrateCameraExtended(object, image, new cv.Size(640, 480), k, d, new cv.MatVector(), new cv.MatVector(), s, e, f, cv.CALIB_FIX_ASPECT_RATIO, new cv.TermCriteria(3, 30, 1e-12)) as number // prettier-ignore
    theirs.push(performance.now() - t)
  }
  const ratio = median(ours) / median(theirs)
  return [
    {
      what: '30 lines and 20 points, ten unknowns, while an end is dragged',
      measured: `${live.toFixed(1)} ms (from nothing ${cold.toFixed(0)} ms, each left out once ${rest.toFixed(0)} ms)`,
      reference: '',
      ratio: null,
      wanted: 'under 10 ms',
      ok: live < 10,
    },
    {
      what: 'the lens of 13 photographs of a chessboard, all of it',
      measured: `${ms(median(ours))}, rms ${a.toFixed(5)} px`,
      reference: `${ms(median(theirs))}, OpenCV’s calibrateCameraExtended, rms ${b.toFixed(5)} px`,
      ratio,
      wanted: 'at most 0.5, rms no larger',
      ok: ratio <= 0.5 && a <= b * (1 + 1e-6),
    },
  ]
}

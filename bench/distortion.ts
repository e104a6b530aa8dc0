// A lens that distorts: its points against OpenCV in the same run, its picture and five lenses side by side against plain ones.
import { createRequire } from 'node:module'
import { distortInto, undistortInto, type Brown } from '#core/camera'
import { hallModel } from '../scripts/demo-data/scenes.ts'
import { benchPage, median, ms, type Row } from './harness.ts'

const BARREL: Brown = { kind: 'brown', k1: -0.075, k2: 0.004, k3: 0, p1: 0.0005, p2: -0.0004 }
const [WIDTH, HEIGHT, FOCAL] = [1280, 720, 960]
const TURNS = 7

/** Nanoseconds a point of a whole picture, both directions, and of the library's map of it. */
async function points(): Promise<Row[]> {
  // eslint-disable-next-line @typescript-eslint/no-explicit-any -- the library's types leave these functions out
  const cv = createRequire(import.meta.url)('@techstark/opencv-js') as any
  if (!cv.Mat) await new Promise<void>((done) => (cv.onRuntimeInitialized = () => done()))
  const matrix = cv.matFromArray(3, 3, cv.CV_64F, [FOCAL, 0, WIDTH / 2, 0, FOCAL, HEIGHT / 2, 0, 0, 1])
  const k = cv.matFromArray(1, 5, cv.CV_64F, [BARREL.k1, BARREL.k2, BARREL.p1, BARREL.p2, BARREL.k3])
  const [eye, mapX, mapY] = [cv.Mat.eye(3, 3, cv.CV_64F), new cv.Mat(), new cv.Mat()]
  const judge = (): void => cv.initUndistortRectifyMap(matrix, k, eye, matrix, new cv.Size(WIDTH, HEIGHT), cv.CV_32FC1, mapX, mapY) // prettier-ignore
  const out: [number, number] = [0.5, 0.5]
  let sum = 0
  // a loop of its own each, so that neither is slowed down by the other's calls
  const outward = (): void => {
    let all = 0
    for (let y = 0; y < HEIGHT; y++)
      for (let x = 0; x < WIDTH; x++)
        if (distortInto(BARREL, (x - WIDTH / 2) / FOCAL, (y - HEIGHT / 2) / FOCAL, out)) all += out[0]
    sum += all
  }
  const back = (): void => {
    let all = 0
    for (let y = 0; y < HEIGHT; y++)
      for (let x = 0; x < WIDTH; x++)
        if (undistortInto(BARREL, (x - WIDTH / 2) / FOCAL, (y - HEIGHT / 2) / FOCAL, out)) all += out[0]
    sum += all
  }
  const timed = (work: () => void): number => {
    const start = performance.now()
    work()
    return ((performance.now() - start) * 1e6) / (WIDTH * HEIGHT)
  }
  const times = { judge: [] as number[], out: [] as number[], back: [] as number[] }
  for (let i = 0; i < TURNS; i++) {
    times.judge.push(timed(judge))
    times.out.push(timed(outward))
    times.back.push(timed(back))
  }
  if (!Number.isFinite(sum)) throw new Error('nothing was distorted')
  const reference = `${median(times.judge).toFixed(1)} ns, OpenCV’s initUndistortRectifyMap`
  const row = (what: string, list: number[], limit: number): Row => {
    const ratio = median(list) / median(times.judge)
    return { what, measured: `${median(list).toFixed(1)} ns`, reference, ratio, wanted: `at most ${limit}`, ok: ratio <= limit } // prettier-ignore
  }
  return [
    row('a point through a lens that distorts, 1280 x 720', times.out, 1),
    row('and back through it', times.back, 5),
  ]
}

export async function distortion(): Promise<Row[]> {
  const first = await points()
  const stand = await benchPage({ '/hall.glb': hallModel().bytes })
  const t = await stand.page.evaluate((d) => window.bench.distorted('/hall.glb', d, 5), BARREL)
  await stand.end()
  const row = (what: string, a: number[], b: number[], reference: string, limit: number): Row => {
    const ratio = median(a) / median(b)
    return { what, measured: ms(median(a)), reference: `${ms(median(b))}, ${reference}`, ratio, wanted: `at most ${limit}`, ok: ratio <= limit } // prettier-ignore
  }
  return [
    ...first,
    row('hall through a strong barrel (−6 % at the corner), 8 samples', t.bent, t.straight, 'without', 1.15),
    row('five lenses side by side', t.five, t.thumbs, 'five thumbnails', 1.2),
  ]
}

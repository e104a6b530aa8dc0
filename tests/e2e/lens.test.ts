// The lens in the running application: a chart of known points where the camera's formula has them, for shift, distortion and all uses of the
// sensor; angles typed, the subject held by Alt-wheel, five lenses, the window in Side; a straight edge bent by its sagitta.
import { Readable } from 'node:stream'
import { readFileSync } from 'node:fs'
import { PNG } from 'pngjs'
import type { Page } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { poseOfStand, projectPoint, rayThrough, sagittaPx, usedSensor, type Camera, type Lens } from '#core/camera'
import { addScaled, type Vec3 } from '#core/math'
import { aimAt, newModel, newProject, type ProjectDocument } from '#model'
import { Pen } from '../../scripts/demo-data/kit.ts'
import { linearOf } from '../../stage/flat-tone.ts'
import {
  drag,
  middle,
  numberIn,
  openStand,
  pictureAt,
  picturePixels,
  typeNumber,
  type Stand,
} from '../support/browser.ts'
import { glbOf } from '../support/models.ts'

let stand: Stand
let page: Page
let id = ''
beforeAll(async () => {
  stand = await openStand({ demo: true })
  page = await stand.page({ width: 1120, height: 560, samples: 24 })
})
afterAll(async () => {
  expect(stand.errors).toEqual([])
  await stand.end()
})
const saved = async (): Promise<ProjectDocument> => {
  await expect.poll(() => page.getByTestId('save-state').textContent(), { timeout: 30_000 }).toMatch(/^Saved/)
  return (await stand.server.projects.open(id)).document
}
const LINEAR = Array.from({ length: 256 }, (_, v) => linearOf([v / 255, v / 255, v / 255])[0])
interface Pixels {
  readonly width: number
  readonly height: number
  readonly data: Uint8Array | Buffer
}
/** Middle of the light round a place, pixels from the top left. */
function centroid(
  { width, height, data }: Pixels,
  at: { x: number; y: number },
  reach: number,
): { x: number; y: number } {
  let [e, sx, sy] = [0, 0, 0]
  for (let y = Math.max(0, Math.round(at.y - reach)); y < Math.min(height, at.y + reach); y++)
    for (let x = Math.max(0, Math.round(at.x - reach)); x < Math.min(width, at.x + reach); x++) {
      const v = LINEAR[data[(y * width + x) * 4 + 1]!]!
      // the half level of noise over black is none of it
      if (v <= LINEAR[2]!) continue
      e += v
      sx += (x + 0.5) * v
      sy += (y + 0.5) * v
    }
  return { x: sx / e, y: sy / e }
}
const FRAME = { widthPx: 480, heightPx: 320 }
/** Places all over a picture: a little inside its corners and sides, its middle. */
const SPOTS = [0.06, 0.28, 0.5, 0.72, 0.94].flatMap((x) => [0.08, 0.36, 0.64, 0.92].map((y) => [x, y] as const))

/** Opens a project with bright points where a camera sees them at these shares of its picture, or with a bar, in the dark. */
async function chart(
  lens: Partial<Lens>,
  frame = FRAME,
  things: 'points' | 'bar' = 'points',
  behind: readonly [number, number, number] = [0, 0, 0],
) {
  const base = aimAt([0, 0, 1], [0, 4, 1])
  const made = newProject({ name: 'Chart', subject: 'room', stand: base, models: [] })
  const { working: w } = made
  const setup = { ...w, lens: { ...w.lens, focalMm: 24, ...lens }, frame: { ...w.frame, ...frame } }
  const camera: Camera = { pose: poseOfStand(base), lens: setup.lens, frame: setup.frame }
  const at = (x: number, y: number, depthM: number): Vec3 => {
    const ray = rayThrough(camera, x * frame.widthPx, y * frame.heightPx)!
    return addScaled(ray.origin, ray.direction, depthM)
  }
  const points = SPOTS.map(([x, y], i) => at(x, y, 3 + (i % 4)))
  const ends = [at(0.02, 0.08, 4), at(0.98, 0.08, 4)] as const
  const bar = ([a, b]: typeof ends) => new Pen('Bar').use('led').box(Math.min(a[0], b[0]), a[1] - 0.006, a[2] - 0.006, Math.max(a[0], b[0]), a[1] + 0.006, a[2] + 0.006, { bevel: 0 }).node() // prettier-ignore
  // about three pixels wide in the picture of this frame, whatever the lens: smaller ones are too few samples
  const focalPx = (setup.lens.focalMm * frame.widthPx) / usedSensor(setup.lens, setup.frame).widthMm
  const r = (i: number): number => (1.5 * (3 + (i % 4))) / focalPx
  const children =
    things === 'bar'
      ? [bar([ends[0], [ends[1][0], ends[0][1], ends[0][2]]])]
      : points.map((p, i) => new Pen(`Point ${i}`).use('led').box(p[0] - r(i), p[1] - r(i), p[2] - r(i), p[0] + r(i), p[1] + r(i), p[2] + r(i), { bevel: 0 }).node()) // prettier-ignore
  const glb = glbOf([{ name: 'Chart', children }])
  const asset = await stand.server.assets.store({ body: Readable.from([Buffer.from(glb)]), mediaType: 'model/gltf-binary', fileName: 'chart.glb' }) // prettier-ignore
  const models = [newModel({ id: 'm', name: 'chart.glb', sha256: asset.sha256, sizeBytes: asset.sizeBytes })]
  const working = {
    ...setup,
    exposure: { ...w.exposure, mode: 'direct' as const, ev100: 18.56, outsideEv100: 18.56, tone: 'linear' as const },
    look: {
      ...w.look,
      sun: { ...w.look.sun, on: false },
      backdrop: { kind: 'colour' as const, colour: behind },
    },
  }
  id = (await stand.server.projects.create({ ...made, models, working })).id
  await page.goto(`${stand.server.url}/project/${id}`)
  await pictureAt(page, 'all')
  return { camera, points, bar: [ends[0], [ends[1][0], ends[0][1], ends[0][2]]] as const }
}

const bent = { kind: 'brown', k1: -0.09, k2: 0.012, k3: 0, p1: 0.004, p2: -0.003 } as const
const CASES: readonly [string, Partial<Lens>, typeof FRAME?][] = [
  ['shifted', { riseMm: 4, crossMm: -5 }],
  ['shifted and bent', { riseMm: 3, crossMm: -2, distortion: bent }],
  ['pincushion', { distortion: { ...bent, k1: 0.08, k2: 0 }, focalMm: 28 }],
  [
    'across the width of an upright frame',
    { sensorUse: 'acrossWidth', distortion: bent },
    { widthPx: 300, heightPx: 400 },
  ],
  ['across the height', { sensorUse: 'acrossHeight' }, { widthPx: 300, heightPx: 400 }],
  ['within an upright sensor', { sensorUse: 'inside', sensorMm: { width: 24, height: 36 }, distortion: bent }],
  [
    'around a sensor of another shape',
    { sensorUse: 'covers', sensorMm: { width: 17.3, height: 13 }, focalMm: 14, distortion: bent },
  ],
]

describe('a chart of known points', () => {
  it.each(CASES)('falls where the formula has it within a quarter of a pixel: %s', async (_, lens, frame) => {
    const { camera, points } = await chart(lens, frame)
    const pixels = await picturePixels(page)
    const k = pixels.width / camera.frame.widthPx
    const off = points.map((p) => {
      const at = projectPoint(camera, p)!
      const place = { x: at.xPx * k, y: at.yPx * k }
      const seen = centroid(pixels, place, 7)
      return Math.hypot(seen.x - place.x, seen.y - place.y)
    })
    expect(Math.max(...off)).toBeLessThan(0.25)
  }, 60_000) // prettier-ignore
})

describe('the lens panel', () => {
  it('a still through a barrel bends a straight edge by its sagitta', async () => {
    const { camera, bar } = await chart({ distortion: { ...bent, p1: 0, p2: 0 } }, { widthPx: 660, heightPx: 440 }, 'bar')
    await page.getByTestId('cell-frame').click()
    const download = page.waitForEvent('download', { timeout: 120_000 })
    await page.getByRole('button', { name: 'Save finished PNG' }).click()
    const png = PNG.sync.read(readFileSync(await (await download).path()))
    const [a, b] = bar.map((p) => projectPoint(camera, p)!)
    const place = (t: number) => projectPoint(camera, [bar[0][0] + t * (bar[1][0] - bar[0][0]), bar[0][1], bar[0][2]])!
    const seen = [0.1, 0.3, 0.5, 0.7, 0.9].map((t) => {
      const at = place(t)
      const column = Math.round(at.xPx)
      const { y } = centroid(png, { x: column, y: at.yPx }, 4)
      return Math.abs(y - at.yPx)
    })
    expect(Math.max(...seen)).toBeLessThan(0.5)
    // between its ends the middle lies off the chord by the sagitta
    const chord = (a!.yPx + b!.yPx) / 2
    const middleY = centroid(png, { x: place(0.5).xPx, y: place(0.5).yPx }, 4).y
    const sagitta = sagittaPx(camera, [a!.xPx, a!.yPx], [b!.xPx, b!.yPx])!
    expect(sagitta).toBeGreaterThan(5)
    expect(Math.abs(Math.abs(middleY - chord) - sagitta)).toBeLessThan(0.5)
  }, 120_000) // prettier-ignore

  it('a still of several tiles through a barrel is whole up to its edges', async () => {
    const grey = [0.5, 0.5, 0.5] as const
    await chart({ distortion: { ...bent, p1: 0, p2: 0 }, riseMm: -0.2 }, { widthPx: 1107, heightPx: 240 }, 'bar', grey)
    await page.getByTestId('cell-frame').click()
    const download = page.waitForEvent('download', { timeout: 120_000 })
    await page.getByRole('button', { name: 'Save finished PNG' }).click()
    const { width, height, data } = PNG.sync.read(readFileSync(await (await download).path()))
    const at = (x: number, y: number): number => data[(y * width + x) * 4 + 1]!
    const middle = at(width >> 1, height >> 1)
    expect(middle).toBeGreaterThan(60)
    for (let x = 0; x < width; x++)
      for (const y of [0, 1, height - 2, height - 1]) expect(Math.abs(at(x, y) - middle), `${x}, ${y}`).toBeLessThan(12)
    for (let y = 0; y < height; y++)
      for (const x of [0, 1, width - 2, width - 1]) expect(Math.abs(at(x, y) - middle), `${x}, ${y}`).toBeLessThan(12)
  }, 120_000)

  it('an angle typed is a focal length; Alt-wheel from 24 to 85 mm holds the subject’s width; one of five is taken', async () => {
    await chart({})
    await page.getByTestId('cell-lens').click()
    await typeNumber(page, 'Angle across', '60')
    await expect.poll(() => numberIn(page, 'Focal length')).toBeCloseTo(31.2, 1)
    await typeNumber(page, 'Focal length', '24')
    const box = (await page.getByTestId('picture').boundingBox())!
    const width = (d: ProjectDocument) => {
      const { stand: s, lens, frame } = d.working
      const camera = { pose: poseOfStand(s), lens, frame }
      return projectPoint(camera, [0.5, 4, 1])!.xPx - projectPoint(camera, [-0.5, 4, 1])!.xPx
    }
    const before = width(await saved())
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2)
    await page.keyboard.down('Alt')
    for (let i = 0; i < 12; i++) {
      await page.mouse.wheel(0, -100)
      await page.waitForTimeout(30)
    }
    await page.keyboard.up('Alt')
    await expect.poll(async () => (await saved()).trail.steps.at(-1)!.label).toBe('Focal length, size held')
    // on a slow machine the wheel's last notches may be saved as an edit of their own
    await expect.poll(async () => (await saved()).working.lens.focalMm).toBeGreaterThan(80)
    const after = await saved()
    expect(Math.abs(width(after) / before - 1)).toBeLessThan(0.01)
    await page.getByRole('button', { name: 'Five lenses side by side' }).click()
    const five = page.getByTestId('five-lenses')
    await expect.poll(() => five.locator('canvas[data-drawn=yes]').count(), { timeout: 60_000 }).toBe(5)
    await five.getByRole('button', { name: /^35 mm/ }).click()
    await expect.poll(async () => (await saved()).working.lens.focalMm).toBe(35)
    expect(Math.abs(width(await saved()) / before - 1)).toBeLessThan(0.01)
    await page.getByRole('button', { name: 'Close the five lenses' }).click()
  }, 120_000)

  it('the window dragged in Side is the rise in the panel', async () => {
    const handle = await middle(page, 'side-window')
    await drag(page, handle, { x: 0, y: -14 })
    const d = await (async () => {
      await expect.poll(async () => (await saved()).trail.steps.at(-1)!.label).toBe('Rise')
      return saved()
    })()
    expect(d.working.lens.riseMm).toBeGreaterThan(1)
    expect(await numberIn(page, 'Rise')).toBeCloseTo(d.working.lens.riseMm, 2)
  })
})

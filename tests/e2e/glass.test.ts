// Clear glass through a lens: as sharp as its own distance has it, and the sun in it one crisp disc, as wide as the distance of the sun's
// image has it, which is not that of the glass.
import { Readable } from 'node:stream'
import type { Page } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { poseOfStand, principalPointPx, type Camera } from '#core/camera'
import type { Vec3 } from '#core/math'
import { blurDiscMm } from '#core/optics'
import { aimAt, newModel, newProject, type Setup } from '#model'
import { Pen } from '../../scripts/demo-data/kit.ts'
import { openStand, pictureAt, picturePixels, type Stand } from '../support/browser.ts'
import { glbOf } from '../support/models.ts'

let stand: Stand
let page: Page
beforeAll(async () => {
  stand = await openStand({ demo: false })
  page = await stand.page({ width: 1120, height: 560, samples: 12 })
})
afterAll(async () => {
  expect(stand.errors).toEqual([])
  await stand.end()
})

const SUN_DEG = 12
const tan = Math.tan((SUN_DEG * Math.PI) / 180)

const SOOT = { name: 'soot', baseColour: [0.02, 0.02, 0.02, 1], metallic: 0, roughness: 0.9 } as const
const SMOKED = { name: 'smoked glass', baseColour: [0.01, 0.01, 0.01, 0.6], metallic: 0, roughness: 0.5, blend: true } as const // prettier-ignore
interface Seen {
  readonly toward: Vec3
  readonly fNumber: number
  readonly focusM?: number
  readonly wall?: string
  readonly sun?: boolean
  readonly ev100?: number
  readonly on?: Page
  /** An even ground instead of the wall. */
  readonly isBare?: boolean
}
/** Looks north at something clear before a wall, the sun behind one's back. */
async function opened(
  clear: ReturnType<Pen['node']>,
  { toward, fNumber, focusM = 1, wall = 'enamel', sun = true, ev100 = 16, on: page_ = page, isBare = false }: Seen,
): Promise<Camera> {
  // prettier-ignore
  const nodes = [...(isBare ? [] : [new Pen('Wall').use(wall).box(-9, 12, -6, 9, 12.2, 12, { bevel: 0 }).node()]), clear]
  const asset = await stand.server.assets.store({ body: Readable.from([Buffer.from(glbOf([{ name: 'Glass', children: nodes }], [SMOKED, SOOT]))]), mediaType: 'model/gltf-binary', fileName: 'glass.glb' }) // prettier-ignore
  const models = [newModel({ id: 'm', name: 'glass.glb', sha256: asset.sha256, sizeBytes: asset.sizeBytes })]
  const made = newProject({ name: 'Glass', subject: 'room', stand: aimAt([0, 0, 1], toward), models })
  const { working: w } = made
  const working: Setup = {
    ...w,
    lens: { ...w.lens, focalMm: 85, riseMm: 0, crossMm: 0 },
    frame: { ...w.frame, widthPx: 600, heightPx: 400 },
    focus: { ...w.focus, on: true, fNumber, mode: { kind: 'distance', distanceM: focusM } },
    exposure: { ...w.exposure, mode: 'direct', ev100, outsideEv100: ev100, tone: 'linear' },
    look: {
      ...w.look,
      sun: { ...w.look.sun, on: sun, bearingDeg: 180, elevationDeg: SUN_DEG },
      ...(isBare && { backdrop: { kind: 'colour', colour: [0.8, 0.8, 0.8] } }),
    },
  }
  const { id } = await stand.server.projects.create({ ...made, working })
  await page_.goto(`${stand.server.url}/project/${id}`)
  await pictureAt(page_, 'all')
  return { pose: poseOfStand(working.stand), lens: working.lens, frame: working.frame }
}
const toldPx = async (): Promise<[number, number]> => {
  await page.getByTestId('cell-focus').click()
  const told = await page.getByTestId('points-told').textContent()
  const [, least, most = least] = /(\d+)(?: to (\d+))? px/.exec(told!)!
  return [Number(least), Number(most)]
}
const discPx = (camera: Camera, fNumber: number, distanceM: number): number =>
  blurDiscMm({ focalMm: 85, fNumber, focusM: 1, distanceM }) * principalPointPx(camera).pxPerMm

describe('the sun in glass', () => {
  it('in a pane it lies as far away as the sun, however near the pane is, and nothing behind the pane hides it', async () => {
    const pane = new Pen('Pane').use('window glass').box(-3, 4, -2, 3, 4.006, 4, { bevel: 0 }).node()
    const camera = await opened(pane, { toward: [0, 4, 1 + 4 * tan], fNumber: 2 })
    // a place on the pane, or on the wall behind it, would have 49 or 60 px
    const [least, most] = await toldPx()
    for (const px of [least, most]) expect(Math.abs(px - discPx(camera, 2, 1e6))).toBeLessThan(1)
    const { width, height, data } = await picturePixels(page)
    const radius = ((least / 2) * width) / 600
    const at = (x: number, y: number): number => data[(Math.round(height / 2 + y) * width + Math.round(width / 2 + x)) * 4 + 1]! // prettier-ignore
    for (let a = 0; a < 360; a += 15) {
      const [c, s] = [Math.cos((a * Math.PI) / 180), Math.sin((a * Math.PI) / 180)]
      expect(at(c * radius * 0.6, s * radius * 0.6), `${a} degrees`).toBeGreaterThan(250)
      expect(at(c * radius * 2.8, s * radius * 2.8), `${a} degrees`).toBeLessThan(225)
    }
  }, 90_000)
  it('in a ball it lies half of the radius behind its surface, in its far side as much before that', async () => {
    const [away, r] = [4, 0.8]
    const ball = new Pen('Ball').use('window glass').ball([0, away, 1], r, 192).node()
    const camera = await opened(ball, { toward: [0, away, 1.05], fNumber: 1 })
    // paraxial images of a mirror that is bent (closed form); the surfaces themselves would have 90 and 104 px
    const [least, most] = await toldPx()
    expect(Math.abs(least - discPx(camera, 1, away - r / 2))).toBeLessThan(1.5)
    expect(Math.abs(most - discPx(camera, 1, away + r / 2))).toBeLessThan(1.5)
  }, 90_000)
})

/** Pixels of the frame from a tenth to nine tenths of the way across the edge in the middle row. */
async function edgePx(of: Page): Promise<number> {
  const { row, left, right, perPx } = await edgeOf(of)
  const across = (share: number): number => row.findIndex((v) => Math.abs(v - left) > share * Math.abs(right - left))
  return (across(0.9) - across(0.1)) / perPx
}
/** The middle rows of a picture with an edge in its middle, and what lies just past the edge on both sides. */
async function edgeOf(of: Page): Promise<{ row: number[]; left: number; right: number; perPx: number }> {
  const { width, height, data } = await picturePixels(of)
  const row = Array.from({ length: width }, (_, x) => {
    let sum = 0
    for (let y = -20; y < 20; y++) sum += data[((height / 2 + y) * width + x) * 4 + 1]!
    return sum / 40
  })
  // the wall is not lit evenly: what lies just past the edge on both sides
  const mean = (from: number): number => row.slice(from, from + 10).reduce((a, b) => a + b) / 10
  const past = Math.round(width * 0.06)
  const [left, right] = [mean(width / 2 - past - 10), mean(width / 2 + past)]
  expect(Math.abs(right - left)).toBeGreaterThan(30)
  return { row, left, right, perPx: width / 600 }
}
describe.each([12, 1])('smoked glass before a far white wall, of %i samples', (samples) => {
  let own: Page
  beforeAll(async () => void (own = await stand.page({ width: 1120, height: 560, samples })))
  afterAll(() => own.close())
  const half = (y: number): ReturnType<Pen['node']> => new Pen('Pane').use('smoked glass').box(0, y, -2, 3, y + 0.001, 4, { bevel: 0 }).node() // prettier-ignore

  it('in focus its edge is sharp, though what is seen through it is spread over a tenth of the picture', async () => {
    const camera = await opened(half(1), {
      toward: [0, 1, 1],
      fNumber: 1.4,
      wall: 'enamel white',
      sun: false,
      ev100: 14.4,
      on: own,
    })
    expect(discPx(camera, 1.4, 12)).toBeGreaterThan(60)
    expect(await edgePx(own)).toBeLessThan(4)
  }, 90_000)
  it('out of focus its edge is that of its own disc, though the wall behind is sharp', async () => {
    const fNumber = samples === 1 ? 5.6 : 2.8
    const camera = await opened(half(1), { toward: [0, 1, 1], fNumber, focusM: 12, wall: 'enamel white', sun: false, ev100: 14.4, on: own }) // prettier-ignore
    // light over an edge through a round aperture: a tenth of it lies past 0.687 of the radius (the circle's segment, closed form)
    const disc = blurDiscMm({ focalMm: 85, fNumber, focusM: 12, distanceM: 1 }) * principalPointPx(camera).pxPerMm
    expect(disc).toBeGreaterThan(15)
    expect(Math.abs((await edgePx(own)) / (0.687 * disc) - 1)).toBeLessThan(0.2)
  }, 90_000)
})

describe('a dark thing before a far white wall, of 12 samples', () => {
  let own: Page
  beforeAll(async () => void (own = await stand.page({ width: 1120, height: 560, samples: 12 })))
  afterAll(() => own.close())
  const thing = (): ReturnType<Pen['node']> =>
    new Pen('Thing').use('soot').box(0, 1, -2, 3, 1.05, 4, { bevel: 0 }).node()
  const seen = { toward: [0, 1, 1], wall: 'enamel white', sun: false, ev100: 14.4 } as const

  it('in focus its edge is sharp, and nothing of the blurred wall comes over it', async () => {
    await opened(thing(), { ...seen, fNumber: 1.4, on: own })
    const { row, left, right, perPx } = await edgeOf(own)
    expect(await edgePx(own)).toBeLessThan(4)
    // from two pixels past the edge on it is as dark as it is farther in
    const inside = row.slice(Math.round(row.length / 2 + 2 * perPx), Math.round(row.length / 2 + 20 * perPx))
    for (const v of inside) expect(Math.abs(v - right)).toBeLessThan(0.04 * Math.abs(left - right))
  }, 90_000)
  it('out of focus its edge falls as its disc has it, without a step for each sample', async () => {
    const camera = await opened(thing(), { ...seen, fNumber: 2.8, focusM: 12, on: own })
    const disc = blurDiscMm({ focalMm: 85, fNumber: 2.8, focusM: 12, distanceM: 1 }) * principalPointPx(camera).pxPerMm
    expect(Math.abs((await edgePx(own)) / (0.687 * disc) - 1)).toBeLessThan(0.2)
    const { row, left, right, perPx } = await edgeOf(own)
    // light over an edge through a round aperture falls most in its middle: 4 / pi of the disc's width (closed form)
    const steepest = ((4 / Math.PI) * Math.abs(left - right)) / (disc * perPx)
    const falls = row.slice(1).map((v, i) => Math.abs(v - row[i]!))
    expect(Math.max(...falls)).toBeLessThan(2 * steepest)
  }, 90_000)
  it('a little out of focus no shade of it lies over the even ground about it', async () => {
    await opened(thing(), { ...seen, fNumber: 1.4, focusM: 0.97, isBare: true, on: own })
    const { row, left, right, perPx } = await edgeOf(own)
    const edge = row.findIndex((v) => Math.abs(v - left) > 0.1 * Math.abs(right - left))
    const about = row.slice(Math.round(edge - 30 * perPx), Math.round(edge - 6 * perPx))
    for (const v of about) expect(Math.abs(v - left)).toBeLessThan(0.02 * Math.abs(left - right))
  }, 90_000)
})

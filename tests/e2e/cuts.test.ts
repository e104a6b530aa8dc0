// Cuts in the running application: a plan at scale measured in the saved PNG, cut faces pixel by pixel, a sectional perspective kept and
// recalled, a box dragged by a face, a line drawn in Plan, an object left whole, files that lie.
import { readFileSync } from 'node:fs'
import { Readable } from 'node:stream'
import type { Page } from 'playwright-core'
import { PNG } from 'pngjs'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { poseOfStand, projectPoint, type Camera, type Projection } from '#core/camera'
import type { Vec3 } from '#core/math'
import { loadGlb } from '#formats/scene'
import { quickFacts } from '#mesh'
import { newModel, newProject, aimAt, type ProjectDocument, type Setup } from '#model'
import { Pen } from '../../scripts/demo-data/kit.ts'
import { hallModel } from '../../scripts/demo-data/scenes.ts'
import {
  drag,
  meanDifference,
  openStand,
  pictureAt,
  picturePixels,
  typeNumber,
  type Stand,
} from '../support/browser.ts'
import { linearOf } from '../../stage/flat-tone.ts'
import { glbOf } from '../support/models.ts'

let stand: Stand
let page: Page
let id = ''
beforeAll(async () => {
  stand = await openStand({ demo: true })
  page = await stand.page({ width: 1120, height: 560 })
})
afterAll(async () => {
  expect(stand.errors).toEqual([])
  await stand.end()
})
const saved = async (): Promise<ProjectDocument> => {
  await expect.poll(() => page.getByTestId('save-state').textContent(), { timeout: 30_000 }).toMatch(/^Saved/)
  return (await stand.server.projects.open(id)).document
}
const cuts = async () => (await saved()).working.cut.cuts
/** A copy of the hall, changed, with the storeys known. */
async function openHall(change: (s: Setup) => Setup): Promise<void> {
  const { document } = await stand.server.projects.open('demo-hall')
  const small = { ...document.working.frame, widthPx: 600, heightPx: 400, densityPpi: 72 }
  const working = change({ ...document.working, frame: small })
  const made = await stand.server.projects.create({ ...document, name: 'Copy', working })
  id = made.id
  await page.goto(`${stand.server.url}/project/${id}`)
  await pictureAt(page, 1)
  await page.getByText('Ground floor').first().waitFor({ timeout: 30_000 })
  await page.getByTestId('cell-cut').click()
}
const cameraOf = ({ working: w }: ProjectDocument): Camera => ({
  pose: poseOfStand(w.stand),
  lens: w.lens,
  frame: w.frame,
})
const LINEAR = Array.from({ length: 256 }, (_, v) => linearOf([v / 255, v / 255, v / 255])[0])
/** How much of a pixel is ink before the even ground of 0.9, 0..1: the flat layer is summed linear. */
function coverage(d: Uint8Array | Buffer, i: number): number {
  const [ground, ink] = [LINEAR[230]!, LINEAR[39]!]
  const v = Math.round((d[i]! + d[i + 1]! + d[i + 2]!) / 3)
  return v < 224 ? Math.min(1, (ground - LINEAR[v]!) / (ground - ink)) : 0
}

describe('a plan of the hall', () => {
  it('cut at 1.20 m typed, parallel: 18.00 m of wall are that long in the saved PNG, within a pixel', async () => {
    const nodes = quickFacts(await loadGlb(hallModel().bytes, { textures: false })).nodes
    const key = (await stand.server.projects.open('demo-hall')).document.models[0]!.key
    const wall = nodes.find((n) => n.name === 'South wall')!
    const others = nodes.filter((n) => n.id !== wall.id && !wall.id.startsWith(`${n.id}/`)).map((n) => `${key}/${n.id}`)
    await openHall((s) => ({ ...s, visible: { hidden: others }, look: { ...s.look, backdrop: { kind: 'colour', colour: [0.9, 0.9, 0.9] } } })) // prettier-ignore
    await page.getByRole('button', { name: 'Level', exact: true }).click()
    await typeNumber(page, 'Over Ground floor', '120 cm')
    expect(await cuts()).toMatchObject([{ kind: 'level', heightM: 1.2 }])
    await page.getByTestId('picture').focus()
    await page.keyboard.press('Shift+Y')
    await expect.poll(async () => (await saved()).working.lens.projection.kind).toBe('parallel')
    const { lens, frame } = (await saved()).working
    const perPx = (lens.projection as { widthM: number }).widthM / frame.widthPx
    const download = page.waitForEvent('download', { timeout: 120_000 })
    await page.keyboard.press('Control+s')
    const png = PNG.sync.read(readFileSync((await (await download).path())!))
    // the longest row of ink, its ends by how much of their pixels they cover
    let longest = 0
    for (let y = 0; y < png.height; y++) {
      let row = 0
      for (let x = 0; x < png.width; x++) row += coverage(png.data, (y * png.width + x) * 4)
      longest = Math.max(longest, row)
    }
    // the outline is 0.5 mm wide on paper, half of it outside
    const outlinePx = Math.max(1.4, (0.5 * frame.densityPpi) / 25.4)
    expect(Math.abs(longest - outlinePx - 18 / perPx)).toBeLessThanOrEqual(1)
  })
})

describe('a cut face', () => {
  const forms: readonly [string, Projection][] = [
    ['perspective', { kind: 'perspective' }],
    ['parallel', { kind: 'parallel', widthM: 4 }],
    ['oblique', { kind: 'oblique', widthM: 4, angleDeg: 45, receding: 0.5 }],
  ]
  it.each(forms)('is as many pixels as its polygon through the projection: %s', async (_name, projection) => {
    const crate = new Pen('Crate', { kind: 'thing' }).use('plaster').box(-1, -0.5, 0, 1, 0.5, 1, { bevel: 0 })
    const body = Readable.from([Buffer.from(glbOf([crate.node()]))])
    const asset = await stand.server.assets.store({ body, mediaType: 'model/gltf-binary', fileName: 'crate.glb' })
    const model = newModel({ id: 'm', name: 'crate.glb', sha256: asset.sha256, sizeBytes: asset.sizeBytes })
    const base = newProject({
      name: 'Crate',
      subject: 'product',
      stand: aimAt(projection.kind === 'oblique' ? [0.4, -1, 0.5] : [0.4, -4, 1.6], [0, 0, 0.5]),
      models: [model],
    })
    const working: Setup = {
      ...base.working,
      lens: { ...base.working.lens, projection, focalMm: 40 },
      frame: { ...base.working.frame, widthPx: 600, heightPx: 400, densityPpi: 30 },
      look: { ...base.working.look, backdrop: { kind: 'colour', colour: [0.9, 0.9, 0.9] } },
      cut: { ...base.working.cut, cuts: [{ id: 'a', name: 'A', on: true, reversed: false, kind: 'upright', point: [0, 0, 0], bearingDeg: 0 }] },
    } // prettier-ignore
    const doc = { ...base, working }
    id = (await stand.server.projects.create(doc)).id
    // large enough for half a per cent to be more than the pixels of the edge
    await page.setViewportSize({ width: 1280, height: 760 })
    await page.goto(`${stand.server.url}/project/${id}`)
    await pictureAt(page, 1)
    await expect.poll(async () => inkOf(await picturePixels(page)), { timeout: 20_000 }).toBeGreaterThan(1000)
    await pictureAt(page, 'all')
    const got = await picturePixels(page)
    const k = got.width / 600
    const corners = [[-1, 0, 0], [1, 0, 0], [1, 0, 1], [-1, 0, 1]].map((p) => projectPoint(cameraOf(doc), p as unknown as Vec3)!) // prettier-ignore
    let area = 0
    let around = 0
    corners.forEach((p, i) => {
      const q = corners[(i + 1) % 4]!
      area += (p.xPx * q.yPx - q.xPx * p.yPx) / 2
      around += Math.hypot(q.xPx - p.xPx, q.yPx - p.yPx)
    })
    // with the outer half of an outline of 1.4 pixels
    const expected = Math.abs(area) * k * k + around * k * 0.7
    expect(Math.abs(inkOf(got) / expected - 1)).toBeLessThan(0.005)
  })
  function inkOf({ data }: { data: Uint8Array }): number {
    let n = 0
    for (let i = 0; i < data.length; i += 4) n += coverage(data, i)
    return n
  }
})

describe('sections in one step', () => {
  it('a sectional perspective: cut, station and fit by one click; kept, and recalled to the same pixels', async () => {
    await page.setViewportSize({ width: 1120, height: 430 })
    await openHall((s) => s)
    // in clay a picture is finished sooner
    await page.getByTestId('picture').focus()
    await page.keyboard.press('b')
    await page.getByRole('button', { name: 'Section here' }).click()
    const r = (await page.getByTestId('picture').boundingBox())!
    await page.mouse.click(r.x + r.width * 0.52, r.y + r.height * 0.86)
    await page.getByText(/Section A through that place/).waitFor()
    const made = await saved()
    expect(made.working.cut.cuts).toMatchObject([{ kind: 'upright', on: true }])
    const pose = poseOfStand(made.working.stand)
    expect([pose.tiltDeg, pose.rollDeg, ((pose.bearingDeg % 90) + 90) % 90]).toEqual([0, 0, expect.closeTo(0, 6)])
    expect(made.trail.steps.at(-1)!.label).toBe('Sectional perspective')
    await page.keyboard.press('Shift+K')
    await page.locator('#new-name').waitFor()
    await page.keyboard.press('Enter')
    await expect.poll(async () => (await saved()).viewpoints.length).toBe(made.viewpoints.length + 1)
    const kept = (await saved()).viewpoints.find((v) => !made.viewpoints.some((m) => m.id === v.id))!
    expect(kept.parts.cut?.cuts).toHaveLength(1)
    await pictureAt(page, 'all')
    const before = await picturePixels(page)
    await page.getByTestId('viewpoint').first().click()
    await pictureAt(page, 1)
    await page.keyboard.press('Control+k')
    await page.keyboard.insertText(`Recall “${kept.name}”`)
    await page.keyboard.press('Enter')
    await expect.poll(async () => (await saved()).recalledId).toBe(kept.id)
    await pictureAt(page, 'all')
    expect(meanDifference(await picturePixels(page), before)).toBeLessThan(0.4)
    await page.getByTestId('picture').focus()
    await page.keyboard.press('b')
    await page.setViewportSize({ width: 1120, height: 560 })
  })
})

describe('cuts by hand', () => {
  const handle = (name: string) => page.getByTestId('plan').getByTestId(name)
  const at = async (name: string): Promise<{ x: number; y: number }> => {
    const b = (await handle(name).boundingBox())!
    return { x: b.x + b.width / 2, y: b.y + b.height / 2 }
  }
  it('a box round the stair: dragged by one face in Plan it grows there and nowhere else; one edit; Esc lets it be', async () => {
    await openHall((s) => s)
    await page.getByTestId('cell-visible').click()
    await page.getByPlaceholder('Search objects').fill('Stair')
    await page.getByTestId('object-tree').getByText('Stair', { exact: true }).first().click() // prettier-ignore
    await page.getByTestId('cell-cut').click()
    await page.getByRole('button', { name: 'Box', exact: true }).click()
    const [box] = (await cuts()) as unknown as [{ centre: Vec3; sizeM: Vec3 }]
    // its east face lies to the right in Plan
    const from = await at('cut-A-0')
    await drag(page, from, { x: 40, y: 6 }, { release: false })
    await page.keyboard.press('Escape')
    await page.mouse.up()
    expect(await cuts()).toMatchObject([{ sizeM: box.sizeM }])
    await drag(page, from, { x: 40, y: 6 })
    await expect
      .poll(async () => ((await cuts())[0] as unknown as { sizeM: Vec3 }).sizeM[0])
      .toBeGreaterThan(box.sizeM[0] + 0.3)
    const [grown] = (await cuts()) as unknown as [{ centre: Vec3; sizeM: Vec3 }]
    expect(grown.sizeM.slice(1)).toEqual(box.sizeM.slice(1))
    expect(grown.centre[0] - grown.sizeM[0] / 2).toBeCloseTo(box.centre[0] - box.sizeM[0] / 2, 6)
    await page.keyboard.press('Control+z')
    await expect.poll(async () => (await cuts())[0]).toMatchObject({ sizeM: box.sizeM })
  })
  it('a stepped line drawn in Plan; reversed, switched off with all by key, taken out', async () => {
    await openHall((s) => s)
    await page.getByRole('button', { name: 'a line in Plan' }).click()
    const r = (await page.getByTestId('plan').boundingBox())!
    for (const [u, v] of [
      [0.2, 0.5],
      [0.5, 0.505],
      [0.505, 0.56],
      [0.8, 0.56],
    ] as const) {
      await page.mouse.click(r.x + r.width * u, r.y + r.height * v)
      await page.waitForTimeout(300)
    }
    await page.keyboard.press('Enter')
    await expect.poll(async () => (await cuts()).length).toBe(1)
    const [line] = (await cuts()) as unknown as [{ kind: string; points: [number, number][] }]
    expect(line.kind).toBe('stepped')
    expect(line.points).toHaveLength(4)
    // right angles
    expect(line.points[1]![1]).toBeCloseTo(line.points[0]![1], 9)
    expect(line.points[2]![0]).toBeCloseTo(line.points[1]![0], 9)
    await page.getByRole('button', { name: 'Reverse cut A' }).click()
    await expect.poll(async () => (await cuts())[0]).toMatchObject({ reversed: true })
    await page.keyboard.press('x')
    await expect.poll(async () => (await saved()).working.cut.allOff).toBe(true)
    await page.keyboard.press('x')
    await page.getByRole('button', { name: 'Take out cut A' }).click()
    await expect.poll(async () => (await cuts()).length).toBe(0)
  })
  it('what is left whole stands uncut; facts and files tell what is cut', async () => {
    await openHall((s) => s)
    await page.getByRole('button', { name: 'Level', exact: true }).click()
    const facts = page.getByTestId('cut-facts')
    await facts.getByText('South wall').waitFor()
    await page.getByTestId('cell-visible').click()
    await page.getByPlaceholder('Search objects').fill('South wall')
    await page.getByTestId('object-tree').getByText('South wall', { exact: true }).first().click() // prettier-ignore
    await page.getByTestId('cell-cut').click()
    await page.getByRole('button', { name: 'The selected' }).click()
    await expect.poll(() => facts.getByText('South wall').count()).toBe(0)
    expect((await saved()).working.cut.whole).toHaveLength(1)
    const download = page.waitForEvent('download')
    await facts.getByRole('button', { name: 'JSON' }).click()
    const json = JSON.parse(readFileSync((await (await download).path())!, 'utf8')) as { sections: { objects: { object: string }[] }[] } // prettier-ignore
    expect(json.sections[0]!.objects.some((o) => o.object.endsWith('North wall'))).toBe(true)
    expect(json.sections[0]!.objects.some((o) => o.object.endsWith('South wall'))).toBe(false)
  })
})

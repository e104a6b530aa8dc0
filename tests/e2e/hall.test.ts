// The whole job on the demo's hall, by mouse and keyboard: step in, straighten, shift, keep, come back exactly, save, reload.
import { readFileSync } from 'node:fs'
import { PNG } from 'pngjs'
import type { Page } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { poseOfStand, projectPoint, type Camera } from '#core/camera'
import { densityOf } from '#formats/png'
import { trailPlace, type ProjectDocument } from '#model'
import {
  drag,
  field,
  meanDifference,
  middle,
  numberIn,
  openStand,
  pictureAt,
  picturePixels,
  typeNumber,
  type Stand,
} from '../support/browser.ts'
import { edgeLean, greyOf } from '../support/edges.ts'

let stand: Stand
let page: Page
const doc = async (): Promise<ProjectDocument> => (await stand.server.projects.open('demo-hall')).document
/** The saved document once the page says that all is saved. */
async function saved(): Promise<ProjectDocument> {
  await expect.poll(() => page.getByTestId('save-state').textContent(), { timeout: 20_000 }).toMatch(/^Saved/)
  return doc()
}
const cameraOf = (d: ProjectDocument): Camera => ({
  pose: poseOfStand(d.working.stand),
  lens: d.working.lens,
  frame: d.working.frame,
})
const names = (): Promise<string[]> => page.getByTestId('viewpoint').locator('.name').allTextContents()
/** From the menu folded behind the keep button. */
async function putBack(): Promise<void> {
  await page.getByRole('button', { name: 'More ways to keep' }).click()
  await page.getByRole('menuitem', { name: 'Put back' }).click()
}
const openPanel = (part: 'stand' | 'lens' | 'frame') => page.getByTestId(`cell-${part}`).click()
const key = async (k: string): Promise<void> => {
  await page.getByTestId('picture').focus()
  await page.keyboard.press(k)
}

beforeAll(async () => {
  stand = await openStand({ demo: true })
  page = await stand.page()
})
afterAll(() => stand.end())

describe('the job, from opening to the finished picture', () => {
  it('opens the demo from the projects and shows it', async () => {
    await page.goto(stand.server.url)
    await page.getByRole('link', { name: /Saltmarsh Seed Library/ }).click()
    await pictureAt(page, 1)
    expect(await page.title()).toBe('Saltmarsh Seed Library · Yoroi')
    expect(await names()).toContain('Hall, east')
    await page.getByText('Ground floor').first().waitFor()
  })

  it('steps onto the floor with G and a click: eye height over it, level, same bearing', async () => {
    await key('g')
    const box = (await page.getByTestId('picture').boundingBox())!
    const at = { x: box.x + box.width * 0.62, y: box.y + box.height * 0.9 }
    await page.mouse.move(at.x, at.y)
    await page.waitForSelector('[data-testid=picture-overlay] .measure')
    await page.mouse.click(at.x, at.y)
    await expect.poll(async () => (await saved()).trail.at, { timeout: 15_000 }).toBe(1)
    expect(await numberIn(page, 'Eye height')).toBeCloseTo(1.58, 2)
    const d = await saved()
    const pose = poseOfStand(d.working.stand)
    expect(pose.station[2]).toBeCloseTo(1.58, 3)
    expect(pose.tiltDeg).toBe(0)
    expect(pose.bearingDeg).toBeCloseTo(80, 6)
  })

  it('takes commands while a drop-down or a check box has the focus: neither opens nor swallows them', async () => {
    const standTool = page.getByRole('radio', { name: 'Stand there', exact: true })
    const storey = page.getByRole('combobox', { name: 'Storey' }).first()
    for (const control of [storey, page.getByRole('checkbox', { name: /station alone/ })]) {
      await control.focus()
      await page.keyboard.press('g')
      await expect.poll(() => standTool.getAttribute('aria-checked'), { timeout: 5000 }).toBe('true')
      expect(await storey.getAttribute('aria-expanded')).not.toBe('true')
      await page.keyboard.press('Escape')
      await expect.poll(() => standTool.getAttribute('aria-checked'), { timeout: 5000 }).toBe('false')
    }
  })

  it('draws a stand in Plan: station, then aim; Esc meanwhile restores the start exactly', async () => {
    const before = (await saved()).working.stand
    const strip = (await page.getByTestId('plan').boundingBox())!
    await key('g')
    await drag(page, { x: strip.x + 60, y: strip.y + strip.height * 0.52 }, { x: 60, y: -20 }, { release: false })
    await page.keyboard.press('Escape')
    await page.mouse.up()
    expect((await saved()).working.stand).toEqual(before)
    await drag(page, { x: strip.x + strip.width * 0.55, y: strip.y + strip.height * 0.5 }, { x: -60, y: 25 })
    await expect.poll(async () => (await saved()).trail.at).toBe(2)
    const pose = poseOfStand((await saved()).working.stand)
    expect(pose.tiltDeg).toBe(0)
    // drawn towards the south-west
    expect(pose.bearingDeg).toBeGreaterThan(225)
    expect(pose.bearingDeg).toBeLessThan(265)
  })

  it('takes typed numbers with units, refuses what it cannot read', async () => {
    await openPanel('stand')
    await typeNumber(page, 'East (x)', '9 m')
    await typeNumber(page, 'North (y)', '4.2 + 30cm')
    await typeNumber(page, 'Bearing', '218')
    await typeNumber(page, 'Eye height', `5'2 1/4"`)
    expect(await numberIn(page, 'Eye height')).toBeCloseTo(1.58, 2)
    await field(page, 'Roll').fill('lots')
    await field(page, 'Roll').press('Enter')
    await page.getByText('“lots” could not be read as a number.').waitFor()
    await field(page, 'Roll').press('Escape')
    expect(await numberIn(page, 'Roll')).toBe(0)
    const d = await saved()
    expect(d.working.stand.station[0]).toBeCloseTo(9, 9)
    expect(d.working.stand.station[1]).toBeCloseTo(4.5, 9)
  })

  it('drags on the picture turn in place; up and down they move rise, not tilt', async () => {
    const before = await saved()
    const from = await middle(page, 'picture')
    await drag(page, from, { x: -30, y: 24 })
    await expect.poll(async () => (await saved()).trail.at).toBe(before.trail.at + 1)
    const after = await saved()
    expect(poseOfStand(after.working.stand).tiltDeg).toBe(0)
    expect(after.working.stand.station).toEqual(before.working.stand.station)
    expect(poseOfStand(after.working.stand).bearingDeg).toBeGreaterThan(218.5)
    expect(after.working.lens.riseMm).toBeGreaterThan(1)
    // Esc during a drag leaves no step
    await drag(page, from, { x: 80, y: 10 }, { release: false })
    await page.keyboard.press('Escape')
    await page.mouse.up()
    expect(await saved()).toEqual(after)
  })

  it('the wheel goes forward level, the right button slides', async () => {
    const before = await saved()
    const at = await middle(page, 'picture')
    await page.mouse.move(at.x, at.y)
    await page.mouse.wheel(0, -100)
    await expect.poll(async () => (await saved()).trail.at).toBe(before.trail.at + 1)
    const after = (await saved()).working.stand
    expect(after.station[2]).toBe(before.working.stand.station[2])
    expect(
      Math.hypot(
        after.station[0] - before.working.stand.station[0],
        after.station[1] - before.working.stand.station[1],
      ),
    ).toBeGreaterThan(0.2)
    await drag(page, at, { x: 0, y: 40 }, { button: 'right' })
    await expect.poll(async () => (await saved()).working.stand.station[2]).toBeGreaterThan(after.station[2] + 0.05)
    await key('[')
    await key('[')
    await expect.poll(async () => (await saved()).working.stand).toEqual(before.working.stand)
  })

  it('a tilted camera leans in the saved pixels; Level keeps the framing and stands them upright', async () => {
    await openPanel('stand')
    await typeNumber(page, 'Bearing', '190')
    await openPanel('lens')
    await typeNumber(page, 'Rise', '0')
    await openPanel('stand')
    await typeNumber(page, 'Tilt', '-6')
    await openPanel('frame')
    await typeNumber(page, 'Width', '900')
    await typeNumber(page, 'Density', '254')
    const tilted = await savedPng()
    expect(tilted.png.width).toBe(900)
    expect(tilted.png.height).toBe(600)
    expect(tilted.ppi).toBeCloseTo(254, 6)
    // the pixels lean as the camera's geometry says, and by far more than what counts as upright
    expect(Math.abs(tilted.off)).toBeLessThan(0.05)
    expect(tilted.steepest).toBeGreaterThan(1)
    await key('l')
    const level = await savedPng()
    const d = await saved()
    expect(poseOfStand(d.working.stand).tiltDeg).toBe(0)
    // rise' = f tan(tilt)
    expect(d.working.lens.riseMm).toBeCloseTo(24 * Math.tan((-6 * Math.PI) / 180), 3)
    expect(level.steepest).toBeLessThan(1e-9)
    expect(Math.abs(level.off)).toBeLessThan(0.05)
  })

  /** Saves the finished PNG and measures the upright edges of the four plant studies on the south wall. */
  async function savedPng() {
    const download = page.waitForEvent('download', { timeout: 120_000 })
    await openPanel('frame')
    await page.getByRole('button', { name: 'Save finished PNG' }).click()
    const file = await (await download).path()
    const bytes = readFileSync(file)
    const png = PNG.sync.read(bytes)
    const camera = cameraOf(await saved())
    const edges = [6.75, 7.55, 8.35, 9.15].flatMap((x) => {
      const low = projectPoint(camera, [x, 0.05, 1.47])!
      const high = projectPoint(camera, [x, 0.05, 2.18])!
      const xAt = (y: number): number => low.xPx + ((high.xPx - low.xPx) * (y - low.yPx)) / (high.yPx - low.yPx)
      const expected = (Math.atan2(high.xPx - low.xPx, low.yPx - high.yPx) * 180) / Math.PI
      const grey = greyOf({ width: png.width, height: png.height, data: png.data })
      const measured = edgeLean(grey, xAt, high.yPx, low.yPx, 3)
      return measured ? [{ expected, measured: measured.leanDeg }] : []
    })
    expect(edges.length).toBeGreaterThanOrEqual(3)
    const middleOf = (v: number[]): number => {
      const s = [...v].sort((x, y) => x - y)
      return (s[Math.floor((s.length - 1) / 2)]! + s[Math.ceil((s.length - 1) / 2)]!) / 2
    }
    const off = middleOf(edges.map((e) => e.measured - e.expected))
    const steepest = Math.max(...edges.map((e) => Math.abs(e.expected)))
    return { png, ppi: densityOf(bytes)!, off, steepest, edges }
  }

  let kept: Awaited<ReturnType<typeof picturePixels>>
  it('keeps the framing as a new viewpoint by keyboard', async () => {
    await key('Shift+K')
    await page.getByLabel('Name of the new viewpoint').fill('Shelves, straight')
    await page.keyboard.press('Enter')
    await expect.poll(names).toContain('Shelves, straight')
    await page.getByText('As in “Shelves, straight”').first().waitFor()
    await pictureAt(page, 'all')
    kept = await picturePixels(page)
  })

  it('changes are marked part by part, and comes back exactly', async () => {
    const before = await saved()
    await openPanel('lens')
    await typeNumber(page, 'Focal length', '35')
    await page.getByTitle('Changed since “Shelves, straight”:').waitFor()
    expect(await page.getByTestId('cell-lens').locator('.dot').count()).toBe(1)
    expect(await page.getByTestId('cell-stand').locator('.dot').count()).toBe(0)
    await page.getByTitle('Recall “Hall, east”').click()
    await expect.poll(async () => (await saved()).recalledId).toBe('view-1')
    expect((await saved()).leftBehind).toHaveLength(1)
    await page.getByTitle('Recall “Shelves, straight”').click()
    await expect.poll(async () => (await saved()).working).toEqual(before.working)
    await pictureAt(page, 'all')
    expect(meanDifference(await picturePixels(page), kept)).toBeLessThan(0.5)
  })

  it('takes back what was left behind; puts back; keeps into the viewpoint with K', async () => {
    await page.getByRole('button', { name: /Left behind/ }).click()
    await page.getByText('from “Shelves, straight”').click()
    await expect.poll(async () => (await saved()).working.lens.focalMm).toBe(35)
    await putBack()
    await expect.poll(async () => (await saved()).working.lens.focalMm).toBe(24)
    await openPanel('lens')
    await typeNumber(page, 'Focal length', '28')
    await key('k')
    expect(await page.getByTestId('cell-lens').getAttribute('aria-pressed')).toBe('true')
    expect(await page.getByTestId('cell-stand').getAttribute('aria-pressed')).toBe('false')
    await key('k')
    const d = await saved()
    expect(d.viewpoints.find((v) => v.name === 'Shelves, straight')!.parts.lens!.focalMm).toBe(28)
    await key('Control+z')
    await expect
      .poll(async () => (await saved()).viewpoints.find((v) => v.name === 'Shelves, straight')!.parts.lens!.focalMm)
      .toBe(24)
    // undo never moves the camera
    expect((await saved()).working.lens.focalMm).toBe(28)
    await putBack()
  })

  it('renames, reorders by drag and by keys, deletes with undo', async () => {
    await page.getByTitle('Recall “Potting bay”').focus()
    await page.keyboard.press('F2')
    await page.getByLabel('Name of the viewpoint').fill('Bay, plants')
    await page.keyboard.press('Enter')
    await expect.poll(names).toContain('Bay, plants')
    const first = await names()
    await page.getByTitle(`Recall “${first[1]}”`).focus()
    await page.keyboard.press('Alt+ArrowLeft')
    await expect.poll(names).toEqual([first[1], first[0], ...first.slice(2)])
    const a = (await page.getByTitle(`Recall “${first[1]}”`).boundingBox())!
    await page.mouse.move(a.x + 40, a.y + 30)
    await page.mouse.down()
    await page.waitForTimeout(120)
    await page.mouse.move(a.x + 120, a.y + 30, { steps: 10 })
    await page.mouse.move(a.x + 190, a.y + 30, { steps: 10 })
    await page.waitForTimeout(250)
    await page.mouse.up()
    await expect.poll(names).toEqual(first)
    await page.getByTitle('Recall “Bay, plants”').focus()
    await page.keyboard.press('Delete')
    await expect.poll(names).not.toContain('Bay, plants')
    await page.getByRole('button', { name: 'Undo' }).last().click()
    await expect.poll(names).toEqual(first)
  })

  it('handles: ring moves the station alone, edge changes the focal length, Side the eye height; arrows nudge', async () => {
    const before = (await saved()).working
    await drag(page, await middle(page, 'plan-edge-0'), { x: 6, y: -8 })
    await expect.poll(async () => (await saved()).working.lens.focalMm).not.toBe(before.lens.focalMm)
    await key('[')
    await drag(page, await middle(page, 'side-eye'), { x: 0, y: -6 })
    await expect
      .poll(async () => (await saved()).working.stand.station[2])
      .toBeGreaterThan(before.stand.station[2] + 0.1)
    await key('[')
    const ring = await middle(page, 'plan-ring')
    await drag(page, { x: ring.x + 14, y: ring.y }, { x: 10, y: 0 })
    await expect
      .poll(async () => (await saved()).working.stand.station[0])
      .toBeGreaterThan(before.stand.station[0] + 0.2)
    expect((await saved()).working.stand.aim).toEqual({ ...before.stand.aim, topBearingDeg: expect.any(Number) })
    await key('[')
    await page.getByTestId('plan-station').focus()
    await page.keyboard.press('ArrowUp')
    await expect
      .poll(async () => (await saved()).working.stand.station[1])
      .toBeCloseTo(before.stand.station[1] + 0.01, 9)
    await key('[')
    await expect.poll(async () => (await saved()).working).toEqual(before)
  })

  it('a locked part refuses a drag and a recall, visibly', async () => {
    await openPanel('stand')
    await page.getByRole('button', { name: 'Lock Stand' }).click()
    const before = (await saved()).working.stand
    await drag(page, await middle(page, 'picture'), { x: 60, y: 0 })
    await page.getByText('Stand locked: unlock to change.').waitFor()
    await page.getByTitle('Recall “Hall, west”').click()
    await page.getByText('Locked and kept as it was: stand.').waitFor()
    expect((await saved()).working.stand).toEqual(before)
    await page.getByRole('button', { name: 'Unlock Stand' }).click()
    await key('[')
  })

  it('overlays, theme, help and the command list by keyboard', async () => {
    await key('v')
    await expect.poll(() => page.getByTestId('picture-overlay').count()).toBe(0)
    await key('v')
    await page.getByTestId('picture-overlay').waitFor()
    await page.keyboard.press('Control+k')
    await page.getByLabel('Search the commands').fill('day night')
    await page.keyboard.press('Enter')
    expect(await page.locator('html').getAttribute('data-theme')).toBe('night')
    // what was chosen last stands on top; Home and End go to the ends; viewpoints and presets have names there
    await page.keyboard.press('Control+k')
    await page.getByRole('option').first().waitFor()
    expect(await page.getByRole('option').first().textContent()).toContain('Day or night')
    await page.keyboard.press('End')
    expect(await page.getByRole('option').last().getAttribute('aria-selected')).toBe('true')
    await page.getByLabel('Search the commands').fill('recall bay')
    await page.keyboard.press('Enter')
    await expect
      .poll(async () => (await saved()).viewpoints.find((v) => v.name === 'Bay, plants')!.id)
      .toBe((await saved()).recalledId)
    await page.keyboard.press('F1')
    await page.getByRole('dialog', { name: 'Keys and help' }).waitFor()
    await page.keyboard.press('Escape')
    await page.getByRole('dialog', { name: 'Keys and help' }).waitFor({ state: 'hidden' })
    await page.getByRole('button', { name: 'Day theme' }).click()
  })

  it('finds all as it was after a reload', async () => {
    const before = await saved()
    await page.reload()
    await pictureAt(page, 1)
    expect(await doc()).toEqual(before)
    expect(await names()).toContain('Shelves, straight')
    const { place, of } = trailPlace(before.trail, before.trail.at)
    expect(await page.getByTitle(/Earlier positions/).textContent()).toContain(`${place} of ${of}`)
  })

  it('logged no error in all that time', () => expect(stand.errors).toEqual([]))
})

// The Photograph view as its user goes through it: bring in, draw, solve, measure, stand there, finish.
import { readFileSync } from 'node:fs'
import type { Page } from 'playwright-core'
import { PNG } from 'pngjs'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { DEMO_IDS } from '../../scripts/demo-data/seed.ts'
import { dropFiles, openStand, pictureAt, type Stand } from '../support/browser.ts'

interface Truth {
  readonly file: string
  readonly widthPx: number
  readonly truth: { readonly focalPx: number; readonly station: readonly number[]; readonly bearingDeg: number }
}
const FOLDER = 'scripts/demo-data/photos'
const TRUTHS = JSON.parse(readFileSync(`${FOLDER}/truth.json`, 'utf8')) as Truth[]
const site = TRUTHS.find((t) => t.file === 'site-visit.jpg')!

let stand: Stand
let page: Page
const open = async (): Promise<void> => {
  await page.goto(`${stand.server.url}/project/${DEMO_IDS.hall}/photograph`)
  await page.locator('[data-testid=photo-canvas][data-ready=yes]').waitFor()
}
const value = async (name: string): Promise<string> =>
  page
    .locator('.item')
    .filter({ has: page.getByText(name, { exact: true }) })
    .locator('.value')
    .innerText()
const rms = async (): Promise<number> => Number(/([\d.]+) px/.exec(await page.getByTestId('rms').innerText())?.[1])
const photoPoint = async (x: number, y: number): Promise<{ x: number; y: number }> => {
  const box = (await page.getByTestId('photograph').boundingBox())!
  const k = Math.min((box.width - 28) / 2400, (box.height - 28) / 1600)
  return { x: box.x + (box.width - 2400 * k) / 2 + x * k, y: box.y + (box.height - 1600 * k) / 2 + y * k }
}

beforeAll(async () => {
  stand = await openStand({ demo: true })
  page = await stand.page({ samples: 4 })
}, 120_000)
afterAll(async () => {
  expect(stand.errors.filter((e) => !/status of 4/.test(e))).toEqual([])
  await stand.end()
})

describe('the demo’s photograph', () => {
  it('is solved as it is opened: focal length within 0.5 %, station within 3 cm of the truth', async () => {
    await open()
    await page.getByTestId('rms').waitFor()
    const focal = Number((await value('Focal length')).split(' ')[0]!)
    expect(Math.abs(focal / ((site.truth.focalPx * 36) / site.widthPx) - 1)).toBeLessThan(0.005)
    const place = (await value('Station')).split(/[,±]/).slice(0, 3).map(Number)
    const off = Math.hypot(...place.map((v, i) => v - site.truth.station[i]!))
    expect(off).toBeLessThan(0.03)
    expect(await rms()).toBeLessThan(1.5)
  })
  it('an end that is dragged changes the answer while the hand is moving; Esc lets it go, letting go keeps it, undo brings it back', async () => {
    const before = await page.getByTestId('rms').innerText()
    const grip = (await page.locator('circle.grip').first().boundingBox())!
    const at = { x: grip.x + grip.width / 2, y: grip.y + grip.height / 2 }
    await page.mouse.move(at.x, at.y)
    await page.mouse.down()
    await page.mouse.move(at.x + 9, at.y + 14, { steps: 4 })
    await page.getByTestId('loupe').waitFor()
    await expect.poll(rms).toBeGreaterThan(Number(/([\d.]+) px/.exec(before)![1]) * 1.2)
    await page.keyboard.press('Escape')
    await page.mouse.up()
    const same = (): Promise<boolean> => page.getByTestId('rms').innerText().then((t) => t.split('px')[0] === before.split('px')[0]) // prettier-ignore
    await expect.poll(same).toBe(true)
    await page.mouse.move(at.x, at.y)
    await page.mouse.down()
    await page.mouse.move(at.x + 9, at.y + 14, { steps: 4 })
    await page.mouse.up()
    await page.getByTestId('weakest').waitFor()
    expect(await page.getByTestId('weakest').innerText()).toMatch(/disagrees: without it rms/)
    await page.keyboard.press('Control+z')
    await expect.poll(same).toBe(true)
  })
  it('edges are found, and a bundle of them is taken by a click', async () => {
    await page.getByRole('button', { name: /^Find edges/ }).click()
    await page.locator('[data-took-ms]').waitFor({ timeout: 60_000 })
    const rows = await page.getByTestId('residuals').locator('li').count()
    await page.locator('.offers .likely').first().click()
    await expect.poll(() => page.getByTestId('residuals').locator('li').count()).toBeGreaterThan(rows + 3)
    await page.keyboard.press('Control+z')
    await expect.poll(() => page.getByTestId('residuals').locator('li').count()).toBe(rows)
  })
  it('the model lies over it, within two pixels of the photograph’s edges; stood there it is the frame’s picture, and a still has it behind', async () => {
    await page.getByRole('button', { name: 'Stand here' }).click()
    await page.waitForURL(/\/project\/[^/]+$/)
    await pictureAt(page, 'all')
    const doc = (await page.evaluate(async () => (await fetch(location.pathname.replace('/project/', '/api/projects/'))).json())) as { document?: unknown } // prettier-ignore
    expect(doc.document).toBeTruthy()
    await page.getByTestId('cell-look').click()
    expect(await page.getByRole('radio', { name: 'photo' }).getAttribute('aria-checked')).toBe('true')
    await page.getByTestId('cell-frame').click()
    const download = page.waitForEvent('download', { timeout: 600_000 })
    await page.keyboard.press('Control+s')
    const png = PNG.sync.read(readFileSync(await (await download).path()))
    expect([png.width, png.height]).toEqual([2400, 1600])
  })
})

describe('bad files', () => {
  it('are refused in words; the photographs stay', async () => {
    await open()
    const notice = page.locator('[role=status], [role=alert]')
    const jpeg = readFileSync(`${FOLDER}/${site.file}`)
    await dropFiles(page, '.view', [{ name: 'notes.jpg', buffer: Buffer.from('this is no picture') }])
    await notice.filter({ hasText: 'no picture that is read here' }).waitFor()
    await dropFiles(page, '.view', [{ name: 'half.jpg', buffer: jpeg.subarray(0, jpeg.length / 2) }])
    await notice.filter({ hasText: 'cut off' }).waitFor()
    await dropFiles(page, '.view', [{ name: 'empty.png', buffer: Buffer.alloc(0) }])
    await notice.filter({ hasText: 'empty' }).waitFor()
    await dropFiles(page, '.view', [{ name: 'hall.glb', buffer: Buffer.from('glTF') }])
    await notice.filter({ hasText: 'Only photographs are taken here' }).waitFor()
    expect(await page.locator('a.photo').count()).toBe(TRUTHS.length)
  })
  it('a photograph that is taken out while it stands behind the frame says so, and undo brings it back with its lines', async () => {
    await page.getByRole('button', { name: 'Take out', exact: true }).first().click()
    await page.locator('[role=status], [role=alert]').filter({ hasText: 'It stood behind this framing' }).waitFor()
    await page.getByRole('button', { name: 'Undo' }).last().click()
    await expect.poll(() => page.locator('a.photo').count()).toBe(TRUTHS.length)
    await open()
    await page.getByTestId('rms').waitFor()
    expect(await photoPoint(0, 0)).toBeTruthy()
  })
})

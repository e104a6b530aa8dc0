// The Walk view as its user goes through it: a reel in one command, played, scrubbed by keys, judged, its numbers changed, its path saved.
import { readFileSync } from 'node:fs'
import type { Page } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { DEMO_IDS } from '../../scripts/demo-data/seed.ts'
import { numberIn, openStand, typeNumber, type Stand } from '../support/browser.ts'

let stand: Stand
let page: Page
beforeAll(async () => {
  stand = await openStand({ demo: true })
  page = await stand.page({ samples: 2 })
}, 120_000)
afterAll(async () => {
  expect(stand.errors).toEqual([])
  await stand.end()
})
const time = async (): Promise<readonly [string, string]> =>
  (await page.getByTestId('timecode').innerText()).split(' / ') as unknown as readonly [string, string]
const download = async (button: string): Promise<string> => {
  const saved = page.waitForEvent('download')
  await page.getByRole('button', { name: button, exact: true }).click()
  return readFileSync(await (await saved).path(), 'utf8')
}

describe('a turntable of the lamp', () => {
  it('is made by one command, loops, has no findings, and is drawn', async () => {
    await page.goto(`${stand.server.url}/project/${DEMO_IDS.lamp}/walk`)
    await page.getByText('Begin a reel at the left', { exact: false }).waitFor()
    await page.getByRole('button', { name: 'Turntable', exact: true }).click()
    await page.locator('[data-testid=film-canvas][data-sample]').waitFor({ timeout: 60_000 })
    expect(await time()).toEqual(['00:00:00:00', '00:00:10:00'])
    expect(await page.getByTestId('comfort').innerText()).toMatch(/nothing found/)
    await page.locator('[data-testid=film-canvas][data-sample="2"]').waitFor({ timeout: 60_000 })
    expect(await page.evaluate(`document.querySelector('[data-testid=film-canvas]').width > 300`)).toBe(true)
  })
  it('plays in real time, stops by Space, goes by frames and to its ends by keys', async () => {
    await page.getByRole('button', { name: 'Play', exact: true }).click()
    const begun = Date.now()
    await page.waitForTimeout(1500)
    await page.keyboard.press('Space')
    const lasted = (Date.now() - begun) / 1000
    const [, , s, f] = (await time())[0].split(':').map(Number) as [number, number, number, number]
    expect(Math.abs(s + f / 25 - lasted)).toBeLessThan(0.7)
    await page.getByTestId('ruler').focus()
    await page.keyboard.press('Home')
    await page.keyboard.press('ArrowRight')
    await page.keyboard.press('ArrowRight')
    await page.keyboard.press('PageDown')
    expect((await time())[0]).toBe('00:00:01:02')
    await page.keyboard.press('End')
    expect((await time())[0]).toBe('00:00:10:00')
  })
  it('once round too fast is found; the number is an edit that undo takes back; what is nought is refused', async () => {
    await typeNumber(page, 'Lasts', '0')
    expect(await numberIn(page, 'Lasts')).toBe(10)
    await typeNumber(page, 'Lasts', '3')
    await expect.poll(() => page.getByTestId('comfort').innerText()).toMatch(/Once round in 3\.0 s/)
    await page.getByTestId('ruler').focus()
    await page.keyboard.press('Control+z')
    await expect.poll(() => page.getByTestId('comfort').innerText()).toMatch(/nothing found/)
  })
  it('its path goes out as a table and as an animation, and after a reload it is still there', async () => {
    const rows = (await download('Path as CSV')).trimEnd().split('\r\n')
    expect(rows).toHaveLength(251)
    const [first, quarter] = [rows[1]!, rows[1 + 63]!].map((r) => r.split(',').map(Number))
    // once round in 250 frames
    expect((((quarter![5]! - first![5]!) % 360) + 360) % 360).toBeCloseTo((63 / 250) * 360, 4)
    const gltf = JSON.parse(await download('as glTF')) as { accessors: { count: number }[] }
    expect(gltf.accessors[0]!.count).toBe(250)
    await expect.poll(() => page.getByTestId('save-state').textContent(), { timeout: 30_000 }).toMatch(/^Saved/)
    await page.reload()
    await page.getByTestId('reels').getByRole('button', { name: 'Turntable' }).waitFor()
    expect((await time())[1]).toBe('00:00:10:00')
  })
})

describe('a reel of the hall’s viewpoints', () => {
  it('pushes from one to the next: findings lead to their place; a deleted viewpoint is named and the rest plays', async () => {
    await page.goto(`${stand.server.url}/project/${DEMO_IDS.hall}/walk`)
    await page.getByRole('button', { name: 'Push from one to the next' }).click()
    await page.locator('[data-testid=film-canvas][data-sample]').waitFor({ timeout: 90_000 })
    const finding = page.getByTestId('comfort').locator('li').first()
    await finding.waitFor()
    await finding.getByRole('button').click()
    expect((await time())[0]).not.toBe('00:00:00:00')
    const whole = (await time())[1]
    await page.getByRole('button', { name: 'Once more' }).click()
    await expect.poll(async () => (await time())[1]).not.toBe(whole)
    await page.keyboard.press('Control+z')
    await expect.poll(async () => (await time())[1]).toBe(whole)
    await page.getByRole('link', { name: 'Frame' }).click()
    await page.getByRole('button', { name: 'More for Hall, west' }).click()
    await page.getByRole('menuitem', { name: 'Delete' }).click()
    await page.getByRole('link', { name: 'Walk' }).click()
    await expect.poll(() => page.getByTestId('reel-faults').innerText()).toMatch(/needs a viewpoint that is no longer there/) // prettier-ignore
    await expect.poll(async () => (await time())[1]).not.toBe(whole)
  }, 180_000)
})

// What is dragged shows its effect in the picture before it is let go, and Esc leaves everything as it was.
import { afterAll, beforeAll, expect, it } from 'vitest'
import type { Page } from 'playwright-core'
import { drag, meanDifference, middle, openStand, pictureAt, picturePixels, type Stand } from '../support/browser.ts'

let stand: Stand
let page: Page
beforeAll(async () => {
  stand = await openStand({ demo: true })
  page = await stand.page({ width: 1120, height: 500 })
  await page.goto(`${stand.server.url}/project/demo-hall`)
  await pictureAt(page, 'all')
})
afterAll(() => stand.end())

/** The picture as a drag that holds still shows it. */
const held = async () => {
  await page.waitForTimeout(400)
  await pictureAt(page, 1)
  return picturePixels(page)
}
const finished = async () => {
  await pictureAt(page, 'all')
  return picturePixels(page)
}
/** Mean of all colour values, levels of 255. */
const mean = (p: { data: Uint8Array }): number => meanDifference(p, { data: new Uint8Array(p.data.length) })
const label = async (name: string) => {
  const box = (await page.locator('label', { hasText: name }).first().boundingBox())!
  return { x: box.x + 8, y: box.y + box.height / 2 }
}

it('an object dragged in Plan moves in the picture; Esc puts it back', async () => {
  const before = await finished()
  const box = (await page.getByTestId('picture').boundingBox())!
  await page.mouse.click(box.x + box.width * 0.5, box.y + box.height * 0.7)
  const handle = await middle(page, 'plan-object')
  await drag(page, handle, { x: 0, y: 12 }, { release: false })
  expect(meanDifference(await held(), before)).toBeGreaterThan(2)
  await page.keyboard.press('Escape')
  await page.mouse.up()
  expect(meanDifference(await finished(), before)).toBeLessThan(0.05)
  expect((await stand.server.projects.open('demo-hall')).document.models[0]!.moved).toEqual([])
}, 60_000)

it('a sun switched off takes its light along, and undo brings it back: on surfaces that it does not reach too', async () => {
  const before = await finished()
  await page.getByTestId('cell-look').click()
  await page.getByRole('checkbox', { name: 'Sun' }).uncheck()
  await expect.poll(async () => mean(before) - mean(await finished()), { timeout: 40_000 }).toBeGreaterThan(20)
  await page.keyboard.press('Control+z')
  await expect.poll(async () => meanDifference(await finished(), before), { timeout: 40_000 }).toBeLessThan(0.05)
}, 90_000)

it('exposure and cut dragged by their labels are seen at once, and are one edit', async () => {
  const before = await finished()
  await page.getByTestId('cell-exposure').click()
  await drag(page, await label('Brighter by'), { x: 45, y: 0 }, { release: false })
  const bright = await held()
  expect(meanDifference(bright, before)).toBeGreaterThan(15)
  await page.mouse.up()
  expect(Math.abs(mean(await finished()) - mean(bright))).toBeLessThan(8)
  await page.keyboard.press('Control+z')
  expect(meanDifference(await finished(), before)).toBeLessThan(0.05)
  await page.getByTestId('cell-cut').click()
  await page.getByRole('checkbox', { name: 'Far cut' }).check()
  await finished()
  const far = page.locator('label', { hasText: 'Far at' })
  const at = (await far.boundingBox())!
  await drag(page, { x: at.x + 8, y: at.y + 8 }, { x: -240, y: 0 }, { release: false })
  expect(meanDifference(await held(), before)).toBeGreaterThan(5)
  await page.keyboard.press('Escape')
  await page.mouse.up()
  expect(stand.errors).toEqual([])
}, 90_000)

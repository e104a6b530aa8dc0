import { openStand, pictureAt } from '../../tests/support/browser.ts'
const s = await openStand({ demo: true })
const page = await s.page()
page.setDefaultTimeout(8000)
const step = async (name: string, f: () => Promise<unknown>) => { try { console.log(name, JSON.stringify(await f())) } catch (e) { console.log('FAIL', name, String(e).slice(0, 250)) } }
await page.goto(`${s.server.url}/project/demo-hall`)
await pictureAt(page, 4)
await page.getByText('Ground floor').first().waitFor({ timeout: 30_000 })
await step('upright', async () => {
  await page.getByTestId('cell-cut').click()
  await page.getByRole('button', { name: 'Upright' }).click()
  await pictureAt(page, 4)
  await page.waitForTimeout(500)
})
await page.screenshot({ path: '/tmp/c1.png' })

await step('hatched box', async () => {
  await page.getByRole('button', { name: /^Take out cut A/ }).click()
  await page.getByRole('button', { name: 'Box' }).click()
  await page.getByRole('radio', { name: 'hatched' }).click()
  await pictureAt(page, 4); await page.waitForTimeout(500)
})
await page.screenshot({ path: '/tmp/c3.png' })
await step('section', async () => {
  await page.getByRole('button', { name: /^Take out cut A/ }).click()
  await page.getByRole('button', { name: 'Section here' }).click()
  const r = (await page.getByTestId('picture').boundingBox())!
  await page.mouse.click(r.x + r.width * 0.55, r.y + r.height * 0.6)
  await page.waitForTimeout(800)
  await page.getByRole('radio', { name: 'own' }).click()
  await pictureAt(page, 4); await page.waitForTimeout(300)
  return page.locator('.notices').allInnerTexts()
})
await page.screenshot({ path: '/tmp/c4.png' })
console.log(s.errors)
await s.end(); process.exit(0)

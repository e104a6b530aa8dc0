import { openStand, pictureAt, typeNumber } from '../../tests/support/browser.ts'
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
await step('plan', async () => {
  await page.getByRole('button', { name: 'Plan of this storey' }).click()
  await pictureAt(page, 4)
  await page.waitForTimeout(500)
})
await page.screenshot({ path: '/tmp/c2.png' })
console.log(s.errors)
await s.end(); process.exit(0)

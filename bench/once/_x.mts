import { openStand, pictureAt, drag, middle } from '../../tests/support/browser.ts'
const stand = await openStand({ demo: true })
const page = await stand.page(); page.setDefaultTimeout(8000)
await page.goto(stand.server.url); await page.getByRole('link', { name: /Saltmarsh/ }).first().click(); await pictureAt(page, 1); await page.waitForTimeout(7000)
await page.getByRole('tab', { name: 'Views' }).click(); await page.waitForTimeout(6000)
const m = await middle(page, 'picture')
await drag(page, { x: m.x, y: m.y - 150 }, { x: 10, y: 290 }); await page.waitForTimeout(1500); await pictureAt(page, 1)
await page.screenshot({ path: '/tmp/views.png' })
await page.getByRole('button', { name: 'Tilt instead' }).click(); await page.waitForTimeout(500); await pictureAt(page, 2)

await page.screenshot({ path: '/tmp/place2.png' })
console.log(stand.errors)
await stand.end()

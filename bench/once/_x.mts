import { openStand, pictureAt } from '../../tests/support/browser.ts'
const stand = await openStand({ demo: true })
for (const [w,h] of [[853,533],[1100,700]] as const) {
const page = await stand.page({ width: w, height: h }); page.setDefaultTimeout(8000)
await page.goto(stand.server.url); await page.getByRole('link', { name: /Saltmarsh/ }).first().click(); await pictureAt(page, 1); await page.waitForTimeout(7500)
if (w===1100) { await page.getByRole('radio',{name:'medium'}).click(); await page.keyboard.press('Shift+K'); await page.waitForTimeout(300); await page.screenshot({ path: `/tmp/w${w}k.png` }); await page.keyboard.press('Escape'); await page.waitForTimeout(300) }
await page.keyboard.press('Control+s'); await page.waitForTimeout(4600);  await page.screenshot({ path: `/tmp/w${w}.png` })
await page.context().close()
}
console.log(stand.errors)
await stand.end()

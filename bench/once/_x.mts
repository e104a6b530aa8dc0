import { openStand, pictureAt } from '../../tests/support/browser.ts'
import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
const src = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8')
const stand = await openStand({ demo: true })
const page = await stand.page(); page.setDefaultTimeout(8000)
async function axe(where: string) {
  await page.evaluate(src)
  const r = await page.evaluate(`axe.run(document, { resultTypes: ['violations'] })`) as any
  for (const v of r.violations) console.log(where, v.impact, v.id, v.nodes.length, v.nodes.slice(0,6).map((n: any) => n.html.slice(0,170) + ' >> ' + (n.any[0]?.message ?? n.all[0]?.message ?? '').slice(0,160)).join('\n      '))
}
for (const theme of ['day','night']) {
  await page.addInitScript(`localStorage.setItem('yoroi.theme','${theme}')`)
  await page.goto(stand.server.url); await page.waitForTimeout(800)
  await axe('projects '+theme)
  await page.getByRole('link', { name: /Saltmarsh/ }).first().click(); await pictureAt(page, 1); await page.waitForTimeout(6000)
  await axe('frame '+theme)
  for (const c of ['lens','frame','cut','focus','exposure','visible','look']) { await page.getByTestId('cell-'+c).click(); await page.waitForTimeout(300); await axe(c+' '+theme) }
  await page.getByTestId('cell-stand').click()
  for (const t of ['Straighten','Fit','Views']) { await page.getByRole('tab',{name:t}).click(); await page.waitForTimeout(300); await axe(t+' '+theme) }
  await page.getByRole('button', { name: 'Models', exact: true }).click(); await page.waitForTimeout(300); await axe('models '+theme)
  await page.keyboard.press('Control+k'); await page.waitForTimeout(400); await axe('commands '+theme); await page.keyboard.press('Escape'); await page.waitForTimeout(300)
  await page.keyboard.press('F1'); await page.waitForTimeout(400); await axe('help '+theme); await page.keyboard.press('Escape'); await page.waitForTimeout(300)
  await page.keyboard.press('o'); await page.waitForTimeout(1500); await axe('outside '+theme); await page.keyboard.press('Escape')
}
console.log(stand.errors)
await stand.end()

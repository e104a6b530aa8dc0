import { openStand, pictureAt } from '../../tests/support/browser.ts'
const stand = await openStand({ demo: true })
const page = await stand.page({ samples: 1 })
for (const id of ['demo-hall', 'demo-lamp']) {
  await page.goto(`${stand.server.url}/project/${id}`)
  await pictureAt(page, 1)
  const { viewpoints } = (await stand.server.projects.open(id)).document
  for (const v of viewpoints) {
    await page.getByRole('button', { name: new RegExp(v.name) }).first().click().catch((e) => console.log(v.name, String(e).slice(0, 80)))
    await page.waitForTimeout(1800)
    console.log(id, v.name, await page.locator('[data-testid^=finding-]').evaluateAll((l) => l.map((e) => e.getAttribute('data-testid')!.slice(8) + ': ' + e.querySelector('.what span')!.textContent)))
  }
}
console.log(stand.errors)
await stand.end()

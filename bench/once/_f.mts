import { readdirSync, readFileSync, statSync } from 'node:fs'
import { openStand, dropFiles, pictureAt } from '../../tests/support/browser.ts'
const A = '/tmp/foreign/deb/usr/share/assimp/models/glTF2/'
const P = '/tmp/foreign/package/dist/profiles/'
const stand = await openStand({ demo: false })
const page = await stand.page()
page.setDefaultTimeout(8000)
const sets: Record<string, string[]> = {
  transform: readdirSync(A + 'textureTransform').map((f) => A + 'textureTransform/' + f),
  transmission: [P + 'magicleap-two/none.glb'],
  uneven: [P + 'oculus-touch-v2/right.glb'],
}
for (const [name, files] of Object.entries(sets)) {
  await page.goto(stand.server.url)
  await page.waitForTimeout(500)
  await dropFiles(page, '.page', files.filter((f) => statSync(f).isFile()).map((f) => ({ name: f.split('/').pop()!, buffer: readFileSync(f) })))
  await page.getByRole('dialog').getByRole('button', { name: /^(Bring in|New|Create|Open|Use)/ }).last().click({ timeout: 20000 }).catch(async (e) => { console.log('no button', e.message.slice(0, 200)); await page.screenshot({ path: '/tmp/shots/no.png' }) })
  await page.waitForURL(/project/, { timeout: 30000 })
  await pictureAt(page, 'all')
  await page.waitForTimeout(500)
  await page.screenshot({ path: `/tmp/shots/${name}.png` })
  console.log(name, page.url(), stand.errors.splice(0))
}
await stand.end()

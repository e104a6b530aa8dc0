// How near the first full frame comes to the finished one: mean difference in levels, six viewpoints of the hall.
import { meanDifference, openStand, pictureAt, picturePixels } from '../../tests/support/browser.ts'
const stand = await openStand({ demo: true })
const page = await stand.page({ width: 1280, height: 800 })
await page.goto(`${stand.server.url}/project/demo-hall`)
await pictureAt(page, 'all')
const grab = `(() => { const c = document.querySelector('[data-testid=picture-canvas]'); const seen = {}; window.seen = seen;
  const take = (k) => { if (seen[k]) return; const o = new OffscreenCanvas(c.width, c.height); o.getContext('2d').drawImage(c, 0, 0); seen[k] = o };
  new MutationObserver(() => { const n = c.dataset.sample; if (n === '1') take('first') }).observe(c, { attributes: true }) })()`
const read = (k: string) =>
  page.evaluate((k) => {
    const c = (window as never as { seen: Record<string, OffscreenCanvas> }).seen[k]
    if (!c) return null
    const { data } = c.getContext('2d')!.getImageData(0, 0, c.width, c.height)
    let s = ''
    for (let i = 0; i < data.length; i += 0x8000) s += String.fromCharCode(...data.subarray(i, i + 0x8000))
    return { width: c.width, height: c.height, base64: btoa(s) }
  }, k)
let sum = 0
const names = ['Drawer wall', 'Hall, west', 'Lamp on', 'From the gallery', 'Potting bay', 'Hall, east']
for (const name of names) {
  await page.evaluate(grab)
  const t = Date.now()
  await page.getByTestId('viewpoint').filter({ hasText: name }).getByRole('button').first().click()
  await pictureAt(page, 1)
  const took = Date.now() - t
  await pictureAt(page, 'all')
  const all = await picturePixels(page)
  const f = await read('first')
  if (!f) throw new Error(`no first frame of ${name}`)
  const first = { width: f.width, height: f.height, data: Uint8Array.from(Buffer.from(f.base64, 'base64')) }
  const mean = (p: { data: Uint8Array }) => meanDifference(p, { data: new Uint8Array(p.data.length) })
  const d = meanDifference(first, all)
  sum += d
  console.log(name, took, 'ms; diff', d.toFixed(2), 'mean', mean(first).toFixed(1), mean(all).toFixed(1))
}
await stand.end()
console.log((sum / names.length).toFixed(2))

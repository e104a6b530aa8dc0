// Edges of a large photograph, and how a line's end that is dragged is answered.
import { readFileSync } from 'node:fs'
import { dropFiles, middle, openStand } from '../tests/support/browser.ts'
import { DEMO_IDS } from '../scripts/demo-data/seed.ts'
import { median, ms, type Row } from './harness.ts'

const MOVES = 120
const FILE = 'scripts/demo-data/photos/site-visit.jpg'

/** Twelve megapixels: edges found and bundled in the worker; then an end dragged for two seconds, each frame's answer counted. */
export async function photograph(): Promise<Row[]> {
  const stand = await openStand({ demo: true })
  const page = await stand.page()
  await page.goto(`${stand.server.url}/project/${DEMO_IDS.hall}/photograph`)
  await page.getByTestId('photo-canvas').waitFor()
  // the demo's photograph, drawn to 4240 x 2827, with the noise of a sensor
  const base64 = (await page.evaluate(
    `(async () => {
      const bytes = Uint8Array.from(atob('${readFileSync(FILE).toString('base64')}'), (c) => c.charCodeAt(0))
      const small = await createImageBitmap(new Blob([bytes]))
      const paper = new OffscreenCanvas(4240, 2827).getContext('2d')
      paper.imageSmoothingQuality = 'high'
      paper.drawImage(small, 0, 0, 4240, 2827)
      const image = paper.getImageData(0, 0, 4240, 2827)
      let s = 1
      for (let i = 0; i < image.data.length; i++) {
        s = (Math.imul(s, 1664525) + 1013904223) >>> 0
        if (i % 4 !== 3) image.data[i] += (s >>> 24) / 16 - 8
      }
      paper.putImageData(image, 0, 0)
      const blob = await paper.canvas.convertToBlob({ type: 'image/jpeg', quality: 0.9 })
      let text = ''
      for (const b of new Uint8Array(await blob.arrayBuffer())) text += String.fromCharCode(b)
      return btoa(text)
    })()`,
  )) as string
  await dropFiles(page, '.view', [{ name: 'large.jpg', buffer: Buffer.from(base64, 'base64') }])
  await page.getByRole('link', { name: 'large.jpg' }).waitFor()
  await page.locator('[data-testid=photo-canvas][data-ready=yes]').waitFor({ timeout: 60_000 })
  const find = page.getByRole('button', { name: /^Find edges/ })
  await find.click()
  const found = page.locator('[data-took-ms]')
  await found.waitFor({ timeout: 120_000 })
  const tookMs = Number(await found.getAttribute('data-took-ms'))
  // the first photograph of the demo has its lines
  await page.getByRole('link', { name: /Site visit/ }).click()
  await page.getByTestId('rms').waitFor({ timeout: 60_000 })
  await page.locator('circle.grip').first().waitFor()
  const spot = await page.evaluate<{ x: number; y: number }>(`(() => {
    const c = document.querySelector('circle.grip').getBoundingClientRect()
    return { x: c.x + c.width / 2, y: c.y + c.height / 2 }
  })()`)
  await middle(page, 'photograph')
  await page.evaluate(`{
    window.answered = []
    window.frames = 0
    const tick = () => { window.frames++; requestAnimationFrame(tick) }
    requestAnimationFrame(tick)
    new MutationObserver(() => window.answered.push(performance.now())).observe(document.querySelector('[data-testid=answer]'), { characterData: true, childList: true, subtree: true })
  }`)
  await page.mouse.move(spot.x, spot.y)
  await page.mouse.down()
  for (let i = 0; i < MOVES; i++) {
    await page.mouse.move(spot.x + 6 * Math.sin(i / 6), spot.y + 4 * Math.cos(i / 5))
    await page.waitForTimeout(16)
  }
  await page.mouse.up()
  const times = await page.evaluate<number[]>('window.answered')
  const gaps = times.slice(1).map((t, i) => t - times[i]!)
  await stand.end()
  return [
    {
      what: 'edges of a photograph of 12 megapixels, found, refined and bundled in a worker',
      measured: ms(tookMs),
      reference: '',
      ratio: null,
      wanted: 'under 3 s',
      ok: tookMs < 3000,
    },
    {
      what: 'camera of a photograph while an end is dragged: answers, one at most for each move',
      measured: `${times.length} answers, ${median(gaps).toFixed(1)} ms apart`,
      reference: `${MOVES} moves`,
      ratio: times.length / MOVES,
      wanted: 'at least 0.9',
      ok: times.length / MOVES >= 0.9,
    },
  ]
}

// Makes the demo's photographs of the hall: finished by Yoroi itself from cameras that are written down beside them, with a lens that
// bends, noise, JPEG and tags. Run by hand when the hall changes: npx tsx scripts/demo-photos.ts (after npm run build).
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { readProjectDocument } from '#model'
import { setupFound, type SolvedCamera } from '#model/photo'
import { openStand } from '../tests/support/browser.ts'
import { withExif } from './demo-data/exif.ts'
import { DEMO_IDS } from './demo-data/seed.ts'

const FOLDER = 'scripts/demo-data/photos'
const NO_BEND = { k1: 0, k2: 0, k3: 0, p1: 0, p2: 0 }
interface Made {
  readonly file: string
  readonly widthPx: number
  readonly heightPx: number
  readonly truth: SolvedCamera
  /** Cut out of the whole, pixels. */
  readonly crop?: { readonly x: number; readonly y: number; readonly width: number; readonly height: number }
  readonly tags: { readonly focalMm: number; readonly equivalentMm: number }
}
const W = 2400
const H = 1600
const MADE: readonly Made[] = [
  {
    file: 'site-visit.jpg',
    widthPx: W,
    heightPx: H,
    // 26.1 mm on 36; the tags say 26
    truth: { focalPx: (26.1 / 36) * W, principal: [W / 2 + 6, H / 2 - 9], distortion: { ...NO_BEND, k1: -0.055 }, station: [1.3, 2.2, 1.62], bearingDeg: 71.4, tiltDeg: -2.6, rollDeg: 0.7 },
    tags: { focalMm: 17.1, equivalentMm: 26 },
  },
  {
    file: 'drawer-wall-cropped.jpg',
    widthPx: 2700,
    heightPx: 1800,
    truth: { focalPx: (23.9 / 36) * 2700, principal: [1350, 900], distortion: NO_BEND, station: [9.4, 0.9, 1.5], bearingDeg: 0, tiltDeg: 0, rollDeg: 0 },
    crop: { x: 520, y: 120, width: 2100, height: 1400 },
    tags: { focalMm: 15.7, equivalentMm: 24 },
  },
] // prettier-ignore

mkdirSync(FOLDER, { recursive: true })
const stand = await openStand({ demo: true })
const page = await stand.page({ samples: 2 })
await page.goto(stand.server.url)
await page.evaluate(() => localStorage.setItem('yoroi.stillSamples', '32'))
const res = await fetch(`${stand.server.url}/api/projects/${DEMO_IDS.hall}`)
const read = readProjectDocument(((await res.json()) as { document: unknown }).document)
if (!read.ok) throw new Error(read.message)
const told: object[] = []
for (const m of MADE) {
  const { widthPx, heightPx } = m
  const doc = read.value
  const working = {
    ...doc.working,
    ...setupFound({ widthPx, heightPx }, m.truth, { ...doc.working.frame, guides: [] }),
  }
  const id = `made-${m.file.replace(/\W/g, '-')}`
  await stand.server.projects.create({ ...doc, working }, id)
  await page.goto(`${stand.server.url}/project/${id}`)
  await page.waitForFunction(() => Number(document.querySelector('[data-testid=picture-canvas]')?.getAttribute('data-sample')) > 0, null, { timeout: 120_000 }) // prettier-ignore
  const saved = page.waitForEvent('download', { timeout: 900_000 })
  await page.keyboard.press('Control+s')
  const png = readFileSync(await (await saved).path())
  const crop = m.crop ?? { x: 0, y: 0, width: widthPx, height: heightPx }
  // a sensor's noise, more in the dark, and a moderate JPEG
  const jpeg = await page.evaluate(
    async ({ base64, crop: c }) => {
      const bytes = Uint8Array.from(atob(base64), (x) => x.charCodeAt(0))
      const whole = await createImageBitmap(new Blob([bytes]))
      const paper = new OffscreenCanvas(c.width, c.height).getContext('2d')!
      paper.drawImage(whole, -c.x, -c.y)
      const image = paper.getImageData(0, 0, c.width, c.height)
      let s = 1
      for (let i = 0; i < image.data.length; i++) {
        if (i % 4 === 3) continue
        // four even numbers together are nearly normal
        let normal = -2
        for (let k = 0; k < 4; k++) {
          s = (Math.imul(s, 1664525) + 1013904223) >>> 0
          normal += s / 4294967296
        }
        image.data[i] = image.data[i]! + normal * (3.2 + 3 * (1 - image.data[i]! / 255))
      }
      paper.putImageData(image, 0, 0)
      const blob = await paper.canvas.convertToBlob({ type: 'image/jpeg', quality: 0.86 })
      let text = ''
      for (const b of new Uint8Array(await blob.arrayBuffer())) text += String.fromCharCode(b)
      return btoa(text)
    },
    { base64: png.toString('base64'), crop },
  )
  const tags = { make: 'Made by Yoroi', model: 'Demo camera', ...m.tags, pixelWidth: widthPx, pixelHeight: heightPx }
  writeFileSync(`${FOLDER}/${m.file}`, withExif(Buffer.from(jpeg, 'base64'), tags))
  const { principal, ...truth } = m.truth
  told.push({ file: m.file, widthPx: crop.width, heightPx: crop.height, truth: { ...truth, principal: [principal[0] - crop.x, principal[1] - crop.y] } }) // prettier-ignore
  console.log(m.file)
}
writeFileSync(`${FOLDER}/truth.json`, `${JSON.stringify(told, null, 2)}\n`)
await stand.end()

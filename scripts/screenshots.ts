// npm run screenshots: renews docs/screenshots and the demo projects' covers from the built page with the demo data.
import { mkdirSync, writeFileSync } from 'node:fs'
import type { Page } from 'playwright-core'
import { openStand, pictureAt } from '../tests/support/browser.ts'
import { lampModel } from './demo-data/scenes.ts'
import { DEMO_IDS } from './demo-data/seed.ts'

const SHOTS = 'docs/screenshots'
const COVERS = 'scripts/demo-data/covers'
mkdirSync(SHOTS, { recursive: true })
mkdirSync(COVERS, { recursive: true })

const stand = await openStand({ demo: true })
const page = await stand.page({ samples: 16 })
const shot = (name: string): Promise<Buffer> => page.screenshot({ path: `${SHOTS}/${name}.png` })

/** Waits until light, picture and thumbnails are all drawn. */
async function settled(p: Page): Promise<void> {
  await p.waitForFunction(() => !document.querySelector('.foot')?.textContent?.includes('light'), null, {
    timeout: 120_000,
  })
  await pictureAt(p, 'all')
  await p.waitForFunction(
    () => [...document.querySelectorAll('.sheet canvas')].every((c) => c.getAttribute('data-drawn') === 'yes'),
    null,
    { timeout: 120_000 },
  )
  await pictureAt(p, 'all')
}
async function theme(to: 'day' | 'night'): Promise<void> {
  await page.evaluate((t) => localStorage.setItem('yoroi.theme', t), to)
}

/** The refined picture as a JPEG of 480 px. */
async function cover(id: string, file: string): Promise<void> {
  const base64 = await page.evaluate(async () => {
    const source = document.querySelector<HTMLCanvasElement>('[data-testid=picture-canvas]')!
    const c = new OffscreenCanvas(480, Math.round((480 * source.height) / source.width))
    const g = c.getContext('2d')!
    g.imageSmoothingQuality = 'high'
    g.drawImage(source, 0, 0, c.width, c.height)
    const bytes = new Uint8Array(await (await c.convertToBlob({ type: 'image/jpeg', quality: 0.88 })).arrayBuffer())
    return btoa(String.fromCharCode(...bytes))
  })
  const bytes = Buffer.from(base64, 'base64')
  writeFileSync(`${COVERS}/${file}`, bytes)
  await stand.server.projects.setCover(id, bytes, 'image/jpeg')
}

const type = async (label: string, text: string): Promise<void> => {
  await page.getByLabel(label, { exact: true }).fill(text)
  await page.getByLabel(label, { exact: true }).press('Enter')
}
const tab = (name: string) => page.getByRole('tab', { name, exact: true }).click()
const recall = (name: string) => page.getByTestId('viewpoint').filter({ hasText: name }).first().click()
async function rested(): Promise<void> {
  await page.waitForTimeout(800)
  await pictureAt(page, 'all')
}
/** Objects by their names in the list: chosen, or hidden. */
async function objects(names: readonly string[], hide: boolean): Promise<void> {
  await page.getByTestId('cell-visible').click()
  for (const name of names) {
    await page.locator('input[type=search]').fill(name)
    if (hide) await page.getByLabel(`Show ${name}`, { exact: true }).uncheck()
    else await page.locator('.visible').getByText(name, { exact: true }).first().click()
  }
  await page.locator('input[type=search]').fill('')
  await page.getByTestId('cell-stand').click()
}

/** Some things hidden and shown as ghosts, what is hidden by material. */
async function hiddenThings(name: string): Promise<void> {
  await objects(['Pendant lamp 1', 'Jars, round counter'], true)
  await page.getByTestId('cell-visible').click()
  await page.getByRole('radio', { name: 'materials' }).click()
  await page.getByTestId('picture').focus()
  await page.keyboard.press('Shift+V')
  await rested()
  await shot(name)
  await page.keyboard.press('Shift+V')
  await page.getByRole('radio', { name: 'names', exact: true }).click()
  await page.getByRole('button', { name: 'Show all' }).click()
  await page.getByTestId('cell-stand').click()
}

/** A picture that is almost level and almost square: found, and one finding shown. */
async function check(name: string): Promise<void> {
  await recall('Hall, east')
  await page.getByTestId('cell-stand').click()
  await tab('Place')
  await type('Tilt', '0.6')
  await type('Bearing', '91.2')
  await page.getByTestId('finding-almost-square').getByRole('button', { name: 'Show' }).click()
  await rested()
  await shot(name)
  await page.getByTestId('finding-almost-square').getByRole('button', { name: 'Shown' }).click()
}
/** The stair through a long lens from outside the south wall, the near cut just inside it. */
async function back(name: string): Promise<void> {
  await recall('Hall, east')
  await tab('Place')
  await type('Bearing', '0')
  await page.getByTestId('cell-lens').click()
  await type('Focal length', '85')
  await objects(['Bookshelves', 'Books'], true)
  await objects(['Stair'], false)
  await tab('Fit')
  await page.getByRole('button', { name: 'Stand back through the wall' }).click()
  await page.getByTestId('near-cut').waitFor()
  await page.getByTestId('picture').focus()
  await page.keyboard.press('Escape')
  await rested()
  await shot(name)
  await page.getByRole('button', { name: 'off', exact: true }).click()
  await page.getByTestId('picture').focus()
  await page.keyboard.press('Escape')
  // cut and hidden objects as they were, then the viewpoint
  for (let k = 0; k < 4; k++) await page.keyboard.press('Control+z')
  await recall('Hall, east')
}
/** The lamp in isometric, its axes told. */
async function views(name: string): Promise<void> {
  await tab('Views')
  await page.getByRole('button', { name: /Isometric looking north-east/ }).click()
  await rested()
  await shot(name)
}

/** The demo's photograph, solved, with the model over it as its edges. */
async function photograph(name: string): Promise<void> {
  await page.goto(`${stand.server.url}/project/${DEMO_IDS.hall}/photograph`)
  await page.locator('[data-testid=photo-canvas][data-ready=yes]').waitFor()
  await page.getByTestId('rms').waitFor()
  await page.getByRole('radio', { name: 'model', exact: true }).click()
  await page.getByRole('button', { name: 'Find edges' }).click()
  await page.locator('[data-took-ms]').waitFor({ timeout: 60_000 })
  await page.getByRole('checkbox', { name: 'Edges' }).uncheck()
  await page.waitForTimeout(15_000)
  await shot(name)
}

/** The hall's minute, half way up the stair, with its charts. */
async function walk(name: string): Promise<void> {
  await page.goto(`${stand.server.url}/project/${DEMO_IDS.hall}/walk`)
  await page.getByTestId('reels').getByRole('button', { name: 'A minute of the hall' }).click()
  await page.getByTestId('reel-ruler').getByRole('button', { name: 'Up the stair' }).click()
  await page.getByTestId('ruler').focus()
  for (let i = 0; i < 7; i++) await page.keyboard.press('PageDown')
  await page.getByRole('button', { name: 'Charts', exact: true }).click()
  await page.waitForTimeout(2000)
  await page.locator('[data-testid=film-canvas][data-sample="16"]').waitFor({ timeout: 120_000 })
  await shot(name)
}

await page.goto(`${stand.server.url}/project/${DEMO_IDS.lamp}`)
await settled(page)
await cover(DEMO_IDS.lamp, 'lamp.jpg')
await shot('lamp-day')
// its lights as the aperture's shape, with what is sharp outlined
await page
  .getByTestId('viewpoint')
  .filter({ hasText: 'Lights of the ring' })
  .first()
  .getByRole('button')
  .first()
  .click()
await page.getByTestId('cell-focus').click()
await page.getByLabel('outline what is sharp').check()
await settled(page)
await shot('focus-day')
await page.getByLabel('outline what is sharp').uncheck()
await page.getByTestId('viewpoint').first().getByRole('button').first().click()
await page.getByTestId('cell-stand').click()
await settled(page)
await views('views-day')

/** The lamp's own file, judged as if it came from outside; then cancelled. */
async function bring(name: string): Promise<void> {
  await page.getByRole('button', { name: 'Models', exact: true }).click()
  await page.getByTestId('model-file').setInputFiles({
    name: 'germination-lamp.glb',
    mimeType: 'model/gltf-binary',
    buffer: Buffer.from(lampModel().bytes),
  })
  await page.getByTestId('bring-size').waitFor()
  await page
    .getByText(/watertight/)
    .first()
    .waitFor()
  await page.waitForTimeout(600)
  await shot(name)
  await page.getByTestId('bring').getByRole('button', { name: 'Cancel' }).click()
  await page.getByTestId('cell-stand').click()
}
/** The camera seen from elsewhere, with all viewpoints. */
async function outside(name: string): Promise<void> {
  await page.getByTestId('picture').focus()
  await page.keyboard.press('o')
  await page.waitForFunction(
    () => Number(document.querySelector('[data-testid=outside-canvas]')?.getAttribute('data-sample')) >= 8,
    null,
    { timeout: 120_000 },
  )
  await shot(name)
  await page.keyboard.press('Escape')
}

/** The demo's plan, cross section and sectional perspective, each with its own look. */
async function cuts(): Promise<void> {
  await page.getByTestId('cell-cut').click()
  for (const [name, file] of [
    ['Plan at 1.20', 'plan-day'],
    ['Cross section', 'section-day'],
    ['Sectional perspective', 'sectional-day'],
  ] as const) {
    await recall(name)
    await rested()
    await shot(file)
  }
  await page.getByRole('checkbox', { name: /all cuts on/ }).uncheck()
  await recall('Hall, east')
  await page.getByTestId('cell-stand').click()
}

await page.goto(`${stand.server.url}/project/${DEMO_IDS.hall}`)
await settled(page)
await cover(DEMO_IDS.hall, 'hall.jpg')
await shot('frame-day')
await page.getByTestId('cell-lens').click()
await page.waitForTimeout(400)
await shot('lens-day')
await page.getByTestId('cell-visible').click()
const box = (await page.getByTestId('picture').boundingBox())!
await page.mouse.click(box.x + box.width * 0.5, box.y + box.height * 0.7)
await page.waitForFunction(
  () => document.querySelector('[data-testid=selection-outline]')?.getAttribute('data-drawn') === 'yes',
  null,
  { timeout: 60_000 },
)
await shot('visible-day')
await page.keyboard.press('Escape')
await page.getByTestId('cell-stand').click()
await hiddenThings('hidden-day')
await bring('bring-day')
await outside('outside-day')
await check('check-day')
await back('back-day')
await cuts()
await theme('night')
await page.reload()
await settled(page)
await page.getByTestId('cell-frame').click()
await page.waitForTimeout(400)
await shot('frame-night')
await photograph('photograph-night')
await theme('day')
await photograph('photograph-day')
await walk('walk-day')
await page.goto(stand.server.url)
await page.waitForTimeout(1200)
await shot('projects-day')
await stand.end()

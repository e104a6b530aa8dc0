// Draws on the demo's photographs as a person would, through the page (edges found, bundles taken, unknowns set free), and writes what
// is then in the project to photos/drawn.json. Points are put on corners of the model where the written camera sees them, with a hand's
// jitter. Run by hand after scripts/demo-photos.ts: npx tsx scripts/demo-drawn.ts
import { readFileSync, rmSync, writeFileSync } from 'node:fs'
import { projectPoint } from '#core/camera'
import type { Vec3 } from '#core/math'
import { loadGlb } from '#formats/scene'
import { assemble, MeshScene, pickFeature, soupOf } from '#mesh'
import { newModel, readProjectDocument } from '#model'
import { cameraFound, type SolvedCamera } from '#model/photo'
import { ALL_SHOWN } from '#core/section'
import { openStand } from '../tests/support/browser.ts'
import { hallModel } from './demo-data/scenes.ts'

const FOLDER = 'scripts/demo-data/photos'
interface Told {
  readonly file: string
  readonly widthPx: number
  readonly heightPx: number
  readonly truth: SolvedCamera
}
const PHOTOS = [
  { file: 'site-visit.jpg', name: 'Site visit', offers: [['up', 'Upright'], ['level', 'Into'], ['level', 'Across']], solve: ['Focal length', 'Distortion'], pairs: 9, turns: true },
  { file: 'drawer-wall-cropped.jpg', name: 'Drawer wall, cropped', offers: [['up', 'Upright'], ['level', 'Across'], ['level', 'Into']], solve: ['Middle'], pairs: 8, turns: false },
] as const // prettier-ignore
const told = JSON.parse(readFileSync(`${FOLDER}/truth.json`, 'utf8')) as Told[]
rmSync(`${FOLDER}/drawn.json`, { force: true })

const model = hallModel()
const placed = newModel({ id: 'model-1', name: model.fileName, sha256: '0'.repeat(64), sizeBytes: 1 })
const root = await loadGlb(model.bytes, { textures: false })
const { soup, facts } = soupOf(assemble([{ placed, root }]))
const scene = new MeshScene(soup, facts)

let s = 11
const next = (): number => {
  s = (Math.imul(s, 1664525) + 1013904223) >>> 0
  return s / 4294967296
}
const normal = (): number => Math.sqrt(-2 * Math.log(next() + 1e-12)) * Math.cos(2 * Math.PI * next())

/** Corners of the model that the camera sees, far apart in the picture. */
function corners({ widthPx, heightPx, truth }: Told, count: number): { world: Vec3; image: [number, number] }[] {
  const camera = cameraFound({ widthPx, heightPx }, truth)
  const found: { world: Vec3; at: [number, number] }[] = []
  for (let y = 0.08; y < 0.95; y += 0.03)
    for (let x = 0.05; x < 0.96; x += 0.03) {
      const hit = pickFeature(scene, camera, [x * widthPx, y * heightPx], 40, ALL_SHOWN)
      const at = hit?.feature === 'corner' ? projectPoint(camera, hit.point) : null
      if (at && at.xPx > 20 && at.yPx > 20 && at.xPx < widthPx - 20 && at.yPx < heightPx - 20) found.push({ world: hit!.point, at: [at.xPx, at.yPx] }) // prettier-ignore
    }
  // the farthest from those taken, again and again
  const taken = [found[0]!]
  while (taken.length < count) {
    const away = (f: (typeof found)[number]): number => Math.min(...taken.map((t) => Math.hypot(t.at[0] - f.at[0], t.at[1] - f.at[1]))) // prettier-ignore
    taken.push(found.reduce((best, f) => (away(f) > away(best) ? f : best)))
  }
  return taken.map(({ world, at }) => ({ world, image: [at[0] + 0.6 * normal(), at[1] + 0.6 * normal()] }))
}

const stand = await openStand({ demo: true })
const page = await stand.page()
const drawn: object[] = []
await page.goto(`${stand.server.url}/project/demo-hall/photograph`)
for (const p of PHOTOS) {
  const t = told.find((x) => x.file === p.file)!
  await page.locator('input[type=file]').setInputFiles(`${FOLDER}/${p.file}`)
  await page.getByRole('link', { name: p.file }).waitFor()
  await page.locator('[data-testid=photo-canvas][data-ready=yes]').waitFor()
  await page.getByRole('button', { name: /^Find edges/ }).click()
  await page.locator('[data-took-ms]').waitFor({ timeout: 120_000 })
  const used = new Set<number>()
  for (const [kind, to] of p.offers) {
    const rows = await page.locator('.offers li').allInnerTexts()
    const i = rows.findIndex((r, k) => !used.has(k) && r.includes(kind === 'up' ? 'upright' : 'to a side'))
    if (i < 0) throw new Error(`${p.file}: no bundle for ${to} among ${rows.join(' | ')}`)
    used.add(i)
    await page
      .locator('.offers li')
      .nth(i)
      .getByRole('button', { name: `Take as ${to}` })
      .click()
  }
  if (p.turns) await page.getByRole('button', { name: 'Turn by 90°' }).click()
  for (const name of p.solve)
    await page.getByRole('radiogroup', { name: new RegExp(`^${name}`) }).getByRole('radio', { name: 'solve' }).click() // prettier-ignore
  await page.waitForTimeout(1500)
  console.log(p.file, await page.getByTestId('answer').innerText())
  await page.waitForFunction(() => document.querySelector('[data-testid=save-state]')?.textContent?.startsWith('Saved'), null, { timeout: 20_000 }) // prettier-ignore
  const res = await fetch(`${stand.server.url}/api/projects/demo-hall`)
  const read = readProjectDocument(((await res.json()) as { document: unknown }).document)
  if (!read.ok) throw new Error(read.message)
  const { match, widthPx, heightPx } = read.value.photos!.find((x) => x.name === p.file)!
  const ids = ['into', 'across', 'up']
  const short = new Map(match.bundles.map((b, i) => [b.id, ids[i]!]))
  const tenth = (v: number): number => Math.round(v * 100) / 100
  const bundles = match.bundles.map((b, i) => ({ ...b, id: ids[i]! }))
  const lines = match.lines.map((l, i) => ({ id: `line-${i + 1}`, bundleId: short.get(l.bundleId)!, points: l.points.map((q) => q.map(tenth)) })) // prettier-ignore
  const pairs = corners(t, p.pairs).map((c, i) => ({ id: `pair-${i + 1}`, world: c.world.map((v) => Math.round(v * 1e4) / 1e4), image: c.image.map(tenth) })) // prettier-ignore
  drawn.push({
    file: p.file,
    name: p.name,
    widthPx,
    heightPx,
    match: { bundles, lines, pairs, treatments: match.treatments },
  })
}
writeFileSync(`${FOLDER}/drawn.json`, `${JSON.stringify(drawn)}\n`)
await stand.end()

// A project with 500 viewpoints, each hiding 2,000 things: how much a keep sends, how soon it is acknowledged, and how smoothly the
// contact sheet scrolls.
import { aimAt, newModel, newProject } from '#model'
import { openStand, pictureAt } from '../tests/support/browser.ts'
import { roomGlb } from '../tests/support/models.ts'
import { median, ms, type Row } from './harness.ts'

export async function projectOf500(stand: Awaited<ReturnType<typeof openStand>>): Promise<string> {
  const { Readable } = await import('node:stream')
  const body = Readable.from([Buffer.from(roomGlb())])
  const asset = await stand.server.assets.store({ body, mediaType: 'model/gltf-binary', fileName: 'room.glb' })
  const { sha256, sizeBytes } = asset
  const hidden = Array.from({ length: 2000 }, (_, i) => `room/Room/Furniture/Thing number ${i}`)
  const models = [newModel({ id: 'm', name: 'room.glb', sha256, sizeBytes })]
  const base = newProject({ name: 'Many', subject: 'room', stand: aimAt([1, 2, 1.58], [5, 2, 1.58]), models })
  const viewpoints = Array.from({ length: 500 }, (_, i) => ({
    id: `v${i}`,
    name: `View ${i + 1}`,
    locked: false,
    parts: { stand: aimAt([1, 2, 1.5 + i * 0.001], [5, 2, 1.58]), lens: base.working.lens, visible: { hidden } },
  }))
  return (await stand.server.projects.create({ ...base, viewpoints })).id
}

export async function fiveHundred(): Promise<Row[]> {
  const stand = await openStand({ demo: false })
  const id = await projectOf500(stand)
  const page = await stand.page()
  const sizes: number[] = []
  const took: number[] = []
  page.on('requestfinished', (r) => {
    if (r.method() !== 'PUT' || !r.url().endsWith(id)) return
    sizes.push(r.postData()?.length ?? 0)
    took.push(r.timing().responseEnd)
  })
  await page.goto(`${stand.server.url}/project/${id}`)
  await pictureAt(page, 'all')
  const tile = page.getByTestId('viewpoint').first().getByRole('button').first()
  await tile.click()
  for (let i = 0; i < 15; i++) {
    const f = page.getByLabel('Bearing', { exact: true })
    await f.fill(String(20 + i))
    await f.press('Enter')
    await page.getByTitle('Write the changed parts into the viewpoint (K)').click()
    await page.getByRole('button', { name: 'Keep', exact: true }).click()
    await page.waitForTimeout(1100)
  }
  // from one end of the sheet to the other in three seconds, once to warm up
  const scroll = (): Promise<number[]> =>
    page.evaluate(`(async () => {
      const row = document.querySelector('.p-virtualscroller')
      const gaps = []
      const start = performance.now()
      let last = start
      while (last - start < 3000) {
        await new Promise(requestAnimationFrame)
        const now = performance.now()
        gaps.push(now - last)
        last = now
        row.scrollLeft = ((now - start) / 3000) * (row.scrollWidth - row.clientWidth)
      }
      return gaps
    })()`)
  await scroll()
  const gaps = (await scroll()).slice(1)
  await stand.end()
  const worst = Math.max(...gaps)
  const row = (what: string, measured: string, wanted: string, ok: boolean): Row => ({ what, measured, reference: '', ratio: null, wanted, ok }) // prettier-ignore
  return [
    row('a keep among 500 viewpoints sends', `${(Math.max(...sizes) / 1000).toFixed(1)} kB at most`, 'under 10 kB', Math.max(...sizes) < 10_000),
    row('and is acknowledged within', `${ms(median(took))} (of ${took.length})`, '100 ms median', median(took) <= 100),
    row('the sheet of 500 scrolls with a longest gap of', `${ms(worst)} (${gaps.length} frames)`, 'no gap over 50 ms', worst <= 50),
  ] // prettier-ignore
}

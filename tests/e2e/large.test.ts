// Large projects and far sites: a survey's coordinates, and five hundred viewpoints.
import type { Page } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { aimAt, newModel, newProject, type ProjectDocument } from '#model'
import {
  meanDifference,
  numberIn,
  openStand,
  pictureAt,
  picturePixels,
  typeNumber,
  type Stand,
} from '../support/browser.ts'
import { roomGlb } from '../support/models.ts'

let stand: Stand
beforeAll(async () => void (stand = await openStand({ demo: false })))
afterAll(() => stand.end())

/** A room of 6 x 4 x 3 m with a block in it, as a survey's program would write it. */
function roomObj(east: number, north: number): Buffer {
  const lines: string[] = []
  let count = 0
  const box = (
    name: string,
    [x0, y0, z0]: readonly number[],
    [x1, y1, z1]: readonly number[],
    inward: boolean,
  ): void => {
    lines.push(`o ${name}`)
    for (const z of [z0!, z1!])
      for (const [x, y] of [[x0!, y0!], [x1!, y0!], [x1!, y1!], [x0!, y1!]] as const)
        lines.push(`v ${(x + east).toFixed(3)} ${(y + north).toFixed(3)} ${z.toFixed(3)}`) // prettier-ignore
    const faces = [
      [1, 4, 3, 2],
      [5, 6, 7, 8],
      [1, 2, 6, 5],
      [2, 3, 7, 6],
      [3, 4, 8, 7],
      [4, 1, 5, 8],
    ]
    for (const f of faces) lines.push(`f ${(inward ? [...f].reverse() : f).map((i) => i + count).join(' ')}`) // prettier-ignore
    count += 8
  }
  box('Room', [0, 0, 0], [6, 4, 3], true)
  box('Block', [3.2, 1.1, 0], [4.1, 2.3, 0.9], false)
  box('Shelf', [5.2, 2.6, 0.4], [5.9, 3.9, 2.2], false)
  return Buffer.from(lines.join('\n'))
}
async function bringIn(name: string, buffer: Buffer): Promise<Page> {
  const page = await stand.page()
  await page.goto(stand.server.url)
  await page.getByTestId('model-file').setInputFiles({ name, mimeType: '', buffer })
  await page.getByTestId('bring-size').waitFor()
  await page.getByRole('radio', { name: 'z up' }).click()
  expect(await page.getByTestId('bring-size').textContent()).toMatch(/^6\.000 × 4\.000 × 3\.000 m/)
  await page.getByRole('button', { name: 'Bring in', exact: true }).click()
  await page.waitForURL(/\/project\//)
  await pictureAt(page, 1)
  return page
}

describe('a site in surveyed coordinates', () => {
  it('looks like the same thing at the origin, tells the surveyed numbers, and is saved', async () => {
    const near = await bringIn('near.obj', roomObj(0, 0))
    const far = await bringIn('far.obj', roomObj(2_600_000, 1_200_000))
    for (const page of [near, far])
      await expect.poll(() => page.getByTestId('save-state').textContent()).toMatch(/^Saved/)
    const [x, y] = [await numberIn(near, 'East (x)'), await numberIn(near, 'North (y)')]
    expect(await numberIn(far, 'East (x)')).toBeCloseTo(2_600_000 + x, 2)
    expect(await numberIn(far, 'North (y)')).toBeCloseTo(1_200_000 + y, 2)
    await typeNumber(near, 'East (x)', '1.25')
    await typeNumber(far, 'East (x)', '2600001.25')
    for (const page of [near, far]) await pictureAt(page, 'all')
    expect(meanDifference(await picturePixels(near), await picturePixels(far))).toBeLessThan(0.5)
    await expect.poll(() => far.getByTestId('save-state').textContent()).toMatch(/^Saved/)
    const [card] = (await stand.server.projects.list()).filter((p) => p.name === 'far')
    const { working } = (await stand.server.projects.open(card!.id)).document
    expect(working.stand.station[0]).toBe(2_600_001.25)
    // the floor is found under it: eye height is over it, not over the sea
    expect(await numberIn(far, 'Eye height')).toBeCloseTo(await numberIn(near, 'Eye height'), 3)
    await near.close()
    await far.close()
  })
})

describe('five hundred viewpoints that hide two thousand things each', () => {
  it('only the tiles in view are there; the last is reached by key, recalled, and a keep sends little', async () => {
    const asset = await stand.server.assets.store({
      body: (async function* () {
        yield Buffer.from(roomGlb())
      })() as never,
      mediaType: 'model/gltf-binary',
      fileName: 'room.glb',
    })
    const model = newModel({ id: 'm', name: 'room.glb', sha256: asset.sha256, sizeBytes: asset.sizeBytes })
    const hidden = Array.from({ length: 2000 }, (_, i) => `room/Room/Furniture/Thing number ${i}`)
    const base = newProject({
      name: 'Many',
      subject: 'room',
      stand: aimAt([1, 2, 1.58], [5, 2, 1.58]),
      models: [model],
    })
    const viewpoints = Array.from({ length: 500 }, (_, i) => ({
      id: `v${i}`,
      name: `View ${i + 1}`,
      locked: false,
      parts: { stand: aimAt([1, 2, 1.5 + i * 0.001], [5, 2, 1.58]), lens: base.working.lens, visible: { hidden } },
    }))
    const doc: ProjectDocument = { ...base, viewpoints }
    const { id } = await stand.server.projects.create(doc)
    const page = await stand.page()
    const sent: number[] = []
    page.on('request', (r) => {
      if (r.method() === 'PUT' && r.url().endsWith(id)) sent.push(r.postData()?.length ?? 0)
    })
    await page.goto(`${stand.server.url}/project/${id}`)
    await pictureAt(page, 1)
    const tiles = page.getByTestId('viewpoint')
    expect(await tiles.count()).toBeLessThan(40)
    await tiles.first().getByRole('button').first().focus()
    await page.keyboard.press('End')
    await expect
      .poll(() => page.evaluate(() => document.activeElement?.getAttribute('title')))
      .toBe('Recall “View 500”')
    await page.keyboard.press('Enter')
    await typeNumber(page, 'Bearing', '33')
    await page.getByTitle('Write the changed parts into the viewpoint (K)').click()
    await page.getByRole('button', { name: 'Keep', exact: true }).click()
    await expect.poll(async () => (await stand.server.projects.open(id)).document.viewpoints[499]!.parts.stand!.aim).toMatchObject({ kind: 'point' }) // prettier-ignore
    await expect.poll(() => page.getByTestId('save-state').textContent()).toMatch(/^Saved/)
    const kept = (await stand.server.projects.open(id)).document
    expect(kept.viewpoints[499]!.parts.stand).toEqual(kept.working.stand)
    expect(sent.length).toBeGreaterThan(0)
    expect(Math.max(...sent)).toBeLessThan(10_000)
    expect(kept.viewpoints[0]!.parts.visible!.hidden).toHaveLength(2000)
    // put first by key, the whole way: the window goes along
    await tiles.last().getByRole('button').first().focus()
    await page.keyboard.press('Alt+Home')
    await expect.poll(async () => (await stand.server.projects.open(id)).document.viewpoints[0]!.name).toBe('View 500')
    await page.close()
  })
})

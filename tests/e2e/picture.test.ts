// The picture itself: what must not change it, and what it must show.
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Page } from 'playwright-core'
import { mergeParts, type ProjectDocument, type Setup } from '#model'
import { openStand, pictureAt, picturePixels, type Stand } from '../support/browser.ts'

let stand: Stand
let page: Page
beforeAll(async () => {
  stand = await openStand({ demo: true })
  page = await stand.page({ width: 760, height: 480 })
})
afterAll(() => stand.end())

/** A copy of a demo project that stands on one of its viewpoints, changed. */
async function openAt(project: string, viewpoint: string, change: (s: Setup) => Setup): Promise<void> {
  const { document } = await stand.server.projects.open(project)
  const at = document.viewpoints.find((v) => v.name === viewpoint)!
  const working = change(mergeParts(document.working, at.parts))
  const copy: ProjectDocument = { ...document, name: 'Copy', working, viewpoints: [] }
  const { id } = await stand.server.projects.create(copy)
  await page.goto(`${stand.server.url}/project/${id}`)
  await pictureAt(page, 'all')
}

describe('a near cut', () => {
  it.each(['Lamp on the counter', 'From the gallery'])(
    'changes nothing beyond itself: %s',
    async (name) => {
      await openAt('demo-hall', name, (s) => ({ ...s, cut: { ...s.cut, near: { on: false, distanceM: 0.08 } } }))
      const free = await picturePixels(page)
      await page.getByTestId('cell-cut').click()
      await page.getByRole('checkbox', { name: 'Near cut' }).check()
      for (const nearM of [0.08, 0.5]) {
        await page.getByLabel('Distance', { exact: true }).first().fill(String(nearM))
        await page.keyboard.press('Enter')
        await pictureAt(page, 'all')
        const cut = await picturePixels(page)
        // nothing stands within half a metre of these stations; some pixels of finest edges fall to the other side
        let other = 0
        for (let i = 0; i < free.data.length; i += 4) {
          const most = Math.max(...[0, 1, 2].map((c) => Math.abs(cut.data[i + c]! - free.data[i + c]!)))
          if (most > 12) other++
        }
        expect(other / (free.data.length / 4), `${nearM} m`).toBeLessThan(0.001)
      }
    },
    120_000,
  )
})

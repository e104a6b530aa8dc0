// Bringing in a model, bad files, two tabs, a server that goes away: what the person is told, and that nothing is lost.
import type { Page } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { roomGlb } from '../support/models.ts'
import { numberIn, openStand, pictureAt, typeNumber, type Stand } from '../support/browser.ts'

let stand: Stand
let page: Page
const room = { name: 'test room.glb', mimeType: 'model/gltf-binary', buffer: Buffer.from(roomGlb()) }
const pick = (file: { name: string; mimeType: string; buffer: Buffer }) =>
  page.getByTestId('model-file').setInputFiles(file)

beforeAll(async () => {
  stand = await openStand({ demo: false })
  page = await stand.page()
  await page.goto(stand.server.url)
})
afterAll(() => stand.end())

describe('bringing in a model', () => {
  it.each([
    [
      'a text that calls itself a model',
      { name: 'a.glb', mimeType: '', buffer: Buffer.from('this is no model at all, sorry') },
      /“a\.glb” is none of the kinds/,
    ],
    ['a cut-off file', { ...room, buffer: room.buffer.subarray(0, 900) }, /cut off/],
    [
      'another kind of file',
      { name: 'house.txt', mimeType: '', buffer: Buffer.from('v 0 0 0') },
      /no GLB, glTF, OBJ, STL or PLY among them/,
    ],
    ['points without faces', { name: 'a.obj', mimeType: '', buffer: Buffer.from('v 0 0 0') }, /no triangles/],
    ['an empty file', { name: 'a.glb', mimeType: '', buffer: Buffer.alloc(0) }, /“a\.glb” is empty/],
  ])('refuses %s in a sentence', async (_what, file, message) => {
    await pick(file)
    await page.getByText(message).waitFor()
    expect(await stand.server.projects.list()).toHaveLength(0)
  })

  it('cancelled while judging, nothing is brought in', async () => {
    await pick(room)
    await page.getByTestId('bring-size').waitFor()
    await page.getByTestId('bring').getByRole('button', { name: 'Cancel' }).click()
    await page.getByText('Cancelled; nothing was brought in.').waitFor()
    expect(await stand.server.projects.list()).toHaveLength(0)
  })

  it('makes a project that stands inside the room at eye height', async () => {
    await pick(room)
    await page.getByTestId('bring-size').waitFor()
    expect(await page.getByTestId('bring-size').textContent()).toBe('6.600 × 4.600 × 3.200 m')
    await page.getByText('watertight', { exact: true }).waitFor()
    await page.getByRole('button', { name: 'Bring in', exact: true }).click()
    await page.waitForURL(/\/project\//)
    await pictureAt(page, 1)
    expect(await page.title()).toBe('test room · Yoroi')
    expect(await numberIn(page, 'Eye height')).toBeCloseTo(1.58, 2)
  })
})

describe('two tabs', () => {
  it('the second to save is asked; its version becomes a copy and nothing is lost', async () => {
    const other = await page.context().newPage()
    await other.goto(page.url())
    await pictureAt(other, 1)
    const state = (p: Page) => expect.poll(() => p.getByTestId('save-state').textContent())
    // told at once, before an edit; its version is a click away
    await typeNumber(page, 'Bearing', '22')
    await state(other).toBe('Saved in another tab')
    await state(page).toMatch(/^Saved \d/)
    await other.getByRole('button', { name: 'Show that version' }).first().click()
    await expect.poll(() => numberIn(other, 'Bearing')).toBe(22)
    await state(other).toMatch(/^Saved \d/)
    await pictureAt(other, 1)
    await typeNumber(page, 'Bearing', '33')
    await state(other).toBe('Saved in another tab')
    await typeNumber(other, 'Bearing', '44')
    await other.getByText('Changed in another tab').first().waitFor()
    await other
      .getByText(/stand, aim point/)
      .first()
      .waitFor()
    await other.getByRole('button', { name: 'Keep mine as a copy' }).click()
    await other.waitForURL((u) => u.href !== page.url())
    await expect.poll(() => other.title()).toBe('test room (copy) · Yoroi')
    await expect.poll(() => numberIn(other, 'Bearing')).toBe(44)
    expect(await numberIn(page, 'Bearing')).toBe(33)
    expect(await stand.server.projects.list()).toHaveLength(2)
    await other.close()
  })
})

describe('a server that does not answer', () => {
  it('is said, and the work is saved when it answers again', async () => {
    await page.route('**/api/projects/**', (r) => r.abort())
    await typeNumber(page, 'Bearing', '55')
    await expect.poll(() => page.getByTestId('save-state').textContent()).toMatch(/Not saved/)
    await page.unroute('**/api/projects/**')
    await expect.poll(() => page.getByTestId('save-state').textContent(), { timeout: 15_000 }).toMatch(/^Saved/)
    const id = page.url().split('/').pop()!
    const d = (await stand.server.projects.open(id)).document
    expect(d.trail.steps.at(-1)!.label).toBe('Bearing')
  })
})

describe('addresses', () => {
  it('a project or page that does not exist says so and leads back', async () => {
    await page.goto(`${stand.server.url}/project/no-such-project`)
    await page.getByText('This project does not exist any more.').waitFor()
    await page.getByRole('link', { name: 'To the projects' }).click()
    await page.getByRole('heading', { name: 'Projects' }).waitFor()
    await page.goto(`${stand.server.url}/nowhere/at/all`)
    await page.getByText('There is nothing here').waitFor()
  })
  it('a project is deleted only when asked twice', async () => {
    await page.goto(stand.server.url)
    const cards = page.getByTestId('project-card')
    await expect.poll(() => cards.count()).toBe(2)
    await cards.first().hover()
    await cards.first().getByRole('button').click()
    await page.getByRole('button', { name: 'Keep it' }).click()
    expect(await cards.count()).toBe(2)
    await cards.first().hover()
    await cards.first().getByRole('button').click()
    await page.getByRole('button', { name: 'Delete', exact: true }).click()
    await expect.poll(() => cards.count()).toBe(1)
  })
})

describe('a browser without OffscreenCanvas', () => {
  it('draws on the page’s own thread with the same code', async () => {
    const plain = await stand.page()
    await plain.addInitScript('delete globalThis.OffscreenCanvas')
    await plain.goto(stand.server.url)
    await plain.getByTestId('project-card').getByRole('link').first().click()
    await pictureAt(plain, 1)
    expect(await plain.evaluate('typeof OffscreenCanvas')).toBe('undefined')
    await plain.close()
  })
})

describe('a file over the limit', () => {
  it('is refused with the limit and what to do', async () => {
    const small = await openStand({ demo: false, uploadLimitBytes: 4096 })
    const p = await small.page()
    await p.goto(small.server.url)
    await p.getByTestId('model-file').setInputFiles(room)
    await p.getByRole('button', { name: 'Bring in', exact: true }).click()
    await p.getByText(/larger than this Yoroi accepts.*--upload-limit/).waitFor()
    expect(await small.server.projects.list()).toHaveLength(0)
    await small.end()
  })
})

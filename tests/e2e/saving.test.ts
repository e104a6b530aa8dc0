// Work that the server does not have: killed during a drag, gone on with, closed, crashed, and all there at the next start.
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { BrowserContext, Page } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { drag, middle, numberIn, openStand, pictureAt, typeNumber, type Stand } from '../support/browser.ts'
import { roomGlb } from '../support/models.ts'
import { startProgram, type Program } from '../support/program.ts'

let stand: Stand
let context: BrowserContext
let page: Page
let server: Program
let dataDir: string
let projectUrl: string
const room = { name: 'test room.glb', mimeType: 'model/gltf-binary', buffer: Buffer.from(roomGlb()) }
const state = (p: Page) => p.getByTestId('save-state').textContent()
const started = (): Promise<Program> => startProgram(dataDir, '--static', 'dist', ...(projectUrl ? ['--port', new URL(projectUrl).port] : [])) // prettier-ignore
async function bringIn(p: Page, url: string): Promise<void> {
  await p.goto(url)
  await p.getByTestId('model-file').setInputFiles(room)
  await p.getByTestId('bring-size').waitFor()
  await p.getByRole('button', { name: 'Bring in', exact: true }).click()
  await p.waitForURL(/\/project\//)
  await pictureAt(p, 1)
}
async function again(): Promise<Page> {
  const p = await context.newPage()
  await p.goto(projectUrl)
  await p.getByText(/had not reached the server is back/).waitFor()
  await expect.poll(() => state(p), { timeout: 20_000 }).toMatch(/^Saved/)
  return p
}

beforeAll(async () => {
  dataDir = mkdtempSync(join(tmpdir(), 'yoroi-away-'))
  projectUrl = ''
  stand = await openStand({ demo: false })
  server = await started()
  page = await stand.page()
  context = page.context()
  await bringIn(page, server.url)
  projectUrl = page.url()
})
afterAll(async () => {
  await stand.end()
  await server.kill()
  rmSync(dataDir, { recursive: true, force: true })
})

describe('the server killed during a drag', () => {
  it('the work goes on, the page asks before it leaves, and all is there at the next start', async () => {
    const before = await numberIn(page, 'Bearing')
    await drag(page, await middle(page, 'picture-canvas'), { x: 90, y: 0 }, { release: false })
    await server.kill()
    await page.mouse.up()
    await expect.poll(() => numberIn(page, 'Bearing')).not.toBe(before)
    await expect.poll(() => state(page), { timeout: 15_000 }).toBe('Not saved: server away')
    await typeNumber(page, 'Eye height', '1.71')
    await typeNumber(page, 'Bearing', '77')
    const asked = page.waitForEvent('dialog')
    await page.close({ runBeforeUnload: true })
    const dialog = await asked
    expect(dialog.type()).toBe('beforeunload')
    await dialog.accept()
    server = await started()
    page = await again()
    expect(await numberIn(page, 'Bearing')).toBe(77)
    expect(await numberIn(page, 'Eye height')).toBe(1.71)
    const back = (await (await fetch(projectUrl.replace('/project/', '/api/projects/'))).json()) as {
      document: { trail: { steps: { label: string }[] } }
    }
    expect(back.document.trail.steps.slice(-2).map((s) => s.label)).toEqual(['Eye height', 'Bearing'])
  })
  it('a tab that crashes loses nothing either', async () => {
    await server.kill()
    await typeNumber(page, 'Bearing', '88')
    await expect.poll(() => state(page), { timeout: 15_000 }).toBe('Not saved: server away')
    await page.goto('chrome://crash').catch(() => undefined)
    server = await started()
    const crashed = page
    page = await again()
    expect(await numberIn(page, 'Bearing')).toBe(88)
    await crashed.close().catch(() => undefined)
  })
  it('going back to the projects keeps it, and the projects page sends it when the server answers', async () => {
    await server.kill()
    await typeNumber(page, 'Bearing', '99')
    await page.getByRole('link', { name: 'Yoroi' }).click()
    await page.getByText(/is not saved yet.*kept in this browser/).waitFor()
    await page
      .getByText(/server cannot be reached/)
      .first()
      .waitFor()
    server = await started()
    await page.getByRole('button', { name: 'Try again' }).click()
    await page.getByText(/what was kept in this browser is saved now/).waitFor()
    await page.getByTestId('project-card').getByRole('link').click()
    await pictureAt(page, 1)
    expect(await numberIn(page, 'Bearing')).toBe(99)
  })
})

describe('an answer that is cut off', () => {
  it('is recognised when it is sent again: no conflict, no second version', async () => {
    const count = async () => ((await (await fetch(`${projectUrl.replace('/project/', '/api/projects/')}/revisions`)).json()) as unknown[]).length // prettier-ignore
    const before = await count()
    await page.route('**/api/projects/**', async (r) => {
      if (r.request().method() !== 'PUT' || r.request().url().endsWith('/cover')) return r.continue()
      await r.fetch()
      await r.abort()
    })
    await typeNumber(page, 'Bearing', '12')
    await expect.poll(() => state(page), { timeout: 15_000 }).toBe('Not saved: server away')
    await page.unroute('**/api/projects/**')
    await expect.poll(() => state(page), { timeout: 15_000 }).toMatch(/^Saved/)
    expect(await count()).toBe(before + 1)
  })
})

describe('a disk that is full', () => {
  it('is said on the page; the work is saved when there is room', async () => {
    const p = await stand.page()
    await bringIn(p, stand.server.url)
    await expect.poll(() => state(p)).toMatch(/^Saved/)
    const { writer } = stand.server.store
    const pages = await writer.outside((db) => Number(db.pragma('page_count', { simple: true })))
    await writer.outside((db) => db.pragma(`max_page_count = ${pages}`))
    for (let i = 1; i < 12 && !/disk full/.test((await state(p)) ?? ''); i++) {
      await typeNumber(p, 'Bearing', String(20 + i))
      await p.waitForTimeout(1000)
      // the connection is opened anew after a failure: the limit is set again
      await writer.outside((db) => db.pragma(`max_page_count = ${pages}`))
    }
    await p.getByText(/The disk is full.*your work stays here/).waitFor()
    expect(await state(p)).toBe('Not saved: disk full')
    await writer.outside((db) => db.pragma('max_page_count = 1073741823'))
    await expect.poll(() => state(p), { timeout: 15_000 }).toMatch(/^Saved/)
    const [card] = await stand.server.projects.list()
    const stored = (await stand.server.projects.open(card!.id)).document
    expect(Math.round((stored.working.stand.aim as { bearingDeg?: number }).bearingDeg ?? (await numberIn(p, 'Bearing')))).toBe(await numberIn(p, 'Bearing')) // prettier-ignore
    // deleted elsewhere: the work becomes a project again
    await typeNumber(p, 'Bearing', '61')
    await expect.poll(() => state(p)).toMatch(/^Saved/)
    await stand.server.projects.remove(card!.id)
    await p.getByText('Deleted in another tab').first().waitFor()
    await p.getByRole('button', { name: 'Keep as a new project' }).click()
    await p.waitForURL((u) => !u.href.includes(card!.id))
    await pictureAt(p, 1)
    expect(await numberIn(p, 'Bearing')).toBe(61)
  })
})

it('the page breaks none of its own security rules, and its fonts come with it', async () => {
  const p = await stand.page()
  await p.goto(stand.server.url)
  const fonts = await p.evaluate(async () => {
    const names = ['Instrument Sans Variable', 'Spline Sans Mono Variable']
    return (await Promise.all(names.map((n) => document.fonts.load(`13px "${n}"`)))).map((f) => f.length)
  })
  expect(fonts).toEqual([1, 1])
  expect(stand.errors.filter((e) => /Content.Security|Refused to/i.test(e))).toEqual([])
})

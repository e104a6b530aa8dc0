// Moving about in a small room by wheel, keys, flight and two fingers; and a newer file in a model's place.
import type { Page } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { poseOfStand } from '#core/camera'
import type { ProjectDocument } from '#model'
import { Pen } from '../../scripts/demo-data/kit.ts'
import { drag, field, middle, numberIn, openStand, pictureAt, typeNumber, type Stand } from '../support/browser.ts'
import { glbOf, roomNodes } from '../support/models.ts'

let stand: Stand
let page: Page
let id = ''
const file = (nodes: Parameters<typeof glbOf>[0]) => ({
  name: 'room.glb',
  mimeType: 'model/gltf-binary',
  buffer: Buffer.from(glbOf(nodes)),
})
async function saved(): Promise<ProjectDocument> {
  await expect.poll(() => page.getByTestId('save-state').textContent(), { timeout: 20_000 }).toMatch(/^Saved/)
  return (await stand.server.projects.open(id)).document
}
async function until(what: (d: ProjectDocument) => boolean): Promise<ProjectDocument> {
  await expect.poll(async () => what(await saved()), { timeout: 20_000 }).toBe(true)
  return saved()
}
const lastLabel = (d: ProjectDocument) => d.trail.steps[d.trail.at]!.label
const focus = () => page.getByTestId('picture').focus()
/** In the middle of the room's west part, looking along a bearing, level. */
async function standAt(x: string, y: string, bearing: string): Promise<void> {
  await page.getByTestId('cell-stand').click()
  await typeNumber(page, 'East (x)', x)
  await typeNumber(page, 'North (y)', y)
  await typeNumber(page, 'Height (z)', '1.58')
  await typeNumber(page, 'Bearing', bearing)
  await typeNumber(page, 'Tilt', '0')
}

beforeAll(async () => {
  stand = await openStand({ demo: false })
  page = await stand.page()
  await page.goto(stand.server.url)
  await page.getByTestId('model-file').setInputFiles(file(roomNodes()))
  await page.getByRole('button', { name: 'Bring in', exact: true }).click()
  await page.waitForURL(/\/project\//)
  id = page.url().split('/').pop()!
  await pictureAt(page, 1)
})
afterAll(() => stand.end())

describe('the wheel with the level kept', () => {
  it('goes forward level and stops before the wall; Shift frees it', async () => {
    await standAt('1', '2.9', '90')
    const p = await middle(page, 'picture')
    await page.mouse.move(p.x, p.y)
    for (let i = 0; i < 30; i++) await page.mouse.wheel(0, -300)
    // on a slow machine the turns fall into several bursts
    const d = await until((x) => lastLabel(x) === 'Moved' && x.working.stand.station[0] > 5)
    // the east wall's inner face lies at 6 m
    expect(d.working.stand.station[0]).toBeLessThan(5.71)
    expect(d.working.stand.station[2]).toBeCloseTo(1.58, 9)
    // held down, Shift lets the wheel go on through the wall
    await page.keyboard.down('Shift')
    for (let i = 0; i < 4; i++) await page.mouse.wheel(0, -300)
    await page.keyboard.up('Shift')
    await until((x) => x.working.stand.station[0] > 5.75)
    // turned away, wheeling back stops at the west wall too
    await standAt('1', '2.9', '90')
    await page.mouse.move(p.x, p.y)
    for (let i = 0; i < 20; i++) await page.mouse.wheel(0, 300)
    await page.waitForTimeout(600)
    expect((await saved()).working.stand.station[0]).toBeGreaterThan(0.29)
  })
})

describe('keys on the picture', () => {
  it('arrows turn in place, plus and minus go to and fro', async () => {
    await standAt('2', '2.9', '90')
    await focus()
    await page.keyboard.press('ArrowRight')
    const turned = await until((x) => lastLabel(x) === 'Turned')
    expect(poseOfStand(turned.working.stand).bearingDeg).toBeGreaterThan(90.3)
    await page.keyboard.press('+')
    const moved = await until((x) => lastLabel(x) === 'Moved')
    expect(moved.working.stand.station[0]).toBeGreaterThan(2.05)
  })
  it('a number that was entered does not take the keys back from the picture', async () => {
    await field(page, 'Tilt').focus()
    const keys = await page.evaluate(async () => {
      const picture = document.querySelector<HTMLElement>('[data-testid=picture]')!
      const entered = new KeyboardEvent('keydown', { key: 'Enter', bubbles: true, cancelable: true })
      document.activeElement!.dispatchEvent(entered)
      picture.focus()
      for (let i = 0; i < 3; i++) await new Promise(requestAnimationFrame)
      return { entered: entered.defaultPrevented, onPicture: document.activeElement === picture }
    })
    expect(keys).toEqual({ entered: true, onPicture: true })
  })
  it('fly goes where one looks, through anything; the speed is shown and set', async () => {
    await standAt('1', '2', '90')
    await page.getByRole('button', { name: 'walk' }).click()
    const speed = async () => parseFloat((await page.getByTestId('speed').textContent())!)
    const before = await speed()
    await page.getByTitle('Faster').click()
    expect(await speed()).toBeGreaterThan(before)
    await focus()
    await page.keyboard.down('e')
    await page.waitForTimeout(500)
    await page.keyboard.up('e')
    const d = await until((x) => lastLabel(x) === 'Flown')
    expect(d.working.stand.station[2]).toBeGreaterThan(1.8)
    expect(d.working.stand.station[0]).toBeCloseTo(1, 6)
    await page.getByRole('button', { name: 'fly' }).click()
  })
  it('single letters switched off do not walk', async () => {
    const before = await saved()
    await page.keyboard.press('Control+k')
    await page
      .getByPlaceholder(/command|do/i)
      .first()
      .fill('Single-letter')
    await page.keyboard.press('Enter')
    await focus()
    await page.keyboard.down('w')
    await page.waitForTimeout(400)
    await page.keyboard.up('w')
    expect((await saved()).working).toEqual(before.working)
    await page.keyboard.press('Control+k')
    await page
      .getByPlaceholder(/command|do/i)
      .first()
      .fill('Single-letter')
    await page.keyboard.press('Enter')
  })
})

describe('two fingers', () => {
  it('slide by their middle and go to and fro by their spread, as one step', async () => {
    await standAt('1', '2', '90')
    const before = await saved()
    const p = await middle(page, 'picture')
    const cdp = await page.context().newCDPSession(page)
    const touch = (type: string, points: [number, number][]) =>
      cdp.send('Input.dispatchTouchEvent', {
        type: type as 'touchStart',
        touchPoints: points.map(([x, y], i) => ({ x, y, id: i })),
      })
    await touch('touchStart', [[p.x - 40, p.y]])
    await touch('touchStart', [[p.x - 40, p.y], [p.x + 40, p.y]]) // prettier-ignore
    for (let i = 1; i <= 5; i++) await touch('touchMove', [[p.x - 40 - i * 8, p.y], [p.x + 40 + i * 8, p.y]]) // prettier-ignore
    await page.waitForTimeout(200)
    await touch('touchEnd', [])
    const d = await until((x) => x.trail.at === before.trail.at + 1)
    expect(lastLabel(d)).toBe('Moved')
    expect(d.working.stand.station[0]).toBeGreaterThan(before.working.stand.station[0] + 0.3)
    // one finger turns
    await touch('touchStart', [[p.x, p.y]])
    for (let i = 1; i <= 4; i++) await touch('touchMove', [[p.x + i * 12, p.y]])
    await page.waitForTimeout(150)
    await touch('touchEnd', [])
    expect(lastLabel(await until((x) => x.trail.at === before.trail.at + 2))).toBe('Turned')
  })
})

describe('a slide', () => {
  it('keeps the grabbed point under the pointer', async () => {
    await standAt('1', '2', '90')
    await page.getByRole('radio', { name: 'Slide' }).click()
    const at = (x: ProjectDocument): number =>
      Math.hypot(x.working.stand.station[0] - 1, x.working.stand.station[1] - 2)
    const before = await until((x) => at(x) < 1e-9)
    await pictureAt(page, 2)
    const p = await middle(page, 'picture')
    await drag(page, p, { x: -60, y: 0 })
    const d = await until((x) => lastLabel(x) === 'Slid')
    // the middle shows the east wall at 6 m; its width in the picture is w depth / f
    const { width } = (await page.getByTestId('picture').boundingBox())!
    const metres = (60 / width) * ((36 * 5) / d.working.lens.focalMm)
    // moved to the right, which is south at bearing 90
    expect(before.working.stand.station[1] - d.working.stand.station[1]).toBeCloseTo(metres, 2)
    await page.getByRole('radio', { name: 'Turn in place' }).click()
  })
})

describe('a newer file of the same name', () => {
  it('takes the model’s place: hidden objects are found again, the report says what is new and gone', async () => {
    await page.getByTestId('cell-visible').click()
    await page.getByLabel('Show Table').uncheck()
    await until((x) => x.working.visible.hidden.includes('room/Room/Table'))
    await page.getByTestId('cell-stand').click()
    await page.keyboard.press('Shift+K')
    await page.keyboard.press('Enter')
    const before = await until((x) => x.viewpoints.length === 1)
    const [room] = roomNodes()
    const [floor, walls, table] = room!.children!
    const lamp = new Pen('Lamp', { kind: 'lamp' }).use('brass').box(3, 2, 0.75, 3.1, 2.1, 1, { bevel: 0 }).node()
    const newer = [{ name: 'Room', children: [floor!, { name: 'Furniture', children: [table!, lamp] }] }]
    void walls
    await page.getByRole('button', { name: 'Models', exact: true }).click()
    await page.getByTestId('model-file').setInputFiles(file(newer))
    await page.getByRole('button', { name: 'Put in its place' }).click()
    const report = page.getByTestId('replace-report')
    await report.waitFor()
    const text = (await report.textContent())!
    expect(text).toMatch(/Same2 objects/)
    expect(text).toMatch(/Found elsewhereTable/)
    expect(text).toMatch(/NewFurniture, Lamp/)
    expect(text).toMatch(/GoneWalls/)
    await report.getByRole('button', { name: 'Good' }).click()
    const d = await until((x) => x.models[0]!.sha256 !== before.models[0]!.sha256)
    expect(d.working.visible.hidden).toEqual(['room/Room/Furniture/Table'])
    expect(d.models[0]!.key).toBe('room')
    // the viewpoint keeps its camera; what it hides is found again too
    const [kept] = before.viewpoints
    expect(kept!.parts.visible!.hidden).toEqual(['room/Room/Table'])
    expect(d.viewpoints).toEqual([{ ...kept, parts: { ...kept!.parts, visible: d.working.visible } }])
    expect(d.trail).toEqual(before.trail)
    await pictureAt(page, 1)
    // undo brings the former file back, with the former names
    await focus()
    await page.keyboard.press('Control+z')
    const back = await until((x) => x.models[0]!.sha256 === before.models[0]!.sha256)
    expect(back.working.visible.hidden).toEqual(['room/Room/Table'])
    expect(await numberIn(page, 'Stands east').catch(() => NaN)).toBeTypeOf('number')
    expect(stand.errors).toEqual([])
  })
})

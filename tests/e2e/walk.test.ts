// The Walk view as its user goes through it: a reel in one command, played, scrubbed by keys, judged, its numbers changed, its path saved.
import { readFileSync } from 'node:fs'
import type { Page } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { DEMO_IDS } from '../../scripts/demo-data/seed.ts'
import { roomGlb, withClip } from '../support/models.ts'
import { drag, middle, numberIn, openStand, typeNumber, type Stand } from '../support/browser.ts'

let stand: Stand
let page: Page
beforeAll(async () => {
  stand = await openStand({ demo: true })
  page = await stand.page({ samples: 2 })
}, 120_000)
afterAll(async () => {
  expect(stand.errors).toEqual([])
  await stand.end()
})
const time = async (): Promise<readonly [string, string]> =>
  (await page.getByTestId('timecode').innerText()).split(' / ') as unknown as readonly [string, string]
const download = async (button: string): Promise<string> => {
  const saved = page.waitForEvent('download')
  await page.getByRole('button', { name: button, exact: true }).click()
  return readFileSync(await (await saved).path(), 'utf8')
}

describe('a turntable of the lamp', () => {
  it('is made by one command, loops, tells what it would go through, and is drawn', async () => {
    await page.goto(`${stand.server.url}/project/${DEMO_IDS.lamp}/walk`)
    await page.getByTestId('reels').getByRole('button', { name: 'The lamp turning' }).waitFor()
    await page.getByRole('button', { name: 'Turntable', exact: true }).click()
    await page.locator('[data-testid=film-canvas][data-sample]').waitFor({ timeout: 60_000 })
    expect(await time()).toEqual(['00:00:00:00', '00:00:10:00'])
    // the lamp stands before a backdrop
    await expect.poll(() => page.getByTestId('comfort').innerText(), { timeout: 30_000 }).toMatch(/^Goes through “Backdrop”. Let things turn instead/) // prettier-ignore
    // light that is ready later begins the picture again: both at one moment
    const whole = () => page.evaluate<boolean>(`(({ dataset, width }) => dataset.sample === '2' && width > 300)(document.querySelector('[data-testid=film-canvas]'))`) // prettier-ignore
    await expect.poll(whole, { timeout: 60_000 }).toBe(true)
  })
  it('plays in real time, stops by Space, goes by frames and to its ends by keys', async () => {
    await page.getByRole('button', { name: 'Play', exact: true }).click()
    /** The reel's time and the page's at one moment, seconds. */
    const now = async (): Promise<readonly [number, number]> => {
      const [told, at] = await page.getByTestId('timecode').evaluate((e) => [(e as HTMLElement).innerText, performance.now()] as const) // prettier-ignore
      const [, , s, f] = told.split(' / ')[0]!.split(':').map(Number) as [number, number, number, number]
      return [s + f / 25, at / 1000]
    }
    await expect.poll(async () => (await now())[0]).toBeGreaterThan(0)
    const [from, begun] = await now()
    // the longer it plays, the less a frame that came late counts
    const off = async (): Promise<number> => {
      const [s, at] = await now()
      return Math.abs((s - from) / (at - begun) - 1)
    }
    await page.waitForTimeout(500)
    await expect.poll(off, { timeout: 8000 }).toBeLessThan(0.1)
    await page.keyboard.press('Space')
    await expect.poll(() => page.getByRole('button', { name: 'Play', exact: true }).count()).toBe(1)
    const [stopped] = await now()
    await page.waitForTimeout(300)
    expect((await now())[0]).toBe(stopped)
    await page.getByTestId('ruler').focus()
    await page.keyboard.press('Home')
    await page.keyboard.press('ArrowRight')
    await page.keyboard.press('ArrowRight')
    await page.keyboard.press('PageDown')
    expect((await time())[0]).toBe('00:00:01:02')
    await page.keyboard.press('End')
    expect((await time())[0]).toBe('00:00:10:00')
  })
  it('once round too fast is found; the number is an edit that undo takes back; what is nought is refused', async () => {
    await typeNumber(page, 'Lasts', '0')
    expect(await numberIn(page, 'Lasts')).toBe(10)
    await typeNumber(page, 'Lasts', '3')
    await expect.poll(() => page.getByTestId('comfort').innerText()).toMatch(/Once round in 3\.0 s/)
    await page.getByTestId('ruler').focus()
    await page.keyboard.press('Control+z')
    await expect.poll(() => page.getByTestId('comfort').innerText()).not.toMatch(/Once round/)
  })
  it('its path goes out as a table and as an animation, and after a reload it is still there', async () => {
    const rows = (await download('Path as CSV')).trimEnd().split('\r\n')
    expect(rows).toHaveLength(251)
    const [first, quarter] = [rows[1]!, rows[1 + 63]!].map((r) => r.split(',').map(Number))
    // once round in 250 frames
    expect((((quarter![5]! - first![5]!) % 360) + 360) % 360).toBeCloseTo((63 / 250) * 360, 4)
    const gltf = JSON.parse(await download('as glTF')) as { accessors: { count: number }[] }
    expect(gltf.accessors[0]!.count).toBe(250)
    await expect.poll(() => page.getByTestId('save-state').textContent(), { timeout: 30_000 }).toMatch(/^Saved/)
    await page.reload()
    await page.getByTestId('reels').getByRole('button', { name: 'Turntable' }).click()
    expect((await time())[1]).toBe('00:00:10:00')
  })
})

describe('a model’s own animation', () => {
  it('plays on the reel’s time, in picture and Side; what is typed of it is kept', async () => {
    const glb = await withClip(roomGlb(), { name: 'Rise', node: 'Table', by: [0, 1.2, 0], seconds: 2 })
    await page.goto(stand.server.url)
    await page.locator('input[type=file]').first().setInputFiles({ name: 'rising.glb', mimeType: 'model/gltf-binary', buffer: Buffer.from(glb) }) // prettier-ignore
    await page.getByRole('button', { name: 'Bring in', exact: true }).click()
    await page.waitForURL(/\/project\//)
    await page.getByRole('button', { name: /Keep as new/ }).click()
    await page.keyboard.press('Enter')
    await page.getByTestId('viewpoint').first().waitFor()
    await page.getByRole('link', { name: 'Walk' }).click()
    await page.getByRole('button', { name: 'Hold each viewpoint' }).click()
    // a slow creep lets one see where one is
    await expect.poll(() => page.getByTestId('comfort').innerText()).toMatch(/nothing found/)
    await typeNumber(page, 'Creeps nearer', '0')
    await page.getByLabel('A clip of the model’s own animation to play in this reel').click()
    await page.getByRole('option', { name: 'Rise, 2.00 s' }).click()
    await page.getByTestId('clip').waitFor()
    const sum = (at: string): Promise<string> => page.evaluate(`(() => {
      const c = document.querySelector('${at}')
      const p = new OffscreenCanvas(c.width, c.height).getContext('2d')
      p.drawImage(c, 0, 0)
      const { data } = p.getImageData(0, 0, c.width, c.height)
      let sum = 0
      for (let i = 0; i < data.length; i += 4) sum = (sum * 31 + data[i]) % 1000000007
      return String(sum)
    })()`) // prettier-ignore
    const sums = async (): Promise<string[]> => [await sum('.side canvas'), await sum('[data-testid=film-canvas]')]
    const drawn = () => page.locator('[data-testid=film-canvas][data-sample="2"]').waitFor({ timeout: 60_000 })
    await drawn()
    let before: string[] = []
    // light from all sides comes later, and begins the picture again
    await expect.poll(async () => JSON.stringify(before) === JSON.stringify((before = await sums())), { timeout: 60_000, interval: 2500 }).toBe(true) // prettier-ignore
    const differs = async (): Promise<boolean[]> => (await sums()).map((s, i) => s !== before[i])
    await page.getByTestId('ruler').focus()
    await page.keyboard.press('PageDown')
    await expect.poll(differs, { timeout: 60_000 }).toEqual([true, true])
    // of a hold only the clip moves: before it begins all is as it was
    await typeNumber(page, 'From', '2')
    await drawn()
    await expect.poll(differs, { timeout: 60_000 }).toEqual([false, false])
    await page.getByTestId('clip').getByRole('radio', { name: 'again' }).click()
    await expect.poll(() => page.getByTestId('save-state').textContent(), { timeout: 30_000 }).toMatch(/^Saved/)
    await page.reload()
    await page.getByTestId('clip').waitFor()
    expect(await numberIn(page, 'From')).toBe(2)
    expect(await page.getByRole('radio', { name: 'again' }).getAttribute('aria-checked')).toBe('true')
  }, 120_000)
})

describe('a reel of the hall’s viewpoints', () => {
  it('pushes from one to the next: findings lead to their place; a deleted viewpoint is named and the rest plays', async () => {
    await page.goto(`${stand.server.url}/project/${DEMO_IDS.hall}/walk`)
    await page.getByRole('button', { name: 'Push from one to the next' }).click()
    await page.locator('[data-testid=film-canvas][data-sample]').waitFor({ timeout: 90_000 })
    const finding = page.getByTestId('comfort').locator('li').first()
    await finding.waitFor()
    await finding.getByTitle('Go there').click()
    expect((await time())[0]).not.toBe('00:00:00:00')
    const whole = (await time())[1]
    await page.getByRole('button', { name: 'Once more' }).click()
    await expect.poll(async () => (await time())[1]).not.toBe(whole)
    await page.keyboard.press('Control+z')
    await expect.poll(async () => (await time())[1]).toBe(whole)
    await page.getByRole('link', { name: 'Frame' }).click()
    await page.getByRole('button', { name: 'More for Hall, west' }).click()
    await page.getByRole('menuitem', { name: 'Delete' }).click()
    await page.getByRole('link', { name: 'Walk' }).click()
    await expect.poll(() => page.getByTestId('reel-faults').innerText()).toMatch(/needs a viewpoint that is no longer there/) // prettier-ignore
    await expect.poll(async () => (await time())[1]).not.toBe(whole)
  }, 180_000)
})

describe('a walk drawn in Plan', () => {
  const shots = async (): Promise<{ kind: string; name: string; stops?: { station: number[]; holdS: number }[] }[]> => {
    await expect.poll(() => page.getByTestId('save-state').textContent(), { timeout: 30_000 }).toMatch(/^Saved/)
    const { document } = await stand.server.projects.open(DEMO_IDS.hall)
    return document.shots as never
  }
  const drawn = async () => (await shots()).find((s) => s.name === 'Walk')!.stops!
  it('goes where five clicks put it, at eye height over the floor; one inserted, one dragged, one taken out by key', async () => {
    await page.goto(`${stand.server.url}/project/${DEMO_IDS.hall}/walk`)
    await page.getByRole('button', { name: 'Draw a walk' }).click()
    await expect.poll(() => page.getByTestId('reel-faults').innerText()).toMatch(/needs stops/)
    const place = page.getByRole('button', { name: 'Place stops' })
    await expect.poll(() => place.isEnabled(), { timeout: 60_000 }).toBe(true)
    // Plan is fitted: the hall is 18 m long
    await page.waitForTimeout(1500)
    const box = (await page.getByTestId('plan').boundingBox())!
    const spots = [[0.22, 0.6], [0.4, 0.62], [0.55, 0.52], [0.7, 0.62], [0.86, 0.5]] as const // prettier-ignore
    for (const [i, [x, y]] of spots.entries()) {
      await page.mouse.click(box.x + x * box.width, box.y + y * box.height)
      await page.getByTestId(`plan-stop-${i}`).waitFor()
      await expect.poll(() => page.getByTestId('travel').innerText()).toMatch(new RegExp(`Stop ${i + 1} of ${i + 1}`))
    }
    for (const s of await drawn()) expect(s.station[2]).toBeCloseTo(1.58, 2)
    expect(await place.getAttribute('aria-pressed')).toBe('true')
    await page.keyboard.press('Escape')
    await expect.poll(() => place.getAttribute('aria-pressed')).toBe('false')
    const [third] = [(await page.getByTestId('plan-stop-2').boundingBox())!]
    const from = { x: third.x + third.width / 2, y: third.y + third.height / 2 }
    const before = (await drawn())[2]!.station
    await page.mouse.move(from.x, from.y)
    await page.mouse.down()
    await page.mouse.move(from.x + 6, from.y - 12, { steps: 4 })
    await page.mouse.up()
    await expect.poll(async () => (await drawn())[2]!.station[1]! - before[1]!).toBeGreaterThan(0.2)
    await page.getByTestId('plan-stop-3').focus()
    await page.keyboard.press('Delete')
    await expect.poll(async () => (await drawn()).length).toBe(4)
    await page.keyboard.press('Control+z')
    await expect.poll(async () => (await drawn()).length).toBe(5)
  }, 180_000)
  it('a stop is given a direction; its handle, dragged in Plan, turns the way there; undo takes it back', async () => {
    const d = (): Promise<string | null> => page.getByTestId('way').first().getAttribute('d')
    await page.getByTestId('plan-stop-1').click()
    await page.getByRole('button', { name: 'Give it a direction' }).click()
    const handle = page.getByTestId('tangent-on').first()
    await handle.waitFor()
    await page.waitForTimeout(500)
    const before = await d()
    await drag(page, await middle(page, 'tangent-on'), { x: 4, y: -26 })
    await expect.poll(d).not.toBe(before)
    await page.getByRole('button', { name: 'Take its direction away' }).waitFor()
    await page.getByTestId('ruler').focus()
    for (let i = 0; i < 2; i++) await page.keyboard.press('Control+z')
    await page.getByRole('button', { name: 'Give it a direction' }).waitFor()
    expect(await page.getByTestId('tangent-on').count()).toBe(0)
  })
  it('a place to be looked at may be that of a stop, which stays as it is; undo takes it back', async () => {
    const before = await drawn()
    await page.getByText('Where it looks, over time').click()
    await page.getByRole('button', { name: 'Aim at a place now' }).click()
    const stop = await middle(page, 'plan-stop-2')
    await page.mouse.click(stop.x, stop.y)
    await page.getByTestId('aim-0').waitFor()
    expect(await middle(page, 'aim-mark-0')).toEqual(stop)
    expect(await drawn()).toEqual(before)
    await page.getByTestId('ruler').focus()
    await page.keyboard.press('Control+z')
    await expect.poll(() => page.getByTestId('aim-0').count()).toBe(0)
    await page.getByText('Where it looks, over time').click()
  })
  it('what is found is mended, or all of it eased, seen before and after, taken by one edit; then it plays', async () => {
    const found = page.getByTestId('comfort').locator('li')
    await expect.poll(() => found.count()).toBeGreaterThan(1)
    const [, whole] = await time()
    await page.getByRole('button', { name: 'Ease to fit the limits' }).click()
    const eased = page.getByTestId('eased')
    await eased.waitFor({ timeout: 60_000 })
    expect(await eased.innerText()).toMatch(/found becomes/)
    const [, after] = await time()
    expect(after > whole).toBe(true)
    await eased.getByRole('radio', { name: 'before' }).click()
    expect((await time())[1]).toBe(whole)
    await eased.getByRole('button', { name: 'Take it' }).click()
    await expect.poll(async () => (await time())[1]).toBe(after)
    // what stands too near is the walker's: nothing else is left
    await page.waitForTimeout(1500)
    for (const text of await found.allInnerTexts()) expect(text).toMatch(/^Passes/)
    await page.getByRole('button', { name: 'Play', exact: true }).click()
    await page.waitForTimeout(800)
    await page.keyboard.press('Space')
    expect((await time())[0]).not.toBe('00:00:00:00')
    await page.getByTestId('ruler').focus()
    await page.keyboard.press('Control+z')
    await expect.poll(async () => (await time())[1]).toBe(whole)
  }, 180_000)
  it('its charts have all layers over one another: names, limits and the moment lie on the curves', async () => {
    await page.getByRole('button', { name: 'Charts' }).click()
    const chart = page.getByTestId('motion-chart')
    await expect.poll(() => chart.locator('.annotation').count(), { timeout: 30_000 }).toBeGreaterThan(4)
    const layers = await chart.locator('.main-svg').evaluateAll((l) => l.map((e) => e.getBoundingClientRect().y))
    expect(layers.length).toBeGreaterThan(1)
    expect(new Set(layers).size).toBe(1)
    // what lies below is reached by the mouse
    const limits = page.locator('summary', { hasText: /^Limits$/ })
    await limits.click()
    expect(await limits.locator('xpath=..').getAttribute('open')).not.toBeNull()
    await limits.click()
    await page.getByRole('button', { name: 'Close the charts' }).click()
  })
  it('the demo’s minute: the drawer comes out in the picture; its path reads back with the focus pulled', async () => {
    await page.getByTestId('reels').getByRole('button', { name: 'A minute of the hall' }).click()
    expect((await time())[1]).toBe('00:01:00:00')
    await expect.poll(() => page.getByTestId('comfort').innerText(), { timeout: 30_000 }).toMatch(/nothing found/)
    const csv = (await download('Path as CSV')).trimEnd().split('\r\n').map((r) => r.split(',').map(Number)) // prettier-ignore
    expect(csv).toHaveLength(1501)
    const focus = csv.slice(1).map((r) => r[13]!)
    expect(focus[700]!).toBeGreaterThan(7)
    expect(focus[1498]!).toBeCloseTo(1.69, 1)
    await page.getByTestId('ruler').focus()
    await page.keyboard.press('End')
    const middle = (): Promise<number[]> =>
      page.evaluate(`(() => {
        const c = document.querySelector('[data-testid=film-canvas]')
        const p = new OffscreenCanvas(c.width, c.height).getContext('2d')
        p.drawImage(c, 0, 0)
        return [...p.getImageData(c.width * 0.35, c.height * 0.35, c.width * 0.3, c.height * 0.3).data]
      })()`)
    await page.locator('[data-testid=film-canvas][data-sample="2"]').waitFor({ timeout: 60_000 })
    const open = await middle()
    // five seconds before it is shut; the camera hardly moves there any more
    for (let i = 0; i < 6; i++) await page.keyboard.press('PageUp')
    await page.waitForTimeout(1000)
    await page.locator('[data-testid=film-canvas][data-sample="2"]').waitFor({ timeout: 60_000 })
    const other = await middle()
    const off = open.reduce((sum, v, i) => sum + Math.abs(v - other[i]!), 0) / open.length
    expect(off).toBeGreaterThan(2)
  }, 180_000)
  it('a dissolve lies over what goes; an open shutter blurs what moves, and nothing else; the aim is clicked in the picture', async () => {
    const over = (): Promise<number> => page.getByTestId('film-over').evaluate((c) => Number((c as HTMLElement).style.opacity)) // prettier-ignore
    const drawn = () => page.locator('[data-testid=film-canvas][data-sample="2"]').waitFor({ timeout: 60_000 })
    const seconds = async (n: number): Promise<void> => {
      await page.getByTestId('ruler').focus()
      await page.keyboard.press('Home')
      for (let i = 0; i < n; i++) await page.keyboard.press('PageDown')
    }
    await page.getByTestId('reel-ruler').getByRole('button', { name: 'The hall' }).click()
    await typeNumber(page, 'Dissolves for', '2')
    const holdS = await numberIn(page, 'Lasts')
    const within = Math.floor(holdS - 0.3)
    await seconds(within)
    await expect.poll(over, { timeout: 60_000 }).toBeCloseTo((within - (holdS - 2)) / 2, 2)
    await seconds(3)
    await expect.poll(over, { timeout: 60_000 }).toBe(0)
    await drawn()
    const detail = (): Promise<number> =>
      page.evaluate(`(() => {
        const c = document.querySelector('[data-testid=film-canvas]')
        const p = new OffscreenCanvas(c.width, c.height).getContext('2d')
        p.drawImage(c, 0, 0)
        const { data } = p.getImageData(0, 0, c.width, c.height)
        let sum = 0
        for (let i = 4; i < data.length; i += 4) sum += Math.abs(data[i + 1] - data[i - 3])
        return sum / (data.length / 4)
      })()`)
    await page.getByText('Where it looks, over time').click()
    const box = (await page.getByTestId('film-canvas').boundingBox())!
    for (const [second, x] of [
      [1, 0.1],
      [4, 0.9],
    ] as const) {
      await seconds(second)
      await page.getByRole('button', { name: 'Aim at a place now' }).click()
      await page.mouse.click(box.x + box.width * x, box.y + box.height / 2)
      await page.getByTestId(`aim-${second === 1 ? 0 : 1}`).waitFor()
    }
    expect(await page.getByTestId('aim-mark-1').count()).toBeGreaterThan(0)
    await seconds(3)
    await page.waitForTimeout(800)
    await drawn()
    const sharp = await detail()
    await typeNumber(page, 'Shutter', '360')
    await expect.poll(detail, { timeout: 60_000 }).toBeLessThan(0.97 * sharp)
    await page.getByTestId('ruler').focus()
    await page.keyboard.press('Control+z')
    await expect.poll(detail, { timeout: 60_000 }).toBeCloseTo(sharp, 6)
  }, 240_000)
})

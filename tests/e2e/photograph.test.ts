// The Photograph view as its user goes through it: bring in, draw, solve, measure, stand there, finish.
import { readFileSync } from 'node:fs'
import type { Page } from 'playwright-core'
import { poseOfStand, projectPoint, type Camera } from '#core/camera'
import type { Vec3 } from '#core/math'
import { readProjectDocument } from '#model'
import { cameraFound, type SolvedCamera } from '#model/photo'
import { PNG } from 'pngjs'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { DEMO_IDS } from '../../scripts/demo-data/seed.ts'
import { dropFiles, openStand, pictureAt, picturePixels, type Stand } from '../support/browser.ts'

interface Truth {
  readonly file: string
  readonly widthPx: number
  readonly heightPx: number
  readonly truth: SolvedCamera
}
const FOLDER = 'scripts/demo-data/photos'
const TRUTHS = JSON.parse(readFileSync(`${FOLDER}/truth.json`, 'utf8')) as Truth[]
const site = TRUTHS.find((t) => t.file === 'site-visit.jpg')!

const trueCamera = cameraFound(site, site.truth)

let stand: Stand
let page: Page
const open = async (): Promise<void> => {
  await page.goto(`${stand.server.url}/project/${DEMO_IDS.hall}/photograph`)
  await page.locator('[data-testid=photo-canvas][data-ready=yes]').waitFor()
}
const value = async (name: string): Promise<string> =>
  page
    .locator('.item')
    .filter({ has: page.getByText(name, { exact: true }) })
    .locator('.value')
    .innerText()
const rms = async (): Promise<number> => Number(/([\d.]+) px/.exec(await page.getByTestId('rms').innerText())?.[1])
const photoPoint = async (x: number, y: number): Promise<{ x: number; y: number }> => {
  const box = (await page.getByTestId('photograph').boundingBox())!
  const k = Math.min((box.width - 28) / 2400, (box.height - 28) / 1600)
  return { x: box.x + (box.width - 2400 * k) / 2 + x * k, y: box.y + (box.height - 1600 * k) / 2 + y * k }
}

beforeAll(async () => {
  stand = await openStand({ demo: true })
  page = await stand.page({ samples: 1 })
}, 120_000)
afterAll(async () => {
  expect(stand.errors.filter((e) => !/status of 4/.test(e))).toEqual([])
  await stand.end()
})

describe('the demo’s photograph', () => {
  it('is solved as it is opened: focal length within 0.5 %, station within 3 cm of the truth', async () => {
    await open()
    await page.getByTestId('rms').waitFor()
    const focal = Number((await value('Focal length')).split(' ')[0]!)
    expect(Math.abs(focal / ((site.truth.focalPx * 36) / site.widthPx) - 1)).toBeLessThan(0.005)
    const place = (await value('Station')).split(/[,±]/).slice(0, 3).map(parseFloat)
    const off = Math.hypot(...place.map((v, i) => v - site.truth.station[i]!))
    expect(off).toBeLessThan(0.03)
    expect(await rms()).toBeLessThan(1.5)
  })
  it('the harder one, one-point and cropped: its middle within four sigma, its station within 3 cm', async () => {
    const cropped = TRUTHS.find((t) => t.file === 'drawer-wall-cropped.jpg')!
    await page.getByRole('link', { name: 'Drawer wall, cropped' }).click()
    await page.locator('[data-testid=photo-canvas][data-ready=yes]').waitFor()
    await expect.poll(() => value('Middle')).toMatch(/±/)
    const [x, y, sdX, sdY] = (await value('Middle')).match(/[\d.]+/g)!.map(Number) as [number, number, number, number]
    expect(Math.abs(x - cropped.truth.principal[0])).toBeLessThan(4 * sdX)
    expect(Math.abs(y - cropped.truth.principal[1])).toBeLessThan(4 * sdY)
    const place = (await value('Station')).split(/[,±]/).slice(0, 3).map(parseFloat)
    expect(Math.hypot(...place.map((v, i) => v - cropped.truth.station[i]!))).toBeLessThan(0.03)
    await page.getByRole('link', { name: 'Site visit' }).click()
    await page.locator('[data-testid=photo-canvas][data-ready=yes]').waitFor()
    await page.locator('circle.grip').first().waitFor()
    await expect.poll(rms).toBeLessThan(0.4)
  })
  it('a place more on a line tells how the lens bends it: one observation more, the same camera', async () => {
    const left = async (): Promise<number> =>
      Number(/(\d+) left over/.exec(await page.getByTestId('rms').innerText())?.[1])
    const before = await left()
    const line = page.getByTestId('residuals').locator('li').filter({ hasText: 'Line A21' })
    await line.getByRole('button').first().click()
    const at = await page.evaluate<{ x: number; y: number }>(`(() => {
      const p = document.querySelector('g.on path.line').getBoundingClientRect()
      return { x: p.x + p.width / 2, y: p.y + p.height / 2 }
    })()`)
    await page.keyboard.down('Shift')
    await page.mouse.click(at.x, at.y)
    await page.keyboard.up('Shift')
    await expect.poll(left).toBe(before + 1)
    await page.keyboard.press('Control+z')
    await expect.poll(left).toBe(before)
  })
  it('an end that is dragged changes the answer while the hand is moving; Esc lets it go, letting go keeps it, undo brings it back', async () => {
    const before = await page.getByTestId('rms').innerText()
    const grip = (await page.locator('circle.grip').first().boundingBox())!
    const at = { x: grip.x + grip.width / 2, y: grip.y + grip.height / 2 }
    await page.mouse.move(at.x, at.y)
    await page.mouse.down()
    await page.mouse.move(at.x + 9, at.y + 14, { steps: 4 })
    await page.getByTestId('loupe').waitFor()
    await expect.poll(rms).toBeGreaterThan(Number(/([\d.]+) px/.exec(before)![1]) * 1.2)
    await page.keyboard.press('Escape')
    await page.mouse.up()
    const same = (): Promise<boolean> => page.getByTestId('rms').innerText().then((t) => t.split('px')[0] === before.split('px')[0]) // prettier-ignore
    await expect.poll(same).toBe(true)
    await page.mouse.move(at.x, at.y)
    await page.mouse.down()
    await page.mouse.move(at.x + 9, at.y + 14, { steps: 4 })
    await page.mouse.up()
    await page.getByTestId('weakest').waitFor()
    expect(await page.getByTestId('weakest').innerText()).toMatch(/disagrees: without it rms/)
    await page.keyboard.press('Control+z')
    await expect.poll(same).toBe(true)
  })
  it('an edge of the model, clicked beside it and drawn along in it, scales it: the rug is 1.6 m wide', async () => {
    const seen = (w: Vec3): { x: number; y: number } => {
      const at = projectPoint(trueCamera, w)!
      return { x: at.xPx, y: at.yPx }
    }
    const [a, b, middle] = [seen([6.4, 0.86, 0.01]), seen([6.4, 2.44, 0.01]), seen([6.4, 1.7, 0.01])]
    const tool = page.locator('.tools').getByRole('button', { name: 'Scale', exact: true })
    await tool.click()
    const pane = page.getByTestId('model-pane')
    await page.waitForTimeout(1000)
    const picture = (await pane.locator('.picture').boundingBox())!
    const k = picture.width / site.widthPx
    await page.mouse.move(picture.x + middle.x * k, picture.y + middle.y * k)
    await page.getByTestId('model-loupe').waitFor()
    await page.getByTestId('loupe').waitFor({ state: 'detached' })
    await expect
      .poll(
        async () => {
          await page.mouse.click(picture.x + middle.x * k, picture.y + middle.y * k)
          return pane.innerText()
        },
        { timeout: 40_000, interval: 1500 },
      )
      .toMatch(/Now drag along the same edge/)
    const [from, to] = [await photoPoint(a.x, a.y), await photoPoint(b.x, b.y)]
    await page.mouse.move(from.x, from.y)
    await page.mouse.down()
    await page.mouse.move(to.x, to.y, { steps: 5 })
    await page.mouse.up()
    const known = page.getByLabel('Known length', { exact: true })
    await known.waitFor()
    expect(Math.abs(Number.parseFloat(await known.inputValue()) - 1.6)).toBeLessThan(0.03)
    await expect.poll(rms).toBeLessThan(1.5)
    const place = (await value('Station')).split(/[,±]/).slice(0, 3).map(parseFloat)
    expect(Math.hypot(...place.map((v, i) => v - site.truth.station[i]!))).toBeLessThan(0.05)
    await page.keyboard.press('Control+z')
    await known.waitFor({ state: 'detached' })
    await page.locator('.tools').getByRole('button', { name: 'Lines', exact: true }).click()
  }, 90_000)
  it('the top and the tip of a shadow set the sun; an object is chosen where the photograph shows it', async () => {
    const at = async (w: Vec3): Promise<{ x: number; y: number }> => {
      const { xPx, yPx } = projectPoint(trueCamera, w)!
      return photoPoint(xPx, yPx)
    }
    // the near corner of the counter, and a place on the floor before it
    const [top, tip] = [await at([6.205, 3.585, 0.925]), await at([6, 2.9, 0])]
    await page.keyboard.press('6')
    await page.mouse.click(top.x, top.y)
    await page.waitForTimeout(1200)
    await page.mouse.click(tip.x, tip.y)
    const told = page.getByText(/The sun stands at/)
    await told.waitFor()
    const [bearing, height] = (await told.innerText()).match(/[\d.]+(?=°)/g)!.map(Number) as [number, number]
    expect(Math.abs(bearing - (Math.atan2(0.2, 0.68) * 180) / Math.PI)).toBeLessThan(2.5)
    expect(Math.abs(height - (Math.atan2(0.925, Math.hypot(0.205, 0.685)) * 180) / Math.PI)).toBeLessThan(1.5)
    await page.getByRole('button', { name: 'Undo' }).last().click()
    await page.getByRole('radio', { name: 'chosen' }).click()
    await page.getByText(/Nothing is chosen/).waitFor()
    await page.keyboard.press('7')
    const counter = await at([7, 3.58, 0.9])
    await page.mouse.click(counter.x, counter.y)
    await page.getByText(/Nothing is chosen/).waitFor({ state: 'detached' })
    await page.getByRole('radio', { name: 'off' }).first().click()
    await page.keyboard.press('1')
  }, 90_000)
  it('edges are found, and a bundle of them is taken by a click', async () => {
    await page.getByRole('button', { name: /^Find edges/ }).click()
    await page.locator('[data-took-ms]').waitFor({ timeout: 60_000 })
    const rows = await page.getByTestId('residuals').locator('li').count()
    await page.locator('.offers .likely').first().click()
    await expect.poll(() => page.getByTestId('residuals').locator('li').count()).toBeGreaterThan(rows + 3)
    await page.keyboard.press('Control+z')
    await expect.poll(() => page.getByTestId('residuals').locator('li').count()).toBe(rows)
  })
  it('a length measured in it is the truth within three times its own plus and minus', async () => {
    const seen = (w: Vec3): { x: number; y: number } => {
      const at = projectPoint(trueCamera, w)!
      return { x: at.xPx, y: at.yPx }
    }
    const [foot, head] = [seen([7, 3.2, 0]), seen([7, 3.2, 1.4])]
    await page.getByRole('radio', { name: /Upright/ }).click()
    await page.getByRole('button', { name: 'Measure', exact: true }).click()
    const [from, to] = [await photoPoint(foot.x, foot.y), await photoPoint(head.x, head.y)]
    await page.mouse.move(from.x, from.y)
    await page.mouse.down()
    await page.mouse.move(to.x, to.y, { steps: 5 })
    await page.mouse.up()
    const row = page.getByTestId('residuals').locator('li').filter({ hasText: 'Measure 1' })
    await row.filter({ hasText: '±' }).waitFor()
    const [, m, sd] = /([\d.]+) ± ([\d.]+) m/.exec(await row.innerText())!
    expect(Math.abs(Number(m) - 1.4)).toBeLessThan(3 * Number(sd) + 0.0005)
    expect(Number(sd)).toBeLessThan(0.02)
  })
  it('stood there, the model’s corners lie within two pixels of the photograph’s; a still has it behind, and before within a mask', async () => {
    await page.getByRole('button', { name: 'Mask', exact: true }).click()
    const corners = [[300, 1000], [900, 1000], [900, 1400], [300, 1400]] as const // prettier-ignore
    for (const [x, y] of corners) {
      const at = await photoPoint(x, y)
      await page.mouse.click(at.x, at.y)
    }
    await page.keyboard.press('Enter')
    await page.getByTestId('residuals').getByText('Mask 1').waitFor()
    await page.getByRole('button', { name: 'Stand here' }).click()
    await page.waitForURL(/\/project\/[^/]+$/)
    await pictureAt(page, 'all')
    expect(await page.getByTestId('photo-miss').innerText()).toMatch(/rms 0\.\d px/)
    await page.waitForFunction(() =>
      document.querySelector('[data-testid=save-state]')?.textContent?.startsWith('Saved'),
    )
    const answer = await page.evaluate(() => fetch(`/api/projects/${location.pathname.split('/')[2]}`).then((r) => r.json() as Promise<{ document: unknown }>)) // prettier-ignore
    const read = readProjectDocument(answer.document)
    if (!read.ok) throw new Error(read.message)
    const { working, photos } = read.value
    const camera: Camera = { pose: poseOfStand(working.stand), lens: working.lens, frame: working.frame }
    for (const world of [
      ...photos![0]!.match.pairs.map((p) => p.world),
      [4, 1, 0],
      [12, 6, 3],
      [9, 4, 0.9],
    ] as Vec3[]) {
      const [a, b] = [projectPoint(camera, world)!, projectPoint(trueCamera, world)!]
      expect(Math.hypot(a.xPx - b.xPx, a.yPx - b.yPx)).toBeLessThan(2)
    }
    await page.getByTestId('cell-look').click()
    expect(await page.getByRole('radio', { name: 'photo' }).getAttribute('aria-checked')).toBe('true')
    const download = page.waitForEvent('download', { timeout: 600_000 })
    await page.keyboard.press('Control+s')
    const png = readFileSync(await (await download).path())
    const { width, height } = PNG.sync.read(png)
    expect([width, height]).toEqual([2400, 1600])
    // within the mask it is the photograph itself, grain for grain; beside it the model, without the photograph's noise
    const [within, beside] = await page.evaluate<[number, number]>(`(async () => {
      const bitmap = async (text, type) => createImageBitmap(new Blob([Uint8Array.from(atob(text), (c) => c.charCodeAt(0))], { type }))
      const pixels = (b, x, y) => {
        const paper = new OffscreenCanvas(200, 100).getContext('2d')
        paper.drawImage(b, -x, -y)
        return paper.getImageData(0, 0, 200, 100).data
      }
      const still = await bitmap('${png.toString('base64')}', 'image/png')
      const photo = await bitmap('${readFileSync(`${FOLDER}/${site.file}`).toString('base64')}', 'image/jpeg')
      return [[500, 1150], [1100, 1350]].map(([x, y]) => {
        const [a, b] = [pixels(still, x, y), pixels(photo, x, y)]
        let sum = 0
        for (let i = 0; i < a.length; i++) if (i % 4 !== 3) sum += Math.abs(a[i] - b[i])
        return sum / (a.length * 0.75)
      })
    })()`)
    expect(within).toBeLessThan(0.5)
    expect(beside).toBeGreaterThan(1)
  }, 300_000)
})

describe('before the photograph', () => {
  it('the model’s shadow falls on ground that is not there: the same place is darker with it, and only there', async () => {
    // the lamp without its table and its backdrop stands on nothing
    const { url } = stand.server
    const read = readProjectDocument(((await (await fetch(`${url}/api/projects/${DEMO_IDS.lamp}`)).json()) as { document: unknown }).document)
    if (!read.ok) throw new Error(read.message)
    const hall = readProjectDocument(((await (await fetch(`${url}/api/projects/${DEMO_IDS.hall}`)).json()) as { document: unknown }).document)
    const photo = hall.ok && hall.value.photos![0]!
    if (!photo) throw new Error('no photograph')
    const { working } = read.value
    const hidden = ['Backdrop', 'Oak slab'].map((n) => `germination-lamp/Germination lamp/${n}`)
    const lamp = { ...working, visible: { hidden }, look: { ...working.look, backdrop: { ...working.look.backdrop, kind: 'photo' as const, photoId: photo.id } } }
    await stand.server.projects.create({ ...read.value, photos: [photo], working: lamp }, 'lamp-on-photo')
    await page.goto(`${url}/project/lamp-on-photo`)
    await pictureAt(page, 'all')
    const before = await picturePixels(page)
    await page.getByTestId('cell-look').click()
    await page.getByRole('checkbox', { name: /Shadow on the/ }).check()
    await pictureAt(page, 'all')
    await expect.poll(async () => darker(before, await picturePixels(page)), { timeout: 30_000 }).toBeGreaterThan(0.002)
    await pictureAt(page, 'all')
    const after = await picturePixels(page)
    expect(darker(before, after)).toBeLessThan(0.5)
    expect(darker(after, before)).toBeLessThan(0.002)
  }, 120_000) // prettier-ignore
})
/** Share of pixels that are clearly darker in the second picture. */
function darker(a: { data: Uint8Array }, b: { data: Uint8Array }): number {
  let n = 0
  for (let i = 0; i < a.data.length; i += 4) if (a.data[i]! + a.data[i + 1]! + a.data[i + 2]! - b.data[i]! - b.data[i + 1]! - b.data[i + 2]! > 40) n++ // prettier-ignore
  return n / (a.data.length / 4)
}

describe('bad files', () => {
  it('are refused in words; the photographs stay', async () => {
    await open()
    const notice = page.locator('[role=status], [role=alert]')
    const jpeg = readFileSync(`${FOLDER}/${site.file}`)
    await dropFiles(page, '.view', [{ name: 'notes.jpg', buffer: Buffer.from('this is no picture') }])
    await notice.filter({ hasText: 'no picture that is read here' }).waitFor()
    await dropFiles(page, '.view', [{ name: 'half.jpg', buffer: jpeg.subarray(0, jpeg.length / 2) }])
    await notice.filter({ hasText: 'cut off' }).waitFor()
    await dropFiles(page, '.view', [{ name: 'empty.png', buffer: Buffer.alloc(0) }])
    await notice.filter({ hasText: 'empty' }).waitFor()
    await dropFiles(page, '.view', [{ name: 'hall.glb', buffer: Buffer.from('glTF') }])
    await notice.filter({ hasText: 'Only photographs are taken here' }).waitFor()
    expect(await page.locator('a.photo').count()).toBe(TRUTHS.length)
  })
  it('a photograph that is taken out while it stands behind the frame says so, and undo brings it back with its lines', async () => {
    await page.getByRole('button', { name: 'Take out', exact: true }).first().click()
    await page.locator('[role=status], [role=alert]').filter({ hasText: 'It stood behind this framing' }).waitFor()
    await page.getByRole('button', { name: 'Undo' }).last().click()
    await expect.poll(() => page.locator('a.photo').count()).toBe(TRUTHS.length)
    await open()
    await page.getByTestId('rms').waitFor()
  })
})

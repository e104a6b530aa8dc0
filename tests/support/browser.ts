// Debian's Chromium on the built page, served by a real server with the demo in it.
import { chromium, type Browser, type Page } from 'playwright-core'
import { seedDemo } from '../../scripts/demo-data/seed.ts'
import { testServer, type TestServer } from './server.ts'

export const CHROMIUM = process.env['YOROI_CHROMIUM'] ?? '/usr/bin/chromium'
const FLAGS = [
  // the page is put together in software, as browsers without graphics hardware do: on the emulated GL it would wait for the stage
  '--disable-gpu-compositing',
  '--use-gl=angle',
  '--use-angle=swiftshader',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--disable-default-apps',
  '--disable-domain-reliability',
  '--metrics-recording-only',
  '--no-pings',
]

export interface Stand {
  readonly server: TestServer
  readonly browser: Browser
  /** A new page; whatever it logs as an error is collected. `samples`: as many the picture at rest is refined with. */
  page(options?: { width?: number; height?: number; samples?: number }): Promise<Page>
  readonly errors: string[]
  end(): Promise<void>
}

export const launch = (): Promise<Browser> => chromium.launch({ executablePath: CHROMIUM, args: FLAGS })

export async function openStand(options: { demo: boolean; uploadLimitBytes?: number }): Promise<Stand> {
  const { uploadLimitBytes } = options
  const server = await testServer({ staticDir: 'dist', ...(uploadLimitBytes ? { uploadLimitBytes } : {}) })
  if (options.demo) await seedDemo(server)
  const browser = await launch()
  const errors: string[] = []
  return {
    server,
    browser,
    errors,
    async page({ width = 1280, height = 800, samples = 2 } = {}) {
      const context = await browser.newContext({ viewport: { width, height }, acceptDownloads: true })
      const page = await context.newPage()
      // on software GL each sample counts: a page refines less here than it does for a person
      await page.addInitScript(
        ([rest, still]) => {
          if (localStorage.getItem('yoroi.samples') !== null) return
          localStorage.setItem('yoroi.samples', String(rest))
          localStorage.setItem('yoroi.stillSamples', String(still))
        },
        [samples, samples * 2] as const,
      )
      page.setDefaultTimeout(30_000)
      page.on('pageerror', (e) => errors.push(e.message))
      page.on('console', (m) => m.type() === 'error' && errors.push(m.text()))
      return page
    },
    async end() {
      await browser.close()
      await server.end()
    },
  }
}

/** Waits until the picture has at least `sample` samples ('all' for the finished refinement) of its present framing. */
export async function pictureAt(page: Page, sample: number | 'all'): Promise<void> {
  // a new framing is asked for 40 ms after it rests: the old count must be gone before the new one is waited for
  await page.waitForTimeout(150)
  await page.waitForFunction(
    (want) => {
      const c = document.querySelector('[data-testid=picture-canvas]')
      const at = Number(c?.getAttribute('data-sample'))
      const of = Number(c?.getAttribute('data-samples'))
      // finished is what has its light from all sides too
      const isLit =
        Number(c?.getAttribute('data-lights')) > 0 &&
        !document.querySelector('.foot')?.textContent?.includes('working out the light')
      if (want !== 'all') return of > 0 && at >= want
      // held for a moment: light that has just come asks for the picture anew
      const w = window as unknown as { finishedAt?: number }
      if (!(of > 0 && isLit && at === of)) delete w.finishedAt
      else w.finishedAt ??= performance.now()
      const isFinished = w.finishedAt !== undefined && performance.now() - w.finishedAt > 200
      if (isFinished) delete w.finishedAt
      return isFinished
    },
    sample,
    { timeout: 120_000 },
  )
}

/** The picture's pixels as the page shows them, RGBA rows from the top. */
export async function picturePixels(page: Page): Promise<{ width: number; height: number; data: Uint8Array }> {
  const { width, height, base64 } = await page.evaluate(() => {
    const source = document.querySelector<HTMLCanvasElement>('[data-testid=picture-canvas]')!
    const c = new OffscreenCanvas(source.width, source.height)
    const g = c.getContext('2d')!
    g.drawImage(source, 0, 0)
    const { data } = g.getImageData(0, 0, c.width, c.height)
    let s = ''
    for (let i = 0; i < data.length; i += 0x8000) s += String.fromCharCode(...data.subarray(i, i + 0x8000))
    return { width: c.width, height: c.height, base64: btoa(s) }
  })
  return { width, height, data: Uint8Array.from(Buffer.from(base64, 'base64')) }
}

/** Mean absolute difference of two pictures' colour values, in levels of 255. */
export function meanDifference(a: { data: Uint8Array }, b: { data: Uint8Array }): number {
  if (a.data.length !== b.data.length) return Infinity
  let sum = 0
  for (let i = 0; i < a.data.length; i++) if (i % 4 !== 3) sum += Math.abs(a.data[i]! - b.data[i]!)
  return sum / (a.data.length * 0.75)
}

/** A number field by its label. */
export const field = (page: Page, label: string) => page.getByLabel(label, { exact: true })
export async function typeNumber(page: Page, label: string, text: string): Promise<void> {
  const f = field(page, label)
  await f.fill(text)
  await f.press('Enter')
}
export const numberIn = async (page: Page, label: string): Promise<number> =>
  Number((await field(page, label).inputValue()).replace('−', '-').replace('+', ''))

/** A drag by mouse from the middle of something, or from given page positions, in small steps. */
export async function drag(
  page: Page,
  from: { x: number; y: number },
  by: { x: number; y: number },
  options: { release?: boolean; button?: 'left' | 'right'; steps?: number } = {},
): Promise<void> {
  const { release = true, button = 'left', steps = 8 } = options
  await page.mouse.move(from.x, from.y)
  await page.mouse.down({ button })
  await page.mouse.move(from.x + by.x, from.y + by.y, { steps })
  await page.waitForTimeout(60)
  if (release) await page.mouse.up({ button })
}
export async function middle(page: Page, testId: string): Promise<{ x: number; y: number }> {
  const box = (await page.getByTestId(testId).first().boundingBox())!
  return { x: box.x + box.width / 2, y: box.y + box.height / 2 }
}

/** Drops files on an element as a person would from the desktop. */
export async function dropFiles(
  page: Page,
  selector: string,
  files: readonly { readonly name: string; readonly buffer: Buffer }[],
): Promise<void> {
  const data = await page.evaluateHandle(
    (list) => {
      const transfer = new DataTransfer()
      for (const { name, base64 } of list)
        transfer.items.add(new File([Uint8Array.from(atob(base64), (c) => c.charCodeAt(0))], name))
      return transfer
    },
    files.map((f) => ({ name: f.name, base64: f.buffer.toString('base64') })),
  )
  await page.dispatchEvent(selector, 'dragover', { dataTransfer: data })
  await page.dispatchEvent(selector, 'drop', { dataTransfer: data })
  await data.dispose()
}

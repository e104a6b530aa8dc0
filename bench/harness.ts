// Common to all benches: the built page and the reference worker in Debian's Chromium, medians, and the table they end in.
import { readdirSync, readFileSync } from 'node:fs'
import { createServer, type ViteDevServer } from 'vite'
import type { Browser, Page } from 'playwright-core'
import { launch } from '../tests/support/browser.ts'

/** What bare three.js took from bytes to its first picture, for the whole application's figure; 0 before it is measured. */
export const bare = { openMs: 0 }

export interface BenchPage {
  readonly page: Page
  readonly browser: Browser
  end(): Promise<void>
}

/** A page that can start the stage and the reference worker straight from the sources. */
export async function benchPage(files: Readonly<Record<string, Uint8Array>>): Promise<BenchPage> {
  const vite: ViteDevServer = await createServer({
    configFile: 'vite.config.ts',
    // all that page and workers import is found before the first page: found later, it would reload the page in the middle of a bench
    cacheDir: 'node_modules/.vite-bench',
    optimizeDeps: {
      entries: ['bench/page/*.html', 'bench/page/*.ts', 'stage/*.worker.ts', 'workers/*.worker.ts'],
      holdUntilCrawlEnd: true,
    },
    server: {
      host: '127.0.0.1',
      port: 4798,
      strictPort: false,
      // memory is told to isolated pages only
      headers: { 'Cross-Origin-Opener-Policy': 'same-origin', 'Cross-Origin-Embedder-Policy': 'require-corp' },
    },
    logLevel: 'error',
    plugins: [
      {
        name: 'bench-files',
        configureServer(server) {
          server.middlewares.use((req, res, next) => {
            const bytes = files[(req.url ?? '').split('?')[0]!]
            if (!bytes) return next()
            res.setHeader('Content-Type', 'model/gltf-binary')
            res.end(Buffer.from(bytes))
          })
        },
      },
    ],
  })
  await vite.listen()
  const address = vite.httpServer!.address() as { port: number }
  const browser = await launch()
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  await page.exposeFunction('cpuMs', cpuMs)
  page.on('pageerror', (e) => console.error(e.message))
  await page.goto(`http://127.0.0.1:${address.port}/bench/page/index.html`)
  await page.waitForFunction(() => 'bench' in window, null, { timeout: 120_000 })
  return {
    page,
    browser,
    end: async () => {
      await browser.close()
      await vite.close()
    },
  }
}

/** Clock ticks of the kernel's accounting a second (USER_HZ). */
const TICKS = 100
/** The processor's time that all browser processes of this bench have had, ms: far steadier than the clock beside other work. */
function cpuMs(): number {
  const stats = readdirSync('/proc').flatMap((pid) => {
    try {
      // pid (name) state parent ...; user and system time are fields 14 and 15
      const text = readFileSync(`/proc/${Number(pid)}/stat`, 'utf8')
      const [name, rest] = [
        text.slice(text.indexOf('(') + 1, text.lastIndexOf(')')),
        text.slice(text.lastIndexOf(')') + 2),
      ]
      const f = rest.split(' ')
      return [{ pid: Number(pid), parent: Number(f[1]), name, ticks: Number(f[11]) + Number(f[12]) }]
    } catch {
      return []
    }
  })
  const mine = new Set([process.pid])
  for (let n = 0; n !== mine.size;) {
    n = mine.size
    for (const s of stats) if (mine.has(s.parent)) mine.add(s.pid)
  }
  return stats.reduce((sum, s) => sum + (mine.has(s.pid) && s.name.includes('chrom') ? s.ticks : 0), 0) * (1000 / TICKS)
}

export const median = (v: readonly number[]): number => [...v].sort((a, b) => a - b)[Math.floor(v.length / 2)]!

export const ms = (v: number): string => `${v.toFixed(0)} ms`

export interface Row {
  readonly what: string
  readonly measured: string
  readonly reference: string
  readonly ratio: number | null
  readonly wanted: string
  readonly ok: boolean
}

export function table(rows: readonly Row[]): string {
  const lines = rows.map(
    (r) =>
      `| ${r.what} | ${r.measured} | ${r.reference} | ${r.ratio === null ? '' : r.ratio.toFixed(2)} | ${r.wanted} | ${r.ok ? 'yes' : '**no**'} |`,
  )
  return [
    '| what | measured | reference in the same run | ratio | wanted | kept |',
    '|---|---|---|---|---|---|',
    ...lines,
  ].join('\n')
}

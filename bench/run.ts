// npm run bench: measures what the product promises, as ratios against a named reference in the same run, and prints the table for
// docs/performance.md. The page is built first.
import { readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { gzipSync } from 'node:zlib'
import { hallModel } from '../scripts/demo-data/scenes.ts'
import { memory, million, pickRay } from './bring.ts'
import { fiveHundred } from './large.ts'
import { check, fit, readings, standRay } from './framing.ts'
import { distortion } from './distortion.ts'
import { dragGaps, lensNumbers, playGaps } from './live.ts'
import { lens } from './lens.ts'
import { match } from './match.ts'
import { photograph } from './photo.ts'
import { playback, reels } from './reel.ts'
import { cutPictures, sections } from './sections.ts'
import { openThousand, refuseLong } from './storage.ts'
import { bare, benchPage, median, ms, table, type Row } from './harness.ts'
import type { BenchApi } from './page/page.ts'

declare global {
  interface Window {
    bench: BenchApi
    /** Processor's time of the browser's processes so far. */
    cpuMs(): Promise<number>
  }
}

/** Both in turns, so that a slow minute of the machine falls on both. */
async function pictures(): Promise<Row[]> {
  const stand = await benchPage({ '/hall.glb': hallModel().bytes })
  const ours: { first: number; frames: number[] }[] = []
  const plain: typeof ours = []
  for (let i = 0; i < 3; i++) {
    plain.push(await stand.page.evaluate(() => window.bench.bare('/hall.glb', 6)))
    ours.push(await stand.page.evaluate(() => window.bench.yoroi('/hall.glb', 6)))
  }
  await stand.end()
  const frame = [median(ours.flatMap((r) => r.frames)), median(plain.flatMap((r) => r.frames))] as const
  const open = [median(ours.map((r) => r.first)), median(plain.map((r) => r.first))] as const
  bare.openMs = open[1]
  const row = (what: string, [a, b]: readonly [number, number], limit: number): Row => ({
    what,
    measured: ms(a),
    reference: `${ms(b)}, bare three.js`,
    ratio: a / b,
    wanted: `at most ${limit}`,
    ok: a / b <= limit,
  })
  return [
    row('picture after a camera move, hall, 684 x 456, shadow kept', frame, 1.25),
    row('bytes of the hall to the first full picture', open, 2.5),
  ]
}

/** Loaded when a model is brought in, or where there is no worker. */
const ON_DEMAND = /^(engine|import\.worker|table\.worker|photo\.worker|match\.worker|draco|meshopt)/

interface Built {
  readonly file: string
  readonly imports?: readonly string[]
}
/** The scripts that must be there before the Frame view shows: the entry, the view, and what either imports itself. */
function firstScripts(): string[] {
  const built = JSON.parse(readFileSync('dist/.vite/manifest.json', 'utf8')) as Record<string, Built>
  const seen = new Set<string>()
  const visit = (key: string): void => {
    if (seen.has(key)) return
    seen.add(key)
    for (const next of built[key]!.imports ?? []) visit(next)
  }
  visit('index.html')
  visit('app/shell/ProjectView.vue')
  visit('app/frame/FrameView.vue')
  return [...seen].map((key) => built[key]!.file).filter((f) => f.endsWith('.js'))
}

/** What the Frame view loads before it shows, gzipped: the page's own scripts, and those of its workers. */
function size(): Row[] {
  const bytes = firstScripts().reduce((n, f) => n + gzipSync(readFileSync(`dist/${f}`)).length, 0)
  const workers = readdirSync('dist/assets').filter(
    (f) => f.includes('worker') && f.endsWith('.js') && !ON_DEMAND.test(f),
  )
  const workerBytes = workers.reduce((n, f) => n + gzipSync(readFileSync(`dist/assets/${f}`)).length, 0)
  return [
    {
      what: 'initial JavaScript of the Frame view, gzipped',
      measured: `${(bytes / 1000).toFixed(0)} kB and ${(workerBytes / 1000).toFixed(0)} kB in two workers`,
      reference: '',
      ratio: null,
      wanted: 'under 600 kB together',
      ok: bytes + workerBytes < 600_000,
    },
  ]
}

const rows: Row[] = []
const only = process.argv[3] ?? null
for (const part of [
  size,
  sections,
  fit,
  standRay,
  check,
  readings,
  pictures,
  cutPictures,
  lens,
  distortion,
  dragGaps,
  lensNumbers,
  match,
  photograph,
  reels,
  playback,
  playGaps,
  pickRay,
  million,
  memory,
  openThousand,
  refuseLong,
  fiveHundred,
].filter((p) => !only || p.name === only)) {
  const found = await part()
  rows.push(...found)
  console.log(table(found))
}
const text = table(rows)
console.log(text)
if (process.argv[2]) writeFileSync(process.argv[2], text)
process.exit(rows.every((r) => r.ok) ? 0 : 1)

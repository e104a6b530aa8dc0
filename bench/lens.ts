// A lens that blurs, and a change of exposure, against the plain picture in the same run.
import { hallModel } from '../scripts/demo-data/scenes.ts'
import { benchPage, median, ms, type Row } from './harness.ts'

export async function lens(): Promise<Row[]> {
  const stand = await benchPage({ '/hall.glb': hallModel().bytes })
  const wide = await stand.page.evaluate(() => window.bench.lens('/hall.glb', 5))
  // discs far wider: 51 px far behind the focus, where they are 2.6 px in the first one
  const long = await stand.page.evaluate(() => window.bench.lens('/hall.glb', 5, [1.4, 2, 85]))
  await stand.end()
  const row = (what: string, a: number[], b: number[], reference: string, limit: number): Row => {
    const ratio = median(a) / median(b)
    return { what, measured: ms(median(a)), reference: `${ms(median(b))}, ${reference}`, ratio, wanted: `at most ${limit}`, ok: ratio <= limit } // prettier-ignore
  }
  const of = (t: typeof wide, which: string): Row[] => [
    row(`hall, 16 samples through a lens, 684 x 456, ${which}, processor's time`, t.soft, t.sharp, '16 plain samples', 1.15), // prettier-ignore
    row(`a moving frame with blur and white balance, ${which}`, t.movingSoft, t.moving, 'without', 1.25),
  ]
  return [
    ...of(wide, '24 mm'),
    row("the same picture exposed otherwise, all told, processor's time", wide.exposed, wide.sharp, 'its 16 samples', 0.1), // prettier-ignore
    ...of(long, '85 mm'),
  ]
}

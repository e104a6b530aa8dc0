// A lens that blurs, and a change of exposure, against the plain picture in the same run.
import { hallModel } from '../scripts/demo-data/scenes.ts'
import { benchPage, median, ms, type Row } from './harness.ts'

export async function lens(): Promise<Row[]> {
  const stand = await benchPage({ '/hall.glb': hallModel().bytes })
  const t = await stand.page.evaluate(() => window.bench.lens('/hall.glb', 3))
  await stand.end()
  const row = (what: string, a: number[], b: number[], reference: string, limit: number): Row => {
    const ratio = median(a) / median(b)
    return { what, measured: ms(median(a)), reference: `${ms(median(b))}, ${reference}`, ratio, wanted: `at most ${limit}`, ok: ratio <= limit } // prettier-ignore
  }
  return [
    row('hall, 16 samples through a lens, 684 x 456', t.soft, t.sharp, '16 plain samples', 1.15),
    row('a moving frame with blur and white balance', t.movingSoft, t.moving, 'without', 1.25),
    row('the same picture exposed otherwise, all told', t.exposed, t.sharp, 'its 16 samples', 0.1),
  ]
}

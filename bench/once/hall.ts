// One measurement each of the hall, by name: `frame` (a picture after a move, ms), `open` (bytes to the first picture, ms), `check` and
// `fit` (as ratios to their references). Prints the number. Uses only what earlier versions have too.
import { hallModel } from '../../scripts/demo-data/scenes.ts'
import { check, fit } from '../framing.ts'
import { benchPage, median } from '../harness.ts'

const what = process.env['YOROI_ONCE'] ?? 'frame'
if (what === 'check' || what === 'fit') {
  const [row] = await (what === 'check' ? check() : fit())
  console.log(what === 'fit' && row!.ratio! > 1 ? 1 / row!.ratio! : row!.ratio)
} else {
  const stand = await benchPage({ '/hall.glb': hallModel().bytes })
  const r = (await stand.page.evaluate(`window.bench.yoroi('/hall.glb', 6)`)) as { first: number; frames: number[] }
  await stand.end()
  console.log(what === 'open' ? r.first : median(r.frames))
}

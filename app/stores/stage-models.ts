// Which models are shown, what is known of them, and their light. A newer call takes the place of an older one.
import type { Vec3 } from '#core/math'
import { bakedSky, skyLightOf } from '#core/optics'
import { originOf } from '#core/placing'
import type { SceneFacts } from '#mesh'
import type { ModelRef, Setup } from '#model'
import { appearanceOf, openedBy } from './appearance.ts'
import type { Bytes } from './stage-bytes.ts'
import { createKnown, type Known, type LoadState } from './stage-known.ts'
import { createPlacing, inWorld, placedAbout } from './stage-placing.ts'
import type { Workers } from './stage-workers.ts'

/** The rest waits this long at most for the first picture. */
const FIRST_PICTURE_MS = 8000

const fetching = (done: number | null): LoadState => ({ kind: 'loading', what: 'Fetching the model', done })

/** What the workers hold: the scene they were given last and where it lies. */
interface Held {
  /** The models whose rays are answered. */
  key: string
  /** The world's point about which stage and geometry lie: near the models, so that nothing shakes in 32-bit numbers. */
  origin: Vec3
  /** What is exactly known of them, about the origin. */
  exact: SceneFacts | null
}

export function createModels(workers: Workers, bytes: Bytes) {
  const known = createKnown()
  const held: Held = { key: '', origin: [0, 0, 0], exact: null }
  const relight = createLight(workers.clients, known, () => held.key)
  const placing = createPlacing(workers, bytes, known, () => held.origin)
  const first = createFirstPicture()
  const show = createShowing(workers, bytes, { known, held, placing, first })

  /** Shows a project's models and works out their light; failures are seen in `state`. */
  async function load(models: readonly ModelRef[], setup: Setup): Promise<void> {
    try {
      if (await show(models, true)) void relight(setup)
    } catch (e) {
      bytes.taken([])
      known.state.value = { kind: 'failed', error: e }
    }
  }
  return {
    ...known,
    show,
    load,
    relight,
    place: placing.place,
    originNow: () => held.origin,
    firstIsShown: first.shown,
  }
}

/** Triangles and trees take all of a processor for a while: the first picture goes before them. */
function createFirstPicture() {
  let shown: () => void = () => undefined
  return {
    shown: () => shown(),
    /** Begins to wait; the answer waits for the first picture, not for ever. */
    expected(): () => Promise<unknown> {
      const seen = new Promise<void>((r) => (shown = r))
      return () => Promise.race([seen, new Promise((r) => setTimeout(r, FIRST_PICTURE_MS))])
    },
  }
}

interface ShowingParts {
  readonly known: Known
  readonly held: Held
  readonly placing: ReturnType<typeof createPlacing>
  readonly first: ReturnType<typeof createFirstPicture>
}

function createShowing({ clients }: Workers, bytes: Bytes, { known, held, placing, first }: ShowingParts) {
  const { state, facts, light, epoch, ready } = known
  let loads = 0
  /**
   * Shows exactly these models, placed; what is on the stage already is only placed anew. Resolves with the exact facts when rays
   * are answered; null when a newer call took its place. AppError when a model cannot be had or read.
   */
  return async (models: readonly ModelRef[], pictureFirst = false): Promise<SceneFacts | null> => {
    const key = JSON.stringify(models)
    if (key === held.key && ready.value && held.exact) {
      await placing.back(models, held.exact)
      return facts.value
    }
    const mine = ++loads
    held.key = ''
    void placing.stop()
    const fresh = !models.every(bytes.isOn)
    if (fresh || !ready.value) state.value = fetching(0)
    // another project: nothing of the one before is asked any more
    if (!models.some(bytes.isOn)) known.forget()
    // nothing waits for the light before it is asked for: pictures are drawn in a plain one first
    light.value = 0
    const both = await clients()
    const wanted = await bytes.fetched(models, (done) => {
      if (state.value.kind === 'loading') state.value = fetching(done)
    })
    if (mine !== loads) return null
    if (fresh) state.value = { kind: 'loading', what: 'Reading the model', done: null }
    const firstPicture = first.expected()
    const about = originOf(models)
    const quick = await both.stage.load(wanted.map((m) => ({ ...m, placed: placedAbout(m.placed, about) })))
    held.origin = about
    bytes.taken(models)
    if (mine !== loads) return null
    facts.value = inWorld(quick, about)
    state.value = { kind: 'ready' }
    epoch.value++
    if (pictureFirst) await firstPicture()
    if (mine !== loads) return null
    const exact = await measured(both, known, about, () => mine === loads)
    if (exact) Object.assign(held, { key, exact })
    return exact && facts.value
  }
}
export type Models = ReturnType<typeof createModels>

/** The exact facts about the origin, once rays are answered; null when they are not wanted any more. */
async function measured(
  { stage: s, geometry: g }: Awaited<ReturnType<Workers['clients']>>,
  { facts, storeys, walls }: Known,
  about: Vec3,
  isWanted: () => boolean,
): Promise<SceneFacts | null> {
  const { facts: exact, soup, scene } = await s.soup()
  const found = await g.setScene(soup, exact, about, scene)
  if (!isWanted()) return null
  storeys.value = found
  void g.walls().then((w) => isWanted() && (walls.value = w))
  facts.value = inWorld(exact, about)
  return exact
}

/** The light from all sides. */
function createLight(clients: Workers['clients'], known: Known, shownKey: () => string) {
  const { light, lightEpoch } = known
  /** What the light was worked out for. */
  let litKey = ''
  /** Works out the light from all sides under a sun, then has everything drawn again. */
  async function relight(setup: Setup): Promise<void> {
    const { stage: s, geometry: g } = await clients()
    const sky = bakedSky(skyLightOf(setup.look.sun))
    const opened = openedBy(setup)
    const key = `${shownKey()}${JSON.stringify([sky, opened])}`
    if (key === litKey) {
      light.value = null
      return
    }
    light.value = 0
    litKey = ''
    const volume = await g.bake(sky, opened, (done) => (light.value = done))
    if (!volume) return
    await s.setLight(volume, appearanceOf(setup))
    light.value = null
    litKey = key
    lightEpoch.value++
  }

  return relight
}

// Which models are shown, what is known of them, and their light. A newer call takes the place of an older one.
import { computed, ref, shallowRef } from 'vue'
import type { Vec3 } from '#core/math'
import { DAYLIGHT } from '#core/optics'
import { originOf, shiftedBox, shiftedPoint } from '#core/placing'
import type { SceneFacts, Storey } from '#mesh'
import type { ModelRef, Setup } from '#model'
import type { FoundWalls } from '#workers'
import { appearanceOf } from './appearance.ts'
import type { Bytes } from './stage-bytes.ts'
import type { Workers } from './stage-workers.ts'

export type LoadState =
  | { readonly kind: 'idle' }
  | { readonly kind: 'loading'; readonly what: string; readonly done: number | null }
  | { readonly kind: 'ready' }
  | { readonly kind: 'failed'; readonly error: unknown }

/** The rest waits this long at most for the first picture. */
const FIRST_PICTURE_MS = 8000

/** A model placed about another origin, and facts about it back in the world. */
export const minus = (o: Vec3): Vec3 => [-o[0], -o[1], -o[2]]
const placedAbout = <M extends { readonly place: ModelRef['place'] }>(m: M, o: Vec3): M => ({
  ...m,
  place: { ...m.place, position: shiftedPoint(m.place.position, minus(o)) },
})
const inWorld = (f: SceneFacts, o: Vec3): SceneFacts => ({
  ...f,
  box: shiftedBox(f.box, o),
  nodes: f.nodes.map((n) => ({ ...n, box: shiftedBox(n.box, o) })),
})

/** What is shown and known, in the world's coordinates. */
function createKnown() {
  const state = ref<LoadState>({ kind: 'idle' })
  const facts = shallowRef<SceneFacts | null>(null)
  return {
    state,
    facts,
    storeys: shallowRef<readonly Storey[]>([]),
    /** The building's directions, walls and centre lines; null until they are found. */
    walls: shallowRef<FoundWalls | null>(null),
    /** Share of the light that is worked out; null when done or not begun. */
    light: ref<number | null>(null),
    /** Counts up with every other model: all drawn before is out of date. */
    epoch: ref(0),
    /** Counts up with every other light: pictures are out of date, drawings are not. */
    lightEpoch: ref(0),
    ready: computed(() => state.value.kind === 'ready'),
    byId: computed(() => new Map((facts.value?.nodes ?? []).map((n) => [n.id, n]))),
  }
}

export function createModels({ clients }: Workers, bytes: Bytes) {
  const known = createKnown()
  const { state, facts, storeys, walls, light, epoch, ready } = known
  let loads = 0
  /** The models whose rays are answered. */
  let shownKey = ''
  /** The world's point about which stage and geometry lie: near the models, so that nothing shakes in 32-bit numbers. */
  let origin: Vec3 = [0, 0, 0]
  let firstShown: () => void = () => undefined
  const relight = createLight(clients, known, () => shownKey)

  /**
   * Shows exactly these models, placed; what is on the stage already is only placed anew. Resolves with the exact facts when rays
   * are answered; null when a newer call took its place. AppError when a model cannot be had or read.
   */
  async function show(models: readonly ModelRef[], pictureFirst = false): Promise<SceneFacts | null> {
    const key = JSON.stringify(models)
    if (key === shownKey && ready.value && facts.value) return facts.value
    const mine = ++loads
    shownKey = ''
    const fresh = !models.every(bytes.isOn)
    if (fresh || !ready.value) state.value = { kind: 'loading', what: 'Fetching the model', done: 0 }
    // another project: nothing of the one before is asked any more
    if (!models.some(bytes.isOn)) {
      facts.value = null
      storeys.value = []
    }
    // nothing waits for the light before it is asked for: pictures are drawn in a plain one first
    light.value = 0
    const { stage: s, geometry: g } = await clients()
    const wanted = await bytes.fetched(models, (done) => {
      if (state.value.kind === 'loading') state.value = { kind: 'loading', what: 'Fetching the model', done }
    })
    if (mine !== loads) return null
    if (fresh) state.value = { kind: 'loading', what: 'Reading the model', done: null }
    const shown = new Promise<void>((r) => (firstShown = r))
    const about = originOf(models)
    const quick = await s.load(wanted.map((m) => ({ ...m, placed: placedAbout(m.placed, about) })))
    origin = about
    bytes.taken(models)
    if (mine !== loads) return null
    facts.value = inWorld(quick, about)
    state.value = { kind: 'ready' }
    epoch.value++
    // triangles and trees take all of a processor for a while: the first picture goes before them
    if (pictureFirst) await Promise.race([shown, new Promise((r) => setTimeout(r, FIRST_PICTURE_MS))])
    if (mine !== loads) return null
    const { facts: exact, soup } = await s.soup()
    const found = await g.setScene(soup, exact, about)
    if (mine !== loads) return null
    const placed = inWorld(exact, about)
    facts.value = placed
    storeys.value = found
    void g.walls().then((w) => mine === loads && (walls.value = w))
    shownKey = key
    return placed
  }

  /** Shows a project's models and works out their light; failures are seen in `state`. */
  async function load(models: readonly ModelRef[], setup: Setup): Promise<void> {
    try {
      if (await show(models, true)) void relight(setup)
    } catch (e) {
      bytes.taken([])
      state.value = { kind: 'failed', error: e }
    }
  }

  return { ...known, show, load, relight, originNow: () => origin, firstIsShown: () => firstShown() }
}
export type Models = ReturnType<typeof createModels>

/** The light from all sides. */
function createLight(clients: Workers['clients'], known: ReturnType<typeof createKnown>, shownKey: () => string) {
  const { light, lightEpoch } = known
  /** What the light was worked out for. */
  let litKey = ''
  /** Works out the light from all sides under a sun, then has everything drawn again. */
  async function relight(setup: Setup): Promise<void> {
    const { sun } = setup.look
    const { stage: s, geometry: g } = await clients()
    const sky = {
      sunBearingDeg: sun.bearingDeg,
      sunElevationDeg: sun.elevationDeg,
      skyLux: DAYLIGHT.skyLux,
      sunLux: sun.on ? DAYLIGHT.sunLux : 0,
    }
    const key = `${shownKey()}${JSON.stringify(sky)}`
    if (key === litKey) {
      light.value = null
      return
    }
    light.value = 0
    litKey = ''
    const volume = await g.bake(sky, (done) => (light.value = done))
    if (!volume) return
    await s.setLight(volume, appearanceOf(setup))
    light.value = null
    litKey = key
    lightEpoch.value++
  }

  return relight
}

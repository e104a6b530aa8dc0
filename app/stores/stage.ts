// The page's hold on the two workers: the stage that draws and the geometry that answers rays. Loads a project's models, bakes the
// light, and asks for pictures whenever what they show changed.
// Model: the page never draws a model itself. While the camera moves, cheap frames; a moment after it stops, the full picture.

import { defineStore } from 'pinia'
import { computed, markRaw, ref, shallowRef } from 'vue'
import type { Camera } from '#core/camera'
import type { Vec3 } from '#core/math'
import { originOf, shiftedBox, shiftedCamera, shiftedPoint } from '#core/placing'
import { DAYLIGHT } from '#core/optics'
import type { CheckSetup, Finding } from '#core/checks'
import type { Closedness, Questions, SceneFacts, Storey } from '#mesh'
import { getPart, shownOf, STAGE_PARTS, type ModelRef, type Setup } from '#model'
import {
  createStage,
  type Appearance,
  type DrawingRequest,
  type OutlineRequest,
  type PictureFrame,
  type PictureRequest,
  type StageClient,
  type StageModel,
} from '#stage'
import { createGeometry, type CheckRequest, type FoundWalls, type GeometryClient } from '#workers'
import { api } from '../api/client.ts'

export type LoadState =
  | { readonly kind: 'idle' }
  | { readonly kind: 'loading'; readonly what: string; readonly done: number | null }
  | { readonly kind: 'ready' }
  | { readonly kind: 'failed'; readonly error: unknown }

/** Samples of the picture at rest, of thumbnails and of finished stills. */
export const SAMPLES = { picture: 16, thumbnail: 1, still: 32 } as const
/** The rest waits this long at most for the first picture. */
const FIRST_PICTURE_MS = 8000

/** What the stage is handed: what is shown, and the parts that the registry marks for it. */
export const appearanceOf = (setup: Setup): Appearance =>
  ({ shown: shownOf(setup), ...Object.fromEntries(STAGE_PARTS.map((p) => [p, getPart(setup, p)])) }) as Appearance

/** A model placed about another origin, and facts about it back in the world. */
const minus = (o: Vec3): Vec3 => [-o[0], -o[1], -o[2]]
const placedAbout = <M extends { readonly place: ModelRef['place'] }>(m: M, o: Vec3): M => ({
  ...m,
  place: { ...m.place, position: shiftedPoint(m.place.position, minus(o)) },
})
const inWorld = (f: SceneFacts, o: Vec3): SceneFacts => ({
  ...f,
  box: shiftedBox(f.box, o),
  nodes: f.nodes.map((n) => ({ ...n, box: shiftedBox(n.box, o) })),
})

export const useStage = defineStore('stage', () => {
  const state = ref<LoadState>({ kind: 'idle' })
  const facts = shallowRef<SceneFacts | null>(null)
  const storeys = shallowRef<readonly Storey[]>([])
  /** The building's directions, walls and centre lines; null until they are found. */
  const walls = shallowRef<FoundWalls | null>(null)
  /** Share of the light that is worked out; null when done or not begun. */
  const light = ref<number | null>(null)
  /** Counts up with every other model: all drawn before is out of date. */
  const epoch = ref(0)
  /** Counts up with every other light: pictures are out of date, drawings are not. */
  const lightEpoch = ref(0)
  const still = ref<number | null>(null)
  let stage: StageClient | null = null
  let geometry: GeometryClient | null = null
  /** Content on the stage, by key. */
  const onStage = new Map<string, string>()
  let loads = 0
  /** The models whose rays are answered, and what the light was worked out for. */
  let shownKey = ''
  let litKey = ''
  /** The world's point about which stage and geometry lie: near the models, so that nothing shakes in 32-bit numbers. */
  let origin: Vec3 = [0, 0, 0]
  let firstShown: () => void = () => undefined

  const ready = computed(() => state.value.kind === 'ready')
  const byId = computed(() => new Map((facts.value?.nodes ?? []).map((n) => [n.id, n])))

  let starting: Promise<{ stage: StageClient; geometry: GeometryClient }> | null = null
  /** Both workers, started once; a start that failed may be tried again. */
  function clients(): Promise<{ stage: StageClient; geometry: GeometryClient }> {
    starting ??= createStage().then(
      (s) => {
        stage = s
        geometry = createGeometry()
        return { stage: s, geometry }
      },
      (e: unknown) => {
        starting = null
        throw e
      },
    )
    return starting
  }

  /** Starts the workers ahead of the first model: their scripts load while the project is fetched. */
  const warm = (): void => void clients().catch(() => undefined)

  /** Bytes that are here already, for the next load: a file just brought in need not be fetched again. */
  const offered = new Map<string, Uint8Array | Blob>()
  const offer = (sha256: string, bytes: Uint8Array | Blob): void => void offered.set(sha256, bytes)

  /** Bytes that were handed to the stage are here no longer. */
  const isHere = (sha256: string): boolean => {
    const o = offered.get(sha256)
    return o instanceof Blob || (o !== undefined && o.byteLength > 0)
  }

  /** GLBs of the models that the stage does not hold, fetched with progress. */
  async function fetched(models: readonly ModelRef[]): Promise<StageModel[]> {
    const missing = models.filter((m) => onStage.get(m.key) !== m.sha256 && !isHere(m.sha256))
    const total = missing.reduce((n, m) => n + m.sizeBytes, 0)
    let before = 0
    for (const m of missing) {
      const bytes = await api.asset(m.sha256, (done) => {
        const share = total > 0 ? (before + done * m.sizeBytes) / total : null
        if (state.value.kind === 'loading') state.value = { kind: 'loading', what: 'Fetching the model', done: share }
      })
      before += m.sizeBytes
      offered.set(m.sha256, bytes)
    }
    return models.map((placed) => ({
      placed,
      sha256: placed.sha256,
      bytes: onStage.get(placed.key) === placed.sha256 ? null : (offered.get(placed.sha256) ?? null),
    }))
  }

  /**
   * Shows exactly these models, placed; what is on the stage already is only placed anew. Resolves with the exact facts when rays
   * are answered; null when a newer call took its place. AppError when a model cannot be had or read.
   */
  async function show(models: readonly ModelRef[], pictureFirst = false): Promise<SceneFacts | null> {
    const key = JSON.stringify(models)
    if (key === shownKey && ready.value && facts.value) return facts.value
    const mine = ++loads
    shownKey = ''
    const fresh = models.some((m) => onStage.get(m.key) !== m.sha256)
    if (fresh || !ready.value) state.value = { kind: 'loading', what: 'Fetching the model', done: 0 }
    // another project: nothing of the one before is asked any more
    if (!models.some((m) => onStage.get(m.key) === m.sha256)) {
      facts.value = null
      storeys.value = []
    }
    // nothing waits for the light before it is asked for: pictures are drawn in a plain one first
    light.value = 0
    const { stage: s, geometry: g } = await clients()
    const wanted = await fetched(models)
    if (mine !== loads) return null
    if (fresh) state.value = { kind: 'loading', what: 'Reading the model', done: null }
    const shown = new Promise<void>((r) => (firstShown = r))
    const about = originOf(models)
    const quick = await s.load(wanted.map((m) => ({ ...m, placed: placedAbout(m.placed, about) })))
    origin = about
    onStage.clear()
    for (const m of models) onStage.set(m.key, m.sha256)
    offered.clear()
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
      onStage.clear()
      state.value = { kind: 'failed', error: e }
    }
  }

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
    const key = `${shownKey}${JSON.stringify(sky)}`
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

  /** A request in the stage's own coordinates. */
  const local = <R extends { readonly camera: Camera }>(r: R): R => ({
    ...r,
    camera: shiftedCamera(r.camera, minus(origin)),
  })

  /** Frames come until the picture is refined or a newer request takes its place. */
  async function picture(request: PictureRequest, onFrame: (f: PictureFrame) => void): Promise<void> {
    const s = stage
    if (!s || !ready.value) return
    await s.picture(local(request), (f) => {
      firstShown()
      onFrame(f)
    })
  }
  const stopPicture = (place: 'picture' | 'outside'): void => stage?.stopPicture(place)
  const localDrawing = (r: DrawingRequest): DrawingRequest => ({
    ...local(r),
    cut: r.cut && { ...r.cut, point: shiftedPoint(r.cut.point, minus(origin)) },
  })
  const drawing = async (request: DrawingRequest): Promise<ImageBitmap | null> =>
    stage && ready.value ? stage.drawing(localDrawing(request)) : null
  const thumbnail = async (key: string, request: PictureRequest): Promise<ImageBitmap | null> =>
    stage && ready.value ? stage.thumbnail(key, local(request)) : null
  const meter = async (request: PictureRequest): Promise<number | null> =>
    stage && ready.value ? stage.meter(local(request)) : null

  /** A finished PNG with progress in `still`; null when cancelled. One at a time. */
  async function finish(camera: Camera, appearance: Appearance): Promise<Blob | null> {
    const s = stage
    if (!s || !ready.value || still.value !== null) return null
    still.value = 0
    try {
      return await s.still(local({ camera, appearance, samples: SAMPLES.still }), (done) => {
        if (still.value !== null) still.value = done
      })
    } finally {
      still.value = null
    }
  }
  const cancelStill = (): void => stage?.cancelStill()

  /** Any question of the geometry worker's list (`mesh/questions.ts`); null before there is a model. */
  const rays = markRaw(
    new Proxy({} as { -readonly [K in keyof Questions]: Questions[K] }, {
      has: () => true,
      get: (own, name: keyof Questions) =>
        own[name] ?? (async (...args: never[]) => (geometry ? geometry.ask(name, args as never) : null)),
    }),
  )
  /** The frame check, worked out beside the page; null before the model is there. */
  const check = async (setup: CheckSetup, about: CheckRequest): Promise<readonly Finding[] | null> =>
    geometry && storeys.value.length > 0 ? geometry.check(setup, about) : null
  const closedness = async (modelKey: string): Promise<Closedness | null> => geometry?.closedness(modelKey) ?? null
  const outline = async (request: OutlineRequest): Promise<ImageBitmap | null> =>
    stage && ready.value ? stage.outline(local(request)) : null

  return {
    state, facts, byId, storeys, walls, light, epoch, lightEpoch, still, ready,
    warm, offer, show, load, relight, picture, stopPicture, drawing, thumbnail, meter, finish, cancelStill, rays, check, closedness, outline,
  } // prettier-ignore
})

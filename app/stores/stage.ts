// The page's hold on the two workers: the stage that draws and the geometry that answers rays. Loads a project's models, bakes the
// light, and asks for pictures whenever what they show changed.
// Model: the page never draws a model itself. While the camera moves, cheap frames; a moment after it stops, the full picture.

import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { AppError } from '#core/base'
import type { Camera, Ray } from '#core/camera'
import type { Vec3 } from '#core/math'
import { DAYLIGHT } from '#core/optics'
import type { Hit, SceneFacts, Storey } from '#mesh'
import type { Setup } from '#model'
import {
  createStage,
  type Appearance,
  type DrawingRequest,
  type PictureFrame,
  type PictureRequest,
  type StageClient,
} from '#stage'
import { createGeometry, type GeometryClient } from '#workers'
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

export const appearanceOf = (s: Setup): Appearance => ({
  hidden: s.visible.hidden,
  exposure: s.exposure,
  sun: s.look.sun,
  backdrop: s.look.backdrop,
})

export const useStage = defineStore('stage', () => {
  const state = ref<LoadState>({ kind: 'idle' })
  const facts = shallowRef<SceneFacts | null>(null)
  const storeys = shallowRef<readonly Storey[]>([])
  /** Share of the light that is worked out; null when done or not begun. */
  const light = ref<number | null>(null)
  /** Counts up with every other model: all drawn before is out of date. */
  const epoch = ref(0)
  /** Counts up with every other light: pictures are out of date, drawings are not. */
  const lightEpoch = ref(0)
  const refinement = ref<{ sample: number; samples: number } | null>(null)
  const still = ref<number | null>(null)
  let stage: StageClient | null = null
  let geometry: GeometryClient | null = null
  let loaded = ''
  let firstShown: () => void = () => undefined

  const ready = computed(() => state.value.kind === 'ready')

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

  interface Source {
    readonly sha256: string
    readonly name: string
  }
  /** Loads the models by their content; the same content again is kept. */
  async function load(models: readonly Source[], setup: Setup): Promise<void> {
    const first = models[0]
    if (first && first.sha256 === loaded && state.value.kind === 'ready') return
    try {
      if (!first) throw new AppError('asset-missing', 'The project has no model.')
      loaded = first.sha256
      facts.value = null
      state.value = { kind: 'loading', what: 'Fetching the model', done: 0 }
      void clients()
      const bytes = await api.asset(
        first.sha256,
        (done) => (state.value = { kind: 'loading', what: 'Fetching the model', done }),
      )
      await loadBytes(first, bytes, true)
      void relight(setup)
    } catch (e) {
      loaded = ''
      state.value = { kind: 'failed', error: e }
    }
  }

  /** Puts a model that is already here on the stage. AppError `model-unreadable` when it cannot be used. */
  async function loadBytes(source: Source, bytes: Uint8Array, pictureFirst = false): Promise<SceneFacts> {
    loaded = source.sha256
    facts.value = null
    storeys.value = []
    // nothing waits for the light before it is asked for: pictures are drawn in a plain one first
    light.value = 0
    state.value = { kind: 'loading', what: 'Reading the model', done: null }
    const shown = new Promise<void>((r) => (firstShown = r))
    try {
      const { stage: s, geometry: g } = await clients()
      const { facts: f, soup } = await s.load([{ name: source.name, bytes }])
      if (loaded !== source.sha256) throw new DOMException('Another model came first.', 'AbortError')
      facts.value = f
      state.value = { kind: 'ready' }
      epoch.value++
      // the trees take all of a processor for a while: the first picture goes before them
      if (pictureFirst) await Promise.race([shown, new Promise((r) => setTimeout(r, FIRST_PICTURE_MS))])
      storeys.value = await g.setScene(soup, f)
      return f
    } catch (e) {
      if (loaded === source.sha256) {
        loaded = ''
        state.value = { kind: 'idle' }
      }
      throw e
    }
  }

  /** Works out the light from all sides under a sun, then has everything drawn again. */
  async function relight(setup: Setup): Promise<void> {
    const { sun } = setup.look
    const { stage: s, geometry: g } = await clients()
    light.value = 0
    const sky = {
      sunBearingDeg: sun.bearingDeg,
      sunElevationDeg: sun.elevationDeg,
      skyLux: DAYLIGHT.skyLux,
      sunLux: sun.on ? DAYLIGHT.sunLux : 0,
    }
    const volume = await g.bake(sky, (done) => (light.value = done))
    if (!volume) return
    await s.setLight(volume, appearanceOf(setup))
    light.value = null
    lightEpoch.value++
  }

  /** Frames come until the picture is refined or a newer request takes its place. */
  async function picture(request: PictureRequest, onFrame: (f: PictureFrame) => void): Promise<void> {
    const s = stage
    if (!s || !ready.value) return
    await s.picture(request, (f) => {
      refinement.value = request.moving ? null : { sample: f.sample, samples: f.samples }
      firstShown()
      onFrame(f)
    })
  }
  const drawing = async (request: DrawingRequest): Promise<ImageBitmap | null> =>
    stage && ready.value ? stage.drawing(request) : null
  const thumbnail = async (key: string, request: PictureRequest): Promise<ImageBitmap | null> =>
    stage && ready.value ? stage.thumbnail(key, request) : null
  const meter = async (request: PictureRequest): Promise<number | null> =>
    stage && ready.value ? stage.meter(request) : null

  /** A finished PNG with progress in `still`; null when cancelled. One at a time. */
  async function finish(camera: Camera, appearance: Appearance): Promise<Blob | null> {
    const s = stage
    if (!s || !ready.value || still.value !== null) return null
    still.value = 0
    try {
      return await s.still({ camera, appearance, samples: SAMPLES.still }, (done) => {
        if (still.value !== null) still.value = done
      })
    } finally {
      still.value = null
    }
  }
  const cancelStill = (): void => stage?.cancelStill()

  const pick = async (ray: Ray, hidden: readonly string[]): Promise<Hit | null> => geometry?.pick(ray, hidden) ?? null
  const pickFloor = async (ray: Ray, hidden: readonly string[]): Promise<Hit | null> =>
    geometry?.pickFloor(ray, hidden) ?? null
  const floorBelow = async (point: Vec3, hidden: readonly string[]): Promise<Hit | null> =>
    geometry?.floorBelow(point, hidden) ?? null

  return {
    state, facts, storeys, light, epoch, lightEpoch, refinement, still, ready,
    warm, load, loadBytes, relight, picture, drawing, thumbnail, meter, finish, cancelStill, pick, pickFloor, floorBelow,
  } // prettier-ignore
})

// What is drawn on request: pictures, base images, thumbnails, finished stills; asked in world coordinates.
import { until } from '@vueuse/core'
import { computed, ref, shallowRef } from 'vue'
import type { Camera } from '#core/camera'
import type { Clipped, Tones } from '#core/optics'
import type { Vec3 } from '#core/math'
import { shiftedCamera, shiftedPoint } from '#core/placing'
import { ALL_SHOWN, shiftedShown, type Shown } from '#core/section'
import type {
  Appearance,
  DrawingRequest,
  OpenMoment,
  OutlineRequest,
  PictureFrame,
  PictureRequest,
  PointsTold,
  StillLine,
} from '#stage'
import type { Models } from './stage-models.ts'
import { minus } from './stage-placing.ts'
import type { Workers } from './stage-workers.ts'

export function createRequests(workers: Workers, models: Models) {
  const { stageNow } = workers
  const { originNow, ready, firstIsShown } = models
  /** The EV that the picture on the screen is exposed by. */
  const shownEv = ref<number | null>(null)
  /** How much of the picture is at its bright and dark ends. */
  const clipped = shallowRef<Clipped | null>(null)
  /** How the tones of the finished picture are spread. */
  const tones = shallowRef<Tones | null>(null)
  /** Bright points that are drawn as the aperture's shape. */
  const points = shallowRef<PointsTold | null>(null)
  const local = <R extends InWorld>(r: R): R => localTo(originNow(), r)
  const finishing = createFinishing(workers, models)

  /** Frames come until the picture is refined or a newer request takes its place. */
  async function picture(request: PictureRequest, onFrame: (f: PictureFrame) => void): Promise<void> {
    const s = stageNow()
    if (!s || !ready.value) return
    await s.picture(local(request), (f) => {
      firstIsShown()
      if (request.place !== 'outside') {
        shownEv.value = f.ev100
        // of a picture that is finished, and without marks in it
        if (f.sample === f.samples && !request.moving && !request.appearance.clipping) {
          clipped.value = f.clipped
          if (f.tones) tones.value = f.tones
        }
        if (!request.moving) points.value = f.points ?? null
      }
      onFrame(f)
    })
  }
  return { shownEv, clipped, tones, points, picture, ...finishing, ...createSmall(workers, models) }
}

/** What a finished picture waits for before its first sample. */
export type StillWait = 'light' | 'faces'

/** The finished picture: one at a time. */
function createFinishing({ stageNow }: Workers, { ready, light, storeys, originNow }: Models) {
  const still = ref<number | null>(null)
  /** Seconds until it is finished, as far as can be told; null in the beginning. */
  const stillLeftS = ref<number | null>(null)
  const isCancelled = ref(false)
  const hasFaces = ref(false)
  /** What is not there yet that belongs to it: light after a change of the sun, cut faces after a model is brought in. */
  const stillWaits = computed((): StillWait | null => {
    if (still.value === null) return null
    if (light.value !== null) return 'light'
    return hasFaces.value && storeys.value.length === 0 ? 'faces' : null
  })

  /** A finished PNG with progress in `still`; null when cancelled. Waits for the light and the faces that belong to it. */
  async function finish(
    camera: Camera,
    appearance: Appearance,
    samples: number,
    lines: readonly StillLine[] = [],
  ): Promise<Blob | null> {
    if (!ready.value || still.value !== null) return null
    still.value = 0
    stillLeftS.value = null
    isCancelled.value = false
    hasFaces.value = appearance.shown.cuts.list.length > 0
    try {
      await until(() => stillWaits.value === null || isCancelled.value).toBe(true)
      const s = stageNow()
      if (isCancelled.value || !s) return null
      const begun = performance.now()
      return await s.still(localTo(originNow(), { camera, appearance, samples, lines }), (done) => {
        if (still.value === null) return
        still.value = done
        stillLeftS.value = leftOf(done, (performance.now() - begun) / 1000)
      })
    } finally {
      still.value = stillLeftS.value = null
    }
  }
  function cancelStill(): void {
    isCancelled.value = true
    stageNow()?.cancelStill()
  }
  return { still, stillLeftS, stillWaits, finish, cancelStill }
}

/** Base images, thumbnails, outlines and readings of light. */
function createSmall({ stageNow }: Workers, { ready, originNow }: Models) {
  const local = <R extends InWorld>(r: R): R => localTo(originNow(), r)
  const stopPicture = (place: 'picture' | 'outside'): void => stageNow()?.stopPicture(place)
  const localDrawing = (r: DrawingRequest): DrawingRequest => ({
    ...local(r),
    cut: r.cut && { ...r.cut, point: shiftedPoint(r.cut.point, minus(originNow())) },
  })
  const drawing = async (request: DrawingRequest): Promise<ImageBitmap | null> =>
    ready.value ? ((await stageNow()?.drawing(localDrawing(request))) ?? null) : null
  const thumbnail = async (key: string, request: PictureRequest): Promise<ImageBitmap | null> =>
    ready.value ? ((await stageNow()?.thumbnail(key, local(request))) ?? null) : null
  const meter = async (request: PictureRequest): Promise<number | null> =>
    ready.value ? ((await stageNow()?.meter(local(request))) ?? null) : null

  const spot = async (request: PictureRequest, place: readonly [number, number]) =>
    ready.value ? ((await stageNow()?.spot(local(request), place)) ?? null) : null

  const outline = async (request: OutlineRequest): Promise<ImageBitmap | null> =>
    ready.value ? ((await stageNow()?.outline(local(request))) ?? null) : null
  return { stopPicture, drawing, thumbnail, meter, spot, outline }
}

interface InWorld {
  readonly camera: Camera
  readonly appearance?: Appearance
  readonly shown?: Shown
  readonly open?: readonly OpenMoment[]
}
/** A request in the stage's own coordinates. */
function localTo<R extends InWorld>(origin: Vec3, r: R): R {
  const by = minus(origin)
  const { appearance: a, shown } = r
  return {
    ...r,
    camera: shiftedCamera(r.camera, by),
    ...(a && { appearance: { ...a, shown: shiftedShown(a.shown, by), ...groundOf(a, by[2]) } }),
    ...(shown && { shown: shiftedShown(shown, by) }),
    ...(r.open && {
      open: r.open.map((m) => ({
        camera: shiftedCamera(m.camera, by),
        moved: shiftedShown({ ...ALL_SHOWN, moved: m.moved }, by).moved ?? [],
      })),
    }),
  }
}

/** The ground before a photograph, shifted too. */
const groundOf = ({ photo }: Appearance, byM: number): Pick<Appearance, 'photo'> =>
  photo?.groundM === undefined ? {} : { photo: { ...photo, groundM: photo.groundM + byM } }

/** Seconds left by what is done in what time; null while too little is done to tell. */
export const leftOf = (done: number, tookS: number): number | null =>
  done > 0.03 && tookS > 1 ? (tookS * (1 - done)) / done : null

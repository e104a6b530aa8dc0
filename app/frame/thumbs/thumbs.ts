// Small pictures of framings, drawn by the stage and kept by what they show; the same framing is never drawn twice.
import { createSharedComposable, watchDebounced } from '@vueuse/core'
import { computed, onScopeDispose, shallowRef, watch, type ComputedRef } from 'vue'
import { poseOfStand } from '#core/camera'
import {
  fingerprint,
  movedOf,
  getPart,
  mergeParts,
  newSetup,
  setupAsShown,
  THUMBNAIL_PARTS,
  type ProjectDocument,
  type Setup,
  type Viewpoint,
} from '#model'
import { centreInFile, centresIn } from '../../stores/centres.ts'
import { useProject } from '../../stores/project.ts'
import { useOutdoors } from '../../stores/outdoors.ts'
import { useFocusing } from '../../stores/focusing.ts'
import { SAMPLES } from '../../stores/samples.ts'
import { useStage } from '../../stores/stage.ts'
import { createKeptPictures, type Asked } from './kept-pictures.ts'
import { sameList } from '../../controls/same-list.ts'

// twice the size shown (on a plain display): the browser's scaling smooths the edges
const WIDTH_PX = 336
const HEIGHT_PX = 186
/** Shown for so long before it is drawn. */
const STAYS_MS = 150

/** What viewpoints show of the present work. */
const PRESENT = ['look', 'focus', 'exposure', 'visible'] as const
interface Present {
  readonly subject: ProjectDocument['subject']
  readonly working: Pick<Setup, (typeof PRESENT)[number]>
}
/** What a viewpoint shows by itself: its kept parts over plain ones, in the project's present light. Null without a stand. */
export function shownBy({ subject, working }: Present, vp: Viewpoint): Setup | null {
  if (!vp.parts.stand) return null
  const { look, focus, exposure, visible } = working
  return mergeParts({ ...newSetup(subject, vp.parts.stand), look, focus, exposure, visible }, vp.parts)
}
/** The present work part by part: of what does not change, nothing is worked out again. */
const usePresent = createSharedComposable((): ComputedRef<Present | null> => {
  const project = useProject()
  const subject = computed(() => project.document?.subject)
  const parts = PRESENT.map((p) => [p, computed(() => project.document?.working[p])] as const)
  return computed(
    () =>
      subject.value && {
        subject: subject.value,
        working: Object.fromEntries(parts.map(([p, v]) => [p, v.value])) as unknown as Present['working'],
      },
  ) as ComputedRef<Present | null>
})
export function useShownBy(viewpoint: () => Viewpoint): ComputedRef<Setup | null> {
  const present = usePresent()
  return computed(() => present.value && shownBy(present.value, viewpoint()))
}

/** A small picture, and whether it shows the framing as it was before light, model or what is hidden changed. */
export interface ThumbPicture {
  readonly bitmap: ImageBitmap
  readonly isOld: boolean
}
/** Other light or another model: all are drawn anew, the old ones stay meanwhile; no picture outlives its project. */
function useOutdating(kept: ReturnType<typeof createKeptPictures>): void {
  const stage = useStage()
  const project = useProject()
  const outdoors = useOutdoors()
  watch(
    sameList(
      () =>
        [
          stage.epoch,
          stage.lightEpoch,
          project.document?.materialClasses,
          project.document?.tables,
          outdoors.behindKey,
          project.id,
        ] as const,
    ),
    ([, , , , , id], [, , , , , before]) => kept.outdate(id !== before),
  )
}

function thumbs() {
  const stage = useStage()
  const project = useProject()
  const outdoors = useOutdoors()
  const focusing = useFocusing()
  const kept = createKeptPictures()
  /** All parts that change a thumbnail, by the registry: stand, lens and frame first. */
  const keyOf = (s: Setup): string =>
    [
      ...THUMBNAIL_PARTS.map((p) => fingerprint(getPart(s, p))),
      fingerprint(movedOf(s.visible)),
      outdoors.isOutdoors(s),
      focusing.blur(s)?.focusM ?? '',
    ].join('|')

  useOutdating(kept)

  function draw(key: string, setup: Setup): Promise<ImageBitmap | null> {
    const { widthPx, heightPx } = setup.frame
    const k = Math.min(WIDTH_PX / widthPx, HEIGHT_PX / heightPx)
    return stage.thumbnail(key, {
      camera: { pose: poseOfStand(setup.stand, centresIn(setup)), lens: setup.lens, frame: setup.frame },
      widthPx: Math.max(8, Math.round(widthPx * k)),
      heightPx: Math.max(8, Math.round(heightPx * k)),
      appearance: outdoors.appearance(setup),
      moving: false,
      samples: SAMPLES.thumbnail,
    })
  }
  /** The picture when it is there; asks for it otherwise (once the light is worked out, so that it is drawn only once). */
  function picture(setup: Setup): ImageBitmap | null {
    const key = keyOf(setup)
    const known = kept.get(key)
    if (known) return known instanceof ImageBitmap ? known : null
    if (!stage.ready || stage.light !== null) return null
    queueMicrotask(() => {
      if (kept.get(key)) return
      const mine: Asked = { asked: true }
      kept.ask(key, mine)
      draw(key, setup).then(
        (b) => kept.answer(key, mine, b),
        // not asked for again until light or model change
        () => kept.fail(key, mine),
      )
    })
    return null
  }
  return { picture, shownPicture: createShownPictures(kept, keyOf, picture, () => project.document) }
}

/** Pictures for as long as a place on the screen shows them; an old one, marked, until the new one is drawn. */
function createShownPictures(
  kept: ReturnType<typeof createKeptPictures>,
  keyOf: (s: Setup) => string,
  picture: (s: Setup) => ImageBitmap | null,
  of: () => ProjectDocument | null,
) {
  return (asked: () => Setup | null): ComputedRef<ThumbPicture | null> => {
    const setup = (): Setup | null => {
      const s = asked()
      return s && setupAsShown(s, of(), centreInFile)
    }
    const key = computed(() => {
      const s = setup()
      return s ? keyOf(s) : null
    })
    watch(
      key,
      (now, before) => {
        if (before) kept.release(before)
        if (now) kept.hold(now)
      },
      { immediate: true },
    )
    // what only flashes by in a long sheet is not asked for
    const stays = shallowRef<string | null>(null)
    watchDebounced(key, (k) => (stays.value = k), { debounce: STAYS_MS, immediate: true })
    onScopeDispose(() => key.value && kept.release(key.value))
    return computed(() => {
      const s = setup()
      if (!s) return null
      const known = kept.peek(key.value!)
      const now = known instanceof ImageBitmap ? known : stays.value === key.value ? picture(s) : null
      if (now) return { bitmap: now, isOld: false }
      const before = known === 'failed' ? null : kept.older(key.value!)
      return before && { bitmap: before, isOld: true }
    })
  }
}
export const useThumbs = createSharedComposable(thumbs)

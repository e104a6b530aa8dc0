// Small pictures of framings, drawn by the stage and kept by what they show; the same framing is never drawn twice.
import { createSharedComposable, watchDebounced } from '@vueuse/core'
import { LRUCache } from 'lru-cache'
import { computed, onScopeDispose, shallowReactive, shallowRef, watch, type ComputedRef } from 'vue'
import { poseOfStand } from '#core/camera'
import {
  fingerprint,
  getPart,
  mergeParts,
  newSetup,
  THUMBNAIL_PARTS,
  type ProjectDocument,
  type Setup,
  type Viewpoint,
} from '#model'
import { centreOf } from '../../stores/centres.ts'
import { useProject } from '../../stores/project.ts'
import { useOutdoors } from '../../stores/outdoors.ts'
import { SAMPLES, useStage } from '../../stores/stage.ts'

// twice the size shown (on a plain display): the browser's scaling smooths the edges
const WIDTH_PX = 336
const HEIGHT_PX = 186
const KEPT = 200
/** Shown for so long before it is drawn. */
const STAYS_MS = 150

/** What a viewpoint shows by itself: its kept parts over plain ones, in the project's present light. Null without a stand. */
export function shownBy(doc: ProjectDocument, vp: Viewpoint): Setup | null {
  if (!vp.parts.stand) return null
  const base: Setup = {
    ...newSetup(doc.subject, vp.parts.stand),
    look: doc.working.look,
    exposure: doc.working.exposure,
    visible: doc.working.visible,
  }
  return mergeParts(base, vp.parts)
}

/** Under way; each request has its own, so that an answer that comes too late is known. */
interface Asked {
  readonly asked: true
}

function thumbs() {
  const stage = useStage()
  const project = useProject()
  const outdoors = useOutdoors()
  const pictures = shallowReactive(new Map<string, ImageBitmap | Asked | 'failed'>())
  /** How many places on the screen show a picture; those are never dropped. */
  const held = new Map<string, number>()
  const recent = new LRUCache<string, true>({ max: KEPT, dispose: (_, key) => drop(key) })
  /** All parts that change a thumbnail, by the registry. */
  const keyOf = (s: Setup): string =>
    [...THUMBNAIL_PARTS.map((p) => fingerprint(getPart(s, p))), outdoors.isOutdoors(s)].join('|')

  function drop(key: string): void {
    if (held.has(key)) return
    const p = pictures.get(key)
    if (p instanceof ImageBitmap) p.close()
    pictures.delete(key)
  }
  // other light or another model: all are drawn anew; no picture outlives its project
  watch(
    () => [stage.epoch, stage.lightEpoch, project.id],
    () => {
      for (const p of pictures.values()) if (p instanceof ImageBitmap) p.close()
      pictures.clear()
      recent.clear()
    },
  )
  function hold(key: string): void {
    held.set(key, (held.get(key) ?? 0) + 1)
  }
  function release(key: string): void {
    const n = (held.get(key) ?? 1) - 1
    if (n > 0) held.set(key, n)
    else {
      held.delete(key)
      if (!recent.has(key)) drop(key)
    }
  }

  /** The picture when it is there; asks for it otherwise (once the light is worked out, so that it is drawn only once). */
  function picture(setup: Setup): ImageBitmap | null {
    const key = keyOf(setup)
    const known = pictures.get(key)
    recent.get(key)
    if (known) return known instanceof ImageBitmap ? known : null
    if (!stage.ready || stage.light !== null) return null
    const { widthPx, heightPx } = setup.frame
    const k = Math.min(WIDTH_PX / widthPx, HEIGHT_PX / heightPx)
    queueMicrotask(() => {
      if (pictures.has(key)) return
      const mine: Asked = { asked: true }
      pictures.set(key, mine)
      stage
        .thumbnail(key, {
          camera: { pose: poseOfStand(setup.stand, centreOf), lens: setup.lens, frame: setup.frame },
          widthPx: Math.max(8, Math.round(widthPx * k)),
          heightPx: Math.max(8, Math.round(heightPx * k)),
          appearance: outdoors.appearance(setup),
          moving: false,
          samples: SAMPLES.thumbnail,
        })
        .then((b) => {
          // another light or model came meanwhile: the entry is no longer this request's
          if (pictures.get(key) !== mine) {
            b?.close()
            return
          }
          if (!b) pictures.delete(key)
          else {
            pictures.set(key, b)
            recent.set(key, true)
          }
        })
        // not asked for again until light or model change
        .catch(() => pictures.get(key) === mine && pictures.set(key, 'failed'))
    })
    return null
  }
  /** The picture of a framing for as long as the caller shows it. */
  function shownPicture(setup: () => Setup | null): ComputedRef<ImageBitmap | null> {
    const key = computed(() => {
      const s = setup()
      return s ? keyOf(s) : null
    })
    watch(
      key,
      (now, before) => {
        if (before) release(before)
        if (now) hold(now)
      },
      { immediate: true },
    )
    // what only flashes by in a long sheet is not asked for
    const stays = shallowRef<string | null>(null)
    watchDebounced(key, (k) => (stays.value = k), { debounce: STAYS_MS, immediate: true })
    onScopeDispose(() => key.value && release(key.value))
    return computed(() => {
      const s = setup()
      if (!s) return null
      const known = pictures.get(key.value!)
      return known instanceof ImageBitmap ? known : stays.value === key.value ? picture(s) : null
    })
  }
  return { picture, shownPicture }
}
export const useThumbs = createSharedComposable(thumbs)

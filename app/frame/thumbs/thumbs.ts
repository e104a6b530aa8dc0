// Small pictures of framings, drawn by the stage and kept by what they show; the same framing is never drawn twice.
import { createSharedComposable, watchDebounced } from '@vueuse/core'
import { LRUCache } from 'lru-cache'
import { computed, onScopeDispose, shallowReactive, shallowRef, watch, type ComputedRef } from 'vue'
import { poseOfStand } from '#core/camera'
import {
  CAMERA_PARTS,
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

/** A small picture, and whether it shows the framing as it was before light, model or what is hidden changed. */
export interface ThumbPicture {
  readonly bitmap: ImageBitmap
  readonly isOld: boolean
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

  /** Stand, lens and frame come first in a key: pictures of one framing in another light, or with other things hidden. */
  const framingOf = (key: string): string => key.split('|').slice(0, CAMERA_PARTS.length).join('|')
  /** What was drawn last of a framing, before light or model changed; shown, marked, until it is drawn anew. */
  const old = new LRUCache<string, ImageBitmap>({ max: KEPT, dispose: (p) => p.close() })
  const latest = new Map<string, string>()

  function drop(key: string): void {
    if (held.has(key)) return
    const p = pictures.get(key)
    if (p instanceof ImageBitmap) p.close()
    pictures.delete(key)
  }
  // other light or another model: all are drawn anew, the old ones stay meanwhile; no picture outlives its project
  watch(
    () => [stage.epoch, stage.lightEpoch, project.id] as const,
    ([, , id], [, , before]) => {
      const all = [...pictures]
      pictures.clear()
      recent.clear()
      for (const [key, p] of all) if (p instanceof ImageBitmap) old.set(framingOf(key), p)
      latest.clear()
      if (id !== before) old.clear()
    },
  )
  /** A picture of the same framing as it was, while the one of `key` is on its way. */
  function olderPicture(key: string): ImageBitmap | null {
    const framing = framingOf(key)
    const before = pictures.get(latest.get(framing) ?? '')
    return before instanceof ImageBitmap ? before : (old.get(framing) ?? null)
  }
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
            latest.set(framingOf(key), key)
            old.delete(framingOf(key))
          }
        })
        // not asked for again until light or model change
        .catch(() => pictures.get(key) === mine && pictures.set(key, 'failed'))
    })
    return null
  }
  /** The picture of a framing for as long as the caller shows it; an old one, marked, until it is drawn. */
  function shownPicture(setup: () => Setup | null): ComputedRef<ThumbPicture | null> {
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
      const now = known instanceof ImageBitmap ? known : stays.value === key.value ? picture(s) : null
      if (now) return { bitmap: now, isOld: false }
      const before = known === 'failed' ? null : olderPicture(key.value!)
      return before && { bitmap: before, isOld: true }
    })
  }
  return { picture, shownPicture }
}
export const useThumbs = createSharedComposable(thumbs)

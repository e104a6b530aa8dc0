// Small pictures of framings, drawn by the stage and kept by what they show; the same framing is never drawn twice.
import { createSharedComposable } from '@vueuse/core'
import { shallowReactive, watch } from 'vue'
import { poseOfStand } from '#core/camera'
import { mergeParts, newSetup, type ProjectDocument, type Setup, type Viewpoint } from '#model'
import { centreOf } from '../../stores/centres.ts'
import { useProject } from '../../stores/project.ts'
import { appearanceOf, SAMPLES, useStage } from '../../stores/stage.ts'

// twice the size shown (on a plain display): the browser's scaling smooths the edges
const WIDTH_PX = 336
const HEIGHT_PX = 186
const KEPT = 200

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
  const pictures = shallowReactive(new Map<string, ImageBitmap | Asked | 'failed'>())
  const keyOf = (s: Setup): string => JSON.stringify([s.stand, s.lens, s.frame, s.visible, s.look, s.exposure])

  // other light or another model: all are drawn anew; no picture outlives its project
  watch(
    () => [stage.epoch, stage.lightEpoch, project.id],
    () => {
      for (const p of pictures.values()) if (p instanceof ImageBitmap) p.close()
      pictures.clear()
    },
  )

  /** The picture when it is there; asks for it otherwise (once the light is worked out, so that it is drawn only once). */
  function picture(setup: Setup): ImageBitmap | null {
    const key = keyOf(setup)
    const known = pictures.get(key)
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
          appearance: appearanceOf(setup),
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
          else pictures.set(key, b)
          for (const old of [...pictures.keys()].slice(0, Math.max(0, pictures.size - KEPT))) pictures.delete(old)
        })
        // not asked for again until light or model change
        .catch(() => pictures.get(key) === mine && pictures.set(key, 'failed'))
    })
    return null
  }
  return { picture }
}
export const useThumbs = createSharedComposable(thumbs)

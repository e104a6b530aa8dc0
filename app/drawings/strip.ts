// What Plan and Side share: a parallel view, its moves, and the base image drawn for it by the stage.
import { refDebounced } from '@vueuse/core'
import type { Ref } from 'vue'
import { boxCentre, type Box, type Vec3 } from '#core/math'
import { useStripImage } from './strip-image.ts'
import type { StripOptions } from './strip-options.ts'
import { useStripMoves, useStripView } from './strip-view.ts'

export function useStrip(o: StripOptions) {
  const view = useStripView(o)
  const { width, height, isSized, camera, toPx, toWorld, metresPerPx, scaleBar, fit } = view
  return {
    ...{ width, height, isSized, camera, toPx, toWorld, metresPerPx, scaleBar, fitPoints: fit },
    ...useStripMoves(view, o.direction),
    ...useStripImage(o, view),
  }
}

export type Strip = ReturnType<typeof useStrip>

export const modelCentre = (b: Box): Vec3 => boxCentre(b)

/** A value that follows the source once it has rested. */
export const settledBearing = (source: Ref<number>): Readonly<Ref<number>> => refDebounced(source, 260)

// The exposure as the page handles it: by one number, or as a camera is set; and changes of it.
import { createSharedComposable } from '@vueuse/core'
import { computed } from 'vue'
import type { Command, Setup } from '#model'
import { useOutdoors } from '../../stores/outdoors.ts'
import { useProject } from '../../stores/project.ts'
import { evOf, useStage } from '../../stores/stage.ts'

export type Exposure = Setup['exposure']

function exposure() {
  const project = useProject()
  const stage = useStage()
  const outdoors = useOutdoors()
  const part = computed<Exposure | null>(() => project.working?.exposure ?? null)
  const rounded = (v: number): number => Math.round(v * 10) / 10
  const isPhotographic = computed(() => part.value?.mode === 'photographic')
  /** Out of doors and in measured views there is an exposure of its own, unless the camera is set. */
  const isOutdoors = computed(() => !isPhotographic.value && project.working !== null && outdoors.isOutdoors(project.working)) // prettier-ignore
  const isMetered = computed(() => isOutdoors.value && part.value?.outsideEv100 === undefined)
  const ev = computed(() => {
    const w = project.working
    if (!w) return 0
    if (isPhotographic.value) return evOf(w)
    if (!isOutdoors.value) return w.exposure.ev100
    return w.exposure.outsideEv100 ?? (stage.shownEv === null ? w.exposure.ev100 : rounded(stage.shownEv))
  })
  const withExposure = (changes: Partial<Exposure>): Command => ({
    type: 'setPart',
    part: 'exposure',
    value: { ...part.value!, ...changes },
  })
  const set = (changes: Partial<Exposure>): boolean => part.value !== null && project.run(withExposure(changes))
  /** The picture exposed by an EV: its own number, or the shutter that gives it. */
  const withEv = (v: number): Command => {
    const w = project.working
    if (isPhotographic.value && w) {
      const n = w.exposure.fNumber ?? w.focus.fNumber
      return withExposure({ shutterS: (n * n) / (2 ** v * (w.exposure.iso / 100)) })
    }
    return withExposure(isOutdoors.value ? { outsideEv100: v } : { ev100: v })
  }
  /** By one number or as a camera is set: what is seen stays. */
  function byMode(mode: Exposure['mode']): void {
    const w = project.working
    if (!w || w.exposure.mode === mode) return
    const now = ev.value
    if (mode === 'direct') return void set({ mode, ev100: rounded(now) })
    const n = w.exposure.fNumber ?? w.focus.fNumber
    set({ mode, shutterS: (n * n) / (2 ** now * (w.exposure.iso / 100)) })
  }
  return { part, ev, isPhotographic, isOutdoors, isMetered, rounded, withExposure, withEv, set, byMode }
}
export const useExposure = createSharedComposable(exposure)

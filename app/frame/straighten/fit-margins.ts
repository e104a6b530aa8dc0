// The margins of a tight fit: in parts of the frame or in pixels, remembered in this browser.
import { createSharedComposable, useLocalStorage } from '@vueuse/core'
import { computed } from 'vue'
import type { Sides } from '#core/framing'
import { useProject } from '../../stores/project.ts'

export interface Margins {
  readonly unit: '%' | 'px'
  readonly left: number
  readonly right: number
  readonly top: number
  readonly bottom: number
}
const DEFAULT: Margins = { unit: '%', left: 5, right: 5, top: 5, bottom: 5 }

function fitMargins() {
  const project = useProject()
  const margins = useLocalStorage<Margins>('yoroi.margins', DEFAULT, { mergeDefaults: true })

  const sides = computed<Sides>(() => {
    const { unit, left, right, top, bottom } = margins.value
    const frame = project.working?.frame
    const kx = unit === '%' ? 0.01 : 1 / (frame?.widthPx ?? 1)
    const ky = unit === '%' ? 0.01 : 1 / (frame?.heightPx ?? 1)
    return { left: left * kx, right: right * kx, top: top * ky, bottom: bottom * ky }
  })
  /** Another unit for the margins: the picture's free sides stay. */
  function marginUnit(unit: Margins['unit']): void {
    const frame = project.working?.frame
    if (!frame || unit === margins.value.unit) return
    const k = (px: number): number => (unit === 'px' ? px / 100 : 100 / px)
    const tidy = (v: number): number => Number(v.toFixed(unit === 'px' ? 1 : 3))
    const m = margins.value
    const [x, y] = [k(frame.widthPx), k(frame.heightPx)]
    margins.value = {
      unit,
      left: tidy(m.left * x),
      right: tidy(m.right * x),
      top: tidy(m.top * y),
      bottom: tidy(m.bottom * y),
    }
  }
  return { margins, sides, marginUnit }
}
export const useFitMargins = createSharedComposable(fitMargins)

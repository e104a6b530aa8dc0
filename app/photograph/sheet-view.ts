// How the photograph lies in its window: magnified about the pointer, moved, fitted.
import { computed, ref, watch, type Ref } from 'vue'
import type { PicturePlace } from '#core/match'
import { sameList } from '../controls/same-list.ts'

/** Nearest and farthest: window pixels for one of the photograph's. */
const MOST = 24
const MARGIN_PX = 14

export function useSheetView(
  width: Ref<number>,
  height: Ref<number>,
  size: () => { widthPx: number; heightPx: number } | null,
) {
  // prettier-ignore
  const own = ref<{ k: number; x: number; y: number } | null>(null)
  const fit = computed(() => {
    const s = size()
    if (!s || width.value < 10) return { k: 1, x: 0, y: 0 }
    const k = Math.min((width.value - 2 * MARGIN_PX) / s.widthPx, (height.value - 2 * MARGIN_PX) / s.heightPx)
    return { k, x: (width.value - s.widthPx * k) / 2, y: (height.value - s.heightPx * k) / 2 }
  })
  const at = computed(() => own.value ?? fit.value)
  watch(
    sameList(() => [size()?.widthPx, size()?.heightPx]),
    () => (own.value = null),
  )
  const toWindow = ([x, y]: PicturePlace): readonly [number, number] => [at.value.x + x * at.value.k, at.value.y + y * at.value.k] // prettier-ignore
  const toPhoto = (x: number, y: number): PicturePlace => [(x - at.value.x) / at.value.k, (y - at.value.y) / at.value.k]
  function magnify(by: number, x: number, y: number): void {
    const { k } = at.value
    const next = Math.min(MOST, Math.max(fit.value.k * 0.5, k * by))
    const [px, py] = toPhoto(x, y)
    own.value = { k: next, x: x - px * next, y: y - py * next }
  }
  const move = (from: { x: number; y: number }, dx: number, dy: number): void => void (own.value = { k: at.value.k, x: from.x + dx, y: from.y + dy }) // prettier-ignore
  const reset = (): void => void (own.value = null)
  return { at, toWindow, toPhoto, magnify, move, reset, isFitted: computed(() => own.value === null) }
}

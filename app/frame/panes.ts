// How wide the panes beside the picture are: their own width by the window's, or what was dragged; on a narrow window they are drawers.
import { useWindowSize } from '@vueuse/core'
import { computed } from 'vue'
import { useView } from '../stores/view.ts'

/** From this width on all three columns have room, page pixels. */
export const THREE_COLUMNS_PX = 1100
/** The picture keeps at least this. */
const PICTURE_LEAST_PX = 560
const PANES = {
  left: { least: 220, share: 0.206, own: [232, 560], drawer: 300 },
  right: { least: 280, share: 0.15, own: [300, 380], drawer: 300 },
} as const
export type Side = keyof typeof PANES
const within = (v: number, least: number, most: number): number => Math.max(least, Math.min(most, v))
const OTHER = { left: 'right', right: 'left' } as const

export function usePanes() {
  const view = useView()
  const { width: windowPx } = useWindowSize()
  const isNarrow = computed(() => windowPx.value < THREE_COLUMNS_PX)
  const own = (side: Side): number => {
    const { share, own: limits } = PANES[side]
    return within(windowPx.value * share, limits[0], limits[1])
  }
  const asked = (side: Side): number => view.panes[side] ?? own(side)
  /** What a side may take beside the other one. */
  const most = (side: Side): number => {
    const other = Math.min(asked(OTHER[side]), own(OTHER[side]))
    return Math.max(PANES[side].least, Math.floor(windowPx.value - PICTURE_LEAST_PX - other))
  }
  const widthOf = (side: Side): number =>
    isNarrow.value ? PANES[side].drawer : Math.round(within(asked(side), PANES[side].least, most(side)))
  const left = computed(() => ({ width: widthOf('left'), least: PANES.left.least, most: most('left') }))
  const right = computed(() => ({ width: widthOf('right'), least: PANES.right.least, most: most('right') }))
  const resize = (side: Side, px: number | null): void => void (view.panes = { ...view.panes, [side]: px })
  const toggle = (side: Side): void => void (view.drawer = view.drawer === side ? null : side)
  return { isNarrow, left, right, resize, toggle }
}

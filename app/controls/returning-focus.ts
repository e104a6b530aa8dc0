// What had the focus before something opened has it again when that closes, unless the focus went elsewhere meanwhile.
import { nextTick, watch } from 'vue'

export function useReturningFocus(isOpen: () => boolean): void {
  let before: HTMLElement | null = null
  watch(
    isOpen,
    async (open) => {
      if (open) {
        before = document.activeElement instanceof HTMLElement ? document.activeElement : null
        return
      }
      const to = before
      before = null
      await nextTick()
      const at = document.activeElement
      const isLost = !at || at === document.body || !at.isConnected
      if (isLost && to?.isConnected && to !== document.body) to.focus({ preventScroll: true })
      // what had it is gone: the picture is where the work goes on
      else if (isLost) document.querySelector<HTMLElement>('[data-testid=picture]')?.focus({ preventScroll: true })
    },
    { flush: 'sync' },
  )
}

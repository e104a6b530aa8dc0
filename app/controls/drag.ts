// One way to drag: moves are told once an animation frame at most, Esc or a lost pointer cancels and restores the start.
export interface DragHandlers {
  /** Pixels since the start, the newest event with its modifiers. */
  move(dx: number, dy: number, e: PointerEvent): void
  /** `moved` is false for a click. */
  end(moved: boolean, e: PointerEvent): void
  cancel(): void
}
const CLICK_PX = 3
let active = 0

/** Whether a drag is going on anywhere (keys wait meanwhile). */
export const isDragging = (): boolean => active > 0

export function startDrag(e: PointerEvent, handlers: DragHandlers): void {
  const start = { x: e.clientX, y: e.clientY }
  const id = e.pointerId
  let moved = false
  let pending: PointerEvent | null = null
  let frame = 0
  active++
  const flush = (): void => {
    frame = 0
    if (pending) handlers.move(pending.clientX - start.x, pending.clientY - start.y, pending)
    pending = null
  }
  const onMove = (m: PointerEvent): void => {
    if (m.pointerId !== id) return
    if (!moved && Math.hypot(m.clientX - start.x, m.clientY - start.y) < CLICK_PX) return
    moved = true
    pending = m
    if (!frame) frame = requestAnimationFrame(flush)
  }
  const stop = (): void => {
    active--
    cancelAnimationFrame(frame)
    window.removeEventListener('pointermove', onMove)
    window.removeEventListener('pointerup', onUp)
    window.removeEventListener('pointercancel', onCancel)
    window.removeEventListener('keydown', onKey, true)
    window.removeEventListener('blur', onCancel)
  }
  const onUp = (u: PointerEvent): void => {
    if (u.pointerId !== id) return
    if (pending) flush()
    stop()
    handlers.end(moved, u)
  }
  const onCancel = (): void => {
    stop()
    handlers.cancel()
  }
  const onKey = (k: KeyboardEvent): void => {
    if (k.key !== 'Escape') return
    k.preventDefault()
    k.stopImmediatePropagation()
    onCancel()
  }
  window.addEventListener('pointermove', onMove)
  window.addEventListener('pointerup', onUp)
  window.addEventListener('pointercancel', onCancel)
  window.addEventListener('keydown', onKey, true)
  window.addEventListener('blur', onCancel)
}

// The picture as a window in Plan or Side, in the drawing's pixels.
// Model: it stands a part of the way to the aim; while it is dragged its depth stays, as with the size held the aim's does not.
import { computed, ref, type ComputedRef } from 'vue'
import { aimPointOf, toCamera, type Camera } from '#core/camera'
import { pictureWindow, type Across } from '#core/framing'
import type { Vec3 } from '#core/math'
import { centreOf } from '../../stores/centres.ts'
import { useProject } from '../../stores/project.ts'

export interface OnPage {
  readonly x: number
  readonly y: number
}
/** The drawing that shows it: which way the window lies there, and places of the world and of the page. */
export interface WindowDrawing {
  readonly across: Across
  readonly toPx: (p: Vec3) => OnPage
  readonly toWorld: (e: { clientX: number; clientY: number }) => Vec3
}
type Window = NonNullable<ReturnType<typeof pictureWindow>>
export interface ShownWindow {
  readonly depthM: number
  readonly window: Window
  readonly middle: OnPage
  readonly ends: readonly [OnPage, OnPage]
  /** Paths: the window with its ends, and the ends of the image circle. */
  readonly line: string
  readonly circle: string
}

/** The window stands so far on the way to the aim: handles of both stay apart. */
const ON_THE_WAY = 0.62
const AHEAD_M = 3
/** Shorter than this on the page, or seen from its end, it is no window. */
export const LEAST_PX = 18

export function useShownWindow(drawing: WindowDrawing) {
  const project = useProject()
  function depthOf(c: Camera): number {
    const w = project.working
    const aim = w && aimPointOf(w.stand.aim, centreOf)
    const depth = aim ? -toCamera(c.pose, aim)[2] : AHEAD_M
    return (depth > 0.01 ? depth : AHEAD_M) * ON_THE_WAY
  }
  const heldDepthM = ref<number | null>(null)
  const shown: ComputedRef<ShownWindow | null> = computed(() => {
    const c = project.camera
    const depthM = c && (heldDepthM.value ?? depthOf(c))
    const window = c && pictureWindow(c, drawing.across, depthM!)
    if (!window) return null
    const [a, b] = window.ends.map(drawing.toPx) as [OnPage, OnPage]
    const long = Math.hypot(b.x - a.x, b.y - a.y)
    if (long < LEAST_PX) return null
    const [nx, ny] = [-(b.y - a.y) / long, (b.x - a.x) / long]
    const tick = (p: OnPage, h: number): string => `M${p.x - nx * h} ${p.y - ny * h}L${p.x + nx * h} ${p.y + ny * h}`
    return {
      depthM: depthM!,
      window,
      middle: drawing.toPx(window.middle),
      ends: [a, b],
      line: `M${a.x} ${a.y}L${b.x} ${b.y}${tick(a, 5)}${tick(b, 5)}`,
      circle: (window.circle ?? []).map((p) => tick(drawing.toPx(p), 3)).join(''),
    }
  })
  return { shown, heldDepthM }
}

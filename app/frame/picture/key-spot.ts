// A place on the picture moved by arrows, for who has no pointer: to stand on, or to pick. Enter takes it.
import { ref, watch, type Ref } from 'vue'
import type { Camera } from '#core/camera'
import { useProject } from '../../stores/project.ts'
import { useView } from '../../stores/view.ts'

const WAYS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
}
/** One step, as a share of the picture's width; with Shift a fine one. */
const STEP = 0.02
const FINE = 0.004
/** Where it begins: in the lower half, where floors are. */
const START = [0.5, 0.72] as const

interface Doing {
  /** Shows what lies there. */
  readonly look: (camera: Camera, x: number, y: number) => void
  /** Takes it: stands there, or picks it. */
  readonly take: (camera: Camera, x: number, y: number) => void
}

export function useKeySpot({ look, take }: Doing, isOpen: () => boolean) {
  const project = useProject()
  const view = useView()
  /** In the frame's pixels; null as long as the keys have not asked for it. */
  const spot: Ref<readonly [number, number] | null> = ref(null)
  watch(isOpen, () => (spot.value = null))

  /** Whether the key was for the spot. */
  function key(e: KeyboardEvent): boolean {
    const camera = project.camera
    if (!isOpen() || !camera || e.ctrlKey || e.metaKey || e.altKey || e.target !== e.currentTarget) return false
    const { widthPx: w, heightPx: h } = camera.frame
    const way = WAYS[e.key]
    if (e.key === 'Enter') {
      if (!spot.value) move(camera, START[0] * w, START[1] * h)
      else take(camera, ...spot.value)
    } else if (way) {
      const px = w * (e.shiftKey ? FINE : STEP)
      const [x, y] = spot.value ?? [START[0] * w - way[0] * px, START[1] * h - way[1] * px]
      move(camera, Math.min(w, Math.max(0, x + way[0] * px)), Math.min(h, Math.max(0, y + way[1] * px)))
    } else return false
    e.preventDefault()
    e.stopPropagation()
    return true
  }
  function move(camera: Camera, x: number, y: number): void {
    spot.value = [x, y]
    look(camera, x, y)
  }
  // a lasting pick goes on from there; another tool begins anew
  watch([() => view.tool, () => view.picking], () => (spot.value = null))
  return { spot, key }
}

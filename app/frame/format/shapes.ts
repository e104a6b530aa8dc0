// Shapes of a frame, and what of the view is kept when it changes.
import { createSharedComposable } from '@vueuse/core'
import { computed } from 'vue'
import type { Frame } from '#core/camera'
import { MOST_ASPECT, reframed, type KeptInView } from '#core/framing'
import { FRAME_LIMIT_PX, type CameraChanges } from '#model'
import { useNotices } from '../../stores/notices.ts'
import { useProject } from '../../stores/project.ts'
import { useView } from '../../stores/view.ts'

export interface Shape {
  readonly label: string
  readonly title: string
  readonly ratio: number
}
const plain = (a: number, b: number): Shape => ({ label: `${a}:${b}`, title: `${a} to ${b}`, ratio: a / b })
/** Shapes of the trade, lying. */
export const SHAPES: readonly Shape[] = [
  plain(1, 1),
  plain(5, 4),
  plain(4, 3),
  plain(3, 2),
  { label: 'A', title: 'Paper of the A series, 1 to the root of 2 (ISO 216)', ratio: Math.SQRT2 },
  plain(16, 10),
  plain(16, 9),
  { label: '1.85', title: '1.85 to 1', ratio: 1.85 },
  { label: '2.39', title: '2.39 to 1', ratio: 2.39 },
]
export const clampPx = (v: number): number => Math.min(FRAME_LIMIT_PX, Math.max(16, Math.round(v)))

function createShapes() {
  const project = useProject()
  const view = useView()
  const notices = useNotices()
  const frame = computed(() => project.working?.frame ?? null)
  const isUpright = computed(() => frame.value !== null && frame.value.heightPx > frame.value.widthPx)

  /** The frame and the lens that keeps what was chosen of the view; null where it is refused, which is told. */
  function changed(next: Partial<Frame>, turns = false): CameraChanges | null {
    const w = project.document?.working
    if (!w) return null
    const now = { ...w.frame, ...next }
    const { width, height } = w.lens.sensorMm
    const r = reframed(w, now, view.keptInView, turns ? { width: height, height: width } : w.lens.sensorMm)
    if (r.ok) return { frame: now, lens: r.value }
    notices.say(r.message, 'warning')
    return null
  }
  function take(next: Partial<Frame>, label: string, turns = false): void {
    const changes = changed(next, turns)
    if (changes) project.move(changes, label)
  }
  /** The long side stays, upright stays upright. */
  function sides(ratio: number): Pick<Frame, 'widthPx' | 'heightPx'> {
    const f = frame.value!
    const long = Math.max(f.widthPx, f.heightPx)
    // typed shapes say themselves which way they stand
    return ratio >= 1
      ? { widthPx: long, heightPx: clampPx(long / ratio) }
      : { widthPx: clampPx(long * ratio), heightPx: long }
  }
  const shape = (s: Shape): void => take(sides(isUpright.value ? 1 / s.ratio : s.ratio), `Shape ${s.label}`)
  /** Width to height, as typed. */
  function own(ratio: number): void {
    if (!(ratio <= MOST_ASPECT && ratio >= 1 / MOST_ASPECT)) return
    take(sides(ratio), 'Own shape')
  }
  /** Upright and lying: frame and sensor turn together. */
  const turn = (): void => {
    const { widthPx, heightPx } = frame.value!
    take({ widthPx: heightPx, heightPx: widthPx }, 'Picture turned', true)
  }
  return { frame, isUpright, changed, take, shape, own, turn }
}
export const useShapes = createSharedComposable(createShapes)
export type { KeptInView }

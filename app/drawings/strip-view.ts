// The parallel camera of Plan or Side: it zooms, slides and fits; places on the page for world points and back.
import { useElementSize } from '@vueuse/core'
import { computed, ref, shallowRef, watch, type Ref } from 'vue'
import { projectPoint, rayThrough } from '#core/camera'
import { parallelCamera, parallelFit, roundLength } from '#core/framing'
import { boxCorners, distance, type Box, type Vec3 } from '#core/math'
import { startDrag } from '../controls/drag.ts'
import { useStage } from '../stores/stage.ts'
import type { StripOptions } from './strip-options.ts'
import { sameList } from '../controls/same-list.ts'

const MARGIN = 0.06
const WHEEL_STEP = 1.2
const NARROWEST_M = 0.005

export function useStripView(o: Pick<StripOptions, 'host' | 'direction' | 'headPx'>) {
  const { width, height } = useElementSize(o.host)
  const centre = shallowRef<Vec3>([0, 0, 0])
  const widthM = ref(10)
  const size = computed(() => ({ width: width.value, height: height.value }))
  const isSized = computed(() => width.value > 10 && height.value > 10)
  const camera = computed(() => parallelCamera(centre.value, o.direction.value, widthM.value, size.value))
  const toPx = (p: Vec3): { x: number; y: number } => {
    const at = projectPoint(camera.value, p)!
    return { x: at.xPx, y: at.yPx }
  }
  /** The world point under a page position, in the plane through the strip's centre. */
  function toWorld(e: { clientX: number; clientY: number }, seenBy = camera.value): Vec3 {
    const r = o.host.value!.getBoundingClientRect()
    return rayThrough(seenBy, e.clientX - r.left, e.clientY - r.top)!.origin
  }
  const metresPerPx = computed(() => widthM.value / Math.max(1, width.value))
  /** Shows the whole of the points, with a margin, clear of the head. */
  function fit(points: readonly Vec3[]): void {
    if (points.length === 0 || !isSized.value) return
    const { headPx } = o
    const f = parallelFit(points, o.direction.value, size.value, { margin: MARGIN, headPx, narrowestM: NARROWEST_M })
    centre.value = f.centre
    widthM.value = f.widthM
  }
  /** A round length for the scale bar and its pixels. */
  const scaleBar = computed(() => {
    const m = roundLength(metresPerPx.value * 70)
    const text = m >= 1 ? `${m} m` : m >= 0.01 ? `${Math.round(m * 100)} cm` : `${Math.round(m * 1000)} mm`
    return { px: m / metresPerPx.value, text }
  })
  return { width, height, isSized, centre, widthM, camera, toPx, toWorld, metresPerPx, fit, scaleBar }
}
export type StripView = ReturnType<typeof useStripView>

/** Zooming, sliding and fitting of a strip's view by hand. */
export function useStripMoves(
  { centre, widthM, camera, toWorld, fit, isSized }: StripView,
  direction: StripOptions['direction'],
) {
  const stage = useStage()
  const fitModel = (): void => void (stage.facts && fit(boxCorners(stage.facts.box)))
  function fitCamera(points: readonly Vec3[]): void {
    const [a] = points
    if (!a) return
    const spread = Math.max(...points.map((p) => distance(p, a)), stage.facts ? modelSize(stage.facts.box) * 0.08 : 0.5)
    fit([
      ...points,
      [a[0] - spread * 0.5, a[1] - spread * 0.5, a[2] - spread * 0.3],
      [a[0] + spread * 0.5, a[1] + spread * 0.5, a[2] + spread * 0.3],
    ])
  }

  function zoomAt(factor: number, e?: { clientX: number; clientY: number }): void {
    const to = widthM.value * factor
    const limit = stage.facts ? modelSize(stage.facts.box) * 20 : 1e4
    if (to < NARROWEST_M || to > limit) return
    if (e) {
      const p = toWorld(e)
      centre.value = [0, 1, 2].map((i) => p[i]! + (centre.value[i]! - p[i]!) * factor) as unknown as Vec3
    }
    widthM.value = to
  }
  function wheel(e: WheelEvent): void {
    e.preventDefault()
    if (e.deltaY === 0) return
    zoomAt(Math.pow(WHEEL_STEP, Math.sign(e.deltaY) * Math.min(2, Math.max(0.2, Math.abs(e.deltaY) / 100))), e)
  }
  /** `onClick` is for a press that did not move. */
  function slideStrip(e: PointerEvent, onClick: () => unknown = () => undefined): void {
    const from = centre.value
    const start = toWorld(e)
    const before = camera.value
    startDrag(e, {
      move: (_dx, _dy, m) => {
        const p = toWorld(m, before)
        centre.value = [0, 1, 2].map((i) => from[i]! + start[i]! - p[i]!) as unknown as Vec3
      },
      end: (moved) => void (moved || onClick()),
      cancel: () => (centre.value = from),
    })
  }

  useFirstFit(fitModel, isSized, direction)
  return { fitModel, fitCamera, zoomAt, wheel, slideStrip }
}

/** The first fit, and again when the model changes or the strip turns. */
function useFirstFit(
  fitModel: () => void,
  isSized: Readonly<Ref<boolean>>,
  direction: StripOptions['direction'],
): void {
  const stage = useStage()
  const fitted = ref('')
  watch(
    sameList(() => [stage.facts, isSized.value, Math.round(direction.value.bearingDeg)] as const),
    ([facts, sized, bearing]) => {
      const key =
        facts && sized ? `${facts.triangles}|${facts.box.min.join()}|${bearing}|${direction.value.tiltDeg}` : ''
      if (!key || key === fitted.value) return
      fitted.value = key
      fitModel()
    },
    { immediate: true },
  )
}
const modelSize = (b: Box): number => distance(b.min, b.max)

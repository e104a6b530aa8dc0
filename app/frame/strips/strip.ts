// What Plan and Side share: a parallel camera that zooms, slides and fits; the base image drawn for it by the stage; places on the
// page for world points and back, by the core's own projection.
import { refDebounced, useElementSize, watchDebounced } from '@vueuse/core'
import { computed, ref, shallowRef, watch, type ComputedRef, type Ref } from 'vue'
import { projectPoint, rayThrough, toCamera, type Camera } from '#core/camera'
import { boxCentre, boxCorners, type Box, type Vec3 } from '#core/math'
import type { DrawingRequest } from '#stage'
import { startDrag } from '../../controls/drag.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'

export interface StripOptions {
  readonly key: 'plan' | 'side'
  readonly host: Ref<HTMLElement | null>
  readonly canvas: Ref<HTMLCanvasElement | null>
  readonly direction: ComputedRef<{ bearingDeg: number; tiltDeg: number }>
  readonly cut: ComputedRef<DrawingRequest['cut']>
  /** Pixels kept free at the top, for the strip's head. */
  readonly headPx: number
}
const MARGIN = 0.06
const WHEEL_STEP = 1.2
const NARROWEST_M = 0.005

export function useStrip(o: StripOptions) {
  const project = useProject()
  const stage = useStage()
  const view = useView()
  const { width, height } = useElementSize(o.host)
  const centre = shallowRef<Vec3>([0, 0, 0])
  const widthM = ref(10)
  const drawn = shallowRef<Camera | null>(null)

  const cameraFor = (c: Vec3, w: number): Camera => ({
    pose: { station: c, ...o.direction.value, rollDeg: 0 },
    lens: {
      projection: { kind: 'parallel', widthM: w },
      focalMm: 50,
      sensorMm: { width: 36, height: 24 },
      sensorUse: 'acrossWidth',
      riseMm: 0,
      crossMm: 0,
      distortion: null,
    },
    frame: {
      widthPx: Math.max(1, Math.round(width.value)),
      heightPx: Math.max(1, Math.round(height.value)),
      densityPpi: 96,
      guides: 'none',
    },
  })
  const camera = computed(() => cameraFor(centre.value, widthM.value))

  const toPx = (p: Vec3): { x: number; y: number } => {
    const at = projectPoint(camera.value, p)!
    return { x: at.xPx, y: at.yPx }
  }
  /** The world point under a page position, in the plane through the strip's centre. */
  function toWorld(e: { clientX: number; clientY: number }): Vec3 {
    const r = o.host.value!.getBoundingClientRect()
    return rayThrough(camera.value, e.clientX - r.left, e.clientY - r.top)!.origin
  }
  const metresPerPx = computed(() => widthM.value / Math.max(1, width.value))

  /** Shows the whole of the points, with a margin, clear of the head. */
  function fit(points: readonly Vec3[]): void {
    if (points.length === 0 || width.value < 10 || height.value < 10) return
    const pose = { station: [0, 0, 0] as Vec3, ...o.direction.value, rollDeg: 0 }
    const flat = points.map((p) => toCamera(pose, p))
    const span = (k: 0 | 1): [number, number] => [
      Math.min(...flat.map((p) => p[k])),
      Math.max(...flat.map((p) => p[k])),
    ]
    const [x0, x1] = span(0)
    const [y0, y1] = span(1)
    const free = Math.max(20, height.value - o.headPx)
    const mPerPx = Math.max(
      ((x1 - x0) * (1 + 2 * MARGIN)) / width.value,
      ((y1 - y0) * (1 + 2 * MARGIN)) / free,
      NARROWEST_M / width.value,
    )
    widthM.value = mPerPx * width.value
    const mid: Vec3 = [
      (x0 + x1) / 2,
      (y0 + y1) / 2 + (o.headPx / 2) * mPerPx,
      flat.reduce((s, p) => s + p[2], 0) / flat.length,
    ]
    centre.value = fromCameraAxes(mid)
  }
  function fromCameraAxes(p: Vec3): Vec3 {
    const at = cameraFor([0, 0, 0], 1)
    const { xPx, yPx } = {
      xPx: at.frame.widthPx / 2 + p[0] * at.frame.widthPx,
      yPx: at.frame.heightPx / 2 - p[1] * at.frame.widthPx,
    }
    const ray = rayThrough(at, xPx, yPx)!
    return [0, 1, 2].map((i) => ray.origin[i]! - ray.direction[i]! * p[2]) as unknown as Vec3
  }
  const fitModel = (): void => void (stage.facts && fit(boxCorners(stage.facts.box)))
  function fitCamera(points: readonly Vec3[]): void {
    const [a] = points
    if (!a) return
    const spread = Math.max(
      ...points.map((p) => Math.hypot(p[0] - a[0], p[1] - a[1], p[2] - a[2])),
      stage.facts ? modelSize(stage.facts.box) * 0.08 : 0.5,
    )
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
    const r = o.host.value!.getBoundingClientRect()
    startDrag(e, {
      move: (_dx, _dy, m) => {
        const p = rayThrough(before, m.clientX - r.left, m.clientY - r.top)!.origin
        centre.value = [0, 1, 2].map((i) => from[i]! + start[i]! - p[i]!) as unknown as Vec3
      },
      end: (moved) => void (moved || onClick()),
      cancel: () => (centre.value = from),
    })
  }

  // the first fit, and again when the model changes or the strip turns
  const fitted = ref('')
  watch(
    () => [stage.facts, width.value > 10 && height.value > 10, Math.round(o.direction.value.bearingDeg)] as const,
    ([facts, sized, bearing]) => {
      const key =
        facts && sized ? `${facts.triangles}|${facts.box.min.join()}|${bearing}|${o.direction.value.tiltDeg}` : ''
      if (!key || key === fitted.value) return
      fitted.value = key
      fitModel()
    },
    { immediate: true },
  )

  // the base image: asked for a moment after zoom, size, cut or model rest
  let asked = 0
  async function redraw(): Promise<void> {
    const c = camera.value
    if (!stage.ready || stage.storeys.length === 0 || width.value < 10 || height.value < 10) return
    const mine = ++asked
    const k = Math.min(2, window.devicePixelRatio)
    const bitmap = await stage
      .drawing({
        key: o.key,
        camera: c,
        widthPx: Math.round(width.value * k),
        heightPx: Math.round(height.value * k),
        shown: project.shown,
        cut: o.cut.value,
        night: view.theme === 'night',
      })
      .catch(() => null)
    if (!bitmap) return
    const el = o.canvas.value
    if (mine !== asked || !el) {
      bitmap.close()
      return
    }
    el.width = bitmap.width
    el.height = bitmap.height
    el.getContext('bitmaprenderer')!.transferFromImageBitmap(bitmap)
    drawn.value = c
  }
  watchDebounced(
    () => [camera.value, o.cut.value, stage.storeys, stage.ready, project.working?.visible, view.theme] as const,
    () => void redraw(),
    { debounce: 90, immediate: true, flush: 'post' },
  )

  /** Where the base image lies now, while a newer one is on its way. */
  const imageStyle = computed(() => {
    const d = drawn.value
    const same = d && d.pose.bearingDeg === camera.value.pose.bearingDeg && d.pose.tiltDeg === camera.value.pose.tiltDeg
    if (!d || !same || d.lens.projection.kind !== 'parallel') return { visibility: 'hidden' as const }
    const k = d.lens.projection.widthM / widthM.value
    const c = toPx(d.pose.station)
    const dx = c.x - camera.value.frame.widthPx / 2
    const dy = c.y - camera.value.frame.heightPx / 2
    return { transform: `translate(${dx}px, ${dy}px) scale(${k * (camera.value.frame.widthPx / d.frame.widthPx)})` }
  })
  /** A round length for the scale bar and its pixels. */
  const scaleBar = computed(() => {
    const target = metresPerPx.value * 70
    const power = Math.pow(10, Math.floor(Math.log10(target)))
    const m = [5, 2, 1].map((s) => s * power).find((s) => s <= target) ?? power
    return {
      px: m / metresPerPx.value,
      text: m >= 1 ? `${m} m` : m >= 0.01 ? `${Math.round(m * 100)} cm` : `${Math.round(m * 1000)} mm`,
    }
  })

  return {
    width,
    height,
    camera,
    toPx,
    toWorld,
    metresPerPx,
    fitModel,
    fitCamera,
    zoomAt,
    wheel,
    slideStrip,
    imageStyle,
    scaleBar,
    drawn,
  }
}

export type Strip = ReturnType<typeof useStrip>

const modelSize = (b: Box): number => Math.hypot(b.max[0] - b.min[0], b.max[1] - b.min[1], b.max[2] - b.min[2])
export const modelCentre = (b: Box): Vec3 => boxCentre(b)

/** A value that follows the source once it has rested. */
export const settledBearing = (source: Ref<number>): Readonly<Ref<number>> => refDebounced(source, 260)

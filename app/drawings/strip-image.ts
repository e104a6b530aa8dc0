// The base image of Plan or Side: drawn by the stage a moment after zoom, size, cut or model rest; the old one lies scaled meanwhile.
import { watchDebounced } from '@vueuse/core'
import { computed, onMounted, shallowRef, type Ref } from 'vue'
import { type Camera, widthOfView } from '#core/camera'
import { holdImage, lastImage } from '../controls/last-image.ts'
import { useProject } from '../stores/project.ts'
import { useStage } from '../stores/stage.ts'
import { useView } from '../stores/view.ts'
import type { StripView } from './strip-view.ts'
import type { StripOptions } from './strip-options.ts'
import { sameList } from '../controls/same-list.ts'

function put(el: HTMLCanvasElement, bitmap: ImageBitmap): void {
  el.width = bitmap.width
  el.height = bitmap.height
  el.getContext('bitmaprenderer')!.transferFromImageBitmap(bitmap)
}

export function useStripImage(o: Pick<StripOptions, 'key' | 'canvas' | 'cut' | 'shown'>, strip: StripView) {
  const { camera, width, height, isSized } = strip
  const project = useProject()
  const stage = useStage()
  const view = useView()
  const drawn = shallowRef<Camera | null>(null)
  const shown = computed(() => o.shown?.value ?? project.shown)

  // the base image: asked for a moment after zoom, size, cut or model rest
  let asked = 0
  async function redraw(): Promise<void> {
    const c = camera.value
    if (!stage.ready || stage.storeys.length === 0 || !isSized.value) return
    const mine = ++asked
    const k = Math.min(2, window.devicePixelRatio)
    const bitmap = await stage
      .drawing({
        key: o.key,
        camera: c,
        widthPx: Math.round(width.value * k),
        heightPx: Math.round(height.value * k),
        shown: shown.value,
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
    put(el, bitmap)
    drawn.value = c
    holdImage(lastOf(), el, c)
  }
  const lastOf = (): string => `${project.id}/${o.key}/${view.theme}`
  // small, or large in the middle: what the other one showed, until it is drawn anew
  onMounted(async () => {
    const last = await lastImage<Camera>(lastOf())
    const el = o.canvas.value
    if (!last || !el || drawn.value) return last?.bitmap.close()
    put(el, last.bitmap)
    drawn.value = last.about
  })
  watchDebounced(
    sameList(
      () => [camera.value, o.cut.value, stage.storeys, stage.placings, stage.ready, shown.value, view.theme] as const,
    ),
    () => void redraw(),
    { debounce: 90, immediate: true, flush: 'post' },
  )

  return { drawn, imageStyle: useImageStyle(drawn, strip) }
}

/** Where the base image lies now, while a newer one is on its way. */
function useImageStyle(drawn: Readonly<Ref<Camera | null>>, { camera, widthM, toPx }: StripView) {
  return computed(() => {
    const d = drawn.value
    const same = d && d.pose.bearingDeg === camera.value.pose.bearingDeg && d.pose.tiltDeg === camera.value.pose.tiltDeg
    const drawnM = d && widthOfView(d.lens)
    if (!d || !same || !drawnM) return { visibility: 'hidden' as const }
    const k = drawnM / widthM.value
    const c = toPx(d.pose.station)
    const dx = c.x - camera.value.frame.widthPx / 2
    const dy = c.y - camera.value.frame.heightPx / 2
    return { transform: `translate(${dx}px, ${dy}px) scale(${k * (camera.value.frame.widthPx / d.frame.widthPx)})` }
  })
}

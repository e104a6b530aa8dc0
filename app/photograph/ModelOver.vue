<script setup lang="ts">
// The model over the photograph, as the camera found sees it: its picture, or its edges alone. While a hand drags it keeps up.
import { watchDebounced } from '@vueuse/core'
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import { useOutdoors } from '../stores/outdoors.ts'
import { useProject } from '../stores/project.ts'
import { SAMPLES } from '../stores/samples.ts'
import { useStage } from '../stores/stage.ts'
import { useView } from '../stores/view.ts'
import { useMatch } from './match.ts'
import { usePhotoTools } from './tools.ts'

const props = defineProps<{ view: { k: number; x: number; y: number } }>()
/** As many pixels are drawn, however large the photograph is shown. */
const DRAWN_PX = 1100
const canvas = ref<HTMLCanvasElement | null>(null)
const stage = useStage()
const project = useProject()
const outdoors = useOutdoors()
const looks = useView()
const { camera, photo, dragged } = useMatch()
const { overlay, opacity } = usePhotoTools()
const size = computed(() => {
  const p = photo.value!
  const k = Math.min(1, DRAWN_PX / Math.max(p.widthPx, p.heightPx))
  return { width: Math.max(16, Math.round(p.widthPx * k)), height: Math.max(16, Math.round(p.heightPx * k)) }
})
let asked = 0
let shown = 0
function lay(bitmap: ImageBitmap, mine: number): void {
  const c = canvas.value
  if (!c || mine < shown) return bitmap.close()
  shown = mine
  c.width = bitmap.width
  c.height = bitmap.height
  c.getContext('bitmaprenderer')!.transferFromImageBitmap(bitmap)
}
/** What is neither chosen, nor in what is chosen, nor holds it. */
function othersOf(chosen: readonly string[]): string[] {
  const isIn = (a: string, b: string): boolean => a === b || a.startsWith(`${b}/`)
  return (stage.facts?.nodes ?? []).map((n) => n.id).filter((id) => !chosen.some((c) => isIn(id, c) || isIn(c, id)))
}
async function draw(moving: boolean): Promise<void> {
  const c = camera.value
  const w = project.workingShown
  const p = photo.value
  if (!c || !w || !p || !stage.ready) return
  const mine = ++asked
  const { width, height } = size.value
  if (overlay.value === 'lines') {
    // what is chosen, or every model
    const ids = looks.selection.length > 0 ? looks.selection : (project.document?.models ?? []).map((m) => m.key)
    const bitmap = await stage.outline({ camera: c, widthPx: width, heightPx: height, ids, style: 'drawn', shown: project.shown, colour: [0.42, 0.25, 0.48] }) // prettier-ignore
    if (bitmap) lay(bitmap, mine)
    return
  }
  const masks = (p.match.masks ?? []).map((m) => ({ points: m.points.map(([x, y]) => [x / p.widthPx, y / p.heightPx] as const), soft: m.softPx / p.widthPx })) // prettier-ignore
  const plain = outdoors.appearance(w)
  const shown = overlay.value === 'chosen' ? { ...plain.shown, hidden: [...plain.shown.hidden, ...othersOf(looks.selection)] } : plain.shown // prettier-ignore
  await stage.picture(
    {
      ...{ camera: c, widthPx: width, heightPx: height, moving, place: 'picture', samples: SAMPLES.picture },
      appearance: { ...plain, shown, photo: { sha256: p.sha256, masks } },
    },
    (f) => lay(f.bitmap, mine),
  )
}
watch([camera, dragged], () => dragged.value && void draw(true))
watchDebounced([camera, overlay, () => photo.value?.match.masks, size, () => stage.ready, () => stage.epoch, () => stage.lightEpoch, () => project.workingShown, () => looks.selection], () => !dragged.value && void draw(false), { debounce: 120, immediate: true }) // prettier-ignore
onBeforeUnmount(() => {
  asked++
  shown = asked
  stage.stopPicture('picture')
})
const style = computed(() => ({
  left: `${props.view.x}px`,
  top: `${props.view.y}px`,
  width: `${photo.value!.widthPx * props.view.k}px`,
  height: `${photo.value!.heightPx * props.view.k}px`,
  opacity: overlay.value === 'lines' ? 1 : opacity.value,
}))
</script>

<template>
  <canvas ref="canvas" class="over" :style="style" data-testid="model-over" />
</template>

<style scoped>
.over {
  position: absolute;
  pointer-events: none;
}
</style>

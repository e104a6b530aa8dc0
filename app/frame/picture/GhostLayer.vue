<script setup lang="ts">
// What is hidden, as ghosts over a picture at rest: to be seen, and clicked back.
import { watchDebounced } from '@vueuse/core'
import { ref } from 'vue'
import type { Camera } from '#core/camera'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'

const props = defineProps<{ camera: Camera; width: number; height: number; busy: boolean }>()
const project = useProject()
const stage = useStage()
const view = useView()
const canvas = ref<HTMLCanvasElement | null>(null)
const drawn = ref(false)
/** Ink: petrol is for cuts, plum for what can be dragged. */
const INK = [0.13, 0.15, 0.17] as const
let asked = 0

async function draw(): Promise<void> {
  const mine = ++asked
  const ids = project.shown.hidden
  if (props.busy || ids.length === 0 || props.width < 10) {
    drawn.value = false
    return
  }
  const k = Math.min(2, window.devicePixelRatio)
  const [widthPx, heightPx] = [Math.round(props.width * k), Math.round(props.height * k)]
  const request = { camera: props.camera, widthPx, heightPx, ids, style: 'ghosts', shown: project.shown, colour: INK } as const // prettier-ignore
  const bitmap = await stage.outline(request).catch(() => null)
  const c = canvas.value
  if (!bitmap || !c || mine !== asked) {
    bitmap?.close()
    return
  }
  c.width = bitmap.width
  c.height = bitmap.height
  c.getContext('bitmaprenderer')!.transferFromImageBitmap(bitmap)
  drawn.value = true
}
watchDebounced(
  [
    () => props.camera,
    () => props.busy,
    () => props.width,
    () => props.height,
    () => project.shown.hidden,
    () => stage.epoch,
    () => stage.placings,
    () => view.ghosts,
  ],
  () => void draw(),
  { debounce: 50, immediate: true, flush: 'post' },
)
</script>

<template>
  <canvas v-show="drawn && !busy" ref="canvas" data-testid="ghosts" :data-drawn="drawn" aria-hidden="true" />
</template>

<style scoped>
canvas {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
</style>

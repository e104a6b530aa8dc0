<script setup lang="ts">
// The edges of the model about a place, magnified, as the camera sees them: drawn anew at that size, so that corners are crisp.
import { ref, watch } from 'vue'
import { magnified, type Camera } from '#core/camera'
import type { PicturePlace } from '#core/match'
import { useProject } from '../stores/project.ts'
import { useStage } from '../stores/stage.ts'
import LoupeFrame from './LoupeFrame.vue'
import { LOUPE_PX } from './loupe.ts'

const props = defineProps<{
  camera: Camera
  /** Pixels of the camera's frame. */
  place: PicturePlace
  seenPx: number
  side: 'left' | 'right'
}>()
const canvas = ref<HTMLCanvasElement | null>(null)
const project = useProject()
const stage = useStage()
const INK = [0.42, 0.25, 0.48] as const
let isBusy = false
let isStale = false
async function draw(): Promise<void> {
  isStale = isBusy
  if (isBusy || !stage.ready) return
  isBusy = true
  try {
    const camera = magnified(props.camera, props.place, props.seenPx, LOUPE_PX)
    const ids = (project.document?.models ?? []).map((m) => m.key)
    const bitmap =
      camera &&
      (await stage.outline({
        ...{ camera, widthPx: LOUPE_PX, heightPx: LOUPE_PX, ids, style: 'drawn', key: 'loupe' },
        ...{ shown: project.shown, colour: INK },
      }))
    if (bitmap && canvas.value) canvas.value.getContext('bitmaprenderer')!.transferFromImageBitmap(bitmap)
    else bitmap?.close()
  } finally {
    isBusy = false
    if (isStale && canvas.value) void draw()
  }
}
watch(
  () => [props.camera, props.place, props.seenPx] as const,
  () => void draw(),
  { immediate: true, flush: 'post' },
)
</script>

<template>
  <LoupeFrame :side="side" told="model" data-testid="model-loupe">
    <canvas ref="canvas" :width="LOUPE_PX" :height="LOUPE_PX" />
  </LoupeFrame>
</template>

<style scoped>
canvas {
  background: #fff;
}
</style>

<script setup lang="ts">
// The outline of selected objects over a picture at rest; while something moves it waits.
import { watchDebounced } from '@vueuse/core'
import { computed, ref } from 'vue'
import type { Camera } from '#core/camera'
import { useCheck } from '../check/check.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'
import { sameList } from '../../controls/same-list.ts'

const props = defineProps<{ camera: Camera; width: number; height: number; busy: boolean }>()
const project = useProject()
const stage = useStage()
const view = useView()
const check = useCheck()
const canvas = ref<HTMLCanvasElement | null>(null)
const drawn = ref('')
const PLUM = [0.42, 0.247, 0.478] as const
const OCHRE = [0.72, 0.45, 0.05] as const
/** What a finding shows comes before what is selected. */
const shownIds = computed(() => check.shown?.show.nodeIds ?? view.selection)
let asked = 0

const key = (): string =>
  JSON.stringify([props.camera.pose, props.camera.lens, props.camera.frame, shownIds.value, props.width, props.height])

async function draw(): Promise<void> {
  const mine = ++asked
  const ids = shownIds.value
  if (props.busy || ids.length === 0 || props.width < 10) {
    drawn.value = ''
    return
  }
  const want = key()
  const k = Math.min(2, window.devicePixelRatio)
  const bitmap = await stage
    .outline({
      camera: props.camera,
      widthPx: Math.round(props.width * k),
      heightPx: Math.round(props.height * k),
      ids,
      style: 'outline',
      shown: project.shown,
      colour: check.shown ? OCHRE : PLUM,
    })
    .catch(() => null)
  const c = canvas.value
  if (!bitmap || !c || mine !== asked) {
    bitmap?.close()
    return
  }
  c.width = bitmap.width
  c.height = bitmap.height
  c.getContext('bitmaprenderer')!.transferFromImageBitmap(bitmap)
  drawn.value = want
}
watchDebounced(
  sameList(() => [
    props.camera,
    props.busy,
    shownIds.value,
    props.width,
    props.height,
    stage.epoch,
    stage.placings,
    project.shown,
  ]),
  () => void draw(),
  { debounce: 50, immediate: true, flush: 'post' },
)
</script>

<template>
  <canvas
    v-show="drawn !== '' && !busy"
    ref="canvas"
    data-testid="selection-outline"
    :data-drawn="drawn ? 'yes' : 'no'"
    aria-hidden="true"
  />
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

<script setup lang="ts">
// A picture of the model by a camera, drawn by the stage: cheap frames while something moves, a refined one a moment after.
import { useDevicePixelRatio, watchDebounced } from '@vueuse/core'
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import type { Camera } from '#core/camera'
import type { Appearance, PictureFrame } from '#stage'
import { useNotices } from '../../stores/notices.ts'
import { useProject } from '../../stores/project.ts'
import { appearanceOf, SAMPLES, useStage } from '../../stores/stage.ts'

const props = defineProps<{
  camera: Camera | null
  /** Page pixels. */
  width: number
  height: number
  busy: boolean
  place: 'picture' | 'outside'
}>()
const project = useProject()
const stage = useStage()
const notices = useNotices()
const canvas = ref<HTMLCanvasElement | null>(null)
const { pixelRatio } = useDevicePixelRatio()
const pixels = computed(() => {
  const k = Math.min(2, pixelRatio.value)
  return { width: Math.round(props.width * k), height: Math.round(props.height * k) }
})
const refined = ref<{ sample: number; samples: number } | null>(null)
const hasPicture = ref(false)
let wanted = 0
let shown = 0

function put(frame: PictureFrame, mine: number, isMoving: boolean): void {
  const c = canvas.value
  // a frame of an older request may still be under way
  if (!c || mine < shown) {
    frame.bitmap.close()
    return
  }
  shown = mine
  if (c.width !== frame.bitmap.width || c.height !== frame.bitmap.height) {
    c.width = frame.bitmap.width
    c.height = frame.bitmap.height
  }
  c.getContext('bitmaprenderer')!.transferFromImageBitmap(frame.bitmap)
  refined.value = isMoving ? null : { sample: frame.sample, samples: frame.samples }
  hasPicture.value = true
}

function request(camera: Camera, isMoving: boolean): void {
  const w = project.working
  if (!w || !stage.ready || props.width < 10) return
  const mine = ++wanted
  stage
    .picture(
      {
        camera,
        widthPx: pixels.value.width,
        heightPx: pixels.value.height,
        appearance: props.place === 'outside' ? uncut(appearanceOf(w)) : appearanceOf(w),
        moving: isMoving,
        samples: SAMPLES.picture,
        place: props.place,
      },
      (f) => put(f, mine, isMoving),
    )
    .catch((e: unknown) => notices.fail(e))
}

watch(
  () => [props.camera, props.busy] as const,
  ([camera, isMoving]) => camera && isMoving && request(camera, true),
  { flush: 'post' },
)
watchDebounced(
  () =>
    [
      props.camera,
      props.busy,
      pixels.value,
      stage.epoch,
      stage.lightEpoch,
      stage.ready,
      project.working?.look,
      project.working?.exposure,
      project.working?.visible,
      project.working?.cut,
    ] as const,
  ([camera, isMoving]) => camera && !isMoving && request(camera, false),
  { debounce: 40, immediate: true, flush: 'post' },
)
onBeforeUnmount(() => {
  wanted++
  shown = wanted
  stage.stopPicture(props.place)
})
defineExpose({ refined, hasPicture })
/** Near and far cut go with the camera: from outside they cut nothing. */
function uncut(a: Appearance): Appearance {
  return { ...a, shown: { ...a.shown, cuts: { ...a.shown.cuts, nearM: null, farM: null } } }
}
</script>

<template>
  <canvas
    ref="canvas"
    :class="{ empty: !hasPicture }"
    :data-testid="`${place}-canvas`"
    :data-sample="refined?.sample ?? 0"
    :data-samples="refined?.samples ?? 0"
  />
</template>

<style scoped>
canvas {
  width: 100%;
  height: 100%;
  display: block;
}
canvas.empty {
  visibility: hidden;
}
</style>

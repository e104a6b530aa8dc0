<script setup lang="ts">
// The moment of the reel as a picture: cheap frames while it plays or is scrubbed, one at a time, so that time is kept; refined at rest.
import { useDebounceFn, useElementSize } from '@vueuse/core'
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import { poseOfStand, type Camera } from '#core/camera'
import { centreOf } from '../stores/centres.ts'
import { useNotices } from '../stores/notices.ts'
import { useOutdoors } from '../stores/outdoors.ts'
import { heldSamples } from '../stores/samples.ts'
import { useStage } from '../stores/stage.ts'
import { useView } from '../stores/view.ts'
import { useFilm } from './film.ts'
import { useWalking } from './walking.ts'

const box = ref<HTMLElement | null>(null)
const canvas = ref<HTMLCanvasElement | null>(null)
const { width, height } = useElementSize(box)
const { shown, isPlaying, fps } = useFilm()
const stage = useStage()
const outdoors = useOutdoors()
const notices = useNotices()
const view = useView()
const RESTS_MS = 180
/** Frames drawn since it plays, when it began, and the last of them, milliseconds. */
const drawn = ref(0)
const begun = ref(0)
const now = ref(0)

const size = computed(() => {
  const frame = shown.value?.setup.frame
  if (!frame || width.value < 40) return null
  const k = Math.min(width.value / frame.widthPx, height.value / frame.heightPx)
  return { width: Math.max(16, Math.round(frame.widthPx * k)), height: Math.max(16, Math.round(frame.heightPx * k)) }
})
let isBusy = false
let isStale = false
let isGone = false
let last = 0
function request(moving: boolean): Promise<void> | null {
  const [s, z] = [shown.value, size.value]
  // what is asked late would take the place of the next view's picture
  if (isGone || !s || !z || !stage.ready) return null
  const { setup } = s
  const camera: Camera = { pose: poseOfStand(setup.stand, centreOf), lens: setup.lens, frame: { ...setup.frame, guides: [] } } // prettier-ignore
  const mine = ++last
  return stage.picture(
    { camera, widthPx: z.width, heightPx: z.height, appearance: outdoors.appearance(setup), moving, samples: heldSamples(view.samples), place: 'picture' },
    (f) => {
      const c = canvas.value
      if (!c || mine < last) return f.bitmap.close()
      c.width = f.bitmap.width
      c.height = f.bitmap.height
      c.getContext('bitmaprenderer')!.transferFromImageBitmap(f.bitmap)
      c.dataset['sample'] = `${moving ? 0 : f.sample}`
    },
  ) // prettier-ignore
}
async function moving(): Promise<void> {
  isStale = isBusy
  if (isBusy) return
  isBusy = true
  try {
    await request(true)
    drawn.value++
    now.value = performance.now()
  } catch (e) {
    notices.fail(e)
  } finally {
    isBusy = false
    if (isStale) void moving()
    // the refined one comes after the last cheap one, never under it
    else if (!isPlaying.value) void rested()
  }
}
const rested = useDebounceFn(() => {
  if (!isPlaying.value && !isBusy) void request(false)?.catch((e: unknown) => notices.fail(e))
}, RESTS_MS)
watch([() => shown.value?.take, size, () => stage.ready, () => stage.epoch, () => stage.lightEpoch], () => {
  void moving()
}, { immediate: true, flush: 'post' }) // prettier-ignore
watch(isPlaying, (plays) => {
  drawn.value = 0
  begun.value = now.value = performance.now()
  if (!plays) void rested()
})
/** Said only where it matters. */
const left = computed(() => {
  const lastsS = (now.value - begun.value) / 1000
  if (!isPlaying.value || lastsS < 1) return ''
  const perS = drawn.value / lastsS
  return perS < 0.9 * fps.value ? `draws ${perS.toFixed(perS < 10 ? 1 : 0)} of ${fps.value.toFixed(0)} frames a second; the time is right` : '' // prettier-ignore
})
const { tool, inPicture } = useWalking()
/** A click where a stop or a look is asked for. */
function press(e: MouseEvent): void {
  const setup = shown.value?.setup
  if (!tool.value || !setup) return
  const r = canvas.value!.getBoundingClientRect()
  const camera: Camera = { pose: poseOfStand(setup.stand, centreOf), lens: setup.lens, frame: setup.frame }
  const k = setup.frame.widthPx / r.width
  void inPicture(camera, (e.clientX - r.left) * k, (e.clientY - r.top) * k).catch((x: unknown) => notices.fail(x))
}
onBeforeUnmount(() => {
  isGone = true
  last++
  stage.stopPicture('picture')
})
</script>

<template>
  <div ref="box" class="film">
    <canvas
      v-if="size"
      ref="canvas"
      data-testid="film-canvas"
      role="img"
      aria-label="The reel at this moment"
      :class="{ asks: tool !== null }"
      @click="press"
      :style="{ width: `${size.width}px`, height: `${size.height}px` }"
    />
    <p v-else class="empty quiet"><slot /></p>
    <p v-if="left" class="left num" role="status">{{ left }}</p>
  </div>
</template>

<style scoped>
.film {
  position: relative;
  display: grid;
  place-items: center;
  min-width: 0;
  min-height: 0;
  overflow: hidden;
  background: var(--mount);
}
canvas {
  position: absolute;
}
.asks {
  cursor: crosshair;
}
.empty {
  color: var(--mount-ink);
  max-width: 460px;
  text-align: center;
}
.left {
  position: absolute;
  left: 10px;
  bottom: 8px;
  padding: 2px 8px;
  border-radius: 4px;
  background: var(--panel);
  font-size: 11.5px;
}
</style>

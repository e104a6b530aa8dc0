<script setup lang="ts">
// The moment of the reel as a picture: cheap frames while it plays or is scrubbed, one at a time, so that time is kept; refined at rest. In a
// dissolve or a fade two pictures lie over each other, each with its share.
import { useDebounceFn, useElementSize } from '@vueuse/core'
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import { poseOfStand, type Camera } from '#core/camera'
import { setupAsShown, shownOf } from '#model'
import { centreInFile, centresIn } from '../stores/centres.ts'
import { useNotices } from '../stores/notices.ts'
import { useOutdoors } from '../stores/outdoors.ts'
import { heldSamples } from '../stores/samples.ts'
import { useProject } from '../stores/project.ts'
import { useStage } from '../stores/stage.ts'
import { useView } from '../stores/view.ts'
import type { ReelLayer } from '#model/reel'
import { useFilm } from './film.ts'
import { useWalking } from './walking.ts'

const box = ref<HTMLElement | null>(null)
const canvas = ref<HTMLCanvasElement | null>(null)
const overlay = ref<HTMLCanvasElement | null>(null)
const { width, height } = useElementSize(box)
const { shown, layers, openOf, part, isPlaying, fps } = useFilm()
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
interface Onto {
  readonly canvas: HTMLCanvasElement | null
  readonly moving: boolean
  readonly mine: number
  readonly drawn: () => void
}
/** One of the pictures that lie over each other; null where none can be drawn. */
function request(layer: ReelLayer, { canvas: onto, moving, mine, drawn }: Onto): Promise<void> | null {
  const z = size.value
  // what is asked late would take the place of the next view's picture
  if (isGone || !z || !onto || !stage.ready) return null
  const { setup } = layer
  const frame = { ...setup.frame, guides: [] }
  const camera: Camera = { pose: poseOfStand(setup.stand, centresIn(setup)), lens: setup.lens, frame }
  const samples = heldSamples(view.samples)
  const open = moving ? null : openOf(layer, samples)?.map((t) => ({ camera: { pose: t.pose, lens: t.lens, frame }, moved: t.moved ?? [] })) // prettier-ignore
  return stage.picture(
    { ...(open && { open }), camera, widthPx: z.width, heightPx: z.height, appearance: outdoors.appearance(setup), moving, samples, place: 'picture' },
    (f) => {
      if (mine < last) return f.bitmap.close()
      onto.width = f.bitmap.width
      onto.height = f.bitmap.height
      onto.getContext('bitmaprenderer')!.transferFromImageBitmap(f.bitmap)
      onto.dataset['sample'] = `${moving ? 0 : f.sample}`
      drawn()
    },
  ) // prettier-ignore
}
/** Of the picture that lies over the other, as it was drawn. */
const weight = ref(0)
/** What goes below, what comes over it with its own weight, once it is drawn: nothing flashes. */
async function drawAll(moving: boolean): Promise<void> {
  const mine = ++last
  const [below, over] = layers.value
  if (below) await request(below, { canvas: canvas.value, moving, mine, drawn: () => over || (weight.value = 0) })
  if (over && mine === last) await request(over, { canvas: overlay.value, moving, mine, drawn: () => (weight.value = over.weight) }) // prettier-ignore
}
async function moving(): Promise<void> {
  isStale = isBusy
  if (isBusy) return
  isBusy = true
  try {
    await drawAll(true)
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
  if (!isPlaying.value && !isBusy) void drawAll(false).catch((e: unknown) => notices.fail(e))
}, RESTS_MS)
watch([layers, () => part.value?.shutterDeg, size, () => stage.ready, () => stage.epoch, () => stage.lightEpoch], () => {
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
const project = useProject()
const { tool, inPicture } = useWalking()
/** A click where a stop or a look is asked for. */
function press(e: MouseEvent): void {
  const setup = shown.value?.setup
  if (!tool.value || !setup) return
  const r = canvas.value!.getBoundingClientRect()
  const camera: Camera = { pose: poseOfStand(setup.stand, centresIn(setup)), lens: setup.lens, frame: setup.frame }
  const k = setup.frame.widthPx / r.width
  void inPicture(
    camera,
    (e.clientX - r.left) * k,
    (e.clientY - r.top) * k,
    shownOf(setupAsShown(setup, project.document, centreInFile)),
  ).catch((x: unknown) => notices.fail(x))
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
    <canvas
      v-if="size"
      ref="overlay"
      data-testid="film-over"
      aria-hidden="true"
      class="over"
      :style="{ width: `${size.width}px`, height: `${size.height}px`, opacity: weight }"
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
.over {
  pointer-events: none;
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

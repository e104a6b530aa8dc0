<script setup lang="ts">
// The picture in its mount: exactly the framed shape, drawn by the stage; tools, drags and wheel on it; overlays above.
import { useElementSize, useDevicePixelRatio, watchDebounced } from '@vueuse/core'
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import type { Camera } from '#core/camera'
import type { PictureFrame } from '#stage'
import { failureText, useNotices } from '../stores/notices.ts'
import { useProject } from '../stores/project.ts'
import { appearanceOf, SAMPLES, useStage } from '../stores/stage.ts'
import { useView } from '../stores/view.ts'
import PictureOverlay from './PictureOverlay.vue'
import ToolRow from './ToolRow.vue'
import { usePictureTools } from './tools.ts'

const project = useProject()
const stage = useStage()
const view = useView()
const notices = useNotices()

const mount = ref<HTMLElement | null>(null)
const canvas = ref<HTMLCanvasElement | null>(null)
const { width: areaW, height: areaH } = useElementSize(mount)
const { pixelRatio } = useDevicePixelRatio()
const PAD = { side: 16, top: 46, bottom: 38 }

/** Size on the page, CSS pixels: the largest of the framed shape that fits the mount. */
const box = computed(() => {
  const f = project.working?.frame
  if (!f) return { width: 0, height: 0 }
  const w = Math.max(40, areaW.value - 2 * PAD.side)
  const h = Math.max(40, areaH.value - PAD.top - PAD.bottom)
  const k = Math.min(w / f.widthPx, h / f.heightPx)
  return { width: Math.max(8, Math.floor(f.widthPx * k)), height: Math.max(8, Math.floor(f.heightPx * k)) }
})
const pixels = computed(() => {
  const k = Math.min(2, pixelRatio.value)
  return { width: Math.round(box.value.width * k), height: Math.round(box.value.height * k) }
})
const { down, wheel, hover, leave, ghost, moving } = usePictureTools(box)

let wanted = 0
function put(frame: PictureFrame, mine: number): void {
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
  hasPicture.value = true
}
let shown = 0
const hasPicture = ref(false)

function request(camera: Camera, isMoving: boolean): void {
  const w = project.working
  if (!w || !stage.ready || box.value.width < 10) return
  const mine = ++wanted
  stage
    .picture(
      {
        camera,
        widthPx: pixels.value.width,
        heightPx: pixels.value.height,
        appearance: appearanceOf(w),
        moving: isMoving,
        samples: SAMPLES.picture,
      },
      (f) => put(f, mine),
    )
    .catch((e: unknown) => notices.fail(e))
}

// while something moves: cheap frames, one under way at a time on the stage; a moment after: the full picture
const busy = computed(() => project.live !== null || moving.value)
watch(
  () => [project.camera, busy.value] as const,
  ([camera, isMoving]) => camera && isMoving && request(camera, true),
  { flush: 'post' },
)
watchDebounced(
  () =>
    [
      project.camera,
      busy.value,
      pixels.value,
      stage.epoch,
      stage.lightEpoch,
      stage.ready,
      project.working?.look,
      project.working?.exposure,
      project.working?.visible,
    ] as const,
  ([camera, isMoving]) => camera && !isMoving && request(camera, false),
  { debounce: 40, immediate: true, flush: 'post' },
)
onBeforeUnmount(() => wanted++)

const status = computed(() => {
  if (stage.light !== null) return `working out the light, ${Math.round(stage.light * 100)} %`
  const r = stage.refinement
  if (r && r.sample < r.samples && !busy.value) return `refining ${r.sample} of ${r.samples}`
  return ''
})
const loading = computed(() => (stage.state.kind === 'loading' ? stage.state : null))
const failed = computed(() => (stage.state.kind === 'failed' ? failureText(stage.state.error) : null))
const cursor = computed(
  () => ({ turn: 'grab', orbit: 'grab', slide: 'move', dolly: 'ns-resize', stand: 'crosshair' })[view.tool],
)
const switchLevel = (): void => void (view.keepLevel = !view.keepLevel)
const switchSquare = (): void => void (view.keepSquare = !view.keepSquare)
</script>

<template>
  <div ref="mount" class="mount">
    <ToolRow class="tools" />
    <div
      class="picture"
      :style="{ width: `${box.width}px`, height: `${box.height}px`, cursor }"
      tabindex="0"
      role="application"
      aria-label="Picture"
      data-testid="picture"
      @pointerdown="down"
      @pointermove="hover"
      @pointerleave="leave"
      @wheel="wheel"
      @contextmenu.prevent
    >
      <canvas
        ref="canvas"
        :class="{ empty: !hasPicture }"
        data-testid="picture-canvas"
        :data-sample="stage.refinement?.sample ?? 0"
        :data-samples="stage.refinement?.samples ?? 0"
      />
      <PictureOverlay
        v-if="view.overlays && project.camera && hasPicture"
        :camera="project.camera"
        :width="box.width"
        :height="box.height"
        :ghost="ghost"
      />
      <div v-if="loading" class="cover" role="status">
        <span>{{ loading.what }}{{ loading.done === null ? '…' : ` ${Math.round(loading.done * 100)} %` }}</span>
        <span class="bar"><i :style="{ width: `${(loading.done ?? 1) * 100}%` }" /></span>
      </div>
      <div v-else-if="failed" class="cover" role="alert">
        <strong>The model cannot be shown</strong><span>{{ failed }}</span>
      </div>
    </div>
    <div class="foot">
      <span role="status">{{ status }}</span>
      <span class="switches">
        <button
          class="plain"
          :aria-pressed="view.keepLevel"
          title="Up and down drags move the lens (rise) instead of tilting"
          @click="switchLevel"
        >
          keep level <b>{{ view.keepLevel ? 'on' : 'off' }}</b>
        </button>
        <button
          class="plain"
          :aria-pressed="view.keepSquare"
          title="Sideways drags move the lens (cross) instead of turning"
          @click="switchSquare"
        >
          keep square <b>{{ view.keepSquare ? 'on' : 'off' }}</b>
        </button>
      </span>
    </div>
  </div>
</template>

<style scoped>
.mount {
  position: relative;
  background: var(--mount);
  display: grid;
  place-items: center;
  min-height: 0;
  min-width: 0;
  overflow: hidden;
}
.tools {
  position: absolute;
  left: 16px;
  top: 10px;
}
.picture {
  position: relative;
  margin-top: 8px;
  touch-action: none;
  background: #9a9a9a;
  box-shadow: 0 1px 3px #0004;
}
.picture:active {
  cursor: grabbing;
}
.picture:focus-visible {
  outline: 2px solid #fff;
  outline-offset: 3px;
}
canvas {
  width: 100%;
  height: 100%;
  display: block;
}
canvas.empty {
  visibility: hidden;
}
.cover {
  position: absolute;
  inset: 0;
  display: grid;
  place-content: center;
  justify-items: center;
  gap: 10px;
  padding: 24px;
  text-align: center;
  background: var(--panel);
  color: var(--ink);
}
.cover > * {
  max-width: 420px;
}
.bar {
  width: 180px;
  height: 3px;
  background: var(--line);
}
.bar i {
  display: block;
  height: 100%;
  background: var(--plum);
}
.foot {
  position: absolute;
  left: 16px;
  right: 16px;
  bottom: 10px;
  display: flex;
  justify-content: space-between;
  color: var(--mount-ink);
  font-size: 11.5px;
  text-shadow: 0 1px 2px #0006;
}
.switches {
  display: flex;
  gap: 14px;
}
.switches b {
  font-weight: 600;
}
</style>

<script setup lang="ts">
// The middle of the page: the picture in its mount, or what is enlarged (the view from outside, Plan, Side) with the camera's
// picture still in a small pane.
import { isPerspective, widened } from '#core/camera'
import { useElementSize } from '@vueuse/core'
import { computed, ref, watch, watchEffect } from 'vue'
import { useOutside } from '../outside/outside.ts'
import { failureText } from '../../stores/notices.ts'
import { api } from '../../api/client.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'
import PlanStrip from '../strips/PlanStrip.vue'
import SideStrip from '../strips/SideStrip.vue'
import {
  CutHandles,
  FrameOverlay,
  GhostLayer,
  LensStrip,
  OutsideOverlay,
  SelectionOutline,
  TiltOffer,
} from './later.ts'
import PictureAsk from './PictureAsk.vue'
import PictureFoot from './PictureFoot.vue'
import PictureOverlay from './PictureOverlay.vue'
import PicturePane from './PicturePane.vue'
import StagePicture from './StagePicture.vue'
import ToolRow from './ToolRow.vue'
import { usePictureTools } from './tools.ts'
import { useWheel } from './wheel.ts'

const props = defineProps<{ walking: boolean }>()
const project = useProject()
const stage = useStage()
const view = useView()
const outside = useOutside()

const mount = ref<HTMLElement | null>(null)
const main = ref<InstanceType<typeof StagePicture> | null>(null)
const { width: areaW, height: areaH } = useElementSize(mount)
const PAD = { side: 16, top: 46, bottom: 44 }
/** Height of the five lenses below the picture. */
const STRIP_PX = 104
const hasStrip = computed(
  () => view.fiveLenses && !outside.on && project.camera !== null && isPerspective(project.camera),
)
const free = computed(() => ({
  width: Math.max(40, areaW.value - 2 * PAD.side),
  height: Math.max(40, areaH.value - PAD.top - PAD.bottom - (hasStrip.value ? STRIP_PX + 8 : 0)),
}))

/** So much of what lies past the frame is shown. */
const past = computed(() => (outside.on ? 0 : Math.min(0.5, Math.max(0, view.pastFrame))))
/** Size on the page, CSS pixels: the largest of the framed shape that fits the mount; from outside all of it. */
const box = computed(() => {
  const f = project.working?.frame
  if (!f) return { width: 0, height: 0 }
  const { width: w, height: h } = free.value
  if (outside.on) return { width: Math.floor(w), height: Math.floor(h) }
  const k = Math.min(w / f.widthPx, h / f.heightPx) / (1 + 2 * past.value)
  return { width: Math.max(8, Math.floor(f.widthPx * k)), height: Math.max(8, Math.floor(f.heightPx * k)) }
})
/** What is drawn with what lies past the frame: camera, size and place. */
const beyond = computed(() => {
  const c = project.camera
  const m = past.value
  if (!c || m === 0) return null
  const { width, height } = box.value
  const [dx, dy] = [Math.round(width * m), Math.round(height * m)]
  return { camera: widened(c, m), pastFrame: m, dx, dy, width: width + 2 * dx, height: height + 2 * dy }
})
watchEffect(() => {
  const { width, height } = free.value
  outside.frame = {
    widthPx: Math.max(16, Math.floor(width)),
    heightPx: Math.max(16, Math.floor(height)),
    densityPpi: 96,
    guides: [],
  }
})
const tools = usePictureTools(box)
const { down, hover, leave, ghost, band, spot, spotKey } = tools
const { wheel, key, moving, cancel } = useWheel(tools)
defineExpose({ cancelWheel: cancel })

const shown = computed(() => (outside.on ? outside.camera : project.camera))
const busy = computed(() => (outside.on && outside.live !== null) || project.isShowing || moving.value || props.walking)
const paneBusy = computed(() => project.isShowing)

const status = computed(() => {
  if (stage.light !== null && stage.ready) return `working out the light, ${Math.round(stage.light * 100)} %`
  const r = main.value?.refined
  if (r && r.sample < r.samples && !busy.value) return `refining ${r.sample} of ${r.samples}`
  return ''
})
const loading = computed(() => (stage.state.kind === 'loading' ? stage.state : null))
const failed = computed(() => (stage.state.kind === 'failed' ? failureText(stage.state.error) : null))
const empty = computed(() => project.document?.models.length === 0)
const CURSORS = { turn: 'grab', orbit: 'grab', slide: 'move', dolly: 'ns-resize', stand: 'crosshair', pick: 'default' }
const cursor = computed(() =>
  view.picking && !outside.on ? 'crosshair' : CURSORS[outside.on && view.tool === 'stand' ? 'orbit' : view.tool],
)
/** Keys in the bar over the picture are its own; Esc goes on to whatever it ends. */
const keysOfAsk = (e: KeyboardEvent): void => void (e.key !== 'Escape' && e.stopPropagation())
/** From outside Enter takes what is seen; where a place is asked for, arrows move it and Enter takes it. */
function keys(e: KeyboardEvent): void {
  if (e.key === 'Enter' && outside.on && e.target === e.currentTarget) {
    e.preventDefault()
    outside.standHere('taken')
  } else if (!spotKey(e)) key(e)
}
const picture = ref<HTMLElement | null>(null)
// asked for by key, a place is moved by arrows at once: unless one is typing, the picture has them
watch(
  [() => view.tool === 'stand', () => view.picking],
  ([stands, picks]) => {
    const at = document.activeElement
    if ((stands || picks) && !(at instanceof HTMLInputElement && at.type === 'text')) picture.value?.focus({ preventScroll: true }) // prettier-ignore
  },
  { flush: 'post' },
)
const hasPicture = computed(() => main.value?.hasPicture ?? false)
/** A picture of the project that lies over the frame, as large as it. */
const over = computed(() => {
  const o = project.working?.look.backdrop.over
  const picture = o && project.document?.photos?.find((p) => p.id === o.photoId)
  return picture ? { src: api.assetUrl(picture.sha256), opacity: o.opacity } : null
})
</script>

<template>
  <div ref="mount" class="mount">
    <template v-if="view.main === 'picture'">
      <div
        id="picture"
        ref="picture"
        class="picture"
        :style="{
          width: `${box.width}px`,
          height: `${box.height}px`,
          cursor,
          marginBottom: hasStrip ? `${STRIP_PX}px` : 0,
        }"
        tabindex="0"
        role="application"
        :aria-label="outside.on ? 'View from outside' : 'Picture'"
        data-testid="picture"
        @pointerdown="down"
        @pointermove="hover"
        @pointerleave="leave"
        @wheel="wheel"
        @keydown="keys"
        @contextmenu.prevent
      >
        <PictureAsk v-if="!outside.on" @pointerdown.stop @pointermove.stop @wheel.stop @keydown="keysOfAsk" />
        <StagePicture
          :key="outside.on ? 'outside' : 'picture'"
          ref="main"
          :camera="beyond?.camera ?? shown"
          :width="beyond?.width ?? box.width"
          :height="beyond?.height ?? box.height"
          :busy="busy"
          :place="outside.on ? 'outside' : 'picture'"
          :past-frame="beyond?.pastFrame ?? 0"
          :style="
            beyond
              ? { inset: `${-beyond.dy}px ${-beyond.dx}px`, width: `${beyond.width}px`, height: `${beyond.height}px` }
              : {}
          "
        />
        <div
          v-if="beyond"
          class="past"
          :style="{ inset: `${-beyond.dy}px ${-beyond.dx}px`, borderWidth: `${beyond.dy}px ${beyond.dx}px` }"
          data-testid="past-frame"
        />
        <img
          v-if="over && view.pictureOver && !outside.on"
          class="over-picture"
          :src="over.src"
          :style="{ opacity: over.opacity }"
          alt=""
          draggable="false"
          data-testid="picture-over"
        />
        <template v-if="shown && hasPicture">
          <GhostLayer v-if="view.ghosts" :camera="shown" :width="box.width" :height="box.height" :busy="busy" />
          <SelectionOutline v-if="view.overlays" :camera="shown" :width="box.width" :height="box.height" :busy="busy" />
          <FrameOverlay v-if="!outside.on && view.overlays" :camera="shown" :width="box.width" :height="box.height" />
          <OutsideOverlay v-if="outside.on" :from="shown" :width="box.width" :height="box.height" />
          <PictureOverlay
            v-else-if="view.overlays"
            :camera="shown"
            :width="box.width"
            :height="box.height"
            :ghost="ghost"
            :spot="spot"
          />
          <CutHandles
            v-if="view.overlays && view.panel === 'cut'"
            :camera="shown"
            :width="box.width"
            :height="box.height"
          />
        </template>
        <TiltOffer :width="box.width" :height="box.height" @pointerdown.stop @wheel.stop @keydown="keysOfAsk" />
        <svg v-if="band" class="band" aria-hidden="true">
          <rect class="under" :x="band.x" :y="band.y" :width="band.width" :height="band.height" />
          <rect :x="band.x" :y="band.y" :width="band.width" :height="band.height" />
        </svg>
        <div v-if="loading" class="cover" role="status">
          <span>{{ loading.what }}{{ loading.done === null ? '…' : ` ${Math.round(loading.done * 100)} %` }}</span>
          <span class="bar"><i :style="{ width: `${(loading.done ?? 1) * 100}%` }" /></span>
        </div>
        <div v-else-if="failed" class="cover" role="alert">
          <strong>The model cannot be shown</strong><span>{{ failed }}</span>
        </div>
        <div v-else-if="empty" class="cover">
          <strong>No model in this project</strong><span>Drop a model file here, or bring one in under Models.</span>
        </div>
      </div>
    </template>
    <div v-else class="large">
      <PlanStrip v-if="view.main === 'plan'" />
      <SideStrip v-else />
    </div>
    <PicturePane v-if="view.main !== 'picture' || outside.on" :busy="paneBusy" :area="free" />
    <ToolRow v-if="view.main === 'picture'" class="tools" />
    <LensStrip v-if="hasStrip && view.main === 'picture'" class="lenses" :style="{ height: `${STRIP_PX}px` }" />
    <PictureFoot v-if="view.main === 'picture'" :status="status" />
  </div>
</template>

<style scoped>
.over-picture {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  object-fit: fill;
  pointer-events: none;
}
.mount {
  position: relative;
  container-type: inline-size;
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
.past {
  position: absolute;
  border-style: solid;
  border-color: #8f8f8fb8;
  pointer-events: none;
  outline: 1px solid #0003;
}
.lenses {
  position: absolute;
  inset: auto 16px 42px;
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
.band {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
.band rect {
  fill: #6b3f7a1f;
  stroke: #6b3f7a;
  stroke-width: 1.4;
  stroke-dasharray: 4 3;
}
.band .under {
  stroke: #fff;
  stroke-dasharray: none;
  stroke-width: 2.5;
}
.large {
  position: absolute;
  inset: 0;
  display: grid;
  background: var(--panel);
}
</style>

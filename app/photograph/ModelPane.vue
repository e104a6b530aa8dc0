<script setup lang="ts">
// The model beside the photograph: a corner or an edge is clicked here, then put in the photograph. It is looked at from the camera found,
// or turned round by hand.
import { useElementSize, watchDebounced } from '@vueuse/core'
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue'
import { dolly, orbit, poseOfStand, projectPoint, type Camera, type Framing } from '#core/camera'
import type { PicturePlace } from '#core/match'
import { boxCentre } from '#core/math'
import { useNotices } from '../stores/notices.ts'
import { useOutdoors } from '../stores/outdoors.ts'
import { useProject } from '../stores/project.ts'
import { useStage } from '../stores/stage.ts'
import { startDrag } from '../controls/drag.ts'
import { SEEN_PX } from './loupe.ts'
import { useMatch } from './match.ts'
import ModelLoupe from './ModelLoupe.vue'
import { usePicks } from './picks.ts'
import { usePhotoTools } from './tools.ts'

const box = ref<HTMLElement | null>(null)
const canvas = ref<HTMLCanvasElement | null>(null)
const { width, height } = useElementSize(box)
const project = useProject()
const stage = useStage()
const outdoors = useOutdoors()
const { camera: found, photo, match } = useMatch()
const { begin, pointed } = usePicks()
const notices = useNotices()
const { pendingWorld, pendingEdge, chosen, tool } = usePhotoTools()
const REACH_PX = 14
/** The loupe shows so much of a view turned by hand. */
const OWN_SEEN_PX = 24

/** Turned by hand; else from where the photograph was taken, else from the camera of the frame. */
const own = shallowRef<Camera | null>(null)
const base = computed<Camera | null>(() => own.value ?? found.value ?? project.camera)
const camera = computed<Camera | null>(() => {
  const c = base.value
  if (!c || width.value < 20) return null
  const k = Math.min(width.value / c.frame.widthPx, height.value / c.frame.heightPx)
  return { ...c, frame: { ...c.frame, guides: [], widthPx: Math.max(16, Math.round(c.frame.widthPx * k)), heightPx: Math.max(16, Math.round(c.frame.heightPx * k)) } } // prettier-ignore
})
const size = computed(() => ({ width: camera.value?.frame.widthPx ?? 0, height: camera.value?.frame.heightPx ?? 0 }))
watch(photo, (a, b) => a?.id !== b?.id && (own.value = null))

let asked = 0
async function draw(moving: boolean): Promise<void> {
  const c = camera.value
  const w = project.workingShown
  if (!c || !w || !stage.ready) return
  const mine = ++asked
  const { photo: _, ...plain } = outdoors.appearance(w)
  await stage.picture(
    { camera: c, widthPx: c.frame.widthPx, heightPx: c.frame.heightPx, appearance: { ...plain, 'look.backdrop': { ...w.look.backdrop, kind: 'sky' } }, moving, samples: 8, place: 'outside' },
    (f) => {
      const to = canvas.value
      if (!to || mine !== asked) return f.bitmap.close()
      to.width = f.bitmap.width
      to.height = f.bitmap.height
      to.getContext('bitmaprenderer')!.transferFromImageBitmap(f.bitmap)
    },
  ) // prettier-ignore
}
watchDebounced([camera, () => stage.ready, () => stage.epoch, () => stage.lightEpoch, () => project.workingShown], () => void draw(false), { debounce: 150, immediate: true }) // prettier-ignore
onBeforeUnmount(() => {
  asked++
  stage.stopPicture('outside')
})

const FREE = { holdLevel: false, holdSquare: false } as const
const framingOf = ({ pose, lens }: Camera): Framing => ({
  stand: {
    station: pose.station,
    aim: { kind: 'direction', bearingDeg: pose.bearingDeg, tiltDeg: pose.tiltDeg },
    rollDeg: pose.rollDeg,
  },
  lens,
})
const cameraOf = (c: Camera, { stand, lens }: Framing): Camera => ({ ...c, pose: poseOfStand(stand), lens })
const placeOf = (e: MouseEvent): readonly [number, number] => {
  const r = canvas.value!.getBoundingClientRect()
  return [((e.clientX - r.left) / r.width) * size.value.width, ((e.clientY - r.top) / r.height) * size.value.height]
}
function press(e: PointerEvent): void {
  const start = base.value
  const facts = stage.facts
  if (!start || !facts) return
  const pivot = boxCentre(facts.box)
  startDrag(e, {
    move: (dx, dy) => {
      own.value = cameraOf(start, orbit(camera.value ?? start, framingOf(start), pivot, dx, dy, FREE))
      void draw(true)
    },
    end: (moved) => !moved && void pick(placeOf(e)),
    cancel: () => (own.value = null),
  })
}
async function pick(place: readonly [number, number]): Promise<void> {
  const c = camera.value
  if (!c) return
  const hit = await stage.rays.pickFeature(c, place, REACH_PX, project.shown)
  if (!hit) return
  if (tool.value !== 'scale') return begin(hit.point)
  const [a, b] = (hit.edge ?? []).map((p) => projectPoint(c, p))
  if (!hit.edge || !a || !b) return notices.say('No edge lies near. Click an edge between its ends.')
  pendingEdge.value = { ends: hit.edge, way: [b.xPx - a.xPx, b.yPx - a.yPx] }
}
/** Of the pane's picture, for each of the photograph's pixels. */
const perPhotoPx = computed(() => (photo.value ? size.value.width / photo.value.widthPx : 1))
const isAsFound = computed(() => own.value === null && found.value !== null)
/** Where the pointer is here, or over the photograph where both are seen by one camera. */
const over = shallowRef<PicturePlace | null>(null)
function point(e: PointerEvent | null): void {
  over.value = e && placeOf(e)
  const [x, y] = over.value ?? []
  pointed.value = isAsFound.value && x !== undefined && y !== undefined ? [x / perPhotoPx.value, y / perPhotoPx.value] : null // prettier-ignore
}
const loupe = computed<{ place: PicturePlace; seenPx: number } | null>(() => {
  const at = isAsFound.value ? pointed.value : null
  if (at) return { place: [at[0] * perPhotoPx.value, at[1] * perPhotoPx.value], seenPx: SEEN_PX * perPhotoPx.value }
  return over.value && { place: over.value, seenPx: OWN_SEEN_PX }
})
function wheel(e: WheelEvent): void {
  const c = base.value
  const facts = stage.facts
  if (c && facts) own.value = cameraOf(c, dolly(framingOf(c), boxCentre(facts.box), Math.exp(e.deltaY * 0.001), FREE))
}
const marks = computed(() => {
  const c = camera.value
  if (!c) return []
  const pairs = (match.value?.pairs ?? []).map((p, i) => ({ at: projectPoint(c, p.world), name: `${i + 1}`, on: chosen.value?.id === p.id })) // prettier-ignore
  const wait = pendingWorld.value ? [{ at: projectPoint(c, pendingWorld.value), name: '?', on: true }] : []
  return [...pairs, ...wait].flatMap((m) => (m.at ? [{ ...m, x: m.at.xPx, y: m.at.yPx }] : []))
})
const edge = computed(() => {
  const c = camera.value
  const ends = c && pendingEdge.value?.ends.map((p) => projectPoint(c, p))
  return ends && ends[0] && ends[1] ? `M${ends[0].xPx} ${ends[0].yPx}L${ends[1].xPx} ${ends[1].yPx}` : ''
})
const hint = computed(() => {
  if (tool.value === 'scale')
    return pendingEdge.value ? 'Now drag along the same edge in the photograph' : 'Click an edge to scale by; drag to turn' // prettier-ignore
  return pendingWorld.value ? 'Now the same corner in the photograph' : 'Click a corner; drag to turn'
})
</script>

<template>
  <div ref="box" class="pane" data-testid="model-pane">
    <div class="picture" :style="{ width: `${size.width}px`, height: `${size.height}px` }">
      <canvas
        ref="canvas"
        @pointerdown="press"
        @pointermove="point($event)"
        @pointerleave="point(null)"
        @wheel.prevent="wheel"
      />
      <svg :viewBox="`0 0 ${size.width} ${size.height}`" aria-hidden="true">
        <g v-if="edge" class="on">
          <path class="case" :d="edge" />
          <path :d="edge" />
        </g>
        <g v-for="m in marks" :key="m.name" :class="{ on: m.on }">
          <path class="case" :d="`M${m.x - 7} ${m.y}h14M${m.x} ${m.y - 7}v14`" />
          <path :d="`M${m.x - 7} ${m.y}h14M${m.x} ${m.y - 7}v14`" />
          <text :x="m.x + 7" :y="m.y - 5">{{ m.name }}</text>
        </g>
      </svg>
    </div>
    <ModelLoupe
      v-if="loupe && camera"
      :camera="camera"
      :place="loupe.place"
      :seen-px="loupe.seenPx"
      :side="loupe.place[0] < size.width / 2 ? 'right' : 'left'"
    />
    <p class="hint">{{ hint }}</p>
    <button v-if="own" class="btn back" @click="own = null">As the camera</button>
  </div>
</template>

<style scoped>
.pane {
  position: relative;
  background: var(--mount);
  border-top: 1px solid var(--line);
  display: grid;
  place-items: center;
  overflow: hidden;
  min-width: 0;
  min-height: 0;
}
.picture {
  position: relative;
}
canvas,
svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  touch-action: none;
}
svg {
  pointer-events: none;
}
path {
  fill: none;
  stroke: #6b3f7a;
  stroke-width: 1.6;
}
.case {
  stroke: #fff;
  stroke-width: 4;
}
.on path:not(.case) {
  stroke-width: 3;
}
text {
  font: 11px var(--mono);
  fill: #46264f;
  stroke: #fffd;
  stroke-width: 3;
  paint-order: stroke;
}
.hint {
  position: absolute;
  bottom: 8px;
  left: 50%;
  transform: translateX(-50%);
  white-space: nowrap;
  padding: 3px 10px;
  border-radius: 4px;
  background: var(--panel);
  font-size: 11.5px;
}
.back {
  position: absolute;
  top: 8px;
  right: 8px;
  background: var(--panel);
}
</style>

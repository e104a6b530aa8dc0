<script setup lang="ts">
// Plan: cut level above the chosen storey, north up, with the camera's cone and handles; a click-drag stands anew.
import Select from 'primevue/select'
import { computed, ref } from 'vue'
import { formatLength, parseQuantity } from '#core/base'
import { aimPointOf, standFromPlan, standMoved, usedSensor, type Stand } from '#core/camera'
import type { Vec3 } from '#core/math'
import { centreOf } from '../stores/centres.ts'
import { startDrag } from '../controls/drag.ts'
import { useProject } from '../stores/project.ts'
import { useStage } from '../stores/stage.ts'
import { useView } from '../stores/view.ts'
import { useOutside } from '../outside/outside.ts'
import ConeShape from './ConeShape.vue'
import { coneOf, FAR_PX } from './cones.ts'
import DragHandle from './DragHandle.vue'
import { useStrip } from './strip.ts'
import PlacingHandle from './PlacingHandle.vue'
import StripFrame from './StripFrame.vue'
import ViewpointCones from './ViewpointCones.vue'

const project = useProject()
const stage = useStage()
const view = useView()
const outside = useOutside()
const host = ref<HTMLElement | null>(null)
const canvas = ref<HTMLCanvasElement | null>(null)

const storeyIndex = computed(() => Math.min(view.storey, Math.max(0, stage.storeys.length - 1)))
const storey = computed(() => stage.storeys[storeyIndex.value] ?? null)
const cutM = computed(() => project.document?.planCutM ?? 1.2)
const cutZ = computed(() => (storey.value ? storey.value.heightM + cutM.value : null))
const strip = useStrip({
  key: 'plan',
  host,
  canvas,
  headPx: 0,
  direction: computed(() => ({ bearingDeg: 0, tiltDeg: -90 })),
  cut: computed(() => (cutZ.value === null ? null : { point: [0, 0, cutZ.value] as Vec3, normal: [0, 0, 1] as Vec3 })),
})
const { toPx, toWorld } = strip

const stand = computed(() => project.working?.stand ?? null)
const station = computed(() => stand.value?.station ?? ([0, 0, 0] as Vec3))
const aim = computed(() => (stand.value ? aimPointOf(stand.value.aim, centreOf) : null))
const at = computed(() => toPx(station.value))
const aimAtPx = computed(() => (aim.value ? toPx(aim.value) : null))

const cone = computed(() => (project.camera ? coneOf(project.camera, 'left-right', toPx, FAR_PX) : null))
const former = computed(() => (outside.former ? coneOf(outside.former, 'left-right', toPx, FAR_PX) : null))
const outsideAt = computed(() => (outside.camera ? toPx(outside.camera.pose.station) : null))
const EDGE_AT_PX = 58
const edgeHandles = computed(() =>
  project.camera?.lens.projection.kind === 'perspective'
    ? (cone.value?.edges ?? []).map((e) => ({ x: e.x + e.dx * EDGE_AT_PX, y: e.y + e.dy * EDGE_AT_PX }))
    : [],
)

// dragging
const active = ref<'' | 'station' | 'alone' | 'aim' | 'edge' | 'stand'>('')
let from: Stand | null = null
const begin = (what: typeof active.value): void => {
  active.value = what
  from = stand.value
}
function target(e: PointerEvent, origin: Vec3): Vec3 {
  const p = toWorld(e)
  // Shift holds the drag to one axis
  const alongX = Math.abs(p[0] - origin[0]) > Math.abs(p[1] - origin[1])
  return [e.shiftKey && !alongX ? origin[0] : p[0], e.shiftKey && alongX ? origin[1] : p[1], origin[2]]
}
function dragStation(e: PointerEvent, alone: boolean): void {
  if (!from) return
  const p = target(e, from.station)
  project.show({ stand: standMoved(from, [p[0] - from.station[0], p[1] - from.station[1], 0], alone, centreOf) })
}
function dragAim(e: PointerEvent): void {
  const point = from && aimPointOf(from.aim, centreOf)
  if (!from || !point || from.aim.kind === 'direction') return
  project.show({
    stand: { ...from, aim: { kind: 'point', point: target(e, point), topBearingDeg: from.aim.topBearingDeg } },
  })
}
/** The focal length whose edge ray passes under the pointer. */
function dragEdge(e: PointerEvent, side: 0 | 1): void {
  const c = project.camera
  const w = project.document?.working
  if (!c || !w) return
  const p = toWorld(e)
  const b = (c.pose.bearingDeg * Math.PI) / 180
  const dx = p[0] - station.value[0]
  const dy = p[1] - station.value[1]
  const ahead = dx * Math.sin(b) + dy * Math.cos(b)
  const across = dx * Math.cos(b) - dy * Math.sin(b)
  const { widthMm } = usedSensor(w.lens, c.frame)
  const edgeMm = side === 0 ? -widthMm / 2 + w.lens.crossMm : widthMm / 2 + w.lens.crossMm
  const mm = (edgeMm * ahead) / across
  if (!Number.isFinite(mm) || mm < 5 || ahead <= 0) return
  project.show({ lens: { ...w.lens, focalMm: Math.min(2000, e.altKey ? mm : Math.round(mm * 10) / 10) } })
}
const nudge = (dx: number, dy: number, alone: boolean): void =>
  void (stand.value && project.move({ stand: standMoved(stand.value, [dx, dy, 0], alone, centreOf) }, 'Nudged'))
function nudgeAim(dx: number, dy: number): void {
  if (!stand.value || !aim.value || stand.value.aim.kind === 'direction') return
  const p = aim.value
  project.move(
    {
      stand: {
        ...stand.value,
        aim: { kind: 'point', point: [p[0] + dx, p[1] + dy, p[2]], topBearingDeg: stand.value.aim.topBearingDeg },
      },
    },
    'Nudged',
  )
}
const done = (label: string): void => {
  active.value = ''
  project.settle(label)
}
const cancel = (): void => {
  active.value = ''
  project.letGo()
}

/** Empty drags slide the strip; with Stand chosen they draw a stand: the station, then the aim. */
async function down(e: PointerEvent): Promise<void> {
  const doc = project.document
  if (e.button === 1 || e.button === 2 || view.tool !== 'stand' || !doc) {
    if (e.button <= 2) strip.slideStrip(e)
    return
  }
  if (e.button !== 0) return
  e.preventDefault()
  const start = toWorld(e)
  const bearing = project.camera?.pose.bearingDeg ?? 0
  // the floor is looked for below the cut, so that the chosen storey's is found and not a higher one's
  let floor = storey.value?.heightM ?? 0
  const seek = stage
    .floorBelow([start[0], start[1], cutZ.value ?? floor + 1.2], project.working?.visible.hidden ?? [])
    .then((hit) => hit && (floor = hit.point[2]))
  let to = start
  const show = (): void =>
    void project.show({ stand: standFromPlan([start[0], start[1]], [to[0], to[1]], floor, doc.eyeHeightM, bearing) })
  active.value = 'stand'
  startDrag(e, {
    move: (_dx, _dy, m) => {
      to = target(m, start)
      show()
    },
    end: () => {
      void seek.then(() => {
        show()
        active.value = ''
        project.settle('Stood')
        view.tool = doc.subject === 'room' ? 'turn' : 'orbit'
      })
    },
    cancel,
  })
}

const fitCamera = (): void => strip.fitCamera(aim.value ? [station.value, aim.value] : [station.value])
/** Points to a station that lies outside the strip. */
const arrow = computed(() => {
  const { x, y } = at.value
  const w = strip.width.value
  const h = strip.height.value
  if (w < 10 || (x >= 0 && x <= w && y >= 0 && y <= h)) return null
  const cx = Math.min(w - 14, Math.max(14, x))
  const cy = Math.min(h - 44, Math.max(14, y))
  return { x: cx, y: cy, deg: (Math.atan2(y - cy, x - cx) * 180) / Math.PI }
})
const place = (p: Vec3): string =>
  `${formatLength(p[0], project.document!.unit)}, ${formatLength(p[1], project.document!.unit)}`
const cutText = ref('')
const cutShown = computed(() => formatLength(cutM.value, project.document?.unit ?? 'm'))
function setCut(e: Event): void {
  const input = e.target as HTMLInputElement
  const r = parseQuantity(input.value, 'length', project.document!.unit)
  if (r.ok && r.value >= 0.01 && r.value <= 1000) project.run({ type: 'setProject', changes: { planCutM: r.value } })
  input.value = cutShown.value
  cutText.value = ''
}
</script>

<template>
  <StripFrame
    v-model:host="host"
    v-model:canvas="canvas"
    title="Plan"
    :large="view.main === 'plan'"
    @enlarge="view.main = view.main === 'plan' ? 'picture' : 'plan'"
    :image-style="strip.imageStyle.value as Record<string, string>"
    :scale="strip.scaleBar.value"
    :width="strip.width.value"
    :height="strip.height.value"
    :crosshair="view.tool === 'stand'"
    :note="view.tool === 'stand' && !active ? 'Drag from the station to the aim' : ''"
    @wheel="strip.wheel"
    @down="down"
    @fit-model="strip.fitModel"
    @fit-camera="fitCamera"
    @zoom="strip.zoomAt"
  >
    <template #head>
      <Select
        :model-value="storeyIndex"
        :options="stage.storeys.map((s, i) => ({ i, name: s.name }))"
        option-label="name"
        option-value="i"
        size="small"
        class="storey"
        aria-label="Storey"
        @update:model-value="view.storey = $event"
      />
      <span class="grow" />
      <label class="cut" title="Height of the cut above the storey’s floor"
        ><span class="visually-hidden">Plan cut</span
        ><input
          class="num"
          :value="cutShown"
          aria-label="Plan cut height"
          @change="setCut"
          @keydown.enter="($event.target as HTMLInputElement).blur()"
        /><span class="unit">{{ project.document?.unit === 'ft-in' ? '' : project.document?.unit }}</span></label
      >
    </template>
    <g v-if="stand" class="camera">
      <ConeShape v-if="former" :cone="former" ghost />
      <ConeShape v-if="cone" :cone="cone" />
      <g v-if="outsideAt" class="outside" :transform="`translate(${outsideAt.x} ${outsideAt.y})`">
        <path d="M-5 -5L5 5M5 -5L-5 5" /><text x="8" y="3">outside view</text>
      </g>
      <path v-if="aimAtPx" class="sight" :d="`M${at.x} ${at.y}L${aimAtPx.x} ${aimAtPx.y}`" />
      <template v-for="(h, i) in edgeHandles" :key="i">
        <DragHandle
          v-if="h"
          :x="h.x"
          :y="h.y"
          shape="edge"
          label="Edge of the view: focal length"
          :testid="`plan-edge-${i}`"
          :reading="active === 'edge' ? `${project.camera!.lens.focalMm.toFixed(1)} mm` : ''"
          @start="begin('edge')"
          @drag="dragEdge($event, i as 0 | 1)"
          @done="done('Focal length')"
          @cancel="cancel"
        />
      </template>
      <DragHandle
        v-if="aimAtPx"
        :x="aimAtPx.x"
        :y="aimAtPx.y"
        shape="diamond"
        label="Aim"
        testid="plan-aim"
        :reading="active === 'aim' && aim ? place(aim) : ''"
        @start="begin('aim')"
        @drag="dragAim"
        @nudge="nudgeAim"
        @done="done('Aimed')"
        @cancel="cancel"
      />
      <DragHandle
        :x="at.x"
        :y="at.y"
        shape="ring"
        label="Station alone: the aim stays"
        testid="plan-ring"
        :reading="active === 'alone' ? place(station) : ''"
        @start="begin('alone')"
        @drag="dragStation($event, true)"
        @nudge="(x, y) => nudge(x, y, true)"
        @done="done('Station moved alone')"
        @cancel="cancel"
      />
      <DragHandle
        :x="at.x"
        :y="at.y"
        shape="round"
        label="Station: carries the aim along"
        testid="plan-station"
        :reading="active === 'station' || active === 'stand' ? place(station) : ''"
        @start="begin('station')"
        @drag="dragStation($event, false)"
        @nudge="(x, y) => nudge(x, y, false)"
        @done="done('Station moved')"
        @cancel="cancel"
      />
      <g v-if="arrow" class="arrow" :transform="`translate(${arrow.x} ${arrow.y}) rotate(${arrow.deg})`"
        ><path d="M8 0L-5 -6V6Z"
      /></g>
    </g>
    <PlacingHandle :to-px="toPx" :to-world="toWorld" />
    <ViewpointCones across="left-right" :to-px="toPx" :width="strip.width.value" :height="strip.height.value" />
    <g class="north" :transform="`translate(${strip.width.value - 18} 26)`"
      ><path d="M0 10V-10m-3.5 5l3.5 -5l3.5 5" /><text y="21" text-anchor="middle">N</text></g
    >
  </StripFrame>
</template>

<style scoped>
.storey {
  font-size: 11.5px;
  max-width: 140px;
}
.storey :deep(.p-select-label) {
  padding: 1px 2px 1px 6px;
  font-size: 11.5px;
}
.storey :deep(.p-select-dropdown) {
  width: 20px;
}
.grow {
  flex: 1;
}
.cut {
  display: flex;
  align-items: baseline;
  gap: 3px;
}
.cut input {
  width: 44px;
  text-align: right;
  border: 0;
  border-bottom: 1px solid var(--line);
  background: none;
  padding: 1px;
}
.sight {
  stroke: var(--plum);
  stroke-dasharray: 3 3;
}
.outside path {
  stroke: var(--plum);
  stroke-width: 1.5;
}
.outside text {
  font: 9.5px var(--font);
  fill: var(--plum);
}
.outside,
.camera path.sight {
  pointer-events: none;
}
.arrow path {
  fill: var(--plum);
}
.north path {
  stroke: var(--quiet);
  fill: none;
}
.north text {
  font: 9.5px var(--mono);
  fill: var(--quiet);
}
</style>

<script setup lang="ts">
// Plan: cut level above the chosen storey, north up, with the camera's cone and handles; a click-drag stands anew.
import { computed, ref } from 'vue'
import { formatLength, likelierUnit, parseQuantity } from '#core/base'
import { aimPointOf, FOCAL_RANGE_MM, isPerspective } from '#core/camera'
import type { Vec3 } from '#core/math'
import { centreOf } from '../../stores/centres.ts'
import { useNotices } from '../../stores/notices.ts'
import { useProject } from '../../stores/project.ts'
import { useView } from '../../stores/view.ts'
import { useOutside } from '../outside/outside.ts'
import ConeShape from '../../drawings/ConeShape.vue'
import { coneOf, FAR_PX } from '../../drawings/cones.ts'
import DragHandle from '../../drawings/DragHandle.vue'
import { CutMarks, FocusMarks, PlacingHandle, ViewpointCones, WindowMarks } from './later.ts'
import { usePlanDrags } from './plan-drags.ts'
import SnapGuides from './SnapGuides.vue'
import { useStrip } from '../../drawings/strip.ts'
import MeasureMarks from '../measure/MeasureMarks.vue'
import { useStorey } from '../../drawings/storeys.ts'
import StoreySelect from '../../drawings/StoreySelect.vue'
import StripFrame from '../../drawings/StripFrame.vue'

const project = useProject()
const view = useView()
const outside = useOutside()
const notices = useNotices()
const host = ref<HTMLElement | null>(null)
const canvas = ref<HTMLCanvasElement | null>(null)

const { storey, cutM, cutZ } = useStorey()
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
  project.camera && isPerspective(project.camera)
    ? (cone.value?.edges ?? []).map((e) => ({ x: e.x + e.dx * EDGE_AT_PX, y: e.y + e.dy * EDGE_AT_PX }))
    : [],
)

const drags = usePlanDrags(strip, storey, cutZ)
const { active, begin, dragStation, dragAim, dragEdge, nudge, nudgeAim, done, cancel, down } = drags
const line = (a: Vec3, b: Vec3) => {
  const [p, q] = [toPx(a), toPx(b)]
  return [[p.x, p.y] as const, [q.x, q.y] as const]
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
const spoken = (p: Vec3): string => {
  const { unit } = project.document!
  const long = (m: number): string => `${formatLength(m, unit)}${unit === 'ft-in' ? '' : ` ${unit}`}`
  return `${long(p[0])} east, ${long(p[1])} north`
}
/** A millimetre a step; ten with Shift. */
function nudgeFocal(by: number): void {
  const lens = project.working?.lens
  const focalMm = lens ? Math.max(FOCAL_RANGE_MM.min, Math.min(FOCAL_RANGE_MM.max, lens.focalMm + 100 * by)) : 0
  if (lens) project.move({ lens: { ...lens, focalMm } }, 'Focal length')
}
const cutText = ref('')
const cutShown = computed(() => formatLength(cutM.value, project.document?.unit ?? 'm'))
function setCut(e: Event): void {
  const input = e.target as HTMLInputElement
  const r = parseQuantity(input.value, 'length', project.document!.unit)
  const guess = likelierUnit(input.value, project.document!.unit, 1.2, true)
  const cutAt = (m: number): void => void project.run({ type: 'setProject', changes: { planCutM: m } })
  if (guess) notices.say(`A cut at ${input.value}?`, 'plain', { label: guess.text, run: () => cutAt(guess.valueM) })
  else if (r.ok && r.value >= 0.01 && r.value <= 1000) cutAt(r.value)
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
    north
    @enlarge="view.main = view.main === 'plan' ? 'picture' : 'plan'"
    :strip="strip"
    :crosshair="view.tool === 'stand' || view.picking !== null"
    :note="view.tool === 'stand' && !active && !view.picking ? 'Drag from the station to the aim' : ''"
    @down="down"
    @fit-camera="fitCamera"
  >
    <template #head>
      <StoreySelect />
      <span class="grow" />
      <label class="cut" title="Height of the cut above the storey’s floor"
        ><span class="visually-hidden">Plan cut</span
        ><input
          class="num"
          :class="{ long: project.document?.unit === 'ft-in' }"
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
          :value="project.camera!.lens.focalMm"
          :spoken="`${project.camera!.lens.focalMm.toFixed(1)} mm`"
          @nudge="(x, y) => nudgeFocal(x || y)"
          :reading="active === 'edge' ? `${project.camera!.lens.focalMm.toFixed(1)} mm` : ''"
          @start="begin('edge')"
          @drag="dragEdge($event, i as 0 | 1)"
          @done="done('Focal length')"
          @cancel="cancel"
        />
      </template>
      <WindowMarks across="right" :to-px="toPx" :to-world="toWorld" />
      <DragHandle
        v-if="aimAtPx"
        :x="aimAtPx.x"
        :y="aimAtPx.y"
        shape="diamond"
        label="Aim"
        testid="plan-aim"
        :value="aim ? aim[0] : 0"
        :spoken="aim ? spoken(aim) : ''"
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
        :value="station[0]"
        :spoken="spoken(station)"
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
        :value="station[0]"
        :spoken="spoken(station)"
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
    <FocusMarks across="right" :to-px="toPx" :to-world="toWorld" />
    <CutMarks
      :sight="[0, 0, -1]"
      :to-px="toPx"
      :to-world="toWorld"
      :metres-per-px="strip.metresPerPx.value"
      :width="strip.width.value"
      :height="strip.height.value"
    />
    <SnapGuides :guides="drags.guides.value" :to-px="toPx" :width="strip.width.value" :height="strip.height.value" />
    <MeasureMarks :to-px="toPx" :line="line" />
    <PlacingHandle :to-px="toPx" :to-world="toWorld" />
    <ViewpointCones across="left-right" :to-px="toPx" :width="strip.width.value" :height="strip.height.value" />
  </StripFrame>
</template>

<style scoped>
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
.cut input.long {
  width: 72px;
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
</style>

<script setup lang="ts">
// Side: looks square to the sight line and is cut along it, or is pinned to an elevation; eye height, horizon and aim as handles.
import { LateSelect as Select } from '../../controls/late-select.ts'
import { computed, ref } from 'vue'
import { formatLength, lengthSuffix, wrapBearingDeg } from '#core/base'
import { aimPointOf, directionOf } from '#core/camera'
import { scale, type Vec3 } from '#core/math'
import { centreOf } from '../../stores/centres.ts'
import { useFraming } from '../camera/framing.ts'
import { useProject } from '../../stores/project.ts'
import { useView, type SideView } from '../../stores/view.ts'
import ConeShape from '../../drawings/ConeShape.vue'
import { coneOf, FAR_PX } from '../../drawings/cones.ts'
import DragHandle from '../../drawings/DragHandle.vue'
import { CutMarks, FocusMarks, ViewpointCones, WindowMarks } from './later.ts'
import { useSideDrags } from './side-drags.ts'
import SnapGuides from './SnapGuides.vue'
import { settledBearing, useStrip } from '../../drawings/strip.ts'
import OverlayChip from '../../controls/OverlayChip.vue'
import MeasureMarks from '../measure/MeasureMarks.vue'
import StripFrame from '../../drawings/StripFrame.vue'

const project = useProject()
const view = useView()
const { eyeHeight, floor } = useFraming()
const host = ref<HTMLElement | null>(null)
const canvas = ref<HTMLCanvasElement | null>(null)

const VIEWS: readonly { value: SideView; label: string }[] = [
  { value: 'sight', label: 'sight line' },
  { value: 'north', label: 'looking north' },
  { value: 'east', label: 'looking east' },
  { value: 'south', label: 'looking south' },
  { value: 'west', label: 'looking west' },
]
const PINNED: Record<Exclude<SideView, 'sight'>, number> = { north: 0, east: 90, south: 180, west: 270 }

const bearing = computed(() => Math.round((project.camera?.pose.bearingDeg ?? 0) * 100) / 100)
const settled = settledBearing(bearing)
// the sight line runs to the right: the viewer looks a quarter turn to its left
const looking = computed(() => (view.side === 'sight' ? wrapBearingDeg(settled.value - 90) : PINNED[view.side]))
const stationSettled = computed(() => project.document?.working.stand.station ?? ([0, 0, 0] as Vec3))
const strip = useStrip({
  key: 'side',
  host,
  canvas,
  headPx: 0,
  direction: computed(() => ({ bearingDeg: looking.value, tiltDeg: 0 })),
  cut: computed(() => ({ point: stationSettled.value, normal: scale(directionOf(looking.value, 0), -1) })),
})
const { toPx } = strip

const stand = computed(() => project.working?.stand ?? null)
const station = computed(() => stand.value?.station ?? ([0, 0, 0] as Vec3))
const aim = computed(() => (stand.value ? aimPointOf(stand.value.aim, centreOf) : null))
const at = computed(() => toPx(station.value))
const aimPx = computed(() => (aim.value ? toPx(aim.value) : null))
const floorPx = computed(() => (floor.value === null ? null : toPx([station.value[0], station.value[1], floor.value])))

/** Rays through the middle of the picture's upper and lower edge. */
const cone = computed(() => (project.camera ? coneOf(project.camera, 'top-bottom', toPx, FAR_PX) : null))

const drags = useSideDrags(strip)
const { active, begin, dragEye, dragAim, nudgeEye, nudgeAim, done, cancel, down } = drags
const line = (a: Vec3, b: Vec3) => {
  const [p, q] = [toPx(a), toPx(b)]
  return [[p.x, p.y] as const, [q.x, q.y] as const]
}
const fitCamera = (): void => strip.fitCamera(aim.value ? [station.value, aim.value] : [station.value])
/** Where the horizon's word stands: names keep clear of it. */
const horizonBox = computed(() => {
  const [right, y] = [strip.width.value - 6, at.value.y]
  return [{ x0: right - 54, x1: right, y0: y - 17, y1: y }]
})
const eyeText = computed(() =>
  eyeHeight.value === null
    ? ''
    : `${formatLength(eyeHeight.value, project.document?.unit ?? 'm')} ${lengthSuffix(project.document?.unit ?? 'm')}`,
)
</script>

<template>
  <StripFrame
    v-model:host="host"
    v-model:canvas="canvas"
    title="Side"
    :large="view.main === 'side'"
    @enlarge="view.main = view.main === 'side' ? 'picture' : 'side'"
    :strip="strip"
    :crosshair="view.tool === 'stand' || view.picking !== null"
    :note="view.tool === 'stand' && !active && !view.picking ? 'Drag from the station to the aim, up or down too' : ''"
    @down="down"
    @fit-camera="fitCamera"
  >
    <template #head>
      <Select
        v-model="view.side"
        :options="VIEWS as never"
        option-label="label"
        option-value="value"
        size="small"
        class="head-select"
        aria-label="Direction of Side"
      />
      <span class="grow" />
      <span class="num eye" title="Eye height above the floor below">{{ eyeText }}</span>
    </template>
    <g v-if="stand" class="camera">
      <ConeShape v-if="cone" :cone="cone" />
      <path class="horizon" :d="`M0 ${at.y}H${strip.width.value}`" />
      <OverlayChip :x="strip.width.value - 6" :y="at.y - 5" text="horizon" end themed />
      <path
        v-if="floorPx"
        class="measure"
        :d="`M${at.x - 14} ${at.y}V${floorPx.y}M${at.x - 18} ${floorPx.y}h8M${at.x - 18} ${at.y}h8`"
      />
      <path v-if="aimPx" class="sight" :d="`M${at.x} ${at.y}L${aimPx.x} ${aimPx.y}`" />
      <WindowMarks across="up" ends :to-px="toPx" :to-world="strip.toWorld" />
      <DragHandle
        v-if="aimPx"
        :x="aimPx.x"
        :y="aimPx.y"
        shape="diamond"
        label="Aim: height"
        testid="side-aim"
        :value="aim ? aim[2] : 0"
        :spoken="aim ? `${formatLength(aim[2], project.document!.unit)} high` : ''"
        :reading="active === 'aim' && aim ? formatLength(aim[2], project.document!.unit) : ''"
        @start="begin('aim')"
        @drag="dragAim"
        @nudge="(_x, y) => nudgeAim(y)"
        @done="done('Aimed')"
        @cancel="cancel"
      />
      <DragHandle
        :x="at.x"
        :y="at.y"
        shape="round"
        label="Eye height: carries the aim along"
        testid="side-eye"
        :value="eyeHeight ?? stand.station[2]"
        :spoken="eyeText"
        :reading="active === 'eye' ? eyeText : ''"
        @start="begin('eye')"
        @drag="dragEye"
        @nudge="(_x, y) => nudgeEye(y)"
        @done="done('Eye height')"
        @cancel="cancel"
      />
    </g>
    <FocusMarks across="up" :to-px="toPx" :to-world="strip.toWorld" />
    <CutMarks
      :sight="directionOf(looking, 0)"
      :to-px="toPx"
      :to-world="strip.toWorld"
      :metres-per-px="strip.metresPerPx.value"
      :width="strip.width.value"
      :height="strip.height.value"
    />
    <SnapGuides :guides="drags.guides.value" :to-px="toPx" :width="strip.width.value" :height="strip.height.value" />
    <MeasureMarks :to-px="toPx" :line="line" />
    <ViewpointCones
      across="top-bottom"
      :to-px="toPx"
      :width="strip.width.value"
      :height="strip.height.value"
      :taken="horizonBox"
    />
  </StripFrame>
</template>

<style scoped>
.eye {
  white-space: nowrap;
}
.sight {
  stroke: var(--plum);
  stroke-dasharray: 3 3;
}
.horizon {
  stroke: var(--plum);
  stroke-dasharray: 7 4;
}
.measure {
  stroke: var(--plum);
  fill: none;
}
.camera > path,
.camera > .chip {
  pointer-events: none;
}
</style>

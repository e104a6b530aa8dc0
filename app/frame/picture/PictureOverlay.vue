<script setup lang="ts">
// Thin lines over the picture: horizon, the aim, and where a click would stand.
import { computed } from 'vue'
import { horizonLine, projectPoint, projectSegment, aimPointOf, type Camera } from '#core/camera'
import { verticalsOf } from '#core/checks'
import type { Vec3 } from '#core/math'
import { centreOf } from '../../stores/centres.ts'
import MeasureMarks from '../measure/MeasureMarks.vue'
import { leanText } from '../../text/short.ts'
import { useFraming } from '../camera/framing.ts'
import OverlayChip from '../../controls/OverlayChip.vue'
import { pathOf } from '../../controls/path.ts'
import PickMarks from './PickMarks.vue'
import { useProject } from '../../stores/project.ts'
import type { Ghost } from './standing.ts'

const props = defineProps<{
  camera: Camera
  width: number
  height: number
  ghost: Ghost | null
  spot: readonly [number, number] | null
}>()
const project = useProject()
const { eyeHeight, lean } = useFraming()
const k = computed(() => props.width / props.camera.frame.widthPx)

const horizon = computed(() => {
  const line = horizonLine(props.camera)
  if (!line) return null
  const heights = line.map(([, y]) => y)
  const inside = Math.max(...heights) > 0 && Math.min(...heights) < props.camera.frame.heightPx
  return { d: pathOf(line, k.value), a: line[0]![1] * k.value, inside }
})
const aim = computed(() => {
  const p = project.working ? aimPointOf(project.working.stand.aim, centreOf) : null
  const at = p ? projectPoint(props.camera, p) : null
  return at ? { x: at.xPx * k.value, y: at.yPx * k.value } : null
})
/** The upright measure at the place to stand: from the floor to the eye. */
const measure = computed(() => {
  const g = props.ghost
  if (!g) return null
  const foot = projectPoint(props.camera, g.point)
  const eye = projectPoint(props.camera, [g.point[0], g.point[1], g.point[2] + g.heightM])
  if (!foot || !eye) return null
  return {
    x: foot.xPx * k.value,
    y: foot.yPx * k.value,
    ex: eye.xPx * k.value,
    ey: eye.yPx * k.value,
    text: `${g.heightM.toFixed(2)} m over ${g.floorName}`,
  }
})
const toPx = (p: Vec3) => {
  const at = projectPoint(props.camera, p)
  return at ? { x: at.xPx * k.value, y: at.yPx * k.value } : null
}
const line = (a: Vec3, b: Vec3) => {
  return projectSegment(props.camera, a, b).map(([x, y]) => [x * k.value, y * k.value] as const)
}
const straight = computed(() => {
  const l = lean.value
  if (!l || l.leanLeftDeg === null || l.leanRightDeg === null) return null
  const converging = l.points === 0 ? 'nothing converges' : `${l.points}-point`
  // looking steeply up or down, verticals run towards or away from the eye: no lean to speak of
  const steep = Math.abs(props.camera.pose.tiltDeg) > 80
  const verdict = steep ? 'meant' : (verticalsOf(props.camera, project.document?.subject ?? 'room') ?? 'meant')
  const what = steep ? 'seen along' : verdict === 'upright' ? 'upright' : `lean ${leanText(l)}`
  return { verdict, text: `${{ upright: '✓ ', slip: '△ ', meant: '' }[verdict]}verticals ${what}, ${converging}` }
})
</script>

<template>
  <svg class="overlay" :viewBox="`0 0 ${width} ${height}`" data-testid="picture-overlay">
    <g v-if="horizon?.inside">
      <path class="horizon under" :d="horizon.d" />
      <path class="horizon" :d="horizon.d" data-testid="horizon" />
      <OverlayChip
        :x="8"
        :y="horizon.a - 5"
        :text="`horizon${eyeHeight === null ? '' : ` ${eyeHeight.toFixed(2)} m`}`"
      />
    </g>
    <path v-if="aim" class="aim" :d="`M${aim.x} ${aim.y - 5}l5 5l-5 5l-5 -5z`" />
    <path
      v-if="spot"
      class="spot"
      data-testid="key-spot"
      :d="`M${spot[0] * k - 9} ${spot[1] * k}h6m6 0h6M${spot[0] * k} ${spot[1] * k - 9}v6m0 6v6`"
    />
    <g v-if="measure" class="measure">
      <ellipse :cx="measure.x" :cy="measure.y" rx="9" ry="3.5" />
      <path :d="`M${measure.x} ${measure.y}L${measure.ex} ${measure.ey}`" />
      <circle :cx="measure.ex" :cy="measure.ey" r="4" />
      <OverlayChip :x="measure.x + 12" :y="measure.y - 4" :text="measure.text" />
    </g>
    <MeasureMarks :to-px="toPx" :line="line" />
    <PickMarks :camera="camera" :width="width" :height="height" />
    <OverlayChip v-if="straight" :x="width - 8" :y="height - 8" end :tone="straight.verdict" :text="straight.text" />
  </svg>
</template>

<style scoped>
.overlay {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
  overflow: hidden;
}
.horizon {
  stroke: #6b3f7a;
  stroke-width: 1.3;
  stroke-dasharray: 7 4;
  fill: none;
}
.horizon.under {
  stroke: #fff;
  opacity: 0.5;
  stroke-width: 2.6;
}
.aim {
  fill: none;
  stroke: #6b3f7a;
  stroke-width: 1.5;
  paint-order: stroke;
}
.spot {
  stroke: #6b3f7a;
  stroke-width: 2;
  fill: none;
  filter: drop-shadow(0 0 1px #fff);
}
.measure path,
.measure ellipse,
.measure circle {
  fill: none;
  stroke: #6b3f7a;
  stroke-width: 1.8;
}
.measure circle {
  fill: #fff;
}
</style>

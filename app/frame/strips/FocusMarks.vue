<script setup lang="ts">
// Plane of focus and sharp zone in Plan and Side, moss; the mark on the sight line is dragged.
import { computed, ref } from 'vue'
import { axesOf, type Camera } from '#core/camera'
import { pictureWindow, roundStepM, snapTo } from '#core/framing'
import { addScaled, dot, sub, type Vec3 } from '#core/math'
import { useProject } from '../../stores/project.ts'
import { useFocus } from '../focus/focus.ts'
import { useFocusSnaps } from '../focus/focus-snaps.ts'
import { useView } from '../../stores/view.ts'
import DragHandle from '../../drawings/DragHandle.vue'

const props = defineProps<{
  /** The picture's way across that is seen in this drawing: its right in Plan, its up in Side. */
  across: 'right' | 'up'
  toPx: (p: Vec3) => { x: number; y: number }
  toWorld: (e: { clientX: number; clientY: number }) => Vec3
}>()
const project = useProject()
const { part, hasLens, at, sharp, long, withFocus } = useFocus()
/** What lies farther is not drawn, in distances of the focus. */
const FARTHEST = 12
const isDragged = ref(false)
const view = useView()
const snaps = useFocusSnaps()
/** Page pixels within which a thing catches the mark. */
const REACH_PX = 6
const caught = ref<string | null>(null)
/** Metres along the axis that a page pixel stands for; null where the axis is seen from its end. */
function metresPerPx(z: { station: Vec3; forward: Vec3 }): number | null {
  const [a, b] = [props.toPx(z.station), props.toPx(addScaled(z.station, z.forward, 1))]
  const px = Math.hypot(b.x - a.x, b.y - a.y)
  return px > 1 ? 1 / px : null
}
function snapped(distanceM: number, z: { station: Vec3; forward: Vec3 }, isFree: boolean): number {
  caught.value = null
  const perPx = metresPerPx(z)
  if (isFree || perPx === null) return distanceM
  const r = snapTo(distanceM, snaps(), REACH_PX * perPx, roundStepM(perPx))
  caught.value = r.label
  return r.value
}

/** Tangents of the picture's edges that way. */
const edges = (c: Camera): readonly [number, number] => pictureWindow(c, props.across, 1)?.fromAxisM ?? [0, 0]
const zone = computed(() => {
  const c = project.camera
  if (!c || !part.value?.on || !hasLens.value || !at.value) return null
  const axes = axesOf(c.pose)
  const [lo, hi] = edges(c)
  const way = axes[props.across]
  const place = (depth: number, tan: number): { x: number; y: number } =>
    props.toPx(addScaled(addScaled(c.pose.station, axes.forward, depth), way, depth * tan))
  const plane = (depth: number): string => {
    const [a, b] = [place(depth, lo), place(depth, hi)]
    return `M${a.x} ${a.y}L${b.x} ${b.y}`
  }
  const focusM = at.value.distanceM
  const nearM = sharp.value?.nearM ?? focusM
  const farM = Math.min(sharp.value?.farM ?? focusM, focusM * FARTHEST)
  const corners = [place(nearM, lo), place(nearM, hi), place(farM, hi), place(farM, lo)]
  return {
    band: `M${corners.map((p) => `${p.x} ${p.y}`).join('L')}Z`,
    plane: plane(focusM),
    near: plane(nearM),
    far: plane(farM),
    mark: place(focusM, 0),
    focusM,
    forward: axes.forward,
    station: c.pose.station,
  }
})
/** Along the axis, the depth of what lies under the pointer. */
function drag(e: PointerEvent): void {
  const z = zone.value
  if (!z) return
  const raw = dot(z.forward, sub(props.toWorld(e), z.station))
  const distanceM = snapped(raw, z, e.altKey || !view.snapping)
  if (distanceM > 0.001) project.showEdit(withFocus({ mode: { kind: 'distance', distanceM } }))
}
function nudge(by: number): void {
  const z = zone.value
  if (z) project.run(withFocus({ mode: { kind: 'distance', distanceM: Math.max(0.001, z.focusM + by) } }))
}
</script>

<template>
  <g v-if="zone" class="focus" data-testid="focus-zone">
    <path class="band" :d="zone.band" />
    <path class="limit" :d="zone.near" />
    <path class="limit" :d="zone.far" />
    <path class="plane" :d="zone.plane" />
    <DragHandle
      :x="zone.mark.x"
      :y="zone.mark.y"
      shape="edge"
      class="grip"
      label="Focus"
      :testid="`focus-mark-${across}`"
      :value="zone.focusM"
      :spoken="`focused at ${long(zone.focusM)}`"
      :reading="isDragged ? `${long(zone.focusM)}${caught ? ` · ${caught}` : ''}` : ''"
      @start="isDragged = true"
      @drag="drag"
      @nudge="(x, y) => nudge(Math.abs(x) > Math.abs(y) ? x : y)"
      @done="((isDragged = false), project.settleEdit())"
      @cancel="((isDragged = false), project.letGo())"
    />
  </g>
</template>

<style scoped>
.band {
  fill: var(--moss);
  opacity: 0.18;
  pointer-events: none;
}
.plane {
  stroke: var(--moss);
  stroke-width: 1.8;
  fill: none;
  pointer-events: none;
}
.limit {
  stroke: var(--moss);
  stroke-width: 1;
  stroke-dasharray: 4 3;
  fill: none;
  pointer-events: none;
}
.grip :deep(.ink) {
  fill: var(--moss);
  stroke: var(--panel);
}
</style>

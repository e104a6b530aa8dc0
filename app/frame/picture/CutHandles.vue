<script setup lang="ts">
// The chosen cut's planes in the picture, and from outside: a handle each, dragged along its normal, the number at the pointer.
import { computed, useTemplateRef } from 'vue'
import { projectPoint, rayThrough, type Camera } from '#core/camera'
import { addScaled } from '#core/math'
import { cutHandles, heldAlong, type CutHandle } from '#core/section'
import { useStage } from '../../stores/stage.ts'
import { useCuts } from '../cuts/cuts.ts'
import { keyOf, placeOf, useCutDrag, type Grip } from '../cuts/cut-drag.ts'
import DragHandle from '../../drawings/DragHandle.vue'

const props = defineProps<{ camera: Camera; width: number; height: number }>()
const stage = useStage()
const { chosen, part } = useCuts()
const { dragging, begin, drag, nudge, done, cancel, reading } = useCutDrag()
const svg = useTemplateRef<SVGSVGElement>('svg')
const k = computed(() => props.width / props.camera.frame.widthPx)
/** How long a normal is drawn, page pixels. */
const NORMAL_PX = 26

interface Handle extends CutHandle {
  readonly x: number
  readonly y: number
  /** End of the normal that is drawn. */
  readonly nx: number
  readonly ny: number
  readonly metresPerPx: number
  readonly grip: Grip
}
const handles = computed<readonly Handle[]>(() => {
  const cut = chosen.value
  const box = stage.facts?.box
  if (!cut?.on || !box || part.value?.allOff) return []
  return cutHandles(cut, box).flatMap((h) => {
    const at = projectPoint(props.camera, h.at)
    if (!at) return []
    // a pixel in metres there, along the normal as it is seen
    const stepM = Math.max(1e-4, Math.abs(at.depthM) * 1e-3)
    const to = projectPoint(props.camera, addScaled(h.at, h.normal, stepM))
    if (!to) return []
    const [dx, dy] = [(to.xPx - at.xPx) * k.value, (to.yPx - at.yPx) * k.value]
    const long = Math.hypot(dx, dy)
    // seen along its normal it cannot be dragged
    if (long < 1e-3) return []
    const [x, y] = [at.xPx * k.value, at.yPx * k.value]
    if (x < 0 || y < 0 || x > props.width || y > props.height) return []
    const grip = { cut, plane: h.plane, normal: h.normal, at: h.at }
    return [
      { ...h, x, y, nx: x + (dx / long) * NORMAL_PX, ny: y + (dy / long) * NORMAL_PX, metresPerPx: stepM / long, grip },
    ]
  })
})
let from: number | null = null
let held: Handle | null = null
function take(h: Handle): void {
  from = null
  held = h
  begin(h.grip)
}
function pull(e: PointerEvent): void {
  const r = svg.value?.getBoundingClientRect()
  if (!held || !r) return
  const ray = rayThrough(props.camera, (e.clientX - r.left) / k.value, (e.clientY - r.top) / k.value)
  const along = ray && heldAlong(held.at, held.normal, ray)
  if (along === null) return
  from ??= along
  drag(along - from, e, held.metresPerPx)
}
/** An arrow key moves it the way it points, as near as the normal allows. */
function step(h: Handle, dx: number, dy: number): void {
  const [wx, wy] = [h.nx - h.x, h.y - h.ny]
  nudge(h.grip, Math.abs(wx) > Math.abs(wy) ? dx * Math.sign(wx) : dy * Math.sign(wy))
}
</script>

<template>
  <svg
    v-if="handles.length > 0"
    ref="svg"
    class="handles"
    :viewBox="`0 0 ${width} ${height}`"
    data-testid="cut-handles"
  >
    <g v-for="h in handles" :key="h.plane">
      <path class="normal under" :d="`M${h.x} ${h.y}L${h.nx} ${h.ny}`" />
      <path class="normal" :d="`M${h.x} ${h.y}L${h.nx} ${h.ny}`" />
      <DragHandle
        :x="h.x"
        :y="h.y"
        shape="edge"
        class="grip"
        :label="`Cut ${h.grip.cut.name}${h.grip.cut.locked ? ', locked' : ''}`"
        :testid="`picture-cut-${h.plane}`"
        :value="placeOf(h.grip)"
        :spoken="reading(h.grip)"
        :reading="dragging === keyOf(h.grip) ? reading(h.grip) : ''"
        @start="take(h)"
        @drag="pull"
        @nudge="(x, y) => step(h, x, y)"
        @done="done"
        @cancel="cancel"
      />
    </g>
  </svg>
</template>

<style scoped>
.handles {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
.grip {
  pointer-events: all;
}
.normal {
  stroke: #17636e;
  stroke-width: 1.6;
  fill: none;
}
.normal.under {
  stroke: #fff;
  stroke-width: 3.6;
  opacity: 0.7;
}
.grip :deep(.ink) {
  fill: #17636e;
  stroke: #fff;
}
</style>

<script setup lang="ts">
// All viewpoints as small named cones: the picture while the pointer rests on one, recall by click or Enter.
import { computed, shallowRef } from 'vue'
import { poseOfStand } from '#core/camera'
import type { Vec3 } from '#core/math'
import type { Viewpoint } from '#model'
import { centresIn } from '../../stores/centres.ts'
import { newStamp, useProject } from '../../stores/project.ts'
import { useView } from '../../stores/view.ts'
import FramingThumb from '../thumbs/FramingThumb.vue'
import { shownBy } from '../thumbs/thumbs.ts'
import { coneOf } from '../../drawings/cones.ts'
import { CONE_LETTERS, placedLabels, shortened, type LabelBox } from '../../controls/labels.ts'

const props = defineProps<{
  across: 'left-right' | 'top-bottom'
  toPx: (p: Vec3) => { x: number; y: number }
  width: number
  height: number
  /** What else stands there: names keep clear of it. */
  taken?: readonly LabelBox[]
}>()
const project = useProject()
const view = useView()
const LENGTH_PX = 20
const THUMB = { width: 132, height: 88 }
const hovered = shallowRef<Viewpoint | null>(null)

const placed = computed(() => {
  const doc = project.document
  if (!doc || !view.allCones) return []
  return doc.viewpoints.flatMap((v) => {
    const setup = shownBy(doc, v)
    if (!setup || v.id === doc.recalledId) return []
    const { x, y } = props.toPx(setup.stand.station)
    const cone = coneOf(
      { pose: poseOfStand(setup.stand, centresIn(setup)), lens: setup.lens, frame: setup.frame },
      props.across,
      props.toPx,
      LENGTH_PX,
    )
    return [{ v, setup, x, y, cone }]
  })
})
/** With names where they do not lie over each other; the one pointed at has its name in any case. */
const marks = computed(() => {
  const labels = placedLabels(
    placed.value.map(({ x, y, v }) => ({ x, y, text: v.name })),
    { width: props.width, height: props.height, taken: props.taken ?? [] },
  )
  return placed.value.map((m, i) => {
    const own = hovered.value === m.v ? { x: m.x + 6, y: m.y - 6 } : null
    return { ...m, text: shortened(m.v.name, CONE_LETTERS), label: labels[i] ?? own }
  })
})
const thumb = computed(() => {
  const m = marks.value.find((k) => k.v === hovered.value)
  if (!m) return null
  return {
    ...m,
    x: Math.min(Math.max(4, m.x + 14), Math.max(4, props.width - THUMB.width - 4)),
    y: Math.min(Math.max(4, m.y + 12), Math.max(4, props.height - THUMB.height - 4)),
  }
})
const recall = (v: Viewpoint): void => {
  hovered.value = null
  project.run({ type: 'recall', viewpointId: v.id, stamp: newStamp() })
}
</script>

<template>
  <g v-if="view.allCones" class="cones">
    <g
      v-for="m in marks"
      :key="m.v.id"
      class="mark"
      role="button"
      tabindex="0"
      :aria-label="`Recall “${m.v.name}”`"
      data-testid="viewpoint-cone"
      @pointerdown.stop
      @click="recall(m.v)"
      @keydown.enter.stop.prevent="recall(m.v)"
      @pointerenter="hovered = m.v"
      @pointerleave="hovered = null"
      @focus="hovered = m.v"
      @blur="hovered = null"
    >
      <path v-if="m.cone" :d="m.cone.fill" />
      <circle :cx="m.x" :cy="m.y" r="11" class="hit" />
      <circle :cx="m.x" :cy="m.y" r="3.2" />
      <text v-if="m.label" :x="m.label.x" :y="m.label.y">{{ m.text }}</text>
    </g>
    <foreignObject v-if="thumb" :x="thumb.x" :y="thumb.y" :width="THUMB.width" :height="THUMB.height" class="over">
      <FramingThumb :setup="thumb.setup" />
    </foreignObject>
  </g>
</template>

<style scoped>
.mark {
  cursor: pointer;
  outline: none;
}
.mark path {
  fill: var(--plum);
  opacity: 0.28;
}
.mark circle {
  fill: var(--plum);
}
.mark .hit {
  fill: transparent;
}
.mark:hover path,
.mark:focus-visible path {
  opacity: 0.6;
}
text {
  pointer-events: none;
  font: 9.5px var(--font);
  fill: var(--plum);
  stroke: var(--panel);
  stroke-width: 3px;
  paint-order: stroke;
}
.over {
  pointer-events: none;
  border: 1px solid var(--line);
}
</style>

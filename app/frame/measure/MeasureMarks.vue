<script setup lang="ts">
// Measured distances, points of a fit, and what a click would take: drawn over picture, Plan or Side by their own projection.
import OverlayChip from '../../controls/OverlayChip.vue'
import { computed } from 'vue'
import { formatLength, lengthSuffix } from '#core/base'
import type { Vec3 } from '#core/math'
import { useProject } from '../../stores/project.ts'
import { useMeasurements } from './measurements.ts'

const props = defineProps<{
  /** Null where a point has no picture. */
  toPx: (p: Vec3) => { x: number; y: number } | null
  /** The seen part of a line; null when there is none. */
  line: (a: Vec3, b: Vec3) => { a: readonly [number, number]; b: readonly [number, number] } | null
}>()
const project = useProject()
const measurements = useMeasurements()
const long = (m: number): string => {
  const u = project.document?.unit ?? 'm'
  return u === 'ft-in' ? formatLength(m, u) : `${formatLength(m, u)} ${lengthSuffix(u)}`
}
const marks = computed(() =>
  measurements.list.flatMap((m, i) => {
    const l = props.line(m.a, m.b)
    if (!l) return []
    const x = (l.a[0] + l.b[0]) / 2
    const y = (l.a[1] + l.b[1]) / 2
    const rise = Math.abs(m.riseM) > 0.0005 && m.levelM > 0.0005 ? `, ${long(Math.abs(m.riseM))} high` : ''
    return [
      {
        key: i,
        d: `M${l.a[0]} ${l.a[1]}L${l.b[0]} ${l.b[1]}`,
        ends: [l.a, l.b],
        x,
        y,
        text: `${long(m.distanceM)}${rise}`,
      },
    ]
  }),
)
const points = computed(() => measurements.fitPoints.flatMap((p) => props.toPx(p) ?? []))
const from = computed(() => (measurements.from ? props.toPx(measurements.from) : null))
</script>

<template>
  <g class="measures" data-testid="measures">
    <g v-for="m in marks" :key="m.key">
      <path class="under" :d="m.d" />
      <path class="way" :d="m.d" />
      <circle v-for="(e, i) in m.ends" :key="i" :cx="e[0]" :cy="e[1]" r="3" />
      <OverlayChip :x="m.x + 7" :y="m.y - 5" :text="m.text" />
    </g>
    <path v-for="(p, i) in points" :key="`p${i}`" class="point" :d="`M${p.x - 5} ${p.y}h10M${p.x} ${p.y - 5}v10`" />
    <circle v-if="from" class="from" :cx="from.x" :cy="from.y" r="4" />
  </g>
</template>

<style scoped>
.measures {
  pointer-events: none;
}
.under {
  stroke: #fffb;
  stroke-width: 3.4;
  fill: none;
}
.way {
  stroke: #6b3f7a;
  stroke-width: 1.4;
  fill: none;
}
circle {
  fill: #fff;
  stroke: #6b3f7a;
  stroke-width: 1.5;
}
.from {
  fill: #6b3f7a;
}
.point {
  stroke: #6b3f7a;
  stroke-width: 1.8;
  fill: none;
}
</style>

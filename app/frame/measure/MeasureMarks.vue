<script setup lang="ts">
// Measured distances, measuring staffs, points of a fit, and what a click would take: drawn over picture, Plan or Side by their own projection.
import OverlayChip from '../../controls/OverlayChip.vue'
import { pathOf } from '../../controls/path.ts'
import { computed } from 'vue'
import { formatLength, lengthSuffix } from '#core/base'
import { staffMarks } from '#core/framing'
import type { Vec3 } from '#core/math'
import { useProject } from '../../stores/project.ts'
import { useMeasurements } from './measurements.ts'

const props = defineProps<{
  /** Null where a point has no picture. */
  toPx: (p: Vec3) => { x: number; y: number } | null
  /** The seen part of a line, as many places as follow it; empty when there is none. */
  line: (a: Vec3, b: Vec3) => readonly (readonly [number, number])[]
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
    const [from, to] = [l[0], l.at(-1)]
    if (!from || !to) return []
    const [x, y] = [(from[0] + to[0]) / 2, (from[1] + to[1]) / 2]
    const rise = Math.abs(m.riseM) > 0.0005 && m.levelM > 0.0005 ? `, ${long(Math.abs(m.riseM))} high` : ''
    return [
      {
        key: i,
        d: pathOf(l),
        ends: [from, to],
        x,
        y,
        text: `${long(m.distanceM)}${rise}`,
      },
    ]
  }),
)
/** Half the length of a mark, pixels, by its rank; marks nearer together than this are left out, the lesser ones first. */
const MARK_PX = [3, 5, 7] as const
const APART_PX = [3, 3, 11] as const
const CHIP_PX = 18
const staffs = computed(() =>
  measurements.staffs.flatMap(({ foot, heightM }, i) => {
    const pole = props.line(foot, [foot[0], foot[1], foot[2] + heightM])
    const [bottom, top] = [pole[0], pole.at(-1)]
    if (!bottom || !top) return []
    const [dx, dy] = [top[0] - bottom[0], top[1] - bottom[1]]
    const l = Math.hypot(dx, dy)
    // seen from above it is a place
    const [ux, uy] = l > 1 ? [-dy / l, dx / l] : [1, 0]
    const marks = staffMarks(foot, heightM)
    const perMark = l / Math.max(1, marks.length - 1)
    const every = [perMark, perMark * 5, perMark * 10]
    const drawn = marks.flatMap((m) => {
      const at = props.toPx(m.at)
      if (!at || every[m.rank]! < APART_PX[m.rank]) return []
      const h = MARK_PX[m.rank]
      const d = `M${at.x - ux * h} ${at.y - uy * h}L${at.x + ux * h} ${at.y + uy * h}`
      return [{ d, x: at.x, y: at.y, text: m.rank === 2 && every[2]! > CHIP_PX ? long(m.heightM) : '' }]
    })
    return [{ key: `s${i}`, d: pathOf(pole), foot: bottom, drawn }]
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
    <g v-for="s in staffs" :key="s.key" data-testid="staff">
      <path class="under" :d="s.d" />
      <path class="way" :d="s.d" />
      <template v-for="(m, i) in s.drawn" :key="i">
        <path class="under" :d="m.d" />
        <path class="way" :d="m.d" />
      </template>
      <template v-for="(m, i) in s.drawn" :key="`t${i}`">
        <OverlayChip v-if="m.text" :x="m.x + 11" :y="m.y + 4" :text="m.text" />
      </template>
      <circle :cx="s.foot[0]" :cy="s.foot[1]" r="3" />
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

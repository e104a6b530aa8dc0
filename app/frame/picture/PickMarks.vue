<script setup lang="ts">
// Over the picture: what a click would take, and what a finding shows.
import { computed } from 'vue'
import { projectPoint, projectSegment, type Camera } from '#core/camera'
import OverlayChip from '../../controls/OverlayChip.vue'
import { pathOf } from '../../controls/path.ts'
import { useCheck } from '../check/check.ts'
import { usePicking } from '../straighten/picking.ts'
import { formatLength, lengthSuffix } from '#core/base'
import { useProject } from '../../stores/project.ts'
import { useView } from '../../stores/view.ts'

const props = defineProps<{ camera: Camera; width: number; height: number }>()
const project = useProject()
const view = useView()
const check = useCheck()
const { mark } = usePicking()
const k = computed(() => props.width / props.camera.frame.widthPx)

const target = computed(() => {
  const m = view.picking ? mark.value : null
  const at = m && projectPoint(props.camera, m.point)
  if (!m || !at) return null
  const unit = project.document?.unit ?? 'm'
  const height = `${formatLength(m.point[2], unit)}${unit === 'ft-in' ? '' : ` ${lengthSuffix(unit)}`}`
  const what = m.feature === 'surface' ? m.nodeName : `${m.feature} of ${m.nodeName}`
  return { x: at.xPx * k.value, y: at.yPx * k.value, feature: m.feature, text: `${what}, height ${height}` }
})
const lines = computed(() =>
  (check.shown?.show.lines ?? []).flatMap(([a, b]) => {
    const d = pathOf(projectSegment(props.camera, a, b), k.value)
    return d ? [d] : []
  }),
)
const points = computed(() =>
  (check.shown?.show.points ?? []).flatMap((p) => {
    const at = projectPoint(props.camera, p)
    return at ? [{ x: at.xPx * k.value, y: at.yPx * k.value }] : []
  }),
)
/** Beside a line that leans, where an upright would run. */
const upright = computed(() => (check.shown?.show.lines ? props.width / 2 : null))
</script>

<template>
  <g class="marks">
    <path v-if="upright !== null" class="plumb" :d="`M${upright} 0V${height}`" />
    <path v-for="(d, i) in lines" :key="i" class="finding" :d="d" />
    <circle v-for="(p, i) in points" :key="`p${i}`" class="finding" :cx="p.x" :cy="p.y" r="9" />
    <g v-if="target" data-testid="pick-mark">
      <!-- a corner: an angle open to where it points -->
      <path
        v-if="target.feature === 'corner'"
        class="pick open"
        :d="`M${target.x - 8} ${target.y + 1}L${target.x} ${target.y - 7}L${target.x + 8} ${target.y + 1}`"
      />
      <path
        v-else-if="target.feature === 'edge'"
        class="pick"
        :d="`M${target.x - 7} ${target.y}H${target.x + 7}M${target.x} ${target.y - 4}V${target.y + 4}`"
      />
      <circle v-else class="pick" :cx="target.x" :cy="target.y" r="4.5" />
      <OverlayChip
        :x="target.x + (target.x > width * 0.6 ? -12 : 12)"
        :y="target.y - 8"
        :end="target.x > width * 0.6"
        :text="target.text"
      />
    </g>
  </g>
</template>

<style scoped>
.pick {
  fill: #ffffffb0;
  stroke: #6b3f7a;
  stroke-width: 1.8;
}
.finding {
  fill: none;
  stroke: #b87306;
  stroke-width: 2;
}
.plumb {
  stroke: #fff;
  stroke-width: 1;
  stroke-dasharray: 2 4;
}
.open {
  fill: none;
}
</style>

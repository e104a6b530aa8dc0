<script setup lang="ts">
// The lines that have caught a drag on Plan or Side.
import { computed } from 'vue'
import { directionOf } from '#core/camera'
import { addScaled, type Vec3 } from '#core/math'
import OverlayChip from '../../controls/OverlayChip.vue'
import type { Guide } from './snapping.ts'

const props = defineProps<{
  guides: readonly Guide[]
  toPx: (p: Vec3) => { x: number; y: number }
  width: number
  height: number
}>()
const FAR = 4000
const shown = computed(() =>
  props.guides.map((g) => {
    const at = props.toPx(g.point)
    if (g.bearingDeg === null) return { d: `M0 ${at.y}H${props.width}`, x: 6, y: at.y - 4, text: g.label }
    const to = props.toPx(addScaled(g.point, directionOf(g.bearingDeg, 0), 1))
    const l = Math.hypot(to.x - at.x, to.y - at.y) || 1
    const [dx, dy] = [((to.x - at.x) / l) * FAR, ((to.y - at.y) / l) * FAR]
    return {
      d: `M${at.x - dx} ${at.y - dy}L${at.x + dx} ${at.y + dy}`,
      x: Math.min(props.width - 70, Math.max(6, at.x + 16)),
      y: Math.min(props.height - 10, Math.max(12, at.y + 18)),
      text: g.label,
    }
  }),
)
</script>

<template>
  <g class="guides" data-testid="snap-guides">
    <template v-for="(g, i) in shown" :key="i">
      <path :d="g.d" />
      <OverlayChip :x="g.x" :y="g.y" :text="g.text" themed />
    </template>
  </g>
</template>

<style scoped>
.guides {
  pointer-events: none;
}
path {
  stroke: var(--plum);
  stroke-width: 1;
  stroke-dasharray: 1 3;
}
</style>

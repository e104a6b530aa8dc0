<script setup lang="ts">
// In Plan or Side: the tangent of the chosen stop, with a handle at either end.
import { computed } from 'vue'
import { addScaled, sub, type Vec3 } from '#core/math'
import DragHandle from '../drawings/DragHandle.vue'
import { nudged, type MarksProps } from './marks.ts'
import { useWalking } from './walking.ts'

const { toPx, at, isPlan, reading } = defineProps<MarksProps>()
const { travel, chosen, withStop, change, live, cancel } = useWalking()
const stop = computed(() => travel.value?.stops[chosen.value] ?? null)
const ends = computed(() => {
  const s = stop.value
  if (!s?.tangentM) return []
  return ([1, -1] as const).map((sign) => ({ sign, point: addScaled(s.station, s.tangentM!, sign) }))
})
/** The leg follows the floor anew when it is let go. */
const moved = (sign: 1 | -1, point: Vec3) => {
  const [x, y, z] = sub(point, stop.value!.station)
  return withStop(chosen.value, { tangentM: [sign * x, sign * y, sign * z], via: [] })
}
const line = computed(() => {
  const [a, b] = ends.value.map((e) => toPx(e.point))
  return a && b ? `M${a.x} ${a.y}L${b.x} ${b.y}` : ''
})
</script>

<template>
  <path v-if="line" class="tangent" :d="line" />
  <DragHandle
    v-for="e in ends"
    :key="e.sign"
    :x="toPx(e.point).x"
    :y="toPx(e.point).y"
    shape="edge"
    :label="e.sign > 0 ? 'Where the way leads on from the stop' : 'Where the way comes to the stop from'"
    :testid="`tangent-${e.sign > 0 ? 'on' : 'back'}`"
    :value="e.point[0]"
    :spoken="reading(e.point)"
    @drag="live(moved(e.sign, at($event, e.point)))"
    @nudge="(dx, dy) => change(moved(e.sign, nudged(e.point, dx, dy, isPlan)))"
    @done="change({})"
    @cancel="cancel"
  />
</template>

<style scoped>
.tangent {
  fill: none;
  stroke: var(--plum);
  stroke-width: 1;
  pointer-events: none;
}
</style>

<script setup lang="ts">
// In Plan or Side: the line that the aim of the shot at hand goes along, with its places to be dragged.
import { computed } from 'vue'
import { throughKeys } from '#core/reel'
import DragHandle from '../drawings/DragHandle.vue'
import { nudged, type MarksProps } from './marks.ts'
import { useAiming } from './aiming.ts'

const { toPx, at, isPlan, reading } = defineProps<MarksProps>()
const { aim, set, live, drop, cancel } = useAiming()
const PARTS = 60
const line = computed(() => {
  const list = aim.value
  if (list.length < 2) return ''
  const [from, to] = [list[0]!.at, list.at(-1)!.at]
  const axis = (i: 0 | 1 | 2, x: number): number => throughKeys(list.map((k) => ({ at: k.at, value: k.point[i] })), x) // prettier-ignore
  return Array.from({ length: PARTS + 1 }, (_, i) => {
    const x = from + ((to - from) * i) / PARTS
    const q = toPx([axis(0, x), axis(1, x), axis(2, x)])
    return `${i ? 'L' : 'M'}${q.x.toFixed(1)} ${q.y.toFixed(1)}`
  }).join('')
})
</script>

<template>
  <path v-if="line" class="aim" :d="line" />
  <DragHandle
    v-for="(k, i) in aim"
    :key="i"
    :x="toPx(k.point).x"
    :y="toPx(k.point).y"
    shape="diamond"
    :label="`Place ${i + 1} that is looked at`"
    :testid="`aim-mark-${i}`"
    :value="k.point[0]"
    :spoken="reading(k.point)"
    @drag="live(i, { point: at($event, k.point) })"
    @nudge="(dx, dy) => set(i, { point: nudged(k.point, dx, dy, isPlan) })"
    @done="drop"
    @cancel="cancel"
  />
</template>

<style scoped>
.aim {
  fill: none;
  stroke: var(--plum);
  stroke-width: 1.2;
  stroke-dasharray: 2 4;
}
</style>

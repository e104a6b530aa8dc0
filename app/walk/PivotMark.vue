<script setup lang="ts">
// In Plan or Side: what a turntable goes round, to be dragged.
import DragHandle from '../drawings/DragHandle.vue'
import { nudged, type MarksProps } from './marks.ts'
import { useTurning } from './turning.ts'

const { toPx, at, isPlan, reading } = defineProps<MarksProps>()
const { table, set, live, drop, cancel } = useTurning()
</script>

<template>
  <DragHandle
    v-if="table"
    :x="toPx(table.pivot).x"
    :y="toPx(table.pivot).y"
    shape="diamond"
    label="What the turntable goes round"
    testid="pivot"
    :value="table.pivot[0]"
    :spoken="reading(table.pivot)"
    @drag="live({ pivot: at($event, table.pivot) })"
    @nudge="(dx, dy) => set({ pivot: nudged(table!.pivot, dx, dy, isPlan) })"
    @done="drop"
    @cancel="cancel"
  />
</template>

<script setup lang="ts">
// In Plan or Side: the place that a walk looks at, to be dragged.
import { computed } from 'vue'
import DragHandle from '../drawings/DragHandle.vue'
import { nudged, type MarksProps } from './marks.ts'
import { useWalking } from './walking.ts'

const { toPx, at, isPlan, reading } = defineProps<MarksProps>()
const { travel, change, live, drop, cancel } = useWalking()
const place = computed(() => (travel.value?.gaze.kind === 'point' ? travel.value.gaze.point : null))
</script>

<template>
  <DragHandle
    v-if="place"
    :x="toPx(place).x"
    :y="toPx(place).y"
    shape="diamond"
    label="What the walk looks at"
    testid="gaze"
    :value="place[0]"
    :spoken="reading(place)"
    @drag="live({ gaze: { kind: 'point', point: at($event, place) } })"
    @nudge="(dx, dy) => change({ gaze: { kind: 'point', point: nudged(place!, dx, dy, isPlan) } })"
    @done="drop"
    @cancel="cancel"
  />
</template>

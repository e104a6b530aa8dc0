<script setup lang="ts">
// A name or number beside a mark over the photograph: its letters with a rim, so that they are read over anything.
import type { PlacedLabel } from '../controls/labels.ts'

defineProps<{ at: PlacedLabel | null | undefined; text: string; tone?: string }>()
</script>

<template>
  <text v-if="at" :x="at.x" :y="at.y" :style="tone ? { fill: tone } : {}">{{ text }}</text>
</template>

<style scoped>
text {
  fill: var(--bundle-1);
  paint-order: stroke;
  stroke: var(--bundle-case);
  stroke-width: 3.5px;
  stroke-linejoin: round;
}
</style>

<script setup lang="ts">
// A cone on a strip: the camera's own, or the one it had before.
import type { Cone } from './cones.ts'

defineProps<{ cone: Cone; ghost?: boolean }>()
</script>

<template>
  <g :class="{ ghost }">
    <path class="cone" :d="cone.fill" />
    <path class="cone-line" :d="cone.lines" />
  </g>
</template>

<style scoped>
path {
  pointer-events: none;
}
.cone {
  fill: var(--plum);
  opacity: 0.1;
}
.cone-line {
  stroke: var(--plum);
  stroke-width: 1.2;
  fill: none;
}
.ghost .cone {
  opacity: 0.04;
}
.ghost .cone-line {
  stroke-dasharray: 2 4;
  opacity: 0.7;
}
</style>

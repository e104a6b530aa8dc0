<script setup lang="ts">
// The shape that bright points out of focus take: the aperture, as it stands in the picture.
import { computed } from 'vue'
import { apertureEdge, type ApertureShape } from '#core/optics'

const props = defineProps<{ shape: ApertureShape }>()
const d = computed(
  () =>
    Array.from({ length: 180 }, (_, i) => {
      const a = (i * Math.PI) / 90
      const r = 20 * apertureEdge(props.shape, a)
      return `${i === 0 ? 'M' : 'L'}${(r * Math.cos(a)).toFixed(2)} ${(-r * Math.sin(a)).toFixed(2)}`
    }).join('') + 'Z',
)
</script>

<template>
  <svg viewBox="-24 -24 48 48" width="44" height="44" role="img" aria-label="Shape of the aperture">
    <circle class="ring" r="22" />
    <path class="shape" :d="d" />
  </svg>
</template>

<style scoped>
.ring {
  fill: var(--ink);
}
.shape {
  fill: var(--panel);
  stroke: var(--moss);
  stroke-width: 1.2;
}
</style>

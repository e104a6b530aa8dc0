<script setup lang="ts">
// The shape that bright points out of focus take: the aperture, as it stands in the picture; and at its upper right corner, where the
// barrel cuts it off.
import { computed, ref, watchEffect } from 'vue'
import { apertureEdge, aperturePicture, type ApertureShape } from '#core/optics'

const props = defineProps<{ shape: ApertureShape; corner?: boolean }>()
const R = 20
const d = computed(
  () =>
    Array.from({ length: 180 }, (_, i) => {
      const a = (i * Math.PI) / 90
      const r = R * apertureEdge(props.shape, a)
      return `${i === 0 ? 'M' : 'L'}${(r * Math.cos(a)).toFixed(2)} ${(-r * Math.sin(a)).toFixed(2)}`
    }).join('') + 'Z',
)
/** A grey picture as an image. */
const image = ref('')
watchEffect(() => {
  const p = aperturePicture(props.shape)
  image.value = ''
  if (!p || typeof document === 'undefined') return
  const c = Object.assign(document.createElement('canvas'), { width: p.side, height: p.side })
  const g = c.getContext('2d')
  if (!g) return
  const cells = g.createImageData(p.side, p.side)
  p.grey.forEach((v, i) => cells.data.set([v, v, v, 255], i * 4))
  g.putImageData(cells, 0, 0)
  image.value = c.toDataURL()
})
/** At the corner the rim stands aside by the cat's-eye, along the diagonal. */
const aside = computed(() => ((props.shape.catsEye ?? 0) * R) / Math.SQRT2)
const id = `rim-${Math.random().toString(36).slice(2)}`
</script>

<template>
  <span class="pair">
    <svg viewBox="-24 -24 48 48" width="44" height="44" role="img" aria-label="Shape of the aperture">
      <circle class="ring" r="22" />
      <image v-if="image" :href="image" :x="-R" :y="-R" :width="2 * R" :height="2 * R" />
      <path v-else class="shape" :d="d" />
    </svg>
    <svg
      v-if="corner"
      viewBox="-24 -24 48 48"
      width="44"
      height="44"
      role="img"
      aria-label="Its shape in the upper right corner"
    >
      <clipPath :id="id"><circle :cx="-aside" :cy="aside" :r="R" /></clipPath>
      <circle class="ring" r="22" />
      <g :clip-path="`url(#${id})`">
        <image v-if="image" :href="image" :x="-R" :y="-R" :width="2 * R" :height="2 * R" />
        <path v-else class="shape" :d="d" />
      </g>
    </svg>
  </span>
</template>

<style scoped>
.pair {
  display: grid;
  gap: 4px;
}
.ring {
  fill: var(--ink);
}
.shape {
  fill: var(--panel);
  stroke: var(--moss);
  stroke-width: 1.2;
}
</style>

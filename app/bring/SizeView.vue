<script setup lang="ts">
// A model from the front at true proportion, beside a door and a measuring staff: is the unit right, is the right side up?
import { computed, onBeforeUnmount, ref, watchEffect } from 'vue'
import { boxSize, type Box } from '#core/math'
import type { Elevation } from '#mesh'

const props = defineProps<{ front: Elevation | null; boxM: Box }>()
const WIDTH = 420
const HEIGHT = 230
const GROUND = 204
const DOOR = { widthM: 0.9, heightM: 2.1 }
const STAFF_M = 2
const DOOR_RIGHT = 140

const url = ref('')
watchEffect(() => {
  if (!props.front) {
    url.value = ''
    return
  }
  const { width, height, pixels } = props.front
  const c = Object.assign(document.createElement('canvas'), { width, height })
  c.getContext('2d')!.putImageData(new ImageData(new Uint8ClampedArray(pixels), width, height), 0, 0)
  url.value = c.toDataURL()
})
onBeforeUnmount(() => (url.value = ''))

const size = computed(() => boxSize(props.boxM))
/** Pixels a metre: all of the model fits, and the door too unless the model is much smaller. */
const scale = computed(() => {
  const [w, , h] = size.value
  const tall = Math.max(h, Math.min(2.4, Math.max(h, w) * 4))
  return Math.min((GROUND - 14) / Math.max(tall, 1e-6), (WIDTH - 170) / Math.max(w, 1e-6))
})
const model = computed(() => {
  const w = Math.max(1, size.value[0] * scale.value)
  const h = Math.max(1, size.value[2] * scale.value)
  return { x: 150 + (WIDTH - 160 - w) / 2, y: GROUND - h, w, h }
})
const door = computed(() => {
  const k = scale.value
  const w = DOOR.widthM * k
  const h = DOOR.heightM * k
  // beside the staff; beside small things only its edge is in sight
  return { x: DOOR_RIGHT - w, y: GROUND - h, w, h, handle: GROUND - 1.05 * k }
})
/** Fields of the staff, lowest first: decimetres, or centimetres beside small things, metres beside large ones. */
const staff = computed(() => {
  const k = scale.value
  const step = k * 0.1 > 26 ? 0.01 : k * 0.1 >= 3 ? 0.1 : 1
  const top = Math.min(step === 1 ? 40 : STAFF_M, (GROUND - 8) / k)
  const n = Math.floor(top / step + 1e-9)
  const name = (m: number): string =>
    step === 0.01 ? `${Math.round(m * 100)} cm` : `${m.toFixed(step === 1 ? 0 : 1)} m`
  const every =
    step === 1
      ? Math.max(1, Math.ceil(n / 6))
      : step === 0.1
        ? k * 0.5 > 16
          ? 5
          : 10
        : Math.max(1, Math.ceil(14 / (k * step)))
  return Array.from({ length: n }, (_, i) => ({
    y: GROUND - (i + 1) * step * k,
    h: step * k,
    dark: i % 2 === 0,
    label: (i + 1) % every === 0 ? name((i + 1) * step) : '',
  }))
})
</script>

<template>
  <svg
    :viewBox="`0 0 ${WIDTH} ${HEIGHT}`"
    role="img"
    aria-label="The model from the front, beside a door and a measuring staff"
  >
    <path class="ground" :d="`M0 ${GROUND}H${WIDTH}`" />
    <clipPath id="beside-the-staff"><rect x="52" y="0" :width="WIDTH" :height="HEIGHT" /></clipPath>
    <g class="door" clip-path="url(#beside-the-staff)">
      <rect :x="door.x" :y="door.y" :width="door.w" :height="door.h" />
      <circle :cx="door.x + door.w * 0.86" :cy="door.handle" r="1.8" />
    </g>
    <g class="staff">
      <template v-for="s in staff" :key="s.y">
        <rect x="8" :y="s.y" width="7" :height="s.h" :class="{ dark: s.dark }" />
        <text v-if="s.label" x="19" :y="s.y + 3">{{ s.label }}</text>
      </template>
    </g>
    <image
      v-if="url"
      :href="url"
      :x="model.x"
      :y="model.y"
      :width="model.w"
      :height="model.h"
      preserveAspectRatio="none"
    />
    <text class="foot" x="8" :y="GROUND + 16">staff</text>
    <text class="foot" :x="Math.max(52, door.x)" :y="GROUND + 16">door 0.90 × 2.10 m</text>
    <text class="foot" :x="WIDTH - 8" :y="GROUND + 16" text-anchor="end">elevation</text>
  </svg>
</template>

<style scoped>
svg {
  width: 100%;
  display: block;
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 3px;
}
.ground {
  stroke: var(--ink);
  stroke-width: 1;
}
.door rect {
  fill: var(--panel);
  stroke: var(--quiet);
  stroke-width: 1;
}
.door circle {
  fill: var(--quiet);
}
.staff rect {
  fill: var(--panel);
  stroke: var(--quiet);
  stroke-width: 0.7;
}
.staff rect.dark {
  fill: var(--quiet);
}
text {
  font: 9.5px var(--mono);
  fill: var(--quiet);
}
text.foot {
  font: 10px var(--font);
}
</style>

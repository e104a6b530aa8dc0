<script setup lang="ts">
// Which part of the sensor the picture takes: four small pictures of picture and sensor, with a word each.
import type { SensorUse } from '#core/camera'

defineProps<{ modelValue: SensorUse }>()
defineEmits<{ change: [use: SensorUse] }>()
/** Sensor and picture in a field of 40 x 28; an upright picture shows all four apart. */
const USES: readonly {
  readonly value: SensorUse
  readonly label: string
  readonly title: string
  readonly picture: readonly [number, number, number, number]
}[] = [
  { value: 'acrossWidth', label: 'its width', title: 'The picture is as wide as the sensor, whatever its height', picture: [8, 8, 24, 12] }, // prettier-ignore
  { value: 'acrossHeight', label: 'its height', title: 'The picture is as high as the sensor, whatever its width', picture: [13, 6, 14, 16] }, // prettier-ignore
  { value: 'inside', label: 'a crop', title: 'The picture is cut out of the sensor: never larger than it', picture: [11, 9, 18, 10] }, // prettier-ignore
  { value: 'covers', label: 'all of it', title: 'The picture takes in the whole sensor, and reaches past it where the shapes differ', picture: [4, 6, 32, 16] }, // prettier-ignore
]
</script>

<template>
  <div class="row" role="radiogroup" aria-label="The picture takes of the sensor">
    <span class="quiet">Takes of it</span>
    <div class="uses">
      <button
        v-for="u in USES"
        :key="u.value"
        type="button"
        class="plain"
        role="radio"
        :aria-checked="u.value === modelValue"
        :title="u.title"
        @click="$emit('change', u.value)"
      >
        <svg viewBox="0 0 40 28" aria-hidden="true">
          <rect class="sensor" x="8" y="6" width="24" height="16" />
          <rect class="picture" :x="u.picture[0]" :y="u.picture[1]" :width="u.picture[2]" :height="u.picture[3]" />
        </svg>
        {{ u.label }}
      </button>
    </div>
  </div>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: 92px 1fr;
  align-items: center;
  column-gap: 8px;
  padding: 3px 14px;
}
.uses {
  display: grid;
  grid-template-columns: repeat(4, 1fr);
}
.plain {
  display: grid;
  justify-items: center;
  font-size: 11px;
  font-stretch: 80%;
  white-space: nowrap;
  padding: 2px 0;
  border-radius: 4px;
  border: 1px solid transparent;
}
[aria-checked='true'] {
  border-color: var(--plum);
  color: var(--plum);
}
svg {
  width: 38px;
}
.sensor {
  fill: none;
  stroke: var(--line-strong);
  stroke-dasharray: 2 1.5;
}
.picture {
  fill: var(--plum-soft);
  stroke: currentColor;
}
</style>

<script setup lang="ts">
// Which part of the sensor the picture takes: four small pictures of this picture on this sensor, with a word each.
import { computed } from 'vue'
import { usedSensor, type Frame, type Lens, type SensorUse } from '#core/camera'

const props = defineProps<{ lens: Lens; frame: Frame }>()
defineEmits<{ change: [use: SensorUse] }>()
const USES: readonly { readonly value: SensorUse; readonly label: string; readonly title: string }[] = [
  { value: 'acrossWidth', label: 'fits width', title: 'The picture is as wide as the sensor, whatever its height' },
  { value: 'acrossHeight', label: 'fits height', title: 'The picture is as high as the sensor, whatever its width' },
  { value: 'inside', label: 'within', title: 'The picture is cut out of the sensor: never larger than it' },
  {
    value: 'covers',
    label: 'around',
    title: 'The picture takes in the whole sensor, and reaches past it where the shapes differ',
  },
]
/** A field of 40 x 28 in which all four have the same scale. */
const pictures = computed(() => {
  const { sensorMm } = props.lens
  const sizes = USES.map((u) => usedSensor({ sensorMm, sensorUse: u.value }, props.frame))
  const widest = Math.max(sensorMm.width, ...sizes.map((s) => s.widthMm))
  const highest = Math.max(sensorMm.height, ...sizes.map((s) => s.heightMm))
  const k = Math.min(36 / widest, 24 / highest)
  const box = (w: number, h: number) => ({ x: 20 - (w * k) / 2, y: 14 - (h * k) / 2, width: w * k, height: h * k })
  return {
    sensor: box(sensorMm.width, sensorMm.height),
    uses: USES.map((u, i) => ({ ...u, picture: box(sizes[i]!.widthMm, sizes[i]!.heightMm) })),
  }
})
</script>

<template>
  <div class="row" role="radiogroup" aria-label="How the picture lies on the sensor">
    <span class="quiet">Picture on it</span>
    <div class="uses">
      <button
        v-for="u in pictures.uses"
        :key="u.value"
        type="button"
        class="plain"
        role="radio"
        :aria-checked="u.value === lens.sensorUse"
        :title="u.title"
        @click="$emit('change', u.value)"
      >
        <svg viewBox="0 0 40 28" aria-hidden="true">
          <rect class="picture" v-bind="u.picture" />
          <rect class="sensor" v-bind="pictures.sensor" />
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
  font-stretch: 75%;
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
  stroke: var(--quiet);
  stroke-dasharray: 2 1.5;
}
.picture {
  fill: var(--plum-soft);
  stroke: currentColor;
}
</style>

<script setup lang="ts">
// A time of the reel at hand: shown and typed in seconds, frames or timecode, as chosen; arrow keys go by the step, or by frames.
import { computed } from 'vue'
import { parseTime, timeSuffix, timeText } from '#core/reel'
import NumberField from '../controls/NumberField.vue'
import { useFilm } from './film.ts'

defineOptions({ inheritAttrs: false })
const { step = 0.1, digits = 2 } = defineProps<{ step?: number; digits?: number }>()
const { fps, timeUnit } = useFilm()
const reading = computed(() => ({
  suffix: timeSuffix(timeUnit.value),
  format: (v: number) => timeText(v, timeUnit.value, fps.value, digits),
  parse: (text: string) => parseTime(text, timeUnit.value, fps.value),
}))
</script>

<template>
  <NumberField
    v-bind="$attrs as { label: string; modelValue: number }"
    :reading="reading"
    :step="timeUnit === 'seconds' ? step : 1 / fps"
  />
</template>

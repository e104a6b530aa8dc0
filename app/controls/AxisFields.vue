<script setup lang="ts">
// Three lengths along the axes, each a number of its own.
import type { LengthUnit } from '#core/base'
import type { Vec3 } from '#core/math'
import NumberField from './NumberField.vue'

export type Axis = 0 | 1 | 2
defineProps<{
  labels: readonly [string, string, string]
  value: Vec3
  unit: LengthUnit
  usualM?: number
  resetTo?: number
  hint?: string
  step?: number
  min?: number
  disabled?: boolean
}>()
const emit = defineEmits<{ change: [axis: Axis, m: number]; live: [axis: Axis, m: number]; settle: []; cancel: [] }>()
const AXES = [0, 1, 2] as const
</script>

<template>
  <NumberField
    v-for="axis in AXES"
    :key="labels[axis]"
    :label="labels[axis]"
    kind="length"
    :unit="unit"
    :model-value="value[axis]"
    :step="step ?? 0.01"
    :usual-m="usualM ?? 0"
    :reset-to="resetTo"
    :hint="hint ?? ''"
    :min="min ?? -Infinity"
    :disabled="disabled"
    @change="emit('change', axis, $event)"
    @live="emit('live', axis, $event)"
    @settle="emit('settle')"
    @cancel="emit('cancel')"
  />
</template>

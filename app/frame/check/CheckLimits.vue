<script setup lang="ts">
// Limits of the frame check, the project's own: in one place.
import { limitOf, LIMITS, type LimitName } from '#core/checks'
import NumberField from '../../controls/NumberField.vue'
import { useProject } from '../../stores/project.ts'

const project = useProject()
const NAMES = Object.keys(LIMITS) as LimitName[]
/** A limit set back to its own value is no longer the project's. */
function set(name: LimitName, value: number): void {
  const { [name]: _, ...rest } = project.document?.checkLimits ?? {}
  const checkLimits = value === LIMITS[name].value ? rest : { ...rest, [name]: value }
  project.run({ type: 'setProject', changes: { checkLimits } })
}
</script>

<template>
  <details class="limits">
    <summary>Limits</summary>
    <NumberField
      v-for="name in NAMES"
      :key="name"
      :label="LIMITS[name].label"
      :suffix="LIMITS[name].unit === 'ratio' ? '' : LIMITS[name].unit"
      :digits="LIMITS[name].unit === 'ratio' ? 2 : 0"
      :model-value="limitOf(project.document?.checkLimits, name)"
      :step="LIMITS[name].unit === 'ratio' ? 0.05 : 1"
      :min="LIMITS[name].min"
      :max="LIMITS[name].max"
      :reset-to="LIMITS[name].value"
      @change="set(name, $event)"
    />
  </details>
</template>

<style scoped>
.limits {
  padding-bottom: 6px;
}
summary {
  padding: 3px 14px;
  cursor: pointer;
  color: var(--quiet);
  font-size: 12px;
}
.limits :deep(.row) {
  grid-template-columns: 1fr 92px;
  font-size: 12px;
}
</style>

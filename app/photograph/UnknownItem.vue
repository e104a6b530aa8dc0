<script setup lang="ts">
// One unknown of the camera: its value with plus and minus, and whether it is solved, near what is known, or held.
import { computed } from 'vue'
import NumberField from '../controls/NumberField.vue'
import { solvedOf } from '#model/photo'
import { useMatch } from './match.ts'
import { kindOf, startOf, treated, valueOf, withStart, type UnknownField, type UnknownRow } from './unknowns.ts'

const props = defineProps<{ row: UnknownRow }>()
const { match, solved, put, change } = useMatch()
const now = computed(() => (solved.value ? solvedOf(solved.value.estimate) : null))
const first = computed(() => props.row.fields[0]!)
const kind = computed(() => kindOf(match.value!, first.value.unknown))
const shown = computed(() => {
  const from = now.value ?? match.value!.start
  const { suffix, digits, factor } = first.value
  return `${props.row.fields.map((f) => (valueOf(from, f.unknown) * factor).toFixed(digits)).join(', ')}${suffix === '°' ? '' : ' '}${suffix}`.replaceAll('-', '−') // prettier-ignore
})
const sd = computed(() => {
  const told = props.row.fields.map((f) => solved.value?.sd[f.unknown])
  if (told.some((v) => v === undefined)) return ''
  return `± ${told.map((v, i) => (v! * props.row.fields[i]!.factor).toFixed(first.value.digits)).join(', ')}`
})
const KINDS = [
  { value: 'free', label: 'solve' },
  { value: 'near', label: 'near' },
  { value: 'fixed', label: 'hold' },
] as const
function setSd(f: UnknownField, v: number): void {
  change({ treatments: { ...match.value!.treatments, [f.unknown]: { sd: v / f.factor } } })
}
const sdOf = (f: UnknownField): number => {
  const t = match.value!.treatments[f.unknown]
  return (typeof t === 'object' ? t.sd : f.usualSd) * f.factor
}
</script>

<template>
  <div class="item">
    <span class="name quiet" :title="row.title">{{ row.name }}</span>
    <span class="num value">
      {{ shown }} <span class="quiet">{{ sd }}</span>
    </span>
    <div class="kinds" role="radiogroup" :aria-label="`${row.name}: solve, near or hold`">
      <button
        v-for="k in KINDS"
        :key="k.value"
        role="radio"
        :aria-checked="kind === k.value"
        :class="{ on: kind === k.value }"
        @click="put(treated(match!, row, k.value, now))"
      >
        {{ k.label }}
      </button>
    </div>
    <template v-if="kind !== 'free'">
      <template v-for="f in row.fields" :key="f.unknown">
        <NumberField
          :label="f.label"
          :suffix="f.suffix"
          :digits="f.digits"
          :step="10 ** -f.digits * 10"
          :model-value="startOf(match!, f.unknown) * f.factor"
          @change="put(withStart(match!, f.unknown, $event / f.factor))"
        />
        <NumberField
          v-if="kind === 'near'"
          :label="`± one sigma`"
          :suffix="f.suffix"
          :digits="f.digits"
          :min="10 ** -f.digits"
          :model-value="sdOf(f)"
          @change="setSd(f, $event)"
        />
      </template>
    </template>
  </div>
</template>

<style scoped>
.item {
  display: grid;
  grid-template-columns: 76px 1fr auto;
  align-items: center;
  gap: 1px 6px;
  padding: 2px 14px;
  font-size: 12px;
}
.item > :deep(.row) {
  grid-column: 1 / 4;
  margin: 0 -14px;
}
.value {
  grid-column: 2 / 4;
}
.kinds {
  grid-column: 2 / 4;
  justify-self: start;
  display: flex;
  border: 1px solid var(--line);
  border-radius: 4px;
  overflow: hidden;
}
button {
  appearance: none;
  border: 0;
  border-right: 1px solid var(--line);
  background: none;
  padding: 1px 9px;
  font: inherit;
  font-size: 10.5px;
  color: var(--quiet);
  cursor: pointer;
}
button:last-child {
  border-right: 0;
}
button.on {
  background: var(--plum-soft);
  color: var(--plum);
}
button:focus-visible {
  outline: 2px solid var(--plum);
  outline-offset: -2px;
}
</style>

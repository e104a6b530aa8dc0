<script setup lang="ts" generic="T extends string">
// A row of two to five choices, all visible.
defineProps<{
  label: string
  modelValue: T
  options: readonly { value: T; label: string; title?: string }[]
  disabled?: boolean
}>()
defineEmits<{ change: [value: T] }>()
</script>

<template>
  <div class="row" role="radiogroup" :aria-label="label">
    <span class="quiet">{{ label }}</span>
    <div class="choices">
      <button
        v-for="o in options"
        :key="o.value"
        type="button"
        role="radio"
        :aria-checked="o.value === modelValue"
        :class="{ on: o.value === modelValue }"
        :title="o.title"
        :disabled="disabled"
        @click="$emit('change', o.value)"
      >
        {{ o.label }}
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
.choices {
  display: flex;
  border: 1px solid var(--line);
  border-radius: 4px;
  overflow: hidden;
}
button {
  appearance: none;
  flex: 1 1 auto;
  min-width: 0;
  border: 0;
  border-right: 1px solid var(--line);
  background: none;
  padding: 4px 4px;
  font-size: 11.5px;
  font-stretch: 82%;
  cursor: pointer;
}
button:last-child {
  border-right: 0;
}
button.on {
  background: var(--plum);
  color: var(--on-plum);
}
button:focus-visible {
  outline-offset: -2px;
}
</style>

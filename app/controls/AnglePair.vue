<script setup lang="ts">
// Two angles in degrees and a button that does something with them.
import { ref } from 'vue'

const props = defineProps<{
  start: readonly [number, number]
  labels: readonly [string, string]
  action: string
  title: string
}>()
const emit = defineEmits<{ go: [first: number, second: number] }>()
const angles = ref<readonly [number, number]>(props.start)
function typed(at: 0 | 1, e: Event): void {
  const v = Number((e.target as HTMLInputElement).value) || 0
  angles.value = at === 0 ? [v, angles.value[1]] : [angles.value[0], v]
}
</script>

<template>
  <form @submit.prevent="emit('go', angles[0], angles[1])">
    <template v-for="at in [0, 1] as const" :key="at">
      <input
        class="num"
        type="number"
        step="any"
        :aria-label="labels[at]"
        :value="angles[at]"
        @input="typed(at, $event)"
      /><span class="unit">°</span>
    </template>
    <button class="btn" :title="title">{{ action }}</button>
  </form>
</template>

<style scoped>
form {
  display: flex;
  gap: 4px;
  align-items: center;
}
input {
  width: 38px;
  border: 0;
  border-bottom: 1px solid var(--line);
  background: none;
  text-align: right;
}
.btn {
  min-height: 24px;
  padding: 2px 8px;
  font-size: 11.5px;
}
</style>

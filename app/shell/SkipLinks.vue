<script setup lang="ts">
// The first stops of the page for who goes by keyboard: past the header to where the work is.
import { nextTick } from 'vue'
import { useView } from '../stores/view.ts'

const TO = [
  { id: 'picture', label: 'To the picture' },
  { id: 'panel', label: 'To the opened panel' },
  { id: 'sheet', label: 'To the contact sheet' },
] as const
const view = useView()
async function go(id: string): Promise<void> {
  // on a narrow window the panel is a drawer
  if (id === 'panel') view.drawer = 'right'
  await nextTick()
  const place = document.getElementById(id)
  const first = place?.matches('[tabindex]')
    ? place
    : place?.querySelector<HTMLElement>('button:not(:disabled), input:not(:disabled), [tabindex="0"]')
  ;(first ?? place)?.focus()
}
</script>

<template>
  <nav class="skip" aria-label="Skip to">
    <button v-for="t in TO" :key="t.id" class="btn" @click="go(t.id)">{{ t.label }}</button>
  </nav>
</template>

<style scoped>
.skip {
  position: fixed;
  left: 8px;
  top: -60px;
  z-index: 3000;
  display: flex;
  gap: 6px;
  padding: 6px;
  background: var(--panel);
  border: 1px solid var(--line-strong);
  border-radius: 4px;
}
.skip:focus-within {
  top: 4px;
}
</style>

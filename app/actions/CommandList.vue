<script setup lang="ts">
// All commands by name: type a few letters, arrows, Enter.
import Dialog from 'primevue/dialog'
import { computed, ref, watch } from 'vue'
import { useView } from '../stores/view.ts'
import { useActions, type Action } from './registry.ts'

const view = useView()
const actions = useActions()
const text = ref('')
const at = ref(0)
const found = computed(() => {
  const words = text.value.toLowerCase().split(/\s+/).filter(Boolean)
  return actions.value.filter((a) => a.id !== 'commands' && words.every((w) => a.label.toLowerCase().includes(w)))
})
watch(found, () => (at.value = 0))
watch(
  () => view.commands,
  () => (text.value = ''),
)
function go(a: Action | undefined): void {
  if (!a || !a.enabled()) return
  view.commands = false
  a.run()
}
</script>

<template>
  <Dialog
    v-model:visible="view.commands"
    modal
    header="Commands"
    position="top"
    :style="{ width: '420px' }"
    :draggable="false"
    dismissable-mask
  >
    <input
      v-model="text"
      class="search"
      aria-label="Search the commands"
      placeholder="What do you want to do?"
      autofocus
      @keydown.down.prevent="at = Math.min(found.length - 1, at + 1)"
      @keydown.up.prevent="at = Math.max(0, at - 1)"
      @keydown.enter.prevent="go(found[at])"
    />
    <ul role="listbox" aria-label="Commands">
      <li
        v-for="(a, i) in found"
        :key="a.id"
        role="option"
        :aria-selected="i === at"
        :class="{ at: i === at, off: !a.enabled() }"
        @click="go(a)"
        @pointermove="at = i"
      >
        <span>{{ a.label }}</span><kbd v-if="a.key" class="num">{{ a.key }}</kbd>
      </li>
      <li v-if="found.length === 0" class="quiet">No command has these words.</li>
    </ul>
  </Dialog>
</template>

<style scoped>
.search {
  width: 100%;
  padding: 7px 9px;
  border: 1px solid var(--line-strong);
  border-radius: 4px;
  background: var(--paper);
}
ul {
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
  max-height: 340px;
  overflow: auto;
}
li {
  display: flex;
  justify-content: space-between;
  padding: 5px 8px;
  border-radius: 3px;
  cursor: pointer;
}
li.at {
  background: var(--plum-soft);
}
li.off {
  opacity: 0.45;
}
kbd {
  color: var(--quiet);
}
</style>

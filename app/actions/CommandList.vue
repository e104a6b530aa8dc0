<script setup lang="ts">
// All commands by name, in groups, what was used last on top: type a few letters, arrows, Enter.
import Dialog from 'primevue/dialog'
import { computed, nextTick, ref, watch } from 'vue'
import { useView } from '../stores/view.ts'
import { remember, shownKey, useActions, useUsed, type Action } from './registry.ts'

const view = useView()
const actions = useActions()
const text = ref('')
const at = ref(0)
const used = useUsed()
interface Row {
  readonly id: string
  readonly action: Action
  /** Shown above the row where a group begins. */
  readonly heading: string
}
const found = computed<Row[]>(() => {
  const words = text.value.toLowerCase().split(/\s+/).filter(Boolean)
  const fits = (a: Action): boolean =>
    a.id !== 'commands' && words.every((w) => a.label.toLowerCase().includes(w) || a.group.toLowerCase() === w)
  const all = actions.value.filter(fits)
  const last = used.value.flatMap((id) => all.find((a) => a.id === id && a.enabled()) ?? [])
  const rows = [
    ...last.map((action) => ['Used last', action] as const),
    ...all.map((action) => [action.group, action] as const),
  ]
  return rows.map(([group, action], i) => ({
    id: `${group}|${action.id}`,
    action,
    heading: rows[i - 1]?.[0] === group ? '' : group,
  }))
})
const list = ref<HTMLElement | null>(null)
function to(row: number): void {
  at.value = Math.min(found.value.length - 1, Math.max(0, row))
  void nextTick(() => list.value?.querySelector('[aria-selected=true]')?.scrollIntoView({ block: 'nearest' }))
}
watch(found, () => (at.value = 0))
watch(
  () => view.commands,
  () => (text.value = ''),
)
function go(a: Action | undefined): void {
  if (!a || !a.enabled()) return
  view.commands = false
  remember(a.id)
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
      role="combobox"
      aria-expanded="true"
      aria-controls="command-list"
      :aria-activedescendant="found.length ? `command-${at}` : undefined"
      @keydown.down.prevent="to(at + 1)"
      @keydown.up.prevent="to(at - 1)"
      @keydown.home.prevent="to(0)"
      @keydown.end.prevent="to(found.length - 1)"
      @keydown.enter.prevent="go(found[at]?.action)"
    />
    <ul id="command-list" ref="list" role="listbox" tabindex="0" aria-label="Commands">
      <template v-for="(row, i) in found" :key="row.id">
        <li v-if="row.heading" class="heading" role="presentation">{{ row.heading }}</li>
        <li
          :id="`command-${i}`"
          role="option"
          :aria-selected="i === at"
          :class="{ at: i === at, off: !row.action.enabled() }"
          @click="go(row.action)"
          @pointermove="at = i"
        >
          <span>{{ row.action.label }}</span><kbd v-if="row.action.key" class="num">{{ shownKey(row.action.key) }}</kbd>
        </li>
      </template>
      <li v-if="found.length === 0" class="quiet">No command has these words.</li>
    </ul>
  </Dialog>
</template>

<style scoped>
.heading {
  padding: 9px 9px 2px;
  font-size: 11px;
  font-weight: 600;
  color: var(--quiet);
}
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

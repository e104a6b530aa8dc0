<script setup lang="ts">
// Named sets of objects: each hidden or shown as a whole; viewpoints keep which. A set changed later changes in all of them.
import { IconTrash } from '@tabler/icons-vue'
import { computed, ref } from 'vue'
import { NAME_LIMIT, type ObjectSet } from '#model'
import { useHiding } from '../selection/hiding.ts'
import { useSelection } from '../selection/selection.ts'
import { useView } from '../../stores/view.ts'

const { sets, isOff, switchSet, addSet, rename, change, drop } = useHiding()
const { select } = useSelection()
const view = useView()
const name = ref('')
const chosen = computed(() => view.selection.length)
const holdsAll = (s: ObjectSet): boolean => view.selection.every((id) => s.objects.includes(id))
function add(): void {
  const text = name.value.trim() || `Set ${sets.value.length + 1}`
  if (addSet(text, view.selection)) name.value = ''
}
function named(s: ObjectSet, e: Event): void {
  const input = e.target as HTMLInputElement
  if (input.value.trim() === s.name || !rename(s, input.value)) input.value = s.name
}
</script>

<template>
  <div class="sets" data-testid="object-sets">
    <p v-if="sets.length === 0" class="quiet">
      Select objects, give them a name, and they are hidden or shown together. Viewpoints keep which sets they hide.
    </p>
    <ul>
      <li v-for="s in sets" :key="s.id" :class="{ off: isOff(s) }">
        <input
          type="checkbox"
          :checked="!isOff(s)"
          :aria-label="`Show the set ${s.name}`"
          @change="switchSet(s, !isOff(s))"
        />
        <input
          class="name"
          :value="s.name"
          aria-label="Name of the set"
          :maxlength="NAME_LIMIT"
          @change="named(s, $event)"
          @keydown.enter="($event.target as HTMLInputElement).blur()"
        />
        <span class="num quiet">{{ s.objects.length }}</span>
        <span class="do">
          <button class="plain link" :disabled="s.objects.length === 0" @click="select(s.objects)">Select</button>
          <button
            class="plain link"
            :disabled="chosen === 0"
            :title="holdsAll(s) ? 'Takes what is selected out of the set' : 'Takes what is selected into the set'"
            @click="change(s, holdsAll(s) ? 'out' : 'in')"
          >
            {{ chosen > 0 && holdsAll(s) ? 'Take out' : 'Take in' }}
          </button>
          <button class="plain link" :title="`Delete the set “${s.name}”; what it hides stays hidden`" @click="drop(s)">
            <IconTrash :size="14" stroke="1.6" /><span class="visually-hidden">Delete {{ s.name }}</span>
          </button>
        </span>
      </li>
    </ul>
    <form class="new" @submit.prevent="add">
      <input v-model="name" aria-label="Name of a new set" placeholder="Name of a new set" :maxlength="NAME_LIMIT" />
      <button class="btn" :disabled="chosen === 0" title="A set of what is selected">
        {{ chosen === 0 ? 'Select objects first' : chosen === 1 ? 'Of the selected one' : `Of ${chosen} objects` }}
      </button>
    </form>
  </div>
</template>

<style scoped>
.sets {
  overflow: auto;
  padding: 2px 14px 10px;
  font-size: 12.5px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: 18px minmax(0, 1fr) auto;
  align-items: center;
  column-gap: 6px;
  padding: 3px 0;
  border-bottom: 1px solid var(--line);
}
li > input[type='checkbox'] {
  accent-color: var(--plum);
  margin: 0;
}
.name,
.new input {
  border: 0;
  border-bottom: 1px solid transparent;
  background: none;
  padding: 2px 0;
  min-width: 0;
}
.new input {
  border-color: var(--line-strong);
}
.name:hover,
.name:focus {
  border-color: var(--line-strong);
}
.off .name {
  color: var(--quiet);
  text-decoration: line-through;
}
.do {
  grid-column: 2 / -1;
  display: flex;
  gap: 12px;
  align-items: center;
  min-height: 24px;
}
.link:disabled {
  color: var(--quiet);
  cursor: default;
}
.num {
  font-size: 11.5px;
}
.new {
  display: grid;
  gap: 6px;
  padding-top: 8px;
}
</style>

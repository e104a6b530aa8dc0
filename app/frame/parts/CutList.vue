<script setup lang="ts">
// The cuts by name: on, reversed, locked, out; the chosen one with its numbers.
import { IconFlipHorizontal, IconLock, IconLockOpen, IconTrash } from '@tabler/icons-vue'
import type { Cut } from '#core/section'
import { KIND_WORDS, useCuts } from '../cuts/cuts.ts'
import CutNumbers from './CutNumbers.vue'

const { list, chosenId, change, remove } = useCuts()
/** A cut that is locked only switches; `locked` itself is there or it is not. */
function lock(c: Cut): void {
  const { locked, ...rest } = c
  change((locked ? rest : { ...rest, locked: true }) as Cut)
}
function named(c: Cut, e: Event): void {
  const input = e.target as HTMLInputElement
  const name = input.value.trim().slice(0, 200)
  if (!name || name === c.name || !change({ ...c, name })) input.value = c.name
}
const choose = (c: Cut): void => void (chosenId.value = chosenId.value === c.id ? null : c.id)
</script>

<template>
  <ul v-if="list.length > 0" class="cuts" data-testid="cuts">
    <li v-for="c in list" :key="c.id" :class="{ chosen: c.id === chosenId, off: !c.on }" data-testid="cut">
      <div class="row">
        <input type="checkbox" :checked="c.on" :aria-label="`Cut ${c.name} on`" @change="change({ ...c, on: !c.on })" />
        <input
          class="name"
          :value="c.name"
          :aria-label="`Name of cut ${c.name}`"
          spellcheck="false"
          @change="named(c, $event)"
          @keydown.enter="($event.target as HTMLInputElement).blur()"
        />
        <button
          class="plain kind"
          :aria-expanded="c.id === chosenId"
          :title="`Numbers and handles of cut ${c.name}`"
          @click="choose(c)"
        >
          {{ KIND_WORDS[c.kind] }}
        </button>
        <button
          class="plain"
          :class="{ on: c.reversed }"
          :aria-pressed="c.reversed"
          :disabled="c.locked"
          title="The other side goes"
          @click="change({ ...c, reversed: !c.reversed })"
        >
          <IconFlipHorizontal :size="15" stroke="1.6" /><span class="visually-hidden">Reverse cut {{ c.name }}</span>
        </button>
        <button
          class="plain"
          :class="{ on: c.locked }"
          :aria-pressed="c.locked === true"
          :title="c.locked ? 'Unlock' : 'Lock: neither drags nor numbers move it'"
          @click="lock(c)"
        >
          <component :is="c.locked ? IconLock : IconLockOpen" :size="15" stroke="1.6" /><span class="visually-hidden"
            >{{ c.locked ? 'Unlock' : 'Lock' }} cut {{ c.name }}</span
          >
        </button>
        <button class="plain" title="Take the cut out" @click="remove(c.id)">
          <IconTrash :size="15" stroke="1.6" /><span class="visually-hidden">Take out cut {{ c.name }}</span>
        </button>
      </div>
      <CutNumbers v-if="c.id === chosenId" :cut="c" />
    </li>
  </ul>
</template>

<style scoped>
.cuts {
  list-style: none;
  margin: 0;
  padding: 2px 0;
}
.row {
  display: flex;
  align-items: center;
  gap: 2px;
  padding: 1px 8px 1px 14px;
  min-height: 28px;
}
.chosen {
  background: color-mix(in srgb, var(--petrol) 8%, transparent);
}
.row input[type='checkbox'] {
  accent-color: var(--petrol);
  margin: 0 4px 0 0;
}
.name {
  width: 54px;
  min-width: 30px;
  flex: 1;
  border: 0;
  border-bottom: 1px solid transparent;
  background: none;
  font-weight: 600;
  color: var(--petrol);
  padding: 2px;
}
.name:focus-visible,
.name:hover {
  border-color: var(--line-strong);
  outline: none;
}
.kind {
  color: var(--quiet);
  font-size: 12px;
}
.kind[aria-expanded='true'] {
  color: var(--petrol);
}
.off .name {
  color: var(--quiet);
  font-weight: 400;
}
.row .plain {
  min-width: 24px;
  min-height: 24px;
  line-height: 1;
  color: var(--quiet);
}
.row .plain.on {
  color: var(--petrol);
}
</style>

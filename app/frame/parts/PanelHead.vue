<script setup lang="ts">
// A panel's title, whether the part differs from the viewpoint, and its lock.
import { IconLock, IconLockOpen } from '@tabler/icons-vue'
import { computed } from 'vue'
import { partsOfCell, sourceOf, type CellName } from '#model'
import { useProject } from '../../stores/project.ts'

const props = defineProps<{ cell: CellName; title: string }>()
const project = useProject()
const parts = computed(() => partsOfCell(props.cell))
const locked = computed(() => parts.value.every((p) => project.document?.locked.includes(p)))
/** The viewpoint that set this part last, else the one recalled last. */
const from = computed(() => {
  const doc = project.document
  if (!doc) return undefined
  return parts.value.map((p) => sourceOf(doc, p)).find((v) => v !== undefined) ?? project.recalled
})
const state = computed(() => {
  if (!from.value) return ''
  return parts.value.some((p) => project.changed.includes(p))
    ? `changed since “${from.value.name}”`
    : `as in “${from.value.name}”`
})
function toggle(): void {
  const to = !locked.value
  for (const part of parts.value)
    if (project.document?.locked.includes(part) !== to) project.run({ type: 'lockPart', part, locked: to })
}
</script>

<template>
  <header>
    <h2>{{ title }}</h2>
    <span class="state quiet">{{ locked ? 'locked' : state }}</span>
    <button
      class="plain lock"
      :class="{ on: locked }"
      :aria-pressed="locked"
      :title="locked ? 'Unlock: drags and recalls change it again' : 'Lock: drags and recalls leave it alone'"
      @click="toggle"
    >
      <IconLock v-if="locked" :size="15" stroke="1.6" />
      <IconLockOpen v-else :size="15" stroke="1.6" />
      <span class="visually-hidden">{{ locked ? 'Unlock' : 'Lock' }} {{ title }}</span>
    </button>
  </header>
</template>

<style scoped>
header {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 10px 14px 6px;
}
h2 {
  font-size: 13px;
  font-weight: 600;
}
.state {
  flex: 1;
  font-size: 12px;
  text-align: right;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.lock {
  color: var(--quiet);
  line-height: 0;
  padding: 3px;
  border-radius: 4px;
}
.lock.on {
  color: var(--plum);
}
</style>

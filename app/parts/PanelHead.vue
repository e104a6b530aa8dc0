<script setup lang="ts">
// A panel's title, whether the part differs from the viewpoint, and its lock.
import { IconLock, IconLockOpen } from '@tabler/icons-vue'
import { computed } from 'vue'
import type { PartName } from '#model'
import { useProject } from '../stores/project.ts'

const props = defineProps<{ part: PartName; title: string }>()
const project = useProject()
const locked = computed(() => project.document?.locked.includes(props.part) ?? false)
const state = computed(() => {
  if (!project.recalled) return ''
  return project.changed.includes(props.part)
    ? `changed since “${project.recalled.name}”`
    : `as in “${project.recalled.name}”`
})
const toggle = (): void => void project.run({ type: 'lockPart', part: props.part, locked: !locked.value })
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

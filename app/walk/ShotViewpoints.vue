<script setup lang="ts">
// The viewpoints a shot is made of: what it shows, or what it takes lens, light and look from; another may be chosen, also for one that is gone.
import { computed } from 'vue'
import type { ShotPart } from '#model'
import { LateSelect } from '../controls/late-select.ts'
import { useProject } from '../stores/project.ts'

const { shot } = defineProps<{ shot: ShotPart }>()
const emit = defineEmits<{ set: [changes: object] }>()

const project = useProject()
const viewpoints = computed(() => (project.document?.viewpoints ?? []).map((v) => ({ value: v.id, label: v.name })))
const rows = computed(() =>
  shot.kind === 'push'
    ? [
        { key: 'fromId', label: 'From', title: 'The viewpoint it begins with', id: shot.fromId },
        { key: 'toId', label: 'To', title: 'The viewpoint it ends with', id: shot.toId },
      ]
    : [{ key: 'viewpointId', ...saysOf(shot.kind), id: shot.viewpointId }],
)
function saysOf(kind: Exclude<ShotPart['kind'], 'push'>): { readonly label: string; readonly title: string } {
  if (kind === 'hold') return { label: 'Shows', title: 'The viewpoint it holds' }
  return { label: 'Seen as in', title: 'Lens, light and look are those of this viewpoint' }
}
const has = (id: string): boolean => viewpoints.value.some((v) => v.value === id)
</script>

<template>
  <label v-for="r in rows" :key="r.key" class="pick" :title="r.title"
    ><span class="quiet">{{ r.label }}</span>
    <LateSelect
      :model-value="has(r.id) ? r.id : null"
      :options="viewpoints"
      option-label="label"
      option-value="value"
      placeholder="gone: choose one"
      empty-message="There are no viewpoints."
      :aria-label="r.title"
      size="small"
      @update:model-value="emit('set', { [r.key]: $event })"
  /></label>
</template>

<style scoped src="../controls/boxes.css"></style>

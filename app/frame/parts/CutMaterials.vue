<script setup lang="ts">
// Which class is each material of, that its cut faces are hatched by? Proposed from its name, set by hand for the whole project.
import Select from 'primevue/select'
import { computed } from 'vue'
import { MATERIAL_CLASSES, proposedClass, type MaterialClass } from '#core/section'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'

const project = useProject()
const stage = useStage()
const byHand = computed(() => project.document?.materialClasses ?? {})
const materials = computed(() =>
  [...new Set((stage.facts?.nodes ?? []).flatMap((n) => (n.kind === 'surroundings' ? [] : n.materials.slice(0, 1))))]
    .sort((a, b) => a.localeCompare(b, 'en'))
    .map((name) => ({ name, proposed: proposedClass(name), set: byHand.value[name] })),
)
const options = (proposed: MaterialClass) =>
  MATERIAL_CLASSES.map((value) => ({ value, label: value === proposed ? `${value} ·` : value }))
function choose(name: string, proposed: MaterialClass, value: MaterialClass): void {
  const { [name]: _, ...others } = byHand.value
  project.run({
    type: 'setProject',
    changes: { materialClasses: value === proposed ? others : { ...others, [name]: value } },
  })
}
</script>

<template>
  <details class="materials">
    <summary>Materials ({{ materials.length }})</summary>
    <p class="text quiet">Proposed from their names (·), set by hand for the whole project.</p>
    <ul>
      <li v-for="m in materials" :key="m.name">
        <span :class="{ quiet: !m.set }" :title="m.name">{{ m.name || 'without a name' }}</span>
        <Select
          :model-value="m.set ?? m.proposed"
          :options="options(m.proposed)"
          option-label="label"
          option-value="value"
          size="small"
          :aria-label="`Class of ${m.name}`"
          @update:model-value="choose(m.name, m.proposed, $event)"
        />
      </li>
    </ul>
  </details>
</template>

<style scoped src="./panel.css"></style>
<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0 14px 6px;
}
li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 118px;
  align-items: center;
  gap: 8px;
  min-height: 26px;
  font-size: 12px;
}
span {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.materials :deep(.p-select-label) {
  padding: 3px 8px;
  font-size: 11.5px;
}
</style>

<script setup lang="ts">
// Storeys or materials as rows: shown, hidden or in part, and a click that selects all of one.
import { computed } from 'vue'
import type { ObjectGroup } from '#core/section'
import { useHiding } from '../selection/hiding.ts'
import { useSelection } from '../selection/selection.ts'

const props = defineProps<{ groups: readonly ObjectGroup[]; search: string; what: string }>()
const { showing, hide, show } = useHiding()
const { select } = useSelection()
const rows = computed(() => {
  const words = props.search.trim().toLowerCase()
  return props.groups
    .filter((g) => !words || g.label.toLowerCase().includes(words))
    .map((g) => ({ ...g, showing: showing(g.ids) }))
})
</script>

<template>
  <ul class="groups" data-testid="object-groups">
    <li v-for="g in rows" :key="g.key" :class="{ off: g.showing === 'none' }">
      <input
        type="checkbox"
        :checked="g.showing === 'all'"
        :indeterminate.prop="g.showing === 'some'"
        :aria-label="`Show ${g.label}`"
        @change="g.showing === 'all' ? hide(g.ids) : show(g.ids)"
      />
      <button class="plain" :title="`Select all of “${g.label}”`" @click="select(g.ids)">{{ g.label }}</button>
      <span class="num quiet">{{ g.ids.length }}</span>
    </li>
    <li v-if="rows.length === 0" class="quiet">No {{ what }} of this name.</li>
  </ul>
</template>

<style scoped>
.groups {
  list-style: none;
  margin: 0;
  padding: 2px 14px 10px;
  overflow: auto;
  font-size: 12.5px;
}
li {
  display: grid;
  grid-template-columns: 18px 1fr auto;
  align-items: center;
  gap: 6px;
  min-height: 24px;
}
input {
  accent-color: var(--plum);
  margin: 0;
}
.plain {
  text-align: left;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  min-height: 24px;
}
.plain:hover {
  color: var(--plum);
}
.off .plain {
  color: var(--quiet);
  text-decoration: line-through;
}
.num {
  font-size: 11.5px;
}
</style>

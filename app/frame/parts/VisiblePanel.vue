<script setup lang="ts">
// Which objects are shown: what is selected, and hiding by name, storey, material or named set.
import { computed, ref } from 'vue'
import ChoiceRow from '../../controls/ChoiceRow.vue'
import { useView, type VisibleTab } from '../../stores/view.ts'
import { useHiding } from '../selection/hiding.ts'
import ObjectGroups from './ObjectGroups.vue'
import ObjectSets from './ObjectSets.vue'
import ObjectTree from './ObjectTree.vue'
import PanelHead from './PanelHead.vue'
import SelectionBox from './SelectionBox.vue'
import StatesBox from './StatesBox.vue'

const view = useView()
const { hidden, showAll, storeys, materials, sets, isIsolated, isolate, shadowsKept, keepShadows } = useHiding()
const TABS: readonly { value: VisibleTab; label: string; title: string }[] = [
  { value: 'objects', label: 'names', title: 'All objects by their names, as in the file' },
  { value: 'storeys', label: 'storeys', title: 'All that stands on a floor' },
  { value: 'materials', label: 'materials', title: 'All that is made of a material' },
  { value: 'sets', label: 'sets', title: 'Sets with names of your own, kept per viewpoint' },
]
const search = ref('')
const matches = ref<number | null>(null)
const count = computed(() => hidden.value.size)
const groups = computed(() => (view.visibleTab === 'storeys' ? storeys.value : materials.value))
</script>

<template>
  <section class="visible" aria-label="Visible">
    <PanelHead cell="visible" title="Visible" />
    <SelectionBox />
    <StatesBox />
    <div class="bar">
      <span class="quiet" data-testid="hidden-count">{{ count === 0 ? 'All is shown' : `${count} hidden` }}</span>
      <button v-if="isIsolated" class="btn" title="What was shown before (N)" @click="isolate">Back to before</button>
      <button
        class="btn"
        :class="{ on: view.ghosts }"
        :aria-pressed="view.ghosts"
        :disabled="count === 0 && !view.ghosts"
        title="Draws what is hidden as ghosts; a click on one shows it again (Shift+V)"
        @click="view.ghosts = !view.ghosts"
      >
        Ghosts
      </button>
      <button class="btn" :disabled="count === 0" title="Shows everything (Shift+N)" @click="showAll">Show all</button>
    </div>
    <label class="tick">
      <input type="checkbox" :checked="shadowsKept" @change="keepShadows(!shadowsKept)" />
      what is hidden keeps its sun shadow
    </label>
    <ChoiceRow label="Hide by" :model-value="view.visibleTab" :options="TABS" @change="view.visibleTab = $event" />
    <label v-if="view.visibleTab !== 'sets'" class="search">
      <span class="visually-hidden">Search {{ view.visibleTab }}</span>
      <input v-model="search" type="search" :placeholder="`Search ${view.visibleTab}`" />
      <span v-if="view.visibleTab === 'objects' && matches !== null" class="num quiet">{{ matches }}</span>
    </label>
    <ObjectTree v-if="view.visibleTab === 'objects'" :search="search" @found="matches = $event" />
    <ObjectSets v-else-if="view.visibleTab === 'sets'" :key="sets.length" />
    <ObjectGroups
      v-else
      :groups="groups"
      :search="search"
      :what="view.visibleTab === 'storeys' ? 'storey' : 'material'"
    />
  </section>
</template>

<style scoped src="./panel.css"></style>
<style scoped>
.visible {
  display: flex;
  flex-direction: column;
  height: 100%;
}
.visible > * {
  flex: none;
}
.visible > :last-child {
  flex: 1 1 160px;
  min-height: 0;
}
.bar {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px;
  padding: 6px 14px;
  border-top: 1px solid var(--line);
}
.bar > :first-child {
  flex: 1 0 auto;
}
.search {
  display: flex;
  align-items: center;
  gap: 6px;
  margin: 0 14px 4px;
  border-bottom: 1px solid var(--line-strong);
}
.search input {
  flex: 1;
  min-width: 0;
  border: 0;
  outline: none;
  background: none;
  padding: 3px 0;
}
.search:focus-within {
  border-color: var(--plum);
}
</style>

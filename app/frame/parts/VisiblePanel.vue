<script setup lang="ts">
// Which objects are shown: the tree of names with search, for hiding and picking; and what is selected.
import Tree from 'primevue/tree'
import { computed, ref, watch } from 'vue'
import type { NodeFacts } from '#mesh'
import { useSelection } from '../selection/selection.ts'
import SelectionBox from './SelectionBox.vue'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'
import PanelHead from './PanelHead.vue'

interface Branch {
  key: string
  label: string
  children: Branch[]
  node: NodeFacts
}
const project = useProject()
const stage = useStage()
const view = useView()
const { hidden, select, setHidden } = useSelection()
const expanded = ref<Record<string, boolean>>({})

const tree = computed<Branch[]>(() => {
  const byId = new Map<string, Branch>()
  const roots: Branch[] = []
  for (const node of stage.facts?.nodes ?? []) {
    const branch: Branch = { key: node.id, label: node.name, children: [], node }
    byId.set(node.id, branch)
    const above = node.parentId === null ? undefined : byId.get(node.parentId)
    if (above) above.children.push(branch)
    else roots.push(branch)
  }
  return roots
})
const search = ref('')
/** Branches whose name, or the name of something below, holds the words; with all that lies below a match. */
const found = computed(() => {
  const words = search.value.trim().toLowerCase()
  if (!words) return null
  const open: Record<string, boolean> = {}
  let matches = 0
  const keep = (b: Branch): Branch | null => {
    const own = b.label.toLowerCase().includes(words)
    if (own) matches++
    const children = own ? b.children : b.children.flatMap((c) => keep(c) ?? [])
    if (!own && children.length === 0) return null
    if (!own) open[b.key] = true
    return { ...b, children }
  }
  return { branches: tree.value.flatMap((b) => keep(b) ?? []), open, matches }
})
const openNow = computed({
  get: () => ({ ...expanded.value, ...found.value?.open }),
  set: (keys) => {
    if (!found.value) expanded.value = keys
  },
})
// the first level stands open; what is selected is always in sight
watch(
  () => [tree.value, view.selection] as const,
  ([roots, ids]) => {
    const open = { ...expanded.value }
    // down to where there is something to choose
    for (const r of roots)
      for (let b: Branch | undefined = r; b; b = b.children.length === 1 ? b.children[0] : undefined)
        open[b.key] ??= true
    for (const id of ids)
      for (let at = id.lastIndexOf('/'); at > 0; at = id.lastIndexOf('/', at - 1)) open[id.slice(0, at)] = true
    expanded.value = open
  },
  { immediate: true },
)
const selected = computed(() => Object.fromEntries(view.selection.map((id) => [id, true])))
const under = (id: string): boolean => {
  for (let at = id.lastIndexOf('/'); at > 0; at = id.lastIndexOf('/', at - 1))
    if (hidden.value.has(id.slice(0, at))) return true
  return false
}
const choose = (keys: Record<string, boolean> | undefined): void =>
  select(Object.entries(keys ?? {}).flatMap(([id, on]) => (on ? [id] : [])))
const toggle = (id: string): void => setHidden([id], !hidden.value.has(id))
const showAll = (): void => void project.run({ type: 'setPart', part: 'visible', value: { hidden: [] } })
const count = computed(() => hidden.value.size)
</script>

<template>
  <section class="visible" aria-label="Visible">
    <PanelHead cell="visible" title="Visible" />
    <SelectionBox />
    <div class="bar">
      <span class="quiet">{{ count === 0 ? 'All objects are shown' : `${count} hidden` }}</span>
      <button class="btn" :disabled="count === 0" @click="showAll">Show all</button>
    </div>
    <label class="search">
      <span class="visually-hidden">Search objects</span>
      <input v-model="search" type="search" placeholder="Search objects" />
      <span v-if="found" class="num quiet">{{ found.matches }}</span>
    </label>
    <p v-if="found && found.matches === 0" class="quiet none">No object of this name.</p>
    <Tree
      v-model:expanded-keys="openNow"
      class="tree"
      :value="(found?.branches ?? tree) as never"
      :selection-keys="selected as never"
      selection-mode="multiple"
      :meta-key-selection="true"
      data-testid="object-tree"
      @update:selection-keys="choose($event as Record<string, boolean>)"
    >
      <template #default="{ node }">
        <span class="row" :class="{ off: hidden.has(node.key) || under(node.key) }">
          <input
            type="checkbox"
            :checked="!hidden.has(node.key)"
            :disabled="under(node.key)"
            :aria-label="`Show ${node.label}`"
            @click.stop
            @keydown.space.stop
            @keydown.enter.stop
            @change="toggle(node.key)"
          />
          <span class="name">{{ node.label }}</span>
        </span>
      </template>
      <template #empty><span /></template>
    </Tree>
  </section>
</template>

<style scoped>
.visible {
  display: grid;
  grid-template-rows: auto auto auto auto minmax(0, 1fr);
  height: 100%;
}
.bar {
  display: flex;
  align-items: center;
  justify-content: space-between;
  padding: 6px 14px;
  border-top: 1px solid var(--line);
}
.tree {
  padding: 0 6px 10px;
  overflow: auto;
  background: none;
  border: 0;
  min-height: 0;
  font-size: 12.5px;
}
.tree :deep(.p-tree-node-content) {
  padding: 1px 2px;
  gap: 2px;
}
.tree :deep(.p-tree-node-children) {
  padding-left: 14px;
}
.tree :deep(.p-tree-node-toggle-button) {
  width: 18px;
  height: 18px;
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
.none {
  padding: 4px 14px;
}
.row {
  display: flex;
  align-items: center;
  gap: 6px;
  min-width: 0;
}
.row input {
  accent-color: var(--plum);
  margin: 0;
}
.row.off .name {
  color: var(--quiet);
  text-decoration: line-through;
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>

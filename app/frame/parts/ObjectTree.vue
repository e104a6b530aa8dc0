<script setup lang="ts">
// The tree of objects by their names, for hiding and picking; searched by words.
import Tree from 'primevue/tree'
import { computed, ref, watch } from 'vue'
import { isBelowHidden } from '#model'
import type { NodeFacts } from '#mesh'
import { useHiding } from '../selection/hiding.ts'
import { useSelection } from '../selection/selection.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'
import { sameList } from '../../controls/same-list.ts'

interface Branch {
  key: string
  label: string
  children: Branch[]
  node: NodeFacts
}
const props = defineProps<{ search: string }>()
const emit = defineEmits<{ found: [number | null] }>()
const stage = useStage()
const view = useView()
const { select } = useSelection()
const { hidden, hide, show, showing } = useHiding()
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
/** Branches whose name, or the name of something below, holds the words; with all that lies below a match. */
const found = computed(() => {
  const words = props.search.trim().toLowerCase()
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
/** What has the words in its own name: hidden and shown together. */
const foundIds = computed(() => {
  const words = props.search.trim().toLowerCase()
  return words ? (stage.facts?.nodes ?? []).flatMap((n) => (n.name.toLowerCase().includes(words) ? [n.id] : [])) : []
})
const foundShown = computed(() => showing(foundIds.value))
const openNow = computed({
  get: () => ({ ...expanded.value, ...found.value?.open }),
  set: (keys) => {
    if (!found.value) expanded.value = keys
  },
})
// the first level stands open; what is selected is always in sight
watch(
  sameList(() => [tree.value, view.selection] as const),
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
const under = (id: string): boolean => isBelowHidden(id, hidden.value)
const choose = (keys: Record<string, boolean> | undefined): void =>
  select(Object.entries(keys ?? {}).flatMap(([id, on]) => (on ? [id] : [])))
const toggle = (id: string): void => (hidden.value.has(id) || under(id) ? show([id]) : hide([id]))
watch(
  () => found.value?.matches ?? null,
  (n) => emit('found', n),
  { immediate: true },
)
</script>

<template>
  <div class="box">
    <p v-if="found && found.matches > 0" class="all">
      <button class="plain link" @click="foundShown === 'none' ? show(foundIds) : hide(foundIds)">
        {{ foundShown === 'none' ? 'Show' : 'Hide' }}
        {{ found.matches === 1 ? 'the one found' : `all ${found.matches} found` }}
      </button>
    </p>
    <p v-if="found && found.matches === 0" class="quiet none">No object of this name.</p>
    <Tree
      v-model:expanded-keys="openNow"
      class="tree"
      :value="(found?.branches ?? tree) as never"
      :selection-keys="selected as never"
      selection-mode="multiple"
      :meta-key-selection="true"
      data-testid="object-tree"
      :pt="{ nodeToggleButton: { 'aria-label': 'Open or close' } }"
      @update:selection-keys="choose($event as Record<string, boolean>)"
    >
      <template #default="{ node }">
        <span class="row" :class="{ off: hidden.has(node.key) || under(node.key) }">
          <input
            type="checkbox"
            :checked="!hidden.has(node.key) && !under(node.key)"
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
  </div>
</template>

<style scoped>
.box {
  min-height: 0;
  overflow: auto;
}
.tree {
  padding: 0 6px 10px;
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
.all {
  padding: 0 14px 2px;
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

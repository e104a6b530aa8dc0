<script setup lang="ts">
// The kept viewpoints in order: recall by click, rename, duplicate, lock, delete (with undo), reorder by drag or Alt+arrows; what
// was left behind unkept stands at the end.
import { IconArrowBackUp, IconDots, IconLock, IconX } from '@tabler/icons-vue'
import Menu from 'primevue/menu'
import Popover from 'primevue/popover'
import { computed, nextTick, ref, shallowRef, watch } from 'vue'
import { VueDraggable } from 'vue-draggable-plus'
import { CAMERA_PARTS, keptNames, partLabel, type LeftBehind, type PartName, type Viewpoint } from '#model'
import { useNotices } from '../../stores/notices.ts'
import { newId, newStamp, useProject } from '../../stores/project.ts'
import { shownBy } from './thumbs.ts'
import FramingThumb from './FramingThumb.vue'

const project = useProject()
const notices = useNotices()
// shallow: documents stay plain values, as workers need them
const list = shallowRef<Viewpoint[]>([])
watch(() => project.document?.viewpoints, (v) => (list.value = [...(v ?? [])]), { immediate: true }) // prettier-ignore

const renaming = ref<string | null>(null)
const menu = ref<InstanceType<typeof Menu> | null>(null)
const left = ref<InstanceType<typeof Popover> | null>(null)
const menuFor = shallowRef<Viewpoint | null>(null)
const row = ref<HTMLElement | null>(null)

const recall = (v: Viewpoint, only?: readonly PartName[]): void =>
  void project.run({ type: 'recall', viewpointId: v.id, stamp: newStamp(), ...(only ? { only } : {}) })
function reordered(): void {
  project.run({ type: 'orderViewpoints', ids: list.value.map((v) => v.id) })
}
function shift(v: Viewpoint, by: -1 | 1): void {
  const ids = list.value.map((x) => x.id)
  const at = ids.indexOf(v.id)
  const to = at + by
  if (to < 0 || to >= ids.length) return
  ids.splice(to, 0, ...ids.splice(at, 1))
  project.run({ type: 'orderViewpoints', ids })
  void nextTick(() => focusAt(to))
}
function focusAt(i: number): void {
  row.value?.querySelectorAll<HTMLElement>('.recall')[i]?.focus()
}
function remove(v: Viewpoint): void {
  if (project.run({ type: 'deleteViewpoint', viewpointId: v.id }))
    notices.say(`“${v.name}” is deleted.`, 'plain', { label: 'Undo', run: project.undoEdit })
}
function rename(v: Viewpoint): void {
  renaming.value = v.id
  void nextTick(() => {
    const input = row.value?.querySelector<HTMLInputElement>('.name-input')
    input?.focus()
    input?.select()
  })
}
function renamed(v: Viewpoint, e: Event): void {
  if (renaming.value !== v.id) return
  renaming.value = null
  const name = (e.target as HTMLInputElement).value
  if (name.trim() !== v.name) project.run({ type: 'renameViewpoint', viewpointId: v.id, name })
}
function key(e: KeyboardEvent, v: Viewpoint, i: number): void {
  const by = e.key === 'ArrowLeft' ? -1 : e.key === 'ArrowRight' ? 1 : 0
  if (by && e.altKey) shift(v, by)
  else if (by) focusAt(i + by)
  else if (e.key === 'F2') rename(v)
  else if (e.key === 'Delete') remove(v)
  else return
  e.preventDefault()
  e.stopPropagation()
}
function openMenu(e: Event, v: Viewpoint): void {
  menuFor.value = v
  menu.value?.toggle(e)
}
const items = computed(() => {
  const v = menuFor.value
  if (!v) return []
  const kept = keptNames(v.parts)
  return [
    { label: 'Rename (F2)', command: () => rename(v) },
    { label: 'Duplicate', command: () => project.run({ type: 'duplicateViewpoint', viewpointId: v.id, id: newId() }) },
    {
      label: v.locked ? 'Unlock' : 'Lock against keeping and deleting',
      command: () => project.run({ type: 'lockViewpoint', viewpointId: v.id, locked: !v.locked }),
    },
    ...(kept.length > 1
      ? [
          { separator: true },
          ...kept.map((p) => ({ label: `Recall only ${partLabel(p).toLowerCase()}`, command: () => recall(v, [p]) })),
        ]
      : []),
    { separator: true },
    { label: 'Delete (Del)', command: () => remove(v) },
  ]
})
const isNow = (v: Viewpoint): boolean => project.recalled?.id === v.id
const words = (v: Viewpoint): string => `${keptNames(v.parts).map((p) => partLabel(p).toLowerCase()).join(', ')} only` // prettier-ignore
const takeBack = (l: LeftBehind): void => {
  left.value?.hide()
  project.run({ type: 'takeBack', leftBehindId: l.id, stamp: newStamp() })
}
const drop = (l: LeftBehind): void => {
  if (project.run({ type: 'dropLeftBehind', leftBehindId: l.id }))
    notices.say('The framing is off the list.', 'plain', { label: 'Undo', run: project.undoEdit })
}
const time = (iso: string): string => new Date(iso).toLocaleTimeString([], { hour: '2-digit', minute: '2-digit' })
</script>

<template>
  <section class="sheet" aria-label="Contact sheet">
    <div ref="row" class="row">
      <p v-if="list.length === 0" class="empty quiet">
        Frame something, then press <b>Keep as new</b> (Shift+K): your viewpoints line up here.
      </p>
      <VueDraggable v-model="list" class="list" :animation="120" handle=".recall" :delay="60" @end="reordered">
        <div v-for="(v, i) in list" :key="v.id" class="item" :class="{ now: isNow(v) }" data-testid="viewpoint">
          <button
            class="plain recall"
            :title="`Recall “${v.name}”`"
            :aria-current="isNow(v)"
            @click="recall(v)"
            @keydown="key($event, v, i)"
          >
            <FramingThumb :setup="project.document ? shownBy(project.document, v) : null" :words="words(v)" />
            <span class="marks" aria-hidden="true"
              ><i v-for="p in CAMERA_PARTS" :key="p" :class="{ kept: v.parts[p] }"
            /></span>
            <IconLock v-if="v.locked" class="lock" :size="13" stroke="1.8" />
          </button>
          <div class="caption">
            <span class="num quiet">{{ String(i + 1).padStart(2, '0') }}</span>
            <input
              v-if="renaming === v.id"
              class="name-input"
              :value="v.name"
              aria-label="Name of the viewpoint"
              maxlength="200"
              @keydown.enter="renamed(v, $event)"
              @keydown.esc.stop="renaming = null"
              @blur="renamed(v, $event)"
            />
            <span v-else class="name" :title="v.name" @dblclick="rename(v)">{{ v.name }}</span>
            <button
              class="plain more"
              :title="`More for “${v.name}”`"
              aria-haspopup="menu"
              @click="openMenu($event, v)"
            >
              <IconDots :size="14" stroke="1.6" /><span class="visually-hidden">More for {{ v.name }}</span>
            </button>
          </div>
        </div>
      </VueDraggable>
    </div>
    <div v-if="project.document?.leftBehind.length" class="left">
      <button
        class="btn"
        aria-haspopup="dialog"
        title="Framings left with changes that no viewpoint keeps"
        @click="left?.toggle($event)"
      >
        <IconArrowBackUp :size="14" stroke="1.6" />Left behind
        <b class="num">{{ project.document.leftBehind.length }}</b>
      </button>
    </div>
    <Menu ref="menu" :model="items" popup />
    <Popover ref="left">
      <div class="behind" aria-label="Left behind">
        <p class="quiet">Framings left with unkept changes, newest first. Click to take one back.</p>
        <div v-for="l in project.document?.leftBehind ?? []" :key="l.id" class="behind-row">
          <button class="plain small" @click="takeBack(l)"><FramingThumb :setup="l.setup" /></button>
          <button class="plain text" @click="takeBack(l)">
            {{ l.fromName ? `from “${l.fromName}”` : 'a free framing' }}<br /><span class="quiet num">{{
              time(l.at)
            }}</span>
          </button>
          <button class="plain" title="Take off the list" @click="drop(l)">
            <IconX :size="14" stroke="1.6" /><span class="visually-hidden">Take off the list</span>
          </button>
        </div>
      </div>
    </Popover>
  </section>
</template>

<style scoped>
.sheet {
  display: flex;
  align-items: stretch;
  background: var(--paper);
  border-top: 1px solid var(--line);
  min-width: 0;
  min-height: 0;
}
.row {
  flex: 1;
  min-width: 0;
  overflow-x: auto;
  overflow-y: hidden;
  scrollbar-width: thin;
}
.empty {
  padding: 38px 16px;
}
.list {
  display: flex;
  gap: 10px;
  padding: 10px 12px 4px;
  width: max-content;
}
.item {
  width: 112px;
  flex: none;
}
.recall {
  position: relative;
  display: block;
  width: 112px;
  height: 62px;
  border: 1px solid var(--line);
  border-radius: 2px;
  overflow: hidden;
}
.now .recall {
  outline: 2px solid var(--plum);
  outline-offset: 1px;
}
.recall:focus-visible {
  outline: 2px solid var(--ink);
  outline-offset: 1px;
}
.marks {
  position: absolute;
  left: 4px;
  bottom: 4px;
  display: flex;
  gap: 2px;
}
.marks i {
  width: 11px;
  height: 4px;
  background: #fffc;
  border: 1px solid #0004;
}
.marks i.kept {
  background: #6b3f7a;
}
.lock {
  position: absolute;
  right: 3px;
  top: 3px;
  color: #fff;
  filter: drop-shadow(0 0 2px #000);
}
.caption {
  display: flex;
  gap: 5px;
  align-items: center;
  margin-top: 3px;
  font-size: 11px;
  white-space: nowrap;
}
.caption .num {
  font-size: 11px;
}
.name {
  flex: 1;
  overflow: hidden;
  text-overflow: ellipsis;
}
.name-input {
  flex: 1;
  width: 40px;
  border: 0;
  border-bottom: 1px solid var(--plum);
  background: none;
  padding: 0;
  outline: none;
}
.more {
  line-height: 0;
  color: var(--quiet);
  opacity: 0;
  padding: 1px;
}
.item:hover .more,
.more:focus-visible {
  opacity: 1;
}
.left {
  display: grid;
  place-content: center;
  padding: 0 12px;
  border-left: 1px solid var(--line);
}
.behind {
  width: 250px;
  display: grid;
  gap: 8px;
  max-height: 360px;
  overflow: auto;
}
.behind-row {
  display: flex;
  gap: 8px;
  align-items: center;
}
.behind-row .small {
  width: 84px;
  height: 52px;
  flex: none;
}
.behind-row .text {
  flex: 1;
  font-size: 12px;
}
</style>

<script setup lang="ts">
// The kept viewpoints in order: recall by click, rename, duplicate, lock, delete (with undo), reorder by drag or Alt+arrows; only the
// tiles in view are there. What was left behind unkept stands at the end.
import Menu from 'primevue/menu'
import VirtualScroller from 'primevue/virtualscroller'
import { computed, nextTick, ref, shallowRef, watch } from 'vue'
import { keptNames, partLabel, type PartName, type Viewpoint } from '#model'
import { useNotices } from '../../stores/notices.ts'
import { useView } from '../../stores/view.ts'
import { newId, newStamp, useProject } from '../../stores/project.ts'
import LeftBehindList from './LeftBehindList.vue'
import SheetWindow from './SheetWindow.vue'
import { GAP_PX, TILES } from './tile-size.ts'
import ViewpointTile from './ViewpointTile.vue'

const project = useProject()
const notices = useNotices()
const list = computed<readonly Viewpoint[]>(() => project.document?.viewpoints ?? [])
const view = useView()
const tileSize = computed(() => TILES[view.tileSize])
const SIZES = ['small', 'medium', 'large'] as const

const renaming = ref<string | null>(null)
const menu = ref<InstanceType<typeof Menu> | null>(null)
const scroller = ref<InstanceType<typeof VirtualScroller> | null>(null)
const sheet = ref<HTMLElement | null>(null)
const menuFor = shallowRef<Viewpoint | null>(null)

const recall = (v: Viewpoint, only?: readonly PartName[]): void =>
  void project.run({ type: 'recall', viewpointId: v.id, stamp: newStamp(), ...(only ? { only } : {}) })

/** Puts the one at `from` at `to`. */
function order(from: number, to: number): void {
  const ids = list.value.map((x) => x.id)
  if (to < 0 || to >= ids.length) return
  ids.splice(to, 0, ...ids.splice(from, 1))
  project.run({ type: 'orderViewpoints', ids })
}
const tile = (i: number): HTMLElement | null | undefined =>
  sheet.value?.querySelector<HTMLElement>(`[data-index="${i}"] .recall`)
/** The place that the keyboard is on its way to: its tile is not in the window yet. */
let going: number | null = null
/** So many frames a tile is waited for. */
const MOST_FRAMES = 120
/** The one of that place, scrolled into the window first where it is outside. */
function focusAt(i: number): void {
  if (i < 0 || i >= list.value.length) return
  going = null
  if (tile(i)) return tile(i)?.focus()
  scroller.value?.scrollToIndex(i)
  going = i
  // the tile at hand may go with the window: its keys are heard here until the other one is there
  sheet.value?.focus({ preventScroll: true })
  arrive(i, MOST_FRAMES)
}
function arrive(i: number, frames: number): void {
  requestAnimationFrame(() => {
    // it went on, or the focus was taken elsewhere: to another part of the page it is not taken back
    if (going !== i) return
    const at = document.activeElement
    const isHere = at === null || at === document.body || sheet.value?.contains(at)
    if (isHere && !tile(i) && frames > 0) return arrive(i, frames - 1)
    going = null
    if (isHere) tile(i)?.focus()
  })
}
// the recalled one is in the window, whoever recalled it; what was left behind makes the window smaller
watch([() => project.recalled?.id, () => project.document?.leftBehind.length === 0], async ([id]) => {
  const i = list.value.findIndex((v) => v.id === id)
  if (i < 0) return
  await nextTick()
  const item = tile(i)?.closest('.item')
  if (item) item.scrollIntoView({ inline: 'nearest', block: 'nearest' })
  else scroller.value?.scrollToIndex(i)
})
function remove(v: Viewpoint): void {
  if (project.run({ type: 'deleteViewpoint', viewpointId: v.id }))
    notices.say(`“${v.name}” is deleted.`, 'plain', { label: 'Undo', run: project.undoOfThis() })
}
/** The name's field goes: its tile has the focus, as before. */
function endRenaming(v: Viewpoint): void {
  renaming.value = null
  const i = list.value.findIndex((x) => x.id === v.id)
  void nextTick(() => document.activeElement === document.body && focusAt(i))
}
function renamed(v: Viewpoint, name: string): void {
  endRenaming(v)
  if (name.trim() !== v.name) project.run({ type: 'renameViewpoint', viewpointId: v.id, name })
}
const STEPS: Readonly<Record<string, (i: number) => number>> = {
  ArrowLeft: (i) => i - 1,
  ArrowRight: (i) => i + 1,
  Home: () => 0,
  End: () => list.value.length - 1,
}
function key(e: KeyboardEvent, on: Viewpoint, at: number): void {
  // fast hands are ahead of the window: what they press is meant for the tile on its way
  const i = going ?? at
  const v = list.value[i] ?? on
  const to = STEPS[e.key]?.(i)
  if (to !== undefined && e.altKey) {
    order(i, to)
    void nextTick(() => focusAt(to))
  } else if (to !== undefined) focusAt(to)
  else if (e.key === 'F2') renaming.value = v.id
  else if (e.key === 'Delete') remove(v)
  else if (going !== null && (e.key === 'Enter' || e.key === ' ')) recall(v)
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
    { label: 'Rename (F2)', command: () => (renaming.value = v.id) },
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
type Options = (i: number) => { index: number }
</script>

<template>
  <section
    id="sheet"
    ref="sheet"
    class="sheet"
    tabindex="-1"
    aria-label="Contact sheet"
    :style="{ '--tile-w': `${tileSize.width}px`, '--tile-h': `${tileSize.height}px` }"
    @keydown.self="going !== null && list[going] && key($event, list[going]!, going)"
  >
    <div class="sizes" role="radiogroup" aria-label="Size of the pictures">
      <button
        v-for="(s, i) in SIZES"
        :key="s"
        class="plain"
        role="radio"
        :aria-checked="view.tileSize === s"
        :aria-label="s"
        :title="`Pictures ${s}`"
        @click="view.tileSize = s"
      >
        <i :style="{ width: `${7 + 3 * i}px`, height: `${5 + 2 * i}px` }" />
      </button>
    </div>
    <p v-if="list.length === 0" class="row empty quiet">
      Frame something, then press <b>Keep as new</b> (Shift+K): your viewpoints line up here.
    </p>
    <VirtualScroller
      v-else
      :key="view.tileSize"
      ref="scroller"
      class="row"
      :items="list as Viewpoint[]"
      :item-size="tileSize.width + GAP_PX"
      :num-tolerated-items="5"
      :tabindex="-1"
      orientation="horizontal"
    >
      <template #content="{ items: shown, contentRef, contentStyle, styleClass, getItemOptions }">
        <SheetWindow
          :ref="(c) => contentRef((c as { $el?: HTMLElement } | null)?.$el ?? null)"
          :class="[styleClass, 'list']"
          :style="contentStyle"
          :items="shown as Viewpoint[]"
          :first="(getItemOptions as Options)(0).index"
          @moved="order"
        >
          <template #default="{ viewpoint: v, index }">
            <ViewpointTile
              :viewpoint="v"
              :index="index"
              :renaming="renaming === v.id"
              @recall="recall(v)"
              @keydown="key($event, v, index)"
              @menu="openMenu($event, v)"
              @rename="renaming = v.id"
              @renamed="renamed(v, $event)"
              @cancel="endRenaming(v)"
            />
          </template>
        </SheetWindow>
      </template>
    </VirtualScroller>
    <LeftBehindList v-if="project.document?.leftBehind.length" />
    <Menu ref="menu" :model="items" popup />
  </section>
</template>

<style scoped>
.sheet {
  display: flex;
  outline: none;
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
.sizes {
  display: grid;
  align-content: center;
  border-right: 1px solid var(--line);
}
.sizes .plain {
  width: 26px;
  height: 26px;
  display: grid;
  place-items: center;
}
.sizes i {
  border: 1px solid var(--line-strong);
  border-radius: 1px;
}
.sizes [aria-checked='true'] i {
  border-color: var(--plum);
  background: var(--plum-soft);
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
</style>

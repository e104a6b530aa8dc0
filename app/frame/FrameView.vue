<script lang="ts">
/** The project that measurements are of: they stay while another view of it is open. */
let measuredIn: string | null = null
</script>
<script setup lang="ts">
// The main view: Plan and Side at the left, the picture in its mount, setup strip and contact sheet below, the opened panel right.
import { useEventListener } from '@vueuse/core'
import { computed, defineAsyncComponent, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { handleKey, isClosedDropDown, offerActions } from '../actions/registry.ts'
import { useReturningFocus } from '../controls/returning-focus.ts'
import { isDragging } from '../controls/drag.ts'
import { useCover } from './picture/cover.ts'
import PictureArea from './picture/PictureArea.vue'
import ContactSheet from './sheet/ContactSheet.vue'
import SetupStrip from './sheet/SetupStrip.vue'
import { useProject } from '../stores/project.ts'
import { useOutside } from './outside/outside.ts'
import { useMeasurements } from './measure/measurements.ts'
import { usePicking } from './straighten/picking.ts'
import { useSelection } from './selection/selection.ts'
import { useWalking } from './picture/walking.ts'
import { useStage } from '../stores/stage.ts'
import { useView } from '../stores/view.ts'
import PlanStrip from './strips/PlanStrip.vue'
import SideStrip from './strips/SideStrip.vue'
import { BringDialog } from '../bring/later.ts'
import { useBring } from '../bring/bring.ts'
import { useDrop } from '../bring/drop.ts'
import { SHEET_PX } from './sheet/tile-size.ts'
import { useFrameActions } from './actions.ts'
import { useNamedActions } from './named-actions.ts'
import PaneEdge from './PaneEdge.vue'
import { usePanes } from './panes.ts'
import { fetchPanels, PANELS } from './parts/registry.ts'

/** Not needed for the first picture. */
const FrameCheck = defineAsyncComponent(() => import('./check/FrameCheck.vue'))
const TrailList = defineAsyncComponent(() => import('./TrailList.vue'))

const project = useProject()
const stage = useStage()
const view = useView()
const actions = useFrameActions()
const named = useNamedActions()
offerActions(() => [...actions, ...named.value])
const strip = ref<InstanceType<typeof SetupStrip> | null>(null)
const area = ref<InstanceType<typeof PictureArea> | null>(null)
const outside = useOutside()
const bring = useBring()
const { clear } = useSelection()
const picking = usePicking()
const measurements = useMeasurements()
const dialogIsOpen = (): boolean =>
  view.help || view.commands || project.saveState === 'conflict' || bring.busy || bring.report !== null
const { over, handlers } = useDrop()
const { walking } = useWalking(dialogIsOpen)
useCover()
for (const isOpen of [
  () => view.keeping !== null,
  () => view.help || view.commands,
  () => view.trail,
  () => bring.busy || bring.report !== null,
  () => project.saveState === 'conflict',
])
  useReturningFocus(isOpen)
watch(
  () => project.id,
  (id) => {
    if (id === measuredIn) return
    measuredIn = id
    measurements.clear()
    measurements.clearFitPoints()
  },
  { immediate: true },
)
// a building looked at from outside is orbited, as a product is; asked once, when its rays are first answered
watch(
  () => stage.storeys.length > 0 && project.id,
  async (ready) => {
    const w = project.working
    if (!ready || !w || project.document?.subject !== 'room' || view.tool !== 'turn') return
    const isRoundUs = await stage.rays.enclosed(w.stand.station, project.shown)
    if (isRoundUs === false && view.tool === 'turn') view.tool = 'orbit'
  },
)
onBeforeUnmount(() => outside.forget())

/** The innermost thing first: a running turn of the wheel, keeping, the trail, a tool, the view from outside, what is large. */
function escape(): void {
  if (area.value?.cancelWheel()) return
  if (view.picking) picking.end()
  else if (view.keeping) view.keeping = null
  else if (view.trail) view.trail = false
  else if (view.tool === 'stand' || view.tool === 'pick')
    view.tool = project.document?.subject === 'product' ? 'orbit' : 'turn'
  else if (outside.on) outside.back()
  else if (view.ghosts) view.ghosts = false
  else if (isNarrow.value && view.drawer) view.drawer = null
  else if (view.main !== 'picture') view.main = 'picture'
  else clear()
}
useEventListener(window, 'keydown', (e) => {
  const dialogOpen = dialogIsOpen()
  if (e.key === 'Escape' && !dialogOpen && !isDragging()) return escape()
  // K again confirms what K began; so does Enter anywhere outside a field
  if (
    view.keeping === 'keep' &&
    !dialogOpen &&
    (e.key === 'k' || e.key === 'Enter') &&
    !(e.target instanceof HTMLInputElement) &&
    !(e.target instanceof HTMLButtonElement)
  ) {
    e.preventDefault()
    strip.value?.confirm()
    return
  }
  handleKey(e, actions, { dialogOpen, singleKeys: view.singleKeys, dragging: isDragging() })
})
// a closed drop-down would open at any letter and keep Esc to itself: commands come first
useEventListener(
  window,
  'keydown',
  (e) => {
    if (!isClosedDropDown(e.target) || e.key === ' ' || (e.key.length > 1 && e.key !== 'Escape')) return
    const [dialogOpen, dragging] = [dialogIsOpen(), isDragging()]
    const done =
      e.key === 'Escape'
        ? !dialogOpen && !dragging && (escape(), true)
        : handleKey(e, actions, { dialogOpen, singleKeys: view.singleKeys, dragging })
    if (done) e.stopPropagation()
  },
  true,
)
const { isNarrow, left, right, resize, toggle } = usePanes()
onMounted(() => (window.requestIdleCallback ?? setTimeout)(() => void fetchPanels()))
const panel = computed(() => PANELS.find((p) => p.name === view.panel)?.panel)
</script>

<template>
  <div class="page" :class="{ over }" v-on="handlers">
    <h1 v-if="project.document" class="visually-hidden">{{ project.document.name }}</h1>
    <TrailList />
    <div
      v-if="project.document"
      class="frame"
      :class="{ narrow: isNarrow }"
      :style="{
        '--left': `${isNarrow && view.drawer !== 'left' ? 0 : left.width}px`,
        '--right': `${isNarrow && view.drawer !== 'right' ? 0 : right.width}px`,
        '--sheet': `${SHEET_PX[view.tileSize]}px`,
      }"
    >
      <main>
        <PictureArea ref="area" :walking="walking" />
        <SetupStrip ref="strip" />
        <ContactSheet />
      </main>
      <button
        v-if="isNarrow"
        class="plain pull at-right"
        :aria-expanded="view.drawer === 'right'"
        aria-controls="right-pane"
        @click="toggle('right')"
      >
        <span>Panel and frame check</span>
      </button>
      <aside id="right-pane" class="right" :class="{ shut: isNarrow && view.drawer !== 'right' }" aria-label="Panel">
        <PaneEdge
          v-if="!isNarrow"
          label="Width of the panel"
          edge="left"
          v-bind="right"
          @resize="resize('right', $event)"
        />
        <div id="panel" class="part" aria-label="Opened part" role="region"><component :is="panel" /></div>
        <FrameCheck />
      </aside>
      <button
        v-if="isNarrow"
        class="plain pull at-left"
        :aria-expanded="view.drawer === 'left'"
        aria-controls="left-pane"
        @click="toggle('left')"
      >
        <span>Plan and Side</span>
      </button>
      <aside
        id="left-pane"
        class="left"
        :class="{ shut: isNarrow && view.drawer !== 'left' }"
        aria-label="Plan and Side"
      >
        <PlanStrip v-if="view.main !== 'plan'" />
        <SideStrip v-if="view.main !== 'side'" />
        <PaneEdge
          v-if="!isNarrow"
          label="Width of Plan and Side"
          edge="right"
          v-bind="left"
          @resize="resize('left', $event)"
        />
      </aside>
    </div>
    <BringDialog />
  </div>
</template>

<style scoped>
.page {
  height: 100%;
  display: grid;
  position: relative;
  min-height: 0;
}
.page.over {
  outline: 3px dashed var(--plum);
  outline-offset: -8px;
}
.frame {
  display: grid;
  grid-template-columns: var(--left) minmax(0, 1fr) var(--right);
  min-height: 0;
  position: relative;
}
.shut {
  display: none !important;
}
.pull {
  background: var(--panel);
  border: 1px solid var(--line);
  border-width: 0 1px;
  display: grid;
  place-items: center;
}
.pull span {
  writing-mode: vertical-rl;
  white-space: nowrap;
  font-size: 11.5px;
}
.pull[aria-expanded='true'] {
  color: var(--plum);
}
aside {
  position: relative;
}
.left {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  grid-auto-rows: minmax(0, 1fr);
  grid-template-rows: minmax(0, 1.45fr);
  border-right: 1px solid var(--line);
  background: var(--panel);
  min-height: 0;
}
/* Plan lies over Side */
.left > :nth-child(2) {
  border-top: 1px solid var(--line);
}
/* the picture is the first stop, whatever stands to its left */
.left,
.pull.at-left {
  grid-column: 1;
  grid-row: 1;
}
.right,
.pull.at-right {
  grid-column: 3;
  grid-row: 1;
}
main {
  grid-column: 2;
  grid-row: 1;
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto var(--sheet);
  container: middle / inline-size;
  min-width: 0;
  min-height: 0;
}
.right {
  border-left: 1px solid var(--line);
  background: var(--panel);
  display: flex;
  flex-direction: column;
  min-height: 0;
}
.part {
  flex: 1;
  min-height: 0;
  overflow-y: auto;
  overflow-x: hidden;
}
/* a drawer takes its room from the picture, so that nothing lies under it */
.frame.narrow {
  grid-template-columns: 26px var(--left) minmax(0, 1fr) var(--right) 26px;
}
.narrow main {
  grid-column: 3;
}
.narrow .left {
  grid-column: 2;
}
.narrow .right {
  grid-column: 4;
}
.narrow .pull.at-right {
  grid-column: 5;
}
</style>

<script setup lang="ts">
// Where the camera stands and looks: the place in numbers, straightening, fitting, measured views.
import { useView, type StandTab } from '../../stores/view.ts'
import PanelHead from './PanelHead.vue'
import StandFit from './StandFit.vue'
import StandPlace from './StandPlace.vue'
import StandStraighten from './StandStraighten.vue'
import StandViews from './StandViews.vue'

const view = useView()
const TABS: readonly { tab: StandTab; label: string; title: string }[] = [
  { tab: 'place', label: 'Place', title: 'Station, direction and aim in numbers' },
  { tab: 'straighten', label: 'Straighten', title: 'Level, square up, centre, horizon' },
  { tab: 'fit', label: 'Fit', title: 'Fill the frame; stand back; measure' },
  { tab: 'views', label: 'Views', title: 'Plan, elevations, axonometries' },
]
const PAGES = { place: StandPlace, straighten: StandStraighten, fit: StandFit, views: StandViews }
function key(e: KeyboardEvent): void {
  const by = e.key === 'ArrowRight' ? 1 : e.key === 'ArrowLeft' ? -1 : 0
  if (!by) return
  e.preventDefault()
  const at = TABS.findIndex((t) => t.tab === view.standTab)
  view.standTab = TABS[(at + by + TABS.length) % TABS.length]!.tab
  const bar = e.currentTarget as HTMLElement
  requestAnimationFrame(() => bar.querySelector<HTMLElement>('[aria-selected=true]')?.focus())
}
</script>

<template>
  <section aria-label="Stand">
    <PanelHead cell="stand" title="Stand" />
    <div class="tabs" role="tablist" aria-label="Stand" @keydown="key">
      <button
        v-for="t in TABS"
        :key="t.tab"
        class="plain"
        role="tab"
        :aria-selected="view.standTab === t.tab"
        :tabindex="view.standTab === t.tab ? 0 : -1"
        :title="t.title"
        @click="view.standTab = t.tab"
      >
        {{ t.label }}
      </button>
    </div>
    <div role="tabpanel" :aria-label="TABS.find((t) => t.tab === view.standTab)!.label">
      <component :is="PAGES[view.standTab]" />
    </div>
  </section>
</template>

<style scoped>
.tabs {
  display: flex;
  gap: 14px;
  padding: 0 14px;
  border-bottom: 1px solid var(--line);
  margin-bottom: 6px;
}
.tabs button {
  padding: 3px 0 5px;
  color: var(--quiet);
  border-bottom: 2px solid transparent;
  margin-bottom: -1px;
}
.tabs button[aria-selected='true'] {
  color: var(--ink);
  border-bottom-color: var(--plum);
}
</style>

<script setup lang="ts">
// Cuts: new ones in one click, their list with the numbers of the chosen one, how faces look, near and far along the view, facts.
import {
  IconColumns1,
  IconCube,
  IconPerspective,
  IconSeparatorHorizontal,
  IconSeparatorVertical,
  IconStairs,
} from '@tabler/icons-vue'
import { computed } from 'vue'
import { CUT_KINDS, gapClosed, type CutKind, type FaceStyle } from '#core/section'
import ChoiceRow from '../../controls/ChoiceRow.vue'
import NumberField from '../../controls/NumberField.vue'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'
import { KIND_WORDS, useCuts } from '../cuts/cuts.ts'
import { useCutLine } from '../cuts/cut-line.ts'
import { useSections } from '../cuts/section-here.ts'
import { usePicking } from '../straighten/picking.ts'
import CutEnds from './CutEnds.vue'
import CutFacts from './CutFacts.vue'
import CutList from './CutList.vue'
import { useLiveEdits } from './live-edits.ts'
import PanelHead from './PanelHead.vue'

const view = useView()
const stage = useStage()
const { part, list, add, set, isAny, switchAll, whole, leaveWhole, cutAgain, withPart } = useCuts()
const { number } = useLiveEdits()
const gapM = computed(() => gapClosed(stage.facts?.box ?? null))
const { planOfStorey } = useSections()
const line = useCutLine()
const { begin } = usePicking()
const ICONS = {
  level: IconSeparatorHorizontal,
  upright: IconSeparatorVertical,
  free: IconPerspective,
  slice: IconColumns1,
  box: IconCube,
  stepped: IconStairs,
} as const
const TITLES: Record<CutKind, string> = {
  level: 'Takes away what lies above a height',
  upright: 'Takes away what lies before an upright plane',
  free: 'Takes away what lies before any plane',
  slice: 'Leaves a layer between two planes',
  box: 'Leaves what lies in a box: round the selection, or a part of the model',
  stepped: 'Takes away what lies before an upright line with jogs',
}
const FACES: readonly { value: FaceStyle; label: string; title: string }[] = [
  { value: 'solid', label: 'solid', title: 'Cut faces in one dark tone (poche)' },
  { value: 'hatched', label: 'hatched', title: 'Lines at 45°, neighbours the other way' },
  { value: 'filled', label: 'own', title: 'Each in its object’s own colour, in the light' },
  { value: 'open', label: 'none', title: 'No faces: one looks into things' },
]
const nameOf = (id: string): string => stage.byId.get(id)?.name ?? `${id} (not there)`
</script>

<template>
  <section v-if="part" aria-label="Cut">
    <PanelHead cell="cut" title="Cut" />
    <div class="kinds" role="group" aria-label="New cut">
      <button v-for="k in CUT_KINDS" :key="k" class="btn" :title="TITLES[k]" @click="add(k)">
        <component :is="ICONS[k]" :size="16" stroke="1.6" />{{ KIND_WORDS[k] }}
      </button>
    </div>
    <div class="line">
      <span class="quiet">Click for</span>
      <span class="buttons">
        <button
          class="btn"
          title="Along a wall or a face that is clicked"
          :class="{ on: view.picking === 'cut-through' }"
          @click="begin('cut-through')"
        >
          a wall
        </button>
        <button
          class="btn"
          title="At the middle between two things"
          :class="{ on: view.picking === 'cut-between' }"
          @click="begin('cut-between')"
        >
          between two
        </button>
        <button
          class="btn"
          title="By clicks in Plan: two places for an upright cut, more for a stepped one; Enter ends it"
          :class="{ on: view.picking === 'cut-line' }"
          @click="line.draw()"
        >
          a line in Plan
        </button>
      </span>
    </div>
    <div class="line">
      <span class="quiet">In one step</span>
      <span class="buttons">
        <button
          class="btn"
          title="A sectional perspective: cut, station and fit, through the place that is clicked (Shift+X)"
          :class="{ on: view.picking === 'section' }"
          @click="begin('section')"
        >
          Section here
        </button>
        <button
          class="btn"
          title="The same as a true section, parallel"
          :class="{ on: view.picking === 'section-parallel' }"
          @click="begin('section-parallel')"
        >
          true
        </button>
        <button
          class="btn"
          title="Parallel from above, cut above the storey, at a standard scale"
          @click="planOfStorey()"
        >
          Plan of this storey
        </button>
      </span>
    </div>
    <label v-if="isAny" class="tick all">
      <input type="checkbox" :checked="!part.allOff" data-testid="cuts-on" @change="switchAll" />all cuts on
      <kbd>X</kbd>
    </label>
    <CutList />
    <template v-if="list.length > 0">
      <hr />
      <ChoiceRow label="Faces" :model-value="part.face" :options="FACES" @change="set({ face: $event })" />
      <label class="tick" title="Otherwise what is cut away goes on casting its shadow">
        <input
          type="checkbox"
          :checked="part.lightIn === true"
          @change="set({ lightIn: part.lightIn ? undefined : true })"
        />
        the sun comes in through the cut
      </label>
      <div class="line">
        <span class="quiet">Left whole</span>
        <span class="buttons">
          <button
            class="btn"
            :disabled="view.selection.length === 0"
            title="No cut takes anything from the selected objects"
            @click="leaveWhole"
          >
            The selected
          </button>
        </span>
      </div>
      <ul v-if="whole.length > 0" class="whole">
        <li v-for="id in whole" :key="id">
          <span :title="id">{{ nameOf(id) }}</span><button
            class="plain"
            :aria-label="`Cut ${nameOf(id)} again`"
            @click="cutAgain(id)"
          >
            cut again
          </button>
        </li>
      </ul>
      <NumberField
        label="Close gaps to"
        suffix="mm"
        :model-value="(part.closeM ?? gapM) * 1000"
        :digits="2"
        :step="0.1"
        :min="0"
        :max="1000"
        hint="Surfaces with wider gaps have no inside: they are drawn as lines and listed"
        v-on="number((mm) => withPart({ closeM: mm / 1000 }))"
      />
      <CutFacts />
    </template>
    <hr />
    <CutEnds />
  </section>
</template>

<style scoped src="./panel.css"></style>
<style scoped>
.kinds {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 4px;
  padding: 4px 14px 6px;
}
.kinds .btn {
  display: grid;
  justify-items: center;
  gap: 2px;
  padding: 5px 2px 4px;
  font-size: 11.5px;
  color: var(--ink);
}
.kinds .btn :deep(svg) {
  color: var(--petrol);
}
kbd {
  font: 11px var(--mono);
  color: var(--quiet);
}
.whole {
  list-style: none;
  margin: 0;
  padding: 0 14px 4px;
}
.whole li {
  display: flex;
  justify-content: space-between;
  gap: 8px;
  min-height: 24px;
  align-items: center;
  font-size: 12px;
}
.whole span {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>

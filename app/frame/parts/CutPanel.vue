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
import { CUT_KINDS, type CutKind } from '#core/section'
import NumberField from '../../controls/NumberField.vue'
import { useView } from '../../stores/view.ts'
import { KIND_WORDS, useCuts } from '../cuts/cuts.ts'
import { useCutLine } from '../cuts/cut-line.ts'
import { betweenShare } from '../cuts/cut-picks.ts'
import { useSections } from '../cuts/section-here.ts'
import { usePicking } from '../straighten/picking.ts'
import CutEnds from './CutEnds.vue'
import CutFacts from './CutFacts.vue'
import CutList from './CutList.vue'
import CutLooks from './CutLooks.vue'
import PanelHead from './PanelHead.vue'

const view = useView()
const { part, list, add, isAny, switchAll } = useCuts()
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
        <button
          class="btn"
          title="Upright, along the centre line of an object: the longer way it lies"
          :class="{ on: view.picking === 'cut-middle' }"
          @click="begin('cut-middle')"
        >
          an object
        </button>
        <button
          class="btn"
          title="A plane through three places that are clicked"
          :class="{ on: view.picking === 'cut-three' }"
          @click="begin('cut-three')"
        >
          three places
        </button>
        <button
          class="btn"
          title="A box round the room that is clicked, a little larger than it"
          :class="{ on: view.picking === 'cut-room' }"
          @click="begin('cut-room')"
        >
          a room
        </button>
      </span>
    </div>
    <NumberField
      v-if="view.picking === 'cut-between'"
      label="At a share of"
      suffix="%"
      :model-value="betweenShare * 100"
      :digits="1"
      :min="0"
      :max="100"
      hint="Of the gap between the two, from the first one that is clicked"
      @change="betweenShare = $event / 100"
    />
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
      <CutLooks />
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
</style>

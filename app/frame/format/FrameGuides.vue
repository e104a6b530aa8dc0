<script setup lang="ts">
// Lines that help to place things: several at once, each with its colour and strength; a metre grid on a picked floor or wall.
import { computed } from 'vue'
import type { Guide, GuideKind } from '#core/camera'
import { GUIDE_COLOURS, GUIDE_KINDS } from '#model'
import NumberField from '../../controls/NumberField.vue'
import { useProject } from '../../stores/project.ts'
import { useView } from '../../stores/view.ts'
import { usePicking } from '../straighten/picking.ts'
import { GUIDE_INK, GUIDE_NAMES, useGuides } from './guides.ts'

const project = useProject()
const view = useView()
const { begin } = usePicking()
const { guides, set, toggle } = useGuides()
const frame = computed(() => project.working!.frame)
const on = (kind: GuideKind): Guide | undefined => guides.value.find((g) => g.kind === kind)
/** The next colour of the row. */
function nextColour(g: Guide): void {
  const i = GUIDE_COLOURS.indexOf(g.colour)
  set(g.kind, { colour: GUIDE_COLOURS[(i + 1) % GUIDE_COLOURS.length]! })
}
function press(kind: GuideKind): void {
  // a metre grid needs its plane first
  if (kind === 'metres' && !on('metres')) begin('metre-grid')
  else toggle(kind)
}
</script>

<template>
  <div role="group" aria-label="Guides">
    <div v-for="kind in GUIDE_KINDS" :key="kind" class="guide">
      <label class="name">
        <input type="checkbox" :checked="!!on(kind)" @change="press(kind)" /> {{ GUIDE_NAMES[kind] }}
      </label>
      <template v-if="on(kind)">
        <button
          class="colour"
          :style="{ background: GUIDE_INK[on(kind)!.colour] }"
          :aria-label="`Colour of ${GUIDE_NAMES[kind]}: ${on(kind)!.colour}`"
          :title="`${on(kind)!.colour}; click for the next colour`"
          @click="nextColour(on(kind)!)"
        />
        <input
          type="range"
          min="0.05"
          max="1"
          step="0.05"
          :value="on(kind)!.strength"
          :aria-label="`Strength of ${GUIDE_NAMES[kind]}`"
          @change="set(kind, { strength: Number(($event.target as HTMLInputElement).value) })"
        />
      </template>
    </div>
    <template v-if="on('fields')">
      <NumberField
        label="Fields across"
        :digits="0"
        :model-value="on('fields')!.across ?? 4"
        :step="1"
        :min="1"
        :max="24"
        @change="set('fields', { across: Math.round($event) })"
      />
      <NumberField
        label="Fields down"
        :digits="0"
        :model-value="on('fields')!.down ?? 4"
        :step="1"
        :min="1"
        :max="24"
        @change="set('fields', { down: Math.round($event) })"
      />
    </template>
    <NumberField
      v-if="on('metres')"
      label="Lines every"
      kind="length"
      :unit="project.document!.unit"
      :model-value="on('metres')!.stepM ?? 1"
      :step="0.1"
      :min="0.001"
      :max="1000"
      @change="set('metres', { stepM: $event })"
      ><button class="btn pick" :class="{ on: view.picking === 'metre-grid' }" @click="begin('metre-grid')">
        Other plane
      </button></NumberField
    >
    <label class="tick">
      <input
        type="checkbox"
        :checked="frame.guidesInPicture ?? false"
        @change="
          project.move(
            { frame: { ...frame, guidesInPicture: ($event.target as HTMLInputElement).checked } },
            'Guides in finished pictures',
          )
        "
      />
      In finished pictures too
    </label>
  </div>
</template>

<style scoped src="../parts/panel.css"></style>
<style scoped>
.guide {
  display: grid;
  grid-template-columns: 1fr 18px 84px;
  gap: 8px;
  align-items: center;
  min-height: 24px;
  padding: 0 14px;
}
.name {
  display: flex;
  gap: 6px;
  align-items: center;
}
.name input,
input[type='range'] {
  accent-color: var(--plum);
  margin: 0;
  min-width: 0;
}
.colour {
  appearance: none;
  width: 18px;
  height: 18px;
  border: 1px solid var(--line-strong);
  border-radius: 50%;
  cursor: pointer;
}
.pick {
  min-height: 20px;
  padding: 0 6px;
  font-size: 11px;
}
</style>

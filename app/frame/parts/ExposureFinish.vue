<script setup lang="ts">
// How the picture is developed: tone, contrast, saturation, a colour table, and what film and lens add.
import Select from 'primevue/select'
import { ref } from 'vue'
import type { Command } from '#model'
import ChoiceRow from '../../controls/ChoiceRow.vue'
import NumberField from '../../controls/NumberField.vue'
import { useProject } from '../../stores/project.ts'
import { useExposure, type Exposure } from '../exposure/exposure.ts'
import { useTables } from '../exposure/tables.ts'
import { useLiveEdits } from '../camera/live-edits.ts'

const project = useProject()
const { withExposure, set } = useExposure()
const { number } = useLiveEdits()
const { list, chosen, isGone, finish, said, choose, bring, takeOut } = useTables()
type Finish = NonNullable<Exposure['finish']>
const withFinish = (changes: Partial<Finish>): Command => withExposure({ finish: { ...finish.value, ...changes } })
const TONES: readonly { value: Exposure['tone']; label: string; title: string }[] = [
  { value: 'neutral', label: 'soft', title: 'A shoulder that holds bright windows (AgX, a little steeper)' },
  { value: 'linear', label: 'linear', title: 'As it is, cut off at white' },
]
const input = ref<HTMLInputElement | null>(null)
function picked(e: Event): void {
  const field = e.target as HTMLInputElement
  const file = field.files?.[0]
  if (file) void bring(file)
  field.value = ''
}
</script>

<template>
  <div>
    <ChoiceRow
      label="Tone"
      :options="TONES"
      :model-value="project.working!.exposure.tone"
      @change="set({ tone: $event })"
    />
    <NumberField
      v-if="project.working!.exposure.tone === 'neutral'"
      label="Shoulder"
      suffix="%"
      :model-value="(finish.shoulder ?? 0.5) * 100"
      :digits="0"
      :step="5"
      :min="0"
      :max="100"
      :reset-to="50"
      hint="Higher holds more of what is bright: windows, sky"
      v-on="number((p) => withFinish({ shoulder: p === 50 ? undefined : p / 100 }))"
    />
    <NumberField
      label="Contrast"
      suffix="%"
      :model-value="finish.contrast * 100"
      :digits="0"
      :step="2"
      :min="20"
      :max="300"
      :reset-to="100"
      v-on="number((p) => withFinish({ contrast: p / 100 }))"
    />
    <NumberField
      label="Saturation"
      suffix="%"
      :model-value="finish.saturation * 100"
      :digits="0"
      :step="2"
      :min="0"
      :max="300"
      :reset-to="100"
      v-on="number((p) => withFinish({ saturation: p / 100 }))"
    />
    <div class="line">
      <span class="quiet">Colour table</span>
      <span class="buttons table">
        <Select
          v-if="list.length > 0"
          :model-value="chosen?.id ?? ''"
          :options="[{ id: '', name: 'none' }, ...list]"
          option-label="name"
          option-value="id"
          size="small"
          aria-label="Colour table"
          @update:model-value="choose($event || null)"
        />
        <button class="btn" title="A cube of colours (.cube) from a file" @click="input?.click()">From a file…</button>
        <button v-if="chosen" class="btn" title="Out of the project" @click="takeOut(chosen.id)">Take out</button>
        <input
          ref="input"
          class="visually-hidden"
          type="file"
          accept=".cube"
          tabindex="-1"
          aria-label="Colour table file"
          @change="picked"
        />
      </span>
    </div>
    <p v-if="said" class="text" role="status" data-testid="table-said">{{ said }}</p>
    <p v-if="isGone" class="text" role="status">
      The table of this finish is no longer in the project: it does nothing.
    </p>
    <NumberField
      v-if="chosen"
      label="of it"
      suffix="%"
      :model-value="(finish.table?.strength ?? 1) * 100"
      :digits="0"
      :step="5"
      :min="0"
      :max="100"
      :reset-to="100"
      v-on="number((p) => withFinish({ table: { id: chosen!.id, strength: p / 100 } }))"
    />
    <NumberField
      label="Grain"
      :model-value="finish.grain ?? 0"
      :digits="1"
      :step="1"
      :min="0"
      :max="60"
      :reset-to="0"
      hint="Levels of 255 that mid-grey strays by"
      v-on="number((grain) => withFinish({ grain: grain || undefined }))"
    />
    <NumberField
      label="Glare"
      suffix="%"
      :model-value="(finish.glare ?? 0) * 100"
      :digits="0"
      :step="1"
      :min="0"
      :max="50"
      :reset-to="0"
      hint="Share of the light that lens and air spread over the picture: what is bright glows"
      v-on="number((p) => withFinish({ glare: p > 0 ? p / 100 : undefined }))"
    />
    <NumberField
      label="Colour fringe"
      suffix="px"
      sign
      :model-value="finish.lateralPx ?? 0"
      :digits="1"
      :step="0.5"
      :min="-20"
      :max="20"
      :reset-to="0"
      hint="Red and blue apart at the corners of the finished picture, as simple lenses do"
      v-on="number((lateralPx) => withFinish({ lateralPx: lateralPx || undefined }))"
    />
  </div>
</template>

<style scoped src="./panel.css"></style>
<style scoped>
.table :deep(.p-select) {
  max-width: 100%;
}
.table :deep(.p-select-label) {
  padding: 3px 8px;
  font-size: 11.5px;
}
</style>

<script setup lang="ts">
// How all cuts look: their faces, hatching and outlines, what is cut away, what is left whole, which gaps are closed.
import { computed } from 'vue'
import { gapClosed, OUTLINE, type FaceStyle } from '#core/section'
import ChoiceRow from '../../controls/ChoiceRow.vue'
import NumberField from '../../controls/NumberField.vue'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'
import { useCuts } from '../cuts/cuts.ts'
import CutMaterials from './CutMaterials.vue'
import { useLiveEdits } from '../camera/live-edits.ts'

const project = useProject()
const view = useView()
const stage = useStage()
const { part, set, whole, leaveWhole, cutAgain, withPart } = useCuts()
const { number } = useLiveEdits()
const gapM = computed(() => gapClosed(stage.facts?.box ?? null))
const outline = computed(() => part.value?.outline ?? OUTLINE)
type HatchOn = 'paper' | 'model'
const HATCH_ON: readonly { value: HatchOn; label: string; title: string }[] = [
  { value: 'paper', label: 'on paper', title: 'Millimetres in print, whatever the scale is' },
  { value: 'model', label: 'in the model', title: 'A length of the model, as if painted on the face' },
]
const hatchOn = computed<HatchOn>(() => (part.value?.hatch && 'modelM' in part.value.hatch ? 'model' : 'paper'))
const PAPER_MM = 2
const MODEL_M = 0.06
const paperMm = computed(() =>
  part.value?.hatch && 'paperMm' in part.value.hatch ? part.value.hatch.paperMm : PAPER_MM,
)
const modelM = computed(() => (part.value?.hatch && 'modelM' in part.value.hatch ? part.value.hatch.modelM : MODEL_M))
const hatchBy = (on: HatchOn): boolean =>
  set({
    hatch:
      on === 'paper' ? { paperMm: PAPER_MM } : { modelM: project.document?.subject === 'product' ? 0.002 : MODEL_M },
  })
const FACES: readonly { value: FaceStyle; label: string; title: string }[] = [
  { value: 'solid', label: 'solid', title: 'Cut faces in one dark tone (poche)' },
  { value: 'hatched', label: 'hatched', title: 'Lines by the class of the material, neighbours the other way' },
  { value: 'filled', label: 'own', title: 'Each in its object’s own colour, in the light' },
  { value: 'open', label: 'none', title: 'No faces: one looks into things' },
]
const nameOf = (id: string): string => stage.byId.get(id)?.name ?? `${id} (not there)`
</script>

<template>
  <div v-if="part">
    <ChoiceRow label="Faces" :model-value="part.face" :options="FACES" @change="set({ face: $event })" />
    <template v-if="part.face === 'hatched'">
      <ChoiceRow label="Lines" :model-value="hatchOn" :options="HATCH_ON" @change="hatchBy" />
      <NumberField
        v-if="hatchOn === 'paper'"
        label="every"
        suffix="mm"
        :model-value="paperMm"
        :digits="1"
        :step="0.5"
        :min="0.1"
        :max="100"
        hint="Printed at the frame’s density, where the picture has a scale"
        v-on="number((mm) => withPart({ hatch: { paperMm: mm } }))"
      />
      <NumberField
        v-else
        label="every"
        kind="length"
        :unit="project.document!.unit"
        :model-value="modelM"
        :step="0.01"
        :min="1e-6"
        :max="1000"
        v-on="number((m) => withPart({ hatch: { modelM: m } }))"
      />
      <CutMaterials />
    </template>
    <template v-if="part.face !== 'open'">
      <NumberField
        label="Outline, screen"
        suffix="px"
        :model-value="outline.screenPx"
        :digits="1"
        :step="0.1"
        :min="0"
        :max="20"
        :reset-to="OUTLINE.screenPx"
        hint="At least so wide in the picture"
        v-on="number((screenPx) => withPart({ outline: { ...outline, screenPx } }))"
      />
      <NumberField
        label="in print"
        suffix="mm"
        :model-value="outline.printMm"
        :digits="2"
        :step="0.05"
        :min="0"
        :max="5"
        :reset-to="OUTLINE.printMm"
        hint="At the frame’s density"
        v-on="number((printMm) => withPart({ outline: { ...outline, printMm } }))"
      />
    </template>
    <label class="tick" title="Outlines and creases of what the cuts take away, over the picture">
      <input type="checkbox" :checked="part.ghost === true" @change="set({ ghost: part.ghost ? undefined : true })" />
      what is cut away as faint lines
    </label>
    <label class="tick" title="Otherwise what is cut away goes on casting its shadow">
      <input
        type="checkbox"
        :checked="part.lightIn === true"
        @change="set({ lightIn: part.lightIn ? undefined : true })"
      />
      light comes in through the cut
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
  </div>
</template>

<style scoped src="./panel.css"></style>
<style scoped>
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

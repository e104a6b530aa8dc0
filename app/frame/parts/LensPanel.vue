<script setup lang="ts">
// Projection, focal length in all its words, rise and cross, sensor, distortion, lenses side by side.
import { computed } from 'vue'
import { scaleOfWidth, widthAtScaleM } from '#core/framing'
import { widthOfView } from '#core/camera'
import ChoiceRow from '../../controls/ChoiceRow.vue'
import LensDiagram from '../../controls/LensDiagram.vue'
import NumberField from '../../controls/NumberField.vue'
import { useProject } from '../../stores/project.ts'
import { useView } from '../../stores/view.ts'
import { useFraming } from '../camera/framing.ts'
import LensDistortion from '../lens/LensDistortion.vue'
import LensFocal from '../lens/LensFocal.vue'
import LensSensor from '../lens/LensSensor.vue'
import LensShift from '../lens/LensShift.vue'
import { useLens } from '../lens/lens.ts'
import PanelHead from './PanelHead.vue'

const project = useProject()
const view = useView()
const { switchProjection } = useFraming()
const { lens, form, byWidthOfView, edits } = useLens()
const frame = computed(() => project.working!.frame)
const { live, settle, cancel } = edits((riseMm) => ({ riseMm }), 'Rise')
const rise = { live, settle, cancel }
const widthM = computed(() => widthOfView(lens.value!))
const slant = computed(() => (lens.value!.projection.kind === 'oblique' ? lens.value!.projection : null))
const byScale = {
  ...byWidthOfView,
  change: (k: number) => byWidthOfView.change(widthAtScaleM(frame.value, k)),
  live: (k: number) => byWidthOfView.live(widthAtScaleM(frame.value, k)),
}
const slanting = (changes: (v: number) => object) =>
  edits((v) => ({ projection: { ...slant.value!, ...changes(v) } }), 'Oblique')
const [angle, receding] = [slanting((angleDeg) => ({ angleDeg })), slanting((k) => ({ receding: k }))]
const FORMS = [
  { value: 'perspective', label: 'Perspective' },
  { value: 'parallel', label: 'Parallel' },
] as const
/** An oblique picture is one of parallel rays too; its own numbers stand below. */
const chosen = computed(() => (form.value!.isCentral ? 'perspective' : slant.value ? 'oblique' : 'parallel'))
const forms = computed(() => (slant.value ? [...FORMS, { value: 'oblique' as const, label: 'Oblique' }] : FORMS))
function choose(kind: 'perspective' | 'parallel' | 'oblique'): void {
  if (kind !== 'oblique') switchProjection(kind)
}
</script>

<template>
  <section aria-label="Lens">
    <PanelHead cell="lens" title="Lens" />
    <LensDiagram :lens="lens!" :frame="frame" v-on="rise" />
    <ChoiceRow label="Projection" :model-value="chosen" :options="forms" @change="choose" />
    <LensFocal v-if="form!.hasLens" />
    <template v-else-if="widthM !== null">
      <NumberField
        label="Width of view"
        kind="length"
        :unit="project.document!.unit"
        :model-value="widthM"
        :step="0.05"
        :min="0.0001"
        :max="1e6"
        v-on="byWidthOfView"
      />
      <NumberField
        label="Scale 1 :"
        :digits="1"
        :model-value="scaleOfWidth(frame, widthM)"
        :step="1"
        :min="0.001"
        :max="1e7"
        hint="At the frame’s density"
        v-on="byScale"
      />
      <template v-if="slant">
        <NumberField
          label="Receding at"
          suffix="°"
          :digits="1"
          :model-value="slant.angleDeg"
          :step="1"
          :min="-360"
          :max="360"
          hint="Counterclockwise from the picture’s right: where farther points go"
          v-on="angle"
        />
        <NumberField
          label="Shortened to"
          :digits="3"
          :model-value="slant.receding"
          :step="0.05"
          :min="0"
          :max="2"
          hint="How long a metre of depth is drawn: 1 cavalier, a half cabinet"
          v-on="receding"
        />
      </template>
    </template>
    <hr />
    <LensShift />
    <hr />
    <LensSensor />
    <template v-if="form!.hasLens">
      <hr />
      <LensDistortion />
      <hr />
      <div class="line">
        <span class="quiet">Compare</span>
        <span class="buttons">
          <button
            class="btn"
            :class="{ on: view.fiveLenses }"
            :aria-pressed="view.fiveLenses"
            @click="view.fiveLenses = !view.fiveLenses"
          >
            Five lenses side by side
          </button>
        </span>
      </div>
    </template>
  </section>
</template>

<style scoped src="./panel.css"></style>

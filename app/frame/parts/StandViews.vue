<script setup lang="ts">
// Measured views as small pictures: each fitted to the selection or the model, at a free extent or at a drawing scale.
import { widthOfView, withWidthOfView } from '#core/camera'
import Select from 'primevue/select'
import { computed } from 'vue'
import { drawnAxes, scaleOfWidth, STANDARD_SCALES, widthAtScaleM, type Quarter } from '#core/framing'
import AnglePair from '../../controls/AnglePair.vue'
import ChoiceRow from '../../controls/ChoiceRow.vue'
import NumberField from '../../controls/NumberField.vue'
import { useFraming } from '../camera/framing.ts'
import { useProject } from '../../stores/project.ts'
import { useFitting } from '../straighten/fitting.ts'
import { useMeasuredViews } from '../straighten/measured-views.ts'
import { viewRows } from '../straighten/view-rows.ts'
import { signed } from '../../text/short.ts'
import { useLiveEdits } from '../camera/live-edits.ts'
import ViewTile from './ViewTile.vue'
import type { CameraChanges } from '#model'

const project = useProject()
const { mainBearingDeg, switchProjection } = useFraming()
const { target } = useFitting()
const { scale, quarter, show, showAngles } = useMeasuredViews()

const Q = [0, 1, 2, 3] as const satisfies readonly Quarter[]
/** Each group in one row; the label names the row. */
const ROWS = computed(() => viewRows(mainBearingDeg.value, quarter.value))
const SCALES = [
  { value: 0, label: 'as large as fits' },
  ...STANDARD_SCALES.map((k) => ({ value: k as number, label: `1 : ${k}` })),
]
const lens = computed(() => project.working!.lens)
/** Width of view of a picture that has a scale; null in perspective. */
const flat = computed(() => widthOfView(lens.value))
const nowScale = computed(() => (flat.value === null ? 0 : scaleOfWidth(project.working!.frame, flat.value)))
/** The scale changes what is shown at once: the window's middle stays. */
function toScale(k: number | null): void {
  scale.value = k
  if (k !== null && flat.value !== null) project.move(atScale(k), `1 : ${k}`)
}
const atScale = (k: number): CameraChanges => ({
  lens: withWidthOfView(lens.value, widthAtScaleM(project.working!.frame, k)),
})
const { ends } = useLiveEdits()
const axes = computed(() => {
  const a = project.camera && drawnAxes(project.camera, mainBearingDeg.value)
  if (!a) return []
  return (['x', 'y', 'z'] as const).map((k) => ({
    name: k,
    angle:
      a[k].angleDeg === null ? 'end on' : `${signed(a[k].angleDeg! > 180 ? a[k].angleDeg! - 360 : a[k].angleDeg!, 1)}°`,
    part: a[k].foreshortening.toFixed(4),
  }))
})
const FORMS = [
  { value: 'perspective', label: 'Perspective', title: 'The subject at the aim keeps its place and size' },
  { value: 'parallel', label: 'Parallel', title: 'The subject at the aim keeps its place and size' },
] as const
</script>

<template>
  <div>
    <p class="text quiet">
      Of <b>{{ target?.what ?? 'nothing' }}</b>, within the margins under Fit.
    </p>
    <div v-for="row in ROWS" :key="row.label" class="group" role="group" :aria-label="row.title ?? row.label">
      <span class="quiet" :title="row.title">{{ row.label }}</span>
      <span class="tiles">
        <ViewTile
          v-for="v in row.views"
          :key="v.label"
          :view="v.view"
          :word="v.word"
          :label="v.label"
          @choose="show(v.view)"
        />
      </span>
    </div>
    <div class="line">
      <span class="quiet" title="Dimetric and oblique views face this side">Turned by</span>
      <span class="buttons">
        <button
          v-for="k in Q"
          :key="k"
          class="btn"
          :class="{ on: quarter === k }"
          :aria-pressed="quarter === k"
          @click="quarter = k"
        >
          {{ 90 * k }}°
        </button>
      </span>
    </div>
    <div class="line">
      <span class="quiet" title="Angles of the axes that recede to the left and to the right, above the horizontal"
        >Axes at</span
      >
      <AnglePair
        :start="[30, 30]"
        :labels="['Left axis, degrees', 'Right axis, degrees']"
        action="Draw"
        title="A free axonometry with these axes"
        @go="showAngles"
      />
    </div>
    <div class="line">
      <span class="quiet">Scale</span>
      <Select
        aria-label="Scale"
        :model-value="scale ?? 0"
        :options="SCALES"
        option-label="label"
        option-value="value"
        size="small"
        @update:model-value="toScale($event || null)"
      />
    </div>
    <hr />
    <ChoiceRow
      label="Projection"
      :model-value="flat === null ? 'perspective' : 'parallel'"
      :options="FORMS"
      @change="switchProjection"
    />
    <template v-if="flat !== null">
      <NumberField
        label="Scale 1 :"
        :digits="1"
        :model-value="nowScale"
        :step="1"
        :min="0.001"
        :max="1e7"
        @change="toScale($event)"
        @live="project.show(atScale($event))"
        v-on="ends('Scale')"
      />
      <table class="axes num" aria-label="Axes as drawn">
        <tbody>
          <tr v-for="a in axes" :key="a.name">
            <th>{{ a.name }}</th>
            <td>{{ a.angle }}</td>
            <td>× {{ a.part }}</td>
          </tr>
        </tbody>
      </table>
    </template>
  </div>
</template>

<style scoped src="./panel.css"></style>
<style scoped>
.group {
  display: grid;
  grid-template-columns: 62px 1fr;
  gap: 6px;
  align-items: center;
  padding: 2px 14px;
  font-size: 11.5px;
}
.tiles {
  display: flex;
  gap: 4px;
}
.line :deep(.p-select-label) {
  font-size: 12px;
  padding: 3px 6px;
}
.axes {
  margin: 4px 14px;
  border-spacing: 10px 1px;
  color: var(--quiet);
}
.axes th {
  font-weight: 600;
  color: var(--ink);
}
</style>

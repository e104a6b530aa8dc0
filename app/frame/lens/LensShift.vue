<script setup lang="ts">
// Rise and cross, in millimetres or in per cent of the picture, and how the picture lies on the sensor and in the lens's image circle:
// the picture there is dragged.
import { computed } from 'vue'
import { imageCircleLimitMm, imageCircleMm, isPerspective, USUAL_SHIFT } from '#core/camera'
import ChoiceRow from '../../controls/ChoiceRow.vue'
import NumberField from '../../controls/NumberField.vue'
import { useProject } from '../../stores/project.ts'
import { useView } from '../../stores/view.ts'
import { useLens } from './lens.ts'
import SensorPicture from './SensorPicture.vue'

const project = useProject()
const view = useView()
const { lens, used, edits } = useLens()
const circle = computed(() => imageCircleMm(lens.value!, project.working!.frame))
const limit = computed(() => imageCircleLimitMm(lens.value!))
const ROWS = [
  { label: 'Rise', key: 'riseMm', side: 'heightMm' },
  { label: 'Cross', key: 'crossMm', side: 'widthMm' },
] as const
const LIMIT_MM = 240
const rows = computed(() =>
  ROWS.map(({ label, key, side }) => {
    const isPart = view.shiftUnit === '%'
    const all = used.value![side]
    const mm = lens.value![key]
    return {
      ...{ label, key },
      shown: isPart ? (100 * mm) / all : mm,
      suffix: isPart ? '%' : 'mm',
      most: isPart ? (100 * LIMIT_MM) / all : LIMIT_MM,
      other: isPart ? `${mm.toFixed(2)} mm` : `${((100 * mm) / all).toFixed(1)} %`,
      usualMm: USUAL_SHIFT * Math.max(used.value!.widthMm, used.value!.heightMm),
      on: edits((v) => ({ [key]: isPart ? (v * all) / 100 : v }), label),
    }
  }),
)
const UNITS = [
  { value: 'mm', label: 'mm' },
  { value: '%', label: '% of the picture' },
] as const
</script>

<template>
  <div>
    <NumberField
      v-for="r in rows"
      :key="r.key"
      :label="r.label"
      :kind="view.shiftUnit === 'mm' ? 'sensor' : 'plain'"
      :suffix="r.suffix"
      sign
      :model-value="r.shown"
      :step="0.1"
      :reset-to="0"
      :min="-r.most"
      :max="r.most"
      v-on="r.on"
      ><span class="share num">{{ r.other }}</span></NumberField
    >
    <ChoiceRow label="In" :model-value="view.shiftUnit" :options="UNITS" @change="view.shiftUnit = $event" />
    <SensorPicture v-if="isPerspective(lens!)" />
    <p v-if="isPerspective(lens!)" class="text quiet">
      Image circle <span class="num">{{ circle.toFixed(1) }} mm</span>; shift lenses reach about
      <span class="num">{{ limit.toFixed(1) }} mm</span>. A tenth of the longer side (<span class="num"
        >{{ rows[0]!.usualMm.toFixed(1) }} mm</span
      >) is a usual shift.
    </p>
    <p v-if="isPerspective(lens!) && circle > limit * (1 + 1e-9)" class="text warn">
      No shift lens has an image circle of {{ circle.toFixed(1) }} mm: a smaller shift, or a crop of a wider lens.
    </p>
  </div>
</template>

<style scoped src="../parts/panel.css"></style>
<style scoped>
.share {
  color: var(--quiet);
  min-width: 62px;
  text-align: right;
  font-size: 11px;
}
.warn {
  color: var(--ochre);
}
</style>

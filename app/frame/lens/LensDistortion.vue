<script setup lang="ts">
// How the lens bends straight lines: a starting point, its strength at the picture's corner, its coefficients, and a grid as it draws one.
import Select from 'primevue/select'
import { computed, ref } from 'vue'
import { cornerDistortion, foldInPicture, sagittaPx, withCornerDistortion, type Brown } from '#core/camera'
import NumberField from '../../controls/NumberField.vue'
import { useProject } from '../../stores/project.ts'
import DistortionGrid from './DistortionGrid.vue'
import { useLens } from './lens.ts'

const project = useProject()
const { lens, done } = useLens()
const frame = computed(() => project.working!.frame)
const now = computed(() => ({ lens: lens.value!, frame: frame.value }))
const part = computed(() => cornerDistortion(now.value))
/** Starting points: the corner drawn in or out by so much (usual for zoom lenses; practice). */
const STARTS = [
  { value: '0', label: 'none', part: 0 },
  { value: 'slight', label: 'slight barrel', part: -0.015 },
  { value: 'strong', label: 'strong barrel', part: -0.06 },
  { value: 'pin', label: 'pincushion', part: 0.02 },
] as const
type Start = (typeof STARTS)[number]['value'] | 'own'
/** Numbers of one's own are named as long as they are there. */
const options = computed(() =>
  start.value === 'own' ? [...STARTS, { value: 'own', label: 'own numbers' }] : [...STARTS],
)
const start = computed<Start>(() => {
  const d = lens.value!.distortion
  if (!d) return '0'
  const plain = d.k2 === 0 && d.k3 === 0 && d.p1 === 0 && d.p2 === 0
  return (plain && STARTS.find((s) => Math.abs(s.part - part.value) < 1e-4)?.value) || 'own'
})
/** Why what was asked for last was refused. */
const refusal = ref('')
/** Folding coefficients are refused; the old ones stay. */
function isUsable(distortion: Brown | null): boolean {
  const foldMm = foldInPicture({ lens: { ...lens.value!, distortion }, frame: frame.value })
  refusal.value =
    foldMm === null ? '' : `The picture would fold ${foldMm.toFixed(1)} mm from the axis, inside the frame: not taken.`
  return foldMm === null
}
const NONE: Brown = { kind: 'brown', k1: 0, k2: 0, k3: 0, p1: 0, p2: 0 }
function take(distortion: Brown | null): void {
  if (isUsable(distortion)) done({ distortion }, 'Distortion')
}
const strongly = (value: number): Brown | null =>
  withCornerDistortion({ lens: { ...lens.value!, distortion: null }, frame: frame.value }, value)
function choose(value: Start): void {
  const s = STARTS.find((x) => x.value === value)
  if (s) take(strongly(s.part))
}
/** The listeners of a field whose numbers come to a distortion; what folds is not shown either. */
const edits = (of: (value: number) => Brown | null) => ({
  change: (value: number) => take(of(value)),
  live: (value: number) => {
    const distortion = of(value)
    if (isUsable(distortion)) project.show({ lens: { ...project.working!.lens, distortion } })
  },
  settle: () => project.settle('Distortion'),
  cancel: () => {
    refusal.value = ''
    project.letGo()
  },
})
const strength = edits((percent) => withCornerDistortion(now.value, percent / 100))
const KEYS = ['k1', 'k2', 'k3', 'p1', 'p2'] as const
const fields = KEYS.map((key) => ({
  key,
  on: edits((v) => {
    const d = { ...(lens.value!.distortion ?? NONE), [key]: v }
    return KEYS.every((k) => d[k] === 0) ? null : d
  }),
}))
/** How far the frame's upper edge is bent in its middle. */
const bend = computed(() => {
  const { widthPx } = frame.value
  return sagittaPx(now.value, [0, 0], [widthPx, 0])
})
</script>

<template>
  <div>
    <div class="line">
      <label class="quiet" for="distortion-choice">Distortion</label>
      <Select
        input-id="distortion-choice"
        :model-value="start"
        :options="options"
        option-label="label"
        option-value="value"
        size="small"
        @update:model-value="choose"
      />
    </div>
    <NumberField
      label="Strength"
      suffix="%"
      sign
      :model-value="part * 100"
      :step="0.1"
      :min="-60"
      :max="60"
      :reset-to="0"
      hint="How far the picture’s corner is drawn out (+) or in (−), rise and cross aside"
      v-on="strength"
      ><span class="quiet share">at the corner</span></NumberField
    >
    <p v-if="refusal" class="text warn" role="alert">{{ refusal }}</p>
    <template v-if="lens!.distortion">
      <DistortionGrid :lens="lens!" :frame="frame" />
      <p v-if="bend !== null" class="text quiet">
        A straight edge from corner to corner of the upper side is bent by
        <span class="num">{{ bend.toFixed(1) }} px</span>.
      </p>
    </template>
    <details>
      <summary>Coefficients</summary>
      <p class="text quiet">Of x/f and y/f from the axis, y down: k radial, p tangential.</p>
      <NumberField
        v-for="f in fields"
        :key="f.key"
        :label="f.key"
        :digits="5"
        :model-value="lens!.distortion?.[f.key] ?? 0"
        :step="0.001"
        :min="-100"
        :max="100"
        :reset-to="0"
        v-on="f.on"
      />
    </details>
  </div>
</template>

<style scoped src="../parts/panel.css"></style>
<style scoped>
.share {
  font-size: 11px;
}
.warn {
  color: var(--ochre);
}
.line :deep(.p-select-label) {
  font-size: 12px;
  padding: 3px 6px;
}
</style>

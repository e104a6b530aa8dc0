<script setup lang="ts">
// Projection, focal length, rise and cross, sensor.
import Select from 'primevue/select'
import { computed } from 'vue'
import {
  aimPointOf,
  fieldOfView,
  FOCAL_RANGE_MM,
  focalHoldingSize,
  imageCircleLimitMm,
  imageCircleMm,
  toCamera,
  usedSensor,
  widthAtDepthM,
  type Lens,
} from '#core/camera'
import { centreOf } from '../../stores/centres.ts'
import ChoiceRow from '../../controls/ChoiceRow.vue'
import FocalScale from '../../controls/FocalScale.vue'
import LensDiagram from '../../controls/LensDiagram.vue'
import SensorUse from '../../controls/SensorUse.vue'
import NumberField from '../../controls/NumberField.vue'
import { useFraming } from '../camera/framing.ts'
import { useProject } from '../../stores/project.ts'
import PanelHead from './PanelHead.vue'
import { useLiveEdits } from './live-edits.ts'

const project = useProject()
const { switchProjection } = useFraming()
const camera = computed(() => project.camera!)
const lens = computed(() => camera.value.lens)
const frame = computed(() => camera.value.frame)
const used = computed(() => usedSensor(lens.value, frame.value))
const fov = computed(() => fieldOfView(lens.value, frame.value))
const parallel = computed(() => (lens.value.projection.kind === 'parallel' ? lens.value.projection : null))
const circle = computed(() => imageCircleMm(lens.value, frame.value))
const circleLimit = computed(() => imageCircleLimitMm(lens.value))
const aimDepth = computed(() => {
  const p = aimPointOf(project.working!.stand.aim, centreOf)
  return p ? -toCamera(camera.value.pose, p)[2] : null
})
const widthThere = computed(() =>
  aimDepth.value && aimDepth.value > 0 ? widthAtDepthM(camera.value, aimDepth.value) : null,
)
const scaleNumber = computed(() =>
  parallel.value ? (parallel.value.widthM * frame.value.densityPpi) / (frame.value.widthPx * 0.0254) : 0,
)

const with_ = (changes: Partial<Lens>): Lens => ({ ...lens.value, ...changes })
const live = (l: Partial<Lens>): void => void project.show({ lens: with_(l) })
const done = (l: Partial<Lens>, label: string): void => void project.move({ lens: with_(l) }, label)
const { ends } = useLiveEdits()
const byScale = (k: number): Partial<Lens> => ({
  projection: { kind: 'parallel', widthM: (k * frame.value.widthPx * 0.0254) / frame.value.densityPpi },
})
/** Focal lengths offered for the subject's size held. */
const HELD_MM = [18, 24, 35, 50, 85, 135, 180]
function holding(mm: number): void {
  if (aimDepth.value === null || aimDepth.value <= 0) return
  const f = focalHoldingSize({ stand: project.working!.stand, lens: lens.value }, aimDepth.value, mm)
  project.move({ stand: f.stand, lens: f.lens }, 'Focal length, size held')
}

const SENSORS = [
  { label: '36 × 24 mm', width: 36, height: 24 },
  { label: '24 × 36 mm, upright', width: 24, height: 36 },
  { label: '23.5 × 15.6 mm', width: 23.5, height: 15.6 },
  { label: '17.3 × 13 mm', width: 17.3, height: 13 },
  { label: '44 × 33 mm', width: 44, height: 33 },
  { label: '120 × 95 mm, sheet film', width: 120, height: 95 },
]
const sensor = computed(
  () =>
    SENSORS.find((s) => s.width === lens.value.sensorMm.width && s.height === lens.value.sensorMm.height)?.label ??
    null,
)
function setSensor(label: string): void {
  const s = SENSORS.find((x) => x.label === label)
  if (s) done({ sensorMm: { width: s.width, height: s.height } }, 'Sensor')
}
const FORMS = [
  { value: 'perspective', label: 'Perspective' },
  { value: 'parallel', label: 'Parallel' },
] as const
</script>

<template>
  <section aria-label="Lens">
    <PanelHead cell="lens" title="Lens" />
    <LensDiagram :lens="lens" :frame="frame" />
    <ChoiceRow
      label="Projection"
      :model-value="parallel ? 'parallel' : 'perspective'"
      :options="FORMS"
      @change="switchProjection"
    />
    <template v-if="!parallel">
      <NumberField
        label="Focal length"
        kind="sensor"
        suffix="mm"
        :digits="1"
        :model-value="lens.focalMm"
        :step="1"
        :min="FOCAL_RANGE_MM.min"
        :max="FOCAL_RANGE_MM.max"
        @change="done({ focalMm: $event }, 'Focal length')"
        @live="live({ focalMm: $event })"
        v-on="ends('Focal length')"
      />
      <FocalScale :focal-mm="lens.focalMm" @live="live({ focalMm: $event })" v-on="ends('Focal length')" />
      <div class="fact">
        <span class="quiet">Angle of view</span
        ><span class="num"
          >{{ fov.horizontalDeg.toFixed(1) }}° <span class="unit">across</span> {{ fov.verticalDeg.toFixed(1) }}°
          <span class="unit">up</span></span
        >
      </div>
      <div v-if="widthThere" class="fact">
        <span class="quiet">At the aim</span
        ><span class="num"
          >{{ widthThere.toFixed(2) }} <span class="unit">m wide, {{ aimDepth!.toFixed(2) }} m away</span></span
        >
      </div>
    </template>
    <template v-else>
      <NumberField
        label="Width of view"
        kind="length"
        :unit="project.document!.unit"
        :model-value="parallel.widthM"
        :step="0.05"
        :min="0.0001"
        :max="1e6"
        @change="done({ projection: { kind: 'parallel', widthM: $event } }, 'Width of view')"
        @live="live({ projection: { kind: 'parallel', widthM: $event } })"
        v-on="ends('Width of view')"
      />
      <NumberField
        label="Scale 1 :"
        :digits="1"
        :model-value="scaleNumber"
        :step="1"
        :min="0.001"
        :max="1e7"
        hint="At the frame’s density"
        @change="done(byScale($event), 'Scale')"
        @live="live(byScale($event))"
        v-on="ends('Scale')"
      />
    </template>
    <hr />
    <NumberField
      label="Rise"
      kind="sensor"
      suffix="mm"
      sign
      :model-value="lens.riseMm"
      :step="0.1"
      :reset-to="0"
      :min="-240"
      :max="240"
      @change="done({ riseMm: $event }, 'Rise')"
      @live="live({ riseMm: $event })"
      v-on="ends('Rise')"
      ><span class="share num">{{ ((100 * lens.riseMm) / used.heightMm).toFixed(1) }} %</span></NumberField
    >
    <NumberField
      label="Cross"
      kind="sensor"
      suffix="mm"
      sign
      :model-value="lens.crossMm"
      :step="0.1"
      :reset-to="0"
      :min="-240"
      :max="240"
      @change="done({ crossMm: $event }, 'Cross')"
      @live="live({ crossMm: $event })"
      v-on="ends('Cross')"
      ><span class="share num">{{ ((100 * lens.crossMm) / used.widthMm).toFixed(1) }} %</span></NumberField
    >
    <p v-if="!parallel && circle > circleLimit" class="warn">
      Needs an image circle of {{ circle.toFixed(1) }} mm; real shift lenses reach about
      {{ circleLimit.toFixed(1) }} mm.
    </p>
    <hr />
    <div class="fact middle">
      <label class="quiet" for="sensor-choice">Sensor</label>
      <Select
        input-id="sensor-choice"
        :model-value="sensor"
        :options="SENSORS.map((s) => s.label)"
        :placeholder="`${lens.sensorMm.width} × ${lens.sensorMm.height} mm`"
        size="small"
        @update:model-value="setSensor"
      />
    </div>
    <SensorUse :model-value="lens.sensorUse" @change="done({ sensorUse: $event }, 'Use of the sensor')" />
    <div v-if="!parallel" class="fact middle">
      <span class="quiet" title="The station moves so that the subject at the aim keeps its size">Size held at</span>
      <div class="buttons held">
        <button
          v-for="mm in HELD_MM"
          :key="mm"
          class="btn"
          :disabled="aimDepth === null || aimDepth <= 0 || Math.abs(lens.focalMm - mm) < 0.01"
          :title="`${mm} mm; the station moves so that the subject at the aim keeps its size`"
          @click="holding(mm)"
        >
          {{ mm }}
        </button>
      </div>
    </div>
  </section>
</template>

<style scoped>
.held {
  flex-wrap: wrap;
  min-width: 0;
}
hr {
  border: 0;
  border-top: 1px solid var(--line);
  margin: 6px 14px;
}
.fact {
  display: grid;
  grid-template-columns: 92px 1fr;
  gap: 8px;
  padding: 3px 14px;
}
.middle {
  align-items: center;
}
.share {
  color: var(--quiet);
  min-width: 52px;
  text-align: right;
  font-size: 11px;
}
.warn {
  color: var(--ochre);
  font-size: 11.5px;
  padding: 3px 14px;
}
.buttons {
  display: flex;
  gap: 5px;
}
.buttons .btn {
  flex: 1;
}
.middle :deep(.p-select-label) {
  font-size: 12px;
  padding: 3px 6px;
}
</style>

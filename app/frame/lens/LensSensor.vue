<script setup lang="ts">
// The sensor by its trade size or its own, and how the picture lies on it.
import Select from 'primevue/select'
import { computed } from 'vue'
import { sensorOf, SENSORS } from '#core/camera'
import NumberField from '../../controls/NumberField.vue'
import SensorUse from '../../controls/SensorUse.vue'
import { useProject } from '../../stores/project.ts'
import { useLens } from './lens.ts'

const project = useProject()
const { lens, done, edits } = useLens()
const OWN = 'own size'
const OPTIONS = [
  ...SENSORS.map((s) => ({ value: s.name, label: `${s.width} × ${s.height}`, what: s.name })),
  { value: OWN, label: 'own size', what: '' },
]
const found = computed(() => sensorOf(lens.value!.sensorMm))
const isUpright = computed(() => lens.value!.sensorMm.height > lens.value!.sensorMm.width)
/** An upright sensor stays upright. */
function choose(name: string): void {
  const s = SENSORS.find((x) => x.name === name)
  if (!s) return
  const { width, height } = s
  done({ sensorMm: isUpright.value ? { width: height, height: width } : { width, height } }, 'Sensor')
}
function turn(): void {
  const { width, height } = lens.value!.sensorMm
  done({ sensorMm: { width: height, height: width } }, 'Sensor turned')
}
const side = (key: 'width' | 'height') => edits((mm) => ({ sensorMm: { ...lens.value!.sensorMm, [key]: mm } }), 'Sensor') // prettier-ignore
const [across, up] = [side('width'), side('height')]
</script>

<template>
  <div>
    <div class="line">
      <label class="quiet" for="sensor-choice">Sensor</label>
      <Select
        input-id="sensor-choice"
        :model-value="found?.sensor.name ?? OWN"
        :options="OPTIONS"
        option-label="label"
        option-value="value"
        size="small"
        @update:model-value="choose"
      >
        <template #option="{ option }">
          <span class="num">{{ option.label }}</span> <span class="quiet">&nbsp;{{ option.what }}</span>
        </template>
      </Select>
    </div>
    <NumberField
      label="Sensor width"
      kind="sensor"
      suffix="mm"
      :model-value="lens!.sensorMm.width"
      :step="0.1"
      :min="1"
      :max="1000"
      v-on="across"
    />
    <NumberField
      label="Sensor height"
      kind="sensor"
      suffix="mm"
      :model-value="lens!.sensorMm.height"
      :step="0.1"
      :min="1"
      :max="1000"
      v-on="up"
      ><button class="btn turn" title="Width and height of the sensor change places" @click="turn">
        {{ isUpright ? 'lay' : 'upright' }}
      </button></NumberField
    >
    <SensorUse
      :lens="lens!"
      :frame="project.working!.frame"
      @change="done({ sensorUse: $event }, 'Use of the sensor')"
    />
  </div>
</template>

<style scoped src="../parts/panel.css"></style>
<style scoped>
.turn {
  min-height: 20px;
  padding: 0 6px;
  font-size: 11px;
}
.line :deep(.p-select-label) {
  font-size: 12px;
  padding: 3px 6px;
}
</style>

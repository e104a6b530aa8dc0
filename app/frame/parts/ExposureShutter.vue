<script setup lang="ts">
// The shutter in seconds, or as the angle of a turning one at a frame rate.
import { computed } from 'vue'
import ChoiceRow from '../../controls/ChoiceRow.vue'
import NumberField from '../../controls/NumberField.vue'
import { useProject } from '../../stores/project.ts'
import { useExposure } from '../exposure/exposure.ts'
import { useLiveEdits } from '../camera/live-edits.ts'

const FPS = 24
const project = useProject()
const { withExposure, set } = useExposure()
const { number } = useLiveEdits()
const exposure = computed(() => project.working!.exposure)
const fps = computed(() => exposure.value.fps)
const KINDS = [
  { value: 'seconds', label: 'seconds', title: 'How long it is open' },
  { value: 'angle', label: 'angle', title: 'How far it turns open in each frame: 180° is half of the frame’s time' },
] as const
const angleDeg = computed(() => exposure.value.shutterS * (fps.value ?? FPS) * 360)
const ofAngle = (deg: number, rate: number): number => Math.min(1e5, Math.max(1e-6, deg / 360 / rate))
function byKind(kind: 'seconds' | 'angle'): void {
  set({ fps: kind === 'angle' ? FPS : undefined })
}
</script>

<template>
  <ChoiceRow label="Shutter in" :options="KINDS" :model-value="fps ? 'angle' : 'seconds'" @change="byKind" />
  <template v-if="fps">
    <NumberField
      label="Shutter angle"
      suffix="°"
      :model-value="angleDeg"
      :digits="1"
      :step="5"
      :min="0.01"
      :max="1e6"
      :reset-to="180"
      hint="180° at 24 frames a second is 1/48 s"
      v-on="number((deg) => withExposure({ shutterS: ofAngle(deg, fps!) }))"
    />
    <NumberField
      label="Frames a second"
      :model-value="fps"
      :digits="3"
      :step="1"
      :min="1"
      :max="1000"
      hint="The angle stays"
      v-on="number((rate) => withExposure({ fps: rate, shutterS: ofAngle(angleDeg, rate) }))"
    />
  </template>
  <NumberField
    v-else
    label="Shutter"
    suffix="s"
    :model-value="exposure.shutterS"
    :digits="5"
    :step="0.001"
    :min="1e-6"
    :max="1e5"
    hint="Seconds; sums such as 1/125 can be typed"
    v-on="number((shutterS) => withExposure({ shutterS }))"
  />
</template>

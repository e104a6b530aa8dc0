<script setup lang="ts">
// Aperture and focus distance, and the depths that they keep sharp.
import { computed } from 'vue'
import { formatLength, lengthSuffix } from '#core/base'
import { depthOfField } from '#core/optics'
import type { Command, Setup } from '#model'
import NumberField from '../../controls/NumberField.vue'
import { useProject } from '../../stores/project.ts'
import { useFraming } from '../camera/framing.ts'
import { useLiveEdits } from './live-edits.ts'
import PanelHead from './PanelHead.vue'

const project = useProject()
const { aimDepth } = useFraming()
const focus = computed(() => project.working!.focus)
const { number } = useLiveEdits()
const withFocus = (changes: Partial<Setup['focus']>): Command => ({
  type: 'setPart',
  part: 'focus',
  value: { ...focus.value, ...changes },
})
const set = (changes: Partial<Setup['focus']>): void => void project.run(withFocus(changes))

const FALLBACK_M = 3
const atM = computed(() => {
  const { mode } = focus.value
  if (mode.kind === 'distance') return mode.distanceM
  return aimDepth.value !== null && aimDepth.value > 0 ? aimDepth.value : FALLBACK_M
})
const sharp = computed(() => {
  const w = project.working!
  if (w.lens.projection.kind !== 'perspective') return null
  const { criterion, fNumber } = focus.value
  const cocMm = criterion.kind === 'circle' ? criterion.cocMm : w.lens.sensorMm.width / w.frame.widthPx
  const r = depthOfField({ focalMm: w.lens.focalMm, fNumber, focusM: atM.value, cocMm })
  return r.ok ? r.value : null
})
const text = (m: number): string => {
  const unit = project.document!.unit
  return m === Infinity ? '∞' : `${formatLength(m, unit)}${unit === 'ft-in' ? '' : ` ${lengthSuffix(unit)}`}`
}
</script>

<template>
  <section aria-label="Focus">
    <PanelHead cell="focus" title="Focus" />
    <label class="tick"
      ><input type="checkbox" :checked="focus.on" @change="set({ on: !focus.on })" />Focus belongs to the camera</label
    >
    <NumberField
      label="f-number"
      kind="plain"
      :model-value="focus.fNumber"
      :step="0.1"
      :min="0.5"
      :max="256"
      :digits="1"
      :disabled="!focus.on"
      v-on="number((fNumber) => withFocus({ fNumber }))"
    />
    <label class="tick"
      ><input
        type="checkbox"
        :checked="focus.mode.kind === 'aim'"
        :disabled="!focus.on"
        @change="set({ mode: focus.mode.kind === 'aim' ? { kind: 'distance', distanceM: atM } : { kind: 'aim' } })"
      />focused on the aim</label
    >
    <NumberField
      label="Distance"
      kind="length"
      :unit="project.document!.unit"
      :model-value="atM"
      :step="0.05"
      :min="0.001"
      :max="1e6"
      :disabled="!focus.on || focus.mode.kind === 'aim'"
      @change="set({ mode: { kind: 'distance', distanceM: $event } })"
    />
    <p v-if="focus.on && sharp" class="text" data-testid="sharp">
      Sharp from <b class="num">{{ text(sharp.nearM) }}</b> to <b class="num">{{ text(sharp.farM) }}</b>; hyperfocal
      distance <span class="num">{{ text(sharp.hyperfocalM) }}</span>.
    </p>
    <p class="text quiet">The picture here is drawn sharp throughout; these numbers go with the camera.</p>
  </section>
</template>

<style scoped src="./panel.css"></style>

<script setup lang="ts">
// Exposure by a number: the EV that comes out as mid-grey, or what a meter reads from the picture. Out of doors and in measured views
// the meter's reading holds until a number of their own is typed.
import { computed, ref } from 'vue'
import type { Command, Setup } from '#model'
import NumberField from '../../controls/NumberField.vue'
import { useProject } from '../../stores/project.ts'
import { useOutdoors } from '../../stores/outdoors.ts'
import { appearanceOf, useStage } from '../../stores/stage.ts'
import { useLiveEdits } from './live-edits.ts'
import PanelHead from './PanelHead.vue'

const METERED_PX = 96
const project = useProject()
const stage = useStage()
const busy = ref(false)
const outdoors = useOutdoors()
const exposure = computed(() => project.working!.exposure)
const isOutdoors = computed(() => project.working !== null && outdoors.isOutdoors(project.working))
/** Metered by itself: out of doors without a number of its own. */
const isMetered = computed(() => isOutdoors.value && exposure.value.outsideEv100 === undefined)
const ev = computed(() => {
  if (!isOutdoors.value) return exposure.value.ev100
  return exposure.value.outsideEv100 ?? (stage.shownEv === null ? exposure.value.ev100 : rounded(stage.shownEv))
})
const rounded = (v: number): number => Math.round(v * 10) / 10
const { number } = useLiveEdits()
const withExposure = (changes: Partial<Setup['exposure']>): Command => ({
  type: 'setPart',
  part: 'exposure',
  value: { ...project.working!.exposure, ...changes },
})
const withEv = (v: number): Command => withExposure(isOutdoors.value ? { outsideEv100: v } : { ev100: v })
function meterByItself(): void {
  const { outsideEv100: _, ...rest } = exposure.value
  project.run({ type: 'setPart', part: 'exposure', value: rest })
}
async function meter(): Promise<void> {
  const w = project.working
  const camera = project.camera
  if (!w || !camera || busy.value) return
  busy.value = true
  const k = METERED_PX / Math.max(w.frame.widthPx, w.frame.heightPx)
  const [widthPx, heightPx] = [w.frame.widthPx, w.frame.heightPx].map((v) => Math.max(8, Math.round(v * k))) as [
    number,
    number,
  ]
  const ev100 = await stage
    .meter({ camera, widthPx, heightPx, appearance: appearanceOf(w), moving: false, samples: 1 })
    .catch(() => null)
  busy.value = false
  if (ev100 !== null) project.run(withEv(rounded(ev100)))
}
</script>

<template>
  <section aria-label="Exposure">
    <PanelHead cell="exposure" title="Exposure" />
    <NumberField
      label="EV at ISO 100"
      kind="plain"
      :model-value="ev"
      :step="0.1"
      :min="-20"
      :max="30"
      :digits="1"
      hint="Higher is darker: one step halves the light"
      v-on="number(withEv)"
    />
    <NumberField
      label="Brighter by"
      suffix="EV"
      kind="plain"
      :model-value="exposure.compensationEv"
      :step="0.1"
      :min="-20"
      :max="20"
      :digits="1"
      hint="Exposure compensation, in steps of light"
      v-on="number((compensationEv) => withExposure({ compensationEv }))"
    />
    <div class="line">
      <span class="quiet">As measured</span>
      <span class="buttons">
        <span v-if="isMetered">metered by itself</span>
        <button
          v-else-if="isOutdoors"
          class="btn"
          title="Exteriors and measured views are metered by themselves again"
          @click="meterByItself"
        >
          Meter by itself
        </button>
        <button
          v-else
          class="btn"
          :disabled="busy || !stage.ready"
          title="Reads the mean of the picture’s middle"
          @click="meter"
        >
          Meter the picture
        </button>
      </span>
    </div>
    <p v-if="isOutdoors" class="text quiet">
      Exteriors and measured views have an exposure of their own, beside the interior’s EV
      <span class="num">{{ exposure.ev100.toFixed(1) }}</span>. A number typed here holds for all of them.
    </p>
    <p v-else class="text quiet">Daylight rooms lie at EV 6 to 9, open daylight at EV 13 to 15.</p>
  </section>
</template>

<style scoped src="./panel.css"></style>

<script setup lang="ts">
// Exposure by a number: the EV that comes out as mid-grey, or what a meter reads from the picture.
import { ref } from 'vue'
import type { Setup } from '#model'
import NumberField from '../../controls/NumberField.vue'
import { useProject } from '../../stores/project.ts'
import { appearanceOf, useStage } from '../../stores/stage.ts'
import PanelHead from './PanelHead.vue'

const METERED_PX = 96
const project = useProject()
const stage = useStage()
const busy = ref(false)
const set = (changes: Partial<Setup['exposure']>): void =>
  void project.run({ type: 'setPart', part: 'exposure', value: { ...project.working!.exposure, ...changes } })

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
  if (ev100 !== null) set({ ev100: Math.round(ev100 * 10) / 10 })
}
</script>

<template>
  <section aria-label="Exposure">
    <PanelHead cell="exposure" title="Exposure" />
    <NumberField
      label="EV at ISO 100"
      kind="plain"
      at-end
      :model-value="project.working!.exposure.ev100"
      :step="0.1"
      :min="-20"
      :max="30"
      :digits="1"
      hint="Higher is darker: one step halves the light"
      @change="set({ ev100: $event })"
    />
    <NumberField
      label="Brighter by"
      suffix="EV"
      kind="plain"
      at-end
      :model-value="project.working!.exposure.compensationEv"
      :step="0.1"
      :min="-20"
      :max="20"
      :digits="1"
      hint="Exposure compensation, in steps of light"
      @change="set({ compensationEv: $event })"
    />
    <div class="line">
      <span class="quiet">As measured</span>
      <span class="buttons">
        <button
          class="btn"
          :disabled="busy || !stage.ready"
          title="Reads the mean of the picture’s middle"
          @click="meter"
        >
          Meter the picture
        </button>
      </span>
    </div>
    <p class="text quiet">Daylight rooms lie at EV 6 to 9, open daylight at EV 13 to 15.</p>
  </section>
</template>

<style scoped src="./panel.css"></style>

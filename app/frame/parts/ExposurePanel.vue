<script setup lang="ts">
// Exposure by a number or as a camera is set, white balance, and how the picture is developed. Out of doors and in measured views the
// meter's reading holds until a number of their own is typed.
import { computed } from 'vue'
import { LEAST_KELVIN, MOST_KELVIN, MOST_TINT, NEUTRAL } from '#core/optics'
import ChoiceRow from '../../controls/ChoiceRow.vue'
import NumberField from '../../controls/NumberField.vue'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'
import { useExposure } from '../exposure/exposure.ts'
import { useMetering } from '../exposure/metering.ts'
import { usePicking } from '../straighten/picking.ts'
import { useLiveEdits } from '../camera/live-edits.ts'
import ExposureFinish from './ExposureFinish.vue'
import ExposureHistogram from './ExposureHistogram.vue'
import ExposureShutter from './ExposureShutter.vue'
import PanelHead from './PanelHead.vue'

const project = useProject()
const stage = useStage()
const view = useView()
const { begin } = usePicking()
const { ev, isPhotographic, isOutdoors, isMetered, withExposure, withEv, set, byMode } = useExposure()
const { exposeOnce, busy } = useMetering()
const exposure = computed(() => project.working!.exposure)
const { number } = useLiveEdits()
const MODES = [
  { value: 'direct', label: 'by EV', title: 'One number says how bright' },
  { value: 'photographic', label: 'as a camera', title: 'Sensitivity, shutter and aperture' },
] as const
const LIGHTS = [
  { label: 'lamp', kelvin: 2856, title: 'Incandescent, CIE illuminant A' },
  { label: 'sun', kelvin: 5500, title: 'Direct sun about noon' },
  { label: 'day', kelvin: 6504, title: 'Daylight, CIE D65: changes nothing' },
  { label: 'cloud', kelvin: 7500, title: 'Overcast sky and shade' },
] as const
function meterByItself(): void {
  const { outsideEv100: _, ...rest } = exposure.value
  project.run({ type: 'setPart', part: 'exposure', value: rest })
}
/** As it is engraved: a part of a second below one. */
const shutterText = computed(() => {
  const s = exposure.value.shutterS
  return s < 0.5 ? `1/${Number((1 / s).toFixed(s < 0.02 ? 0 : 1))} s` : `${s.toFixed(1)} s`
})
</script>

<template>
  <section aria-label="Exposure">
    <PanelHead cell="exposure" title="Exposure" />
    <ChoiceRow label="Set" :options="MODES" :model-value="exposure.mode" @change="byMode" />
    <template v-if="isPhotographic">
      <NumberField
        label="ISO"
        :model-value="exposure.iso"
        :digits="0"
        :step="50"
        :min="1"
        :max="1e6"
        v-on="number((iso) => withExposure({ iso }))"
      />
      <ExposureShutter />
      <NumberField
        label="f-number"
        :model-value="exposure.fNumber ?? project.working!.focus.fNumber"
        :digits="1"
        :step="0.1"
        :min="0.5"
        :max="256"
        :reset-to="project.working!.focus.fNumber"
        hint="The focus part’s, unless one is typed here"
        v-on="
          number((fNumber) =>
            withExposure({ fNumber: fNumber === project.working!.focus.fNumber ? undefined : fNumber }),
          )
        "
      />
      <p class="text quiet">
        {{ shutterText }}: <span class="num">EV {{ ev.toFixed(2) }}</span> at ISO 100.
      </p>
    </template>
    <NumberField
      v-else
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
          title="Once: the picture’s mean comes out as mid-grey, and stays so when the camera moves"
          @click="exposeOnce"
        >
          Expose once
        </button>
        <button
          class="btn"
          :class="{ on: view.picking === 'meter' }"
          title="What is clicked comes out as mid-grey"
          @click="begin('meter')"
        >
          a place
        </button>
      </span>
    </div>
    <p v-if="isOutdoors" class="text quiet">
      Exteriors and measured views have an exposure of their own, beside the interior’s EV
      <span class="num">{{ exposure.ev100.toFixed(1) }}</span>. A number typed here holds for all of them.
    </p>
    <p v-else-if="!isPhotographic" class="text quiet">Daylight rooms lie at EV 6 to 9, open daylight at EV 13 to 15.</p>
    <ExposureHistogram />
    <label
      class="tick"
      title="Ochre stripes where a channel is at its end, indigo ones where all is black; never in saved pictures"
      ><input v-model="view.clipping" type="checkbox" />mark what is clipped</label
    >
    <hr />
    <h3>White balance</h3>
    <NumberField
      label="Light of"
      suffix="K"
      :model-value="exposure.whiteBalance.kelvin"
      :digits="0"
      :step="50"
      :min="LEAST_KELVIN"
      :max="MOST_KELVIN"
      :reset-to="NEUTRAL.kelvin"
      hint="The light that is to look white; 6504 changes nothing"
      v-on="number((kelvin) => withExposure({ whiteBalance: { ...exposure.whiteBalance, kelvin } }))"
    />
    <NumberField
      label="Tint"
      sign
      :model-value="exposure.whiteBalance.tint"
      :digits="1"
      :step="1"
      :min="-MOST_TINT"
      :max="MOST_TINT"
      :reset-to="0"
      hint="Above nought for a greener light, below for a pinker one"
      v-on="number((tint) => withExposure({ whiteBalance: { ...exposure.whiteBalance, tint } }))"
    />
    <div class="line">
      <span class="quiet">White in</span>
      <span class="buttons">
        <button
          v-for="l in LIGHTS"
          :key="l.label"
          class="btn"
          :title="`${l.title}: ${l.kelvin} K`"
          @click="set({ whiteBalance: { kelvin: l.kelvin, tint: 0 } })"
        >
          {{ l.label }}
        </button>
        <button
          class="btn"
          :class="{ on: view.picking === 'grey' }"
          title="What is clicked comes out without a colour"
          @click="begin('grey')"
        >
          a grey…
        </button>
      </span>
    </div>
    <hr />
    <h3>Lens and development</h3>
    <label class="tick" title="By the fourth power of the cosine off the axis; a shifted lens keeps its axis"
      ><input
        type="checkbox"
        :checked="exposure.vignetting"
        @change="set({ vignetting: !exposure.vignetting })"
      />darker toward the edges, as lenses are</label
    >
    <NumberField
      v-if="exposure.vignetting"
      label="Strength"
      suffix="%"
      :model-value="(exposure.vignettingStrength ?? 1) * 100"
      :digits="0"
      :step="5"
      :min="0"
      :max="300"
      :reset-to="100"
      v-on="number((p) => withExposure({ vignettingStrength: p / 100 }))"
    />
    <ExposureFinish />
  </section>
</template>

<style scoped src="./panel.css"></style>

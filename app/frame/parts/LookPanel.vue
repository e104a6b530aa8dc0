<script setup lang="ts">
// Sun and backdrop: the parts of the look that the picture draws; and how far pictures are refined.
import Select from 'primevue/select'
import { computed } from 'vue'
import { DAYLIGHT, MOST_LUX } from '#core/optics'
import type { Command, EditPart, PartValue } from '#model'
import ChoiceRow from '../../controls/ChoiceRow.vue'
import NumberField from '../../controls/NumberField.vue'
import { useProject } from '../../stores/project.ts'
import { heldSamples, LEAST_SAMPLES, MOST_SAMPLES, SAMPLES } from '../../stores/samples.ts'
import { useView } from '../../stores/view.ts'
import { useLiveEdits } from '../camera/live-edits.ts'
import PanelHead from './PanelHead.vue'

const project = useProject()
const view = useView()
const look = computed(() => project.working!.look)
const withPart = <P extends EditPart>(part: P, value: PartValue<P>): Command => ({
  type: 'setPart',
  part,
  value: value as PartValue<EditPart>,
})
const set = <P extends EditPart>(part: P, value: PartValue<P>): void => void project.run(withPart(part, value))
const { number } = useLiveEdits()
const LIGHTS = [
  { of: 'sunLux', label: 'Sunlight', hint: 'On what faces the sun: 20,000 low, 100,000 high in the clearest air' },
  { of: 'skyLux', label: 'Skylight', hint: 'On open level ground by the sky alone: 10,000 overcast, 100 after sunset, 0.2 at full moon' },
] as const // prettier-ignore
/** As by day it is left unsaid. */
function withLux(of: 'sunLux' | 'skyLux', lux: number): PartValue<'look.sun'> {
  const { [of]: _, ...rest } = look.value.sun
  return lux === DAYLIGHT[of] ? rest : { ...rest, [of]: lux }
}
const BACKDROPS = [
  { value: 'sky', label: 'sky' },
  { value: 'colour', label: 'plain' },
] as const
/** A photograph is offered where the project has one. */
const photos = computed(() => project.document?.photos ?? [])
const backdrops = computed(() =>
  photos.value.length > 0 ? [...BACKDROPS, { value: 'photo', label: 'photo' } as const] : BACKDROPS,
)
const behind = computed(() => photos.value.find((p) => p.id === look.value.backdrop.photoId) ?? null)
function switchGround(): void {
  const { groundM, ...backdrop } = look.value.backdrop
  // where the photograph's scale says that the ground is
  set(
    'look.backdrop',
    groundM === undefined ? { ...backdrop, groundM: behind.value?.match.scale?.at[2] ?? 0 } : backdrop,
  )
}
function lay(photoId: string | null): void {
  const { over, ...backdrop } = look.value.backdrop
  set('look.backdrop', photoId ? { ...backdrop, over: { photoId, opacity: over?.opacity ?? 0.5 } } : backdrop)
}
function setBackdrop(kind: 'sky' | 'colour' | 'photo'): void {
  const photoId = behind.value?.id ?? photos.value[0]?.id
  set('look.backdrop', { ...look.value.backdrop, kind, ...(kind === 'photo' && photoId && { photoId }) })
}
</script>

<template>
  <section aria-label="Look">
    <PanelHead cell="look" title="Look" />
    <label class="tick"
      ><input
        type="checkbox"
        :checked="look.sun.on"
        @change="set('look.sun', { ...look.sun, on: !look.sun.on })"
      />Sun</label
    >
    <NumberField
      label="Bearing"
      suffix="°"
      kind="angle"
      :model-value="look.sun.bearingDeg"
      :step="1"
      :min="-720"
      :max="720"
      :disabled="!look.sun.on"
      hint="Where the sun stands, clockwise from north"
      v-on="number((bearingDeg) => withPart('look.sun', { ...look.sun, bearingDeg }))"
    />
    <NumberField
      label="Height"
      suffix="°"
      kind="angle"
      :model-value="look.sun.elevationDeg"
      :step="1"
      :min="-90"
      :max="90"
      :disabled="!look.sun.on"
      hint="Above the horizon"
      v-on="number((elevationDeg) => withPart('look.sun', { ...look.sun, elevationDeg }))"
    />
    <NumberField
      v-for="l in LIGHTS"
      :key="l.of"
      :label="l.label"
      suffix="lx"
      :model-value="look.sun[l.of] ?? DAYLIGHT[l.of]"
      :digits="(look.sun[l.of] ?? DAYLIGHT[l.of]) < 10 ? 2 : 0"
      :step="1000"
      :min="0"
      :max="MOST_LUX[l.of]"
      :reset-to="DAYLIGHT[l.of]"
      :disabled="l.of === 'sunLux' && !look.sun.on"
      :hint="l.hint"
      v-on="number((lux) => withPart('look.sun', withLux(l.of, lux)))"
    />
    <hr />
    <ChoiceRow
      label="Backdrop"
      :options="backdrops"
      :model-value="look.backdrop.kind"
      @change="setBackdrop($event as 'sky' | 'colour' | 'photo')"
    />
    <template v-if="look.backdrop.kind === 'photo'">
      <div v-if="behind" class="line">
        <span class="quiet">Photo</span>
        <Select
          :model-value="behind.id"
          :options="photos"
          option-label="name"
          option-value="id"
          size="small"
          aria-label="Photograph behind the model"
          @update:model-value="set('look.backdrop', { ...look.backdrop, photoId: $event })"
        />
      </div>
      <p v-else class="text" role="status">Its photograph is no longer in the project. Undo brings it back.</p>
      <template v-if="behind">
        <label class="tick" title="The model’s shadow falls on level ground that the photograph shows"
          ><input type="checkbox" :checked="look.backdrop.groundM !== undefined" @change="switchGround" />Shadow on the
          ground</label
        >
        <NumberField
          v-if="look.backdrop.groundM !== undefined"
          label="Ground at"
          kind="length"
          :unit="project.document!.unit"
          :model-value="look.backdrop.groundM"
          v-on="number((groundM) => withPart('look.backdrop', { ...look.backdrop, groundM }))"
        />
        <div class="line">
          <span />
          <RouterLink class="btn" :to="`/project/${project.id}/photograph/${behind.id}`"
            >Its lines and points</RouterLink
          >
        </div>
      </template>
    </template>
    <template v-if="photos.length > 0">
      <hr />
      <h3>Picture over the frame</h3>
      <div class="line">
        <span class="quiet">Picture</span>
        <Select
          :model-value="look.backdrop.over?.photoId ?? null"
          :options="[{ id: null, name: 'none' }, ...photos]"
          option-label="name"
          option-value="id"
          size="small"
          placeholder="none"
          aria-label="Picture that lies over the frame"
          @update:model-value="lay"
        />
      </div>
      <template v-if="look.backdrop.over">
        <NumberField
          label="Opacity"
          suffix="%"
          :model-value="look.backdrop.over.opacity * 100"
          :digits="0"
          :step="5"
          :min="0"
          :max="100"
          hint="For comparing: never in a finished picture. P shows and hides it"
          v-on="
            number((v) =>
              withPart('look.backdrop', { ...look.backdrop, over: { ...look.backdrop.over!, opacity: v / 100 } }),
            )
          "
        />
        <p v-if="!photos.some((p) => p.id === look.backdrop.over?.photoId)" class="text" role="status">
          That picture is no longer in the project. Undo brings it back.
        </p>
      </template>
    </template>
    <hr />
    <h3>Refined with</h3>
    <NumberField
      label="At rest"
      suffix="samples"
      :model-value="view.samples"
      :digits="0"
      :step="4"
      :min="LEAST_SAMPLES"
      :max="MOST_SAMPLES"
      :reset-to="SAMPLES.picture"
      hint="Of this browser, for every project: more are calmer and slower"
      @change="view.samples = heldSamples($event)"
    />
    <NumberField
      label="Finished"
      suffix="samples"
      :model-value="view.stillSamples"
      :digits="0"
      :step="8"
      :min="LEAST_SAMPLES"
      :max="MOST_SAMPLES"
      :reset-to="SAMPLES.still"
      hint="Of pictures that are saved"
      @change="view.stillSamples = heldSamples($event)"
    />
  </section>
</template>

<style scoped src="./panel.css"></style>

<script setup lang="ts">
// Sun and backdrop: the parts of the look that the picture draws.
import { computed } from 'vue'
import type { EditPart, PartValue } from '#model'
import ChoiceRow from '../../controls/ChoiceRow.vue'
import NumberField from '../../controls/NumberField.vue'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import PanelHead from './PanelHead.vue'

const project = useProject()
const stage = useStage()
const look = computed(() => project.working!.look)
/** Light from all sides follows the sun. */
function set<P extends EditPart>(part: P, value: PartValue<P>): void {
  if (project.run({ type: 'setPart', part, value: value as PartValue<EditPart> }) && part === 'look.sun')
    void stage.relight(project.working!)
}
const BACKDROPS = [
  { value: 'sky', label: 'sky' },
  { value: 'colour', label: 'plain' },
] as const
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
      at-end
      :model-value="look.sun.bearingDeg"
      :step="1"
      :min="-720"
      :max="720"
      :disabled="!look.sun.on"
      hint="Where the sun stands, clockwise from north"
      @change="set('look.sun', { ...look.sun, bearingDeg: $event })"
    />
    <NumberField
      label="Height"
      suffix="°"
      kind="angle"
      at-end
      :model-value="look.sun.elevationDeg"
      :step="1"
      :min="-90"
      :max="90"
      :disabled="!look.sun.on"
      hint="Above the horizon"
      @change="set('look.sun', { ...look.sun, elevationDeg: $event })"
    />
    <hr />
    <ChoiceRow
      label="Backdrop"
      :options="BACKDROPS"
      :model-value="look.backdrop.kind"
      @change="set('look.backdrop', { ...look.backdrop, kind: $event as 'sky' | 'colour' })"
    />
  </section>
</template>

<style scoped src="./panel.css"></style>

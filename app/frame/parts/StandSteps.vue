<script setup lang="ts">
// Steps of a fixed length along the view's or the world's axes: station, aim, or both; and stands at an object's sides.
import { computed, ref } from 'vue'
import type { Vec3 } from '#core/math'
import ChoiceRow from '../../controls/ChoiceRow.vue'
import NumberField from '../../controls/NumberField.vue'
import { useFraming } from '../camera/framing.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'
import { usePicking } from '../straighten/picking.ts'
import { useStandMoves, type NudgeAxes, type NudgeWhat, type ObjectSide } from '../straighten/stand-moves.ts'

const project = useProject()
const stage = useStage()
const view = useView()
const moves = useStandMoves()
const picking = usePicking()
const { eyeHeight } = useFraming()
/** How high the camera stands over the floor, or over the ground. */
const standsOverM = computed(() => eyeHeight.value ?? Math.max(0.5, project.camera?.pose.station[2] ?? 3))
const axes = ref<NudgeAxes>('view')
const what = ref<NudgeWhat>('both')
const AXES = [
  { value: 'view', label: 'view', title: 'Left and right, forward and back, of the view over the ground' },
  { value: 'world', label: 'world', title: 'East and west, north and south' },
] as const
const WHAT = [
  { value: 'both', label: 'both', title: 'Station and aim' },
  { value: 'station', label: 'station', title: 'The station alone: the aim stays' },
  { value: 'aim', label: 'aim', title: 'The aim alone: the station stays' },
] as const
const STEPS = computed<readonly { label: string; name: string; way: Vec3 }[]>(() => {
  const names =
    axes.value === 'view'
      ? ['left', 'right', 'back', 'forward', 'down', 'up']
      : ['west', 'east', 'south', 'north', 'down', 'up']
  const signs = ['←', '→', '↓', '↑', '⤓', '⤒']
  return names.map((name, i) => {
    const way = [0, 0, 0] as [number, number, number]
    way[Math.floor(i / 2)] = i % 2 ? 1 : -1
    return { label: signs[i]!, name, way }
  })
})
const SIDES: readonly ObjectSide[] = ['front', 'back', 'left', 'right', 'above']
const of = computed(() =>
  view.selection.length === 1 ? `“${stage.byId.get(view.selection[0]!)?.name ?? ''}”` : 'the model',
)
</script>

<template>
  <div>
    <div class="line">
      <span class="quiet" title="Looks square at a side of it, fitted to the frame">Stand at</span>
      <span class="buttons">
        <button
          v-for="s in SIDES"
          :key="s"
          class="btn"
          :title="`${s} of ${of}, filling the frame`"
          @click="moves.from(s)"
        >
          {{ s }}
        </button>
        <button
          class="btn"
          title="Above the model’s middle, looking straight down, all of it in the frame"
          @click="moves.overModel()"
        >
          over all
        </button>
      </span>
    </div>
    <div class="line">
      <span class="quiet" title="Straight down on a point of the model">Straight down</span>
      <span class="buttons">
        <button
          class="btn"
          :class="{ on: view.picking === 'over' }"
          title="Click a point in the picture, Plan or Side; the top of the picture stays where it points"
          @click="picking.begin('over')"
        >
          On a point…
        </button>
      </span>
    </div>
    <NumberField
      label="from over it"
      kind="length"
      :unit="project.document!.unit"
      :model-value="view.overHeightM ?? standsOverM"
      :step="0.1"
      :min="0.01"
      :max="10000"
      hint="Height over the point; left alone, as high as the camera stands now"
      positive
      :reset-to="standsOverM"
      @change="view.overHeightM = $event"
      @live="view.overHeightM = $event"
      @cancel="view.overHeightM = $event"
    />
    <details>
      <summary>By steps</summary>
      <NumberField
        label="Step"
        kind="length"
        :unit="project.document!.unit"
        :model-value="view.nudgeM"
        :step="0.05"
        :min="0.0001"
        :max="1000"
        :reset-to="0.1"
        @change="view.nudgeM = $event"
        @live="view.nudgeM = $event"
        @cancel="view.nudgeM = $event"
      />
      <ChoiceRow label="Along the" :model-value="axes" :options="AXES" @change="axes = $event" />
      <ChoiceRow label="Moves" :model-value="what" :options="WHAT" @change="what = $event" />
      <div class="line">
        <span />
        <span class="buttons">
          <button
            v-for="s in STEPS"
            :key="s.name"
            class="btn"
            :title="`A step ${s.name}`"
            @click="moves.nudge(s.way, axes, what)"
          >
            {{ s.label }}<span class="visually-hidden">Step {{ s.name }}</span>
          </button>
        </span>
      </div>
    </details>
  </div>
</template>

<style scoped src="./panel.css"></style>

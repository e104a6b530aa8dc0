<script setup lang="ts">
// The numbers of a turntable: how it goes round, what it goes round, where it begins, what turns.
import { computed } from 'vue'
import AxisFields from '../controls/AxisFields.vue'
import ChoiceRow from '../controls/ChoiceRow.vue'
import NumberField from '../controls/NumberField.vue'
import { useProject } from '../stores/project.ts'
import { useTurning } from './turning.ts'
import { useWalking } from './walking.ts'

const project = useProject()
const { table, set, live, drop, cancel, roundChosen, startDeg, from, asKept, spin } = useTurning()
const { tool } = useWalking()
const PACES = [{ value: 'loop', label: 'loop' }, { value: 'soft', label: 'soft' }, { value: 'swing', label: 'to and fro' }] as const // prettier-ignore
const WAYS = [{ value: '1', label: 'clockwise' }, { value: '-1', label: 'counter' }] as const // prettier-ignore
const unit = computed(() => project.document?.unit ?? 'm')
const pivotWith = (axis: 0 | 1 | 2, m: number) => {
  const pivot = [...table.value!.pivot] as [number, number, number]
  pivot[axis] = m
  return { pivot }
}
const spinText = computed(() => {
  const names = (table.value?.spins ?? []).map((id) => id.split('/').at(-1)!)
  return names.length > 3 ? `${names.slice(0, 3).join(', ')} and ${names.length - 3} more` : names.join(', ')
})
</script>

<template>
  <template v-if="table">
    <ChoiceRow label="Pace" :options="PACES" :model-value="table.pace" @change="set({ pace: $event })" />
    <ChoiceRow
      label="Goes"
      :options="WAYS"
      :model-value="`${table.direction}`"
      @change="set({ direction: $event === '1' ? 1 : -1 })"
    />
    <NumberField
      label="Turns"
      :digits="2"
      :step="0.25"
      :min="0.01"
      :max="100"
      :model-value="table.turns"
      @change="set({ turns: $event })"
      @live="live({ turns: $event })"
      @settle="drop"
      @cancel="cancel"
    />
    <NumberField
      v-if="startDeg !== null && !table.spins"
      label="Begins at"
      suffix="°"
      hint="Where the camera is, seen from what it goes round: 0° north, 90° east. Then it looks there"
      :digits="1"
      :step="5"
      :min="-360"
      :max="720"
      :model-value="startDeg"
      @change="set(from($event))"
      @live="live(from($event))"
      @settle="drop"
      @cancel="cancel"
    />
    <AxisFields
      :labels="['Round east', 'Round north', 'Round height']"
      :value="table.pivot"
      :unit="unit"
      hint="What it goes round"
      @change="(axis, m) => set(pivotWith(axis, m))"
      @live="(axis, m) => live(pivotWith(axis, m))"
      @settle="drop"
      @cancel="cancel"
    />
    <div class="buttons">
      <button
        class="btn"
        :class="{ on: tool === 'pivot' }"
        :aria-pressed="tool === 'pivot'"
        title="Click it in the picture or in Plan"
        @click="tool = tool === 'pivot' ? null : 'pivot'"
      >
        Round a place
      </button>
      <button class="btn" title="The middle of what is chosen in the frame" @click="roundChosen">
        Round what is chosen
      </button>
      <button v-if="table.from" class="btn" title="Framed as its viewpoint is" @click="asKept">Begin as kept</button>
    </div>
    <label
      class="tick"
      title="What is chosen in the frame, else all but floors and surroundings, turns about the pivot; camera and light stand still"
      ><input type="checkbox" :checked="table.spins !== undefined" @change="spin" />things turn, the camera
      stands</label
    >
    <p v-if="table.spins" class="text quiet">{{ spinText }}</p>
  </template>
</template>

<style scoped src="../controls/boxes.css"></style>

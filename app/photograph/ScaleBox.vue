<script setup lang="ts">
// How large it is and where it lies: a known length along a direction, or the eye height over a place on the ground.
import { computed } from 'vue'
import NumberField from '../controls/NumberField.vue'
import { useProject } from '../stores/project.ts'
import { useDrawing } from './drawing.ts'
import { useMatch } from './match.ts'
import { usePhotoTools } from './tools.ts'

const { match, change } = useMatch()
const { setScale } = useDrawing()
const { tool } = usePhotoTools()
const project = useProject()
const scale = computed(() => match.value?.scale ?? null)
const unit = computed(() => project.document!.unit)
const AXES = ['East', 'North', 'Height'] as const
function setAt(axis: number, v: number): void {
  const s = scale.value
  if (s) setScale({ ...s, at: s.at.map((x, i) => (i === axis ? v : x)) as unknown as typeof s.at })
}
</script>

<template>
  <section aria-label="Scale and place">
    <h2>Scale and place</h2>
    <p v-if="!scale" class="text quiet">
      {{
        match && match.pairs.length > 0
          ? 'The points tell it.'
          : 'Lines tell directions only. Drag along a known length, or click the ground for the eye height.'
      }}
    </p>
    <template v-else>
      <NumberField
        v-if="scale.kind === 'length'"
        label="Known length"
        kind="length"
        :unit="unit"
        :model-value="scale.lengthM"
        :min="0.001"
        @change="setScale({ ...scale, lengthM: $event })"
      />
      <NumberField
        v-else
        label="Eye height"
        kind="length"
        :unit="unit"
        :model-value="scale.heightM"
        :min="0.001"
        hint="Of the camera over the place on the ground"
        @change="setScale({ ...scale, heightM: $event })"
      />
      <p class="text quiet">
        {{ scale.kind === 'length' ? 'Its beginning lies at' : 'That place on the ground lies at' }}
      </p>
      <NumberField
        v-for="(a, i) in AXES"
        :key="a"
        :label="a"
        kind="length"
        :unit="unit"
        :model-value="scale.at[i]!"
        @change="setAt(i, $event)"
      />
    </template>
    <div class="buttons">
      <button class="btn" :class="{ on: tool === 'scale' }" @click="tool = 'scale'">
        {{ scale ? 'Draw anew' : 'Set the scale' }}
      </button>
      <button v-if="scale" class="btn" @click="change({ scale: undefined })">Take out</button>
    </div>
  </section>
</template>

<style scoped src="../controls/boxes.css"></style>

<script setup lang="ts">
// Clips of the models' own animation that play on the reel's time: which, from when, how fast, and what comes after their end.
import { computed } from 'vue'
import { REEL_LIMITS, type PlayPart } from '#model'
import ChoiceRow from '../controls/ChoiceRow.vue'
import NumberField from '../controls/NumberField.vue'
import { LateSelect } from '../controls/late-select.ts'
import { newId, useProject } from '../stores/project.ts'
import { useStage } from '../stores/stage.ts'
import { useFilm } from './film.ts'
import TimeField from './TimeField.vue'

const project = useProject()
const stage = useStage()
const { part, timeS, go } = useFilm()
const clips = computed(() => stage.facts?.clips ?? [])
const plays = computed(() => part.value?.plays ?? [])
const severalModels = computed(() => new Set(clips.value.map((c) => c.modelKey)).size > 1)
const nameOf = (c: { readonly modelKey: string; readonly name: string }): string =>
  severalModels.value ? `${c.modelKey}: ${c.name}` : c.name
const choices = computed(() =>
  clips.value.map((c, i) => ({ value: i, label: `${nameOf(c)}, ${c.durationS.toFixed(2)} s` })),
)
const clipOf = (p: PlayPart) => clips.value.find((c) => c.modelKey === p.modelKey && c.name === p.clip) ?? null
const put = (list: readonly PlayPart[]): void => {
  if (!part.value) return
  const { plays: _, ...rest } = part.value
  project.run({ type: 'putReels', reels: [list.length > 0 ? { ...rest, plays: [...list] } : rest] })
}
function add(i: number): void {
  const { modelKey, name } = clips.value[i]!
  const fromS = Math.round(timeS.value * 100) / 100
  put([...plays.value, { id: newId(), modelKey, clip: name, fromS, speed: 1, repeat: 'once' }])
}
const set = (id: string, changes: Partial<PlayPart>): void =>
  put(plays.value.map((p) => (p.id === id ? { ...p, ...changes } : p)))
const REPEATS = [
  { value: 'once', label: 'stays', title: 'At its end it stays as it is' },
  { value: 'again', label: 'again', title: 'At its end it begins again' },
  { value: 'back', label: 'back', title: 'Back and forth' },
] as const
</script>

<template>
  <template v-if="part && (clips.length > 0 || plays.length > 0)">
    <h2>Model’s own animation</h2>
    <div v-for="p in plays" :key="p.id" data-testid="clip">
      <p class="text">
        {{ nameOf({ modelKey: p.modelKey, name: p.clip }) }}
        <button class="plain link" title="Go to where it begins" @click="go(p.fromS)">go there</button>
        <button class="plain link" @click="put(plays.filter((q) => q.id !== p.id))">take out</button>
      </p>
      <p v-if="!clipOf(p)" class="text warn" role="status">
        The model has no clip of this name now: what it moved stands still.
      </p>
      <TimeField
        label="From"
        hint="On the reel’s time"
        :step="0.1"
        :min="0"
        :max="3600"
        :model-value="p.fromS"
        @change="set(p.id, { fromS: $event })"
      />
      <NumberField
        label="Speed"
        suffix="×"
        hint="Seconds of the clip in one of the reel"
        :digits="2"
        :step="0.05"
        :min="0.01"
        :max="100"
        :reset-to="1"
        :model-value="p.speed"
        @change="set(p.id, { speed: $event })"
      />
      <ChoiceRow
        label="At its end"
        :options="REPEATS"
        :model-value="p.repeat"
        @change="set(p.id, { repeat: $event })"
      />
    </div>
    <div v-if="choices.length > 0 && plays.length < REEL_LIMITS.plays" class="add">
      <LateSelect
        :key="plays.length"
        :model-value="null"
        :options="choices"
        option-label="label"
        option-value="value"
        placeholder="Play a clip from here …"
        aria-label="A clip of the model’s own animation to play in this reel"
        size="small"
        @update:model-value="add"
      />
    </div>
  </template>
</template>

<style scoped src="../controls/boxes.css"></style>
<style scoped>
.add {
  padding: 4px 14px;
}
.add > * {
  width: 100%;
}
.link {
  margin-left: 6px;
}
</style>

<script setup lang="ts">
// Things of the model that move in the shot at hand: which state they come to or leave, from when to when.
import { computed } from 'vue'
import type { ShotPart } from '#model'
import { LateSelect } from '../controls/late-select.ts'
import { newId, useProject } from '../stores/project.ts'
import { useFilm } from './film.ts'
import TimeField from './TimeField.vue'

const { share, lastsS } = defineProps<{
  /** The moment's share of the shot. */
  share: number
  lastsS: number
}>()
const project = useProject()
const { shot } = useFilm()
const states = computed(() => project.document?.objectStates ?? [])
const motions = computed(() => shot.value?.motions ?? [])
const nameOf = (stateId: string): string => {
  const s = states.value.find((q) => q.id === stateId)
  return s ? `${s.objectId.split('/').at(-1)}: ${s.name}` : 'a state that is gone'
}
const choices = computed(() => states.value.map((s) => ({ value: s.id, label: nameOf(s.id) })))
const put = (list: typeof motions.value): void => void project.run({ type: 'putReels', shots: [{ ...shot.value!, motions: [...list] } as ShotPart] }) // prettier-ignore
const add = (stateId: string): void => put([...motions.value, { id: newId(), stateId, opens: true, fromShare: share < 0.9 ? share : 0, toShare: 1 }]) // prettier-ignore
const set = (id: string, changes: object): void =>
  put(motions.value.map((m) => (m.id === id ? { ...m, ...changes } : m)))
</script>

<template>
  <template v-if="states.length > 0">
    <label class="pick"
      ><span class="quiet">Moves</span>
      <LateSelect
        :key="motions.length"
        :model-value="null"
        :options="choices"
        option-label="label"
        option-value="value"
        placeholder="a state …"
        aria-label="A thing that moves in this shot"
        size="small"
        @update:model-value="add"
    /></label>
    <div v-for="m in motions" :key="m.id">
      <p class="text">
        {{ nameOf(m.stateId) }}
        <button class="plain link" @click="set(m.id, { opens: !m.opens })">{{ m.opens ? 'comes' : 'goes' }}</button>{{
          ' '
        }}
        <button class="plain link" @click="put(motions.filter((q) => q.id !== m.id))">take out</button>
      </p>
      <TimeField
        label="From"
        :step="0.1"
        :min="0"
        :max="m.toShare * lastsS"
        :model-value="m.fromShare * lastsS"
        @change="set(m.id, { fromShare: Math.min(m.toShare, $event / lastsS) })"
      />
      <TimeField
        label="To"
        :step="0.1"
        :min="m.fromShare * lastsS"
        :max="lastsS"
        :model-value="m.toShare * lastsS"
        @change="set(m.id, { toShare: Math.max(m.fromShare, Math.min(1, $event / lastsS)) })"
      />
    </div>
  </template>
</template>

<style scoped src="../controls/boxes.css"></style>
<style scoped>
.link {
  margin-left: 6px;
}
</style>

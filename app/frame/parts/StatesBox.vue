<script setup lang="ts">
// Other placements of the chosen object under names (a drawer open, a door ajar): which one holds here, and their numbers. Viewpoints keep
// which one holds, with what is visible; shots move from one to another.
import { computed, ref } from 'vue'
import { boxCentre } from '#core/math'
import { withState, type ObjectState } from '#model'
import NumberField from '../../controls/NumberField.vue'
import { newId, useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'

const project = useProject()
const stage = useStage()
const view = useView()
const naming = ref(false)
const objectId = computed(() => (view.selection.length === 1 ? view.selection[0]! : null))
const all = computed(() => project.document?.objectStates ?? [])
const own = computed(() => all.value.filter((s) => s.objectId === objectId.value))
const holding = computed(() => own.value.find((s) => project.working?.visible.states?.includes(s.id)) ?? null)
const hold = (stateId: string | null): void => void (objectId.value && project.run({ type: 'setPart', part: 'visible', value: withState(project.working!.visible, all.value, objectId.value, stateId) })) // prettier-ignore
function add(): void {
  const id = objectId.value
  if (!id) return
  const box = stage.byId.get(id)?.box
  const c = box ? boxCentre(box) : ([0, 0, 0] as const)
  const taken = new Set(own.value.map((s) => s.name))
  let name = 'open'
  for (let n = 2; taken.has(name); n++) name = `open ${n}`
  const state: ObjectState = {
    id: newId(),
    name,
    objectId: id,
    moveM: [0, 0, 0],
    turnDeg: 0,
    hinge: [box?.min[0] ?? c[0], c[1], c[2]],
  }
  if (project.run({ type: 'putObjectState', state })) hold(state.id)
}
const put = (changes: Partial<ObjectState>): void => void (holding.value && project.run({ type: 'putObjectState', state: { ...holding.value, ...changes } })) // prettier-ignore
const AXES = ['East', 'North', 'Up'] as const
const at = (list: readonly number[], i: number, v: number): [number, number, number] => list.map((x, k) => (k === i ? v : x)) as [number, number, number] // prettier-ignore
function rename(e: Event): void {
  const name = (e.target as HTMLInputElement).value.trim()
  naming.value = false
  if (name && name !== holding.value?.name) put({ name })
}
</script>

<template>
  <div v-if="objectId" class="states" data-testid="states">
    <div class="bar">
      <span class="quiet">Stands</span>
      <span role="radiogroup" aria-label="How it stands" class="list">
        <button class="btn" role="radio" :aria-checked="!holding" :class="{ on: !holding }" @click="hold(null)">
          as in its file
        </button>
        <button
          v-for="s in own"
          :key="s.id"
          class="btn"
          role="radio"
          :aria-checked="s === holding"
          :class="{ on: s === holding }"
          @click="hold(s.id)"
        >
          {{ s.name }}
        </button>
        <button class="btn" title="Another placement of it, under a name" @click="add">New state</button>
      </span>
    </div>
    <template v-if="holding">
      <NumberField
        v-for="(axis, i) in AXES"
        :key="axis"
        :label="`${axis} by`"
        kind="length"
        :min="-1000"
        :max="1000"
        :model-value="holding.moveM[i]!"
        @change="put({ moveM: at(holding!.moveM, i, $event) })"
      />
      <NumberField
        label="Turned by"
        suffix="°"
        :digits="1"
        :step="5"
        :min="-360"
        :max="360"
        :model-value="holding.turnDeg"
        @change="put({ turnDeg: $event })"
      />
      <template v-if="holding.turnDeg !== 0">
        <NumberField
          v-for="(axis, i) in AXES.slice(0, 2)"
          :key="`h${axis}`"
          :label="`Hinge ${axis.toLowerCase()}`"
          kind="length"
          :min="-1e6"
          :max="1e6"
          :model-value="holding.hinge[i]!"
          @change="put({ hinge: at(holding!.hinge, i, $event) })"
        />
      </template>
      <div class="bar">
        <input
          v-if="naming"
          :value="holding.name"
          aria-label="Name of the state"
          maxlength="200"
          autofocus
          @keydown.enter="rename"
          @keydown.esc.stop="naming = false"
          @blur="naming && rename($event)"
        />
        <button v-else class="btn" @click="naming = true">Rename</button>
        <button class="btn" @click="project.run({ type: 'removeObjectState', stateId: holding.id })">
          Take state out
        </button>
      </div>
    </template>
  </div>
</template>

<style scoped src="./panel.css"></style>
<style scoped>
.states {
  padding-bottom: 4px;
}
.bar {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px;
  padding: 4px 14px;
}
.list {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
}
</style>

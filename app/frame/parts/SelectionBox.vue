<script setup lang="ts">
// What is selected: its name and size, what can be done with it, and a single object's own place.
import { computed } from 'vue'
import { boxSize, joinBoxes, type Vec3 } from '#core/math'
import type { Command } from '#model'
import AxisFields from '../../controls/AxisFields.vue'
import NumberField from '../../controls/NumberField.vue'
import { useFitting } from '../straighten/fitting.ts'
import { useProject } from '../../stores/project.ts'
import { useView } from '../../stores/view.ts'
import { sizeText } from '../../text/short.ts'
import { useLiveEdits } from '../camera/live-edits.ts'
import { useHiding } from '../selection/hiding.ts'
import { useSelection } from '../selection/selection.ts'

const project = useProject()
const view = useView()
const { nodes, clear, canParent, selectParent, materials, selectSameMaterial } = useSelection()
const { isGone, hide, show, isolate } = useHiding()
const { fit } = useFitting()

const title = computed(() => (nodes.value.length === 1 ? nodes.value[0]!.name : `${nodes.value.length} objects`))
const size = computed(() => {
  const boxes = nodes.value.map((n) => n.box)
  return boxes.length ? sizeText(boxSize(boxes.reduce(joinBoxes))) : ''
})
const ids = computed(() => nodes.value.map((n) => n.id))
const allHidden = computed(() => ids.value.every(isGone))
const people = computed(() => project.document?.people ?? [])
const allPeople = computed(() => ids.value.every((id) => people.value.includes(id)))
function markPeople(are: boolean): void {
  const others = people.value.filter((id) => !ids.value.includes(id))
  project.run({ type: 'setProject', changes: { people: are ? [...others, ...ids.value] : others } })
}
const keyOf = (id: string): string => id.split('/', 1)[0]!
const model = computed(() => {
  const [one] = nodes.value
  return nodes.value.length === 1 && one ? (project.models?.find((m) => m.key === keyOf(one.id)) ?? null) : null
})
const isModel = computed(() => nodes.value.length === 1 && nodes.value[0]!.parentId === null)
const move = computed(() => {
  const [one] = nodes.value
  if (!model.value || !one || isModel.value) return null
  return model.value.moved.find((m) => m.path === one.id) ?? { path: one.id, moveM: [0, 0, 0] as Vec3, turnDeg: 0 }
})
const isMoved = computed(
  () => move.value !== null && (move.value.turnDeg !== 0 || move.value.moveM.some((v) => v !== 0)),
)
const { number, axes } = useLiveEdits()
const withMove = (changes: Partial<NonNullable<typeof move.value>>): Command => ({
  type: 'moveObject',
  modelId: model.value!.id,
  move: { ...move.value!, ...changes },
})
const along = (axis: 0 | 1 | 2, value: number): Command =>
  withMove({ moveM: move.value!.moveM.map((v, i) => (i === axis ? value : v)) as unknown as [number, number, number] })
const putBack = (): void => void project.run(withMove({ moveM: [0, 0, 0], turnDeg: 0 }))
</script>

<template>
  <div class="selection" data-testid="selection">
    <p v-if="nodes.length === 0" class="quiet hint">
      Click an object in the picture or in the list. Shift adds; <b>Pick</b> or Ctrl-drag draws a band.
    </p>
    <template v-else>
      <p class="title">
        <b>{{ title }}</b>
        <button class="plain quiet" title="Select nothing (Esc)" @click="clear">Clear</button>
      </p>
      <p class="num quiet">{{ size }}</p>
      <p v-if="materials.length" class="quiet materials">{{ materials.slice(0, 3).join(', ') }}</p>
      <div class="buttons">
        <button class="btn" title="Fill the frame with it; the direction of view stays (T)" @click="fit()">
          Tight fit
        </button>
        <button
          class="btn"
          :title="allHidden ? 'Shows it again' : 'Hides it (Delete)'"
          @click="allHidden ? show(ids) : hide(ids)"
        >
          {{ allHidden ? 'Show' : 'Hide' }}
        </button>
        <button class="btn" title="Hides everything else (N); again brings it back" @click="isolate">Isolate</button>
        <button class="btn" :disabled="!canParent" title="What it is a part of" @click="selectParent">Parent</button>
        <button
          class="btn"
          :disabled="materials.length === 0"
          title="All objects of the same material"
          @click="selectSameMaterial"
        >
          Same material
        </button>
        <button v-if="isModel" class="btn" @click="view.open('models')">Place…</button>
      </div>
      <label class="person" title="The frame check then sees whether the lens stretches it, whatever its shape">
        <input type="checkbox" :checked="allPeople" @change="markPeople(!allPeople)" />
        {{ nodes.length === 1 ? 'A person' : 'People' }}
      </label>
      <details v-if="move" :open="isMoved">
        <summary>Moved by</summary>
        <AxisFields
          :labels="['East', 'North', 'Up']"
          :value="move.moveM"
          :unit="project.document!.unit"
          :reset-to="0"
          v-on="axes(along)"
        />
        <NumberField
          label="Turned"
          kind="angle"
          suffix="°"
          sign
          :model-value="move.turnDeg"
          :step="5"
          :min="-720"
          :max="720"
          :reset-to="0"
          hint="About the upright through its middle, clockwise from above"
          v-on="number((turnDeg) => withMove({ turnDeg }))"
        />
        <button v-if="isMoved" class="btn back" @click="putBack">Back to its place</button>
      </details>
    </template>
  </div>
</template>

<style scoped>
.selection {
  padding: 2px 0 8px;
}
.hint,
.title,
.num,
.materials {
  padding: 1px 14px;
}
.title {
  display: flex;
  justify-content: space-between;
}
.materials {
  font-size: 12px;
}
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  padding: 6px 14px 2px;
}
details {
  padding-top: 4px;
}
summary {
  padding: 2px 14px;
  cursor: pointer;
  color: var(--quiet);
}
.person {
  display: inline-flex;
  align-items: center;
  gap: 6px;
  padding: 4px 14px;
  font-size: 12.5px;
}
.person input {
  accent-color: var(--plum);
  margin: 0;
}
.back {
  margin: 4px 14px;
}
</style>

<script setup lang="ts">
// Near and far cut: nothing nearer, nothing farther than a distance along the axis is drawn.
import { computed } from 'vue'
import { UNSET_CUT_M, type Command, type Setup } from '#model'
import NumberField from '../../controls/NumberField.vue'
import { useFraming } from '../camera/framing.ts'
import { useProject } from '../../stores/project.ts'
import { useFitting } from '../straighten/fitting.ts'
import { useLiveEdits } from './live-edits.ts'

const project = useProject()
const { aimDepth } = useFraming()
const { standBack } = useFitting()
const cut = computed(() => project.working!.cut)
const flat = computed(() => {
  const kind = project.working!.lens.projection.kind
  return kind === 'parallel' || kind === 'oblique'
})
type End = 'near' | 'far'
const ENDS = [
  ['near', 'Near cut'],
  ['far', 'Far cut'],
] as const
const { number } = useLiveEdits()
const withCut = (end: End, changes: Partial<Setup['cut']['near']>): Command => {
  const value = { ...cut.value, [end]: { ...cut.value[end], ...changes } }
  return { type: 'setPart', part: 'cut', value }
}
const set = (end: End, changes: Partial<Setup['cut']['near']>): void => void project.run(withCut(end, changes))
/** Switched on for the first time a cut lies where something is: half way to the aim, or twice as far. */
function toggle(end: End): void {
  const c = cut.value[end]
  const depth = aimDepth.value !== null && aimDepth.value > 0 ? aimDepth.value : 4
  const first = end === 'near' ? depth / 2 : depth * 2
  set(end, { on: !c.on, ...(c.on || c.distanceM !== UNSET_CUT_M[end] ? {} : { distanceM: Number(first.toFixed(2)) }) })
}
</script>

<template>
  <div>
    <h3>Along the view</h3>
    <template v-for="[end, label] in ENDS" :key="end">
      <label class="tick"><input type="checkbox" :checked="cut[end].on" @change="toggle(end)" />{{ label }}</label>
      <NumberField
        label="Distance"
        kind="length"
        :unit="project.document!.unit"
        :model-value="cut[end].distanceM"
        :step="0.05"
        :min="flat ? -1e5 : 0.001"
        :max="1e5"
        :disabled="!cut[end].on"
        hint="Along the axis, from the station’s plane"
        v-on="number((distanceM) => withCut(end, { distanceM }))"
      />
    </template>
    <p class="text quiet">
      What lies nearer than the near cut, or beyond the far one, is left out of the picture; clicks pass through it too.
    </p>
    <div class="line">
      <span class="quiet">In a small room</span>
      <span class="buttons">
        <button
          class="btn"
          :disabled="flat"
          title="As far back as a tight fit needs; the near cut then lies just inside the wall"
          @click="standBack()"
        >
          Stand back through the wall
        </button>
      </span>
    </div>
  </div>
</template>

<style scoped src="./panel.css"></style>

<script setup lang="ts">
// Near and far cut: nothing nearer, nothing farther than a distance along the axis is drawn.
import { computed } from 'vue'
import { UNSET_CUT_M, type Command, type Setup } from '#model'
import { axesOf, isParallel } from '#core/camera'
import { boxCorners, dot, sub } from '#core/math'
import ChoiceRow from '../../controls/ChoiceRow.vue'
import NumberField from '../../controls/NumberField.vue'
import { useStage } from '../../stores/stage.ts'
import { usePicking } from '../straighten/picking.ts'
import { useFraming } from '../camera/framing.ts'
import { useProject } from '../../stores/project.ts'
import { useFitting } from '../straighten/fitting.ts'
import { useLiveEdits } from '../camera/live-edits.ts'

const project = useProject()
const stage = useStage()
const { begin } = usePicking()
const { aimDepth } = useFraming()
const { standBack } = useFitting()
const cut = computed(() => project.working!.cut)
const flat = computed(() => isParallel(project.working!.lens))
type End = 'near' | 'far'
const ENDS = [
  ['near', 'Near cut', 'Near at'],
  ['far', 'Far cut', 'Far at'],
] as const
const { number } = useLiveEdits()
const withCut = (end: End, changes: Partial<Setup['cut']['near']>): Command => {
  const value = { ...cut.value, [end]: { ...cut.value[end], ...changes } }
  return { type: 'setPart', part: 'cut', value }
}
const set = (end: End, changes: Partial<Setup['cut']['near']>): void => void project.run(withCut(end, changes))
/** Switched on for the first time the near cut goes through the subject, the far one lies beyond the model. */
function toggle(end: End): void {
  const c = cut.value[end]
  if (c.on) return set(end, { on: false })
  if (c.distanceM !== UNSET_CUT_M[end] || c.tied) return switchOn(end, {})
  const depth = aimDepth.value !== null && aimDepth.value > 0 ? aimDepth.value : 4
  const first = end === 'near' ? depth : (beyondModel() ?? depth * 2)
  switchOn(end, { distanceM: Number(first.toFixed(2)) })
}
/** Where all are off, this one would stay so unseen. */
function switchOn(end: End, changes: Partial<Setup['cut']['near']>): void {
  const { allOff: _, ...rest } = cut.value
  project.run({ type: 'setPart', part: 'cut', value: { ...rest, [end]: { ...rest[end], ...changes, on: true } } })
}
function beyondModel(): number | null {
  const pose = project.camera?.pose
  const box = stage.facts?.box
  if (!pose || !box) return null
  const { forward } = axesOf(pose)
  const far = Math.max(...boxCorners(box).map((p) => dot(forward, sub(p, pose.station))))
  return far > 0 ? far * 1.02 : null
}
type Held = 'station' | 'aim' | 'place'
const HELD: readonly { value: Held; label: string; title: string }[] = [
  { value: 'station', label: 'station', title: 'Goes with the camera, at its distance' },
  { value: 'aim', label: 'aim', title: 'Stays with the aim when the camera moves' },
  { value: 'place', label: 'a place…', title: 'Stays at a place that is clicked, a wall for one' },
]
const heldBy = (end: End): Held => cut.value[end].tied?.to ?? 'station'
/** Where it lies now; tied ends follow what they are tied to. */
const distanceNow = (end: End): number => project.workingShown!.cut[end].distanceM
function hold(end: End, by: Held): void {
  if (by === 'place') return begin(end === 'near' ? 'near-place' : 'far-place')
  const { tied: _, ...rest } = cut.value[end]
  const now = distanceNow(end)
  const ahead = aimDepth.value ?? now
  const value =
    by === 'aim' ? { ...rest, tied: { to: 'aim' as const, offsetM: now - ahead } } : { ...rest, distanceM: now }
  project.run({ type: 'setPart', part: 'cut', value: { ...cut.value, [end]: value } })
}
const offset = (end: End, offsetM: number): Command => {
  const { tied } = cut.value[end]
  return withCut(end, tied ? { tied: { ...tied, offsetM } } : {})
}
</script>

<template>
  <div>
    <h3>Along the view</h3>
    <template v-for="[end, label, at] in ENDS" :key="end">
      <label class="tick"><input type="checkbox" :checked="cut[end].on" @change="toggle(end)" />{{ label }}</label>
      <ChoiceRow
        v-if="cut[end].on"
        label="Held by"
        :model-value="heldBy(end)"
        :options="HELD"
        @change="hold(end, $event)"
      />
      <NumberField
        v-if="cut[end].tied"
        label="Beyond it"
        kind="length"
        :unit="project.document!.unit"
        :model-value="cut[end].tied!.offsetM"
        :step="0.05"
        sign
        :disabled="!cut[end].on"
        :hint="`Now ${distanceNow(end).toFixed(2)} m from the station; below nought it lies before it`"
        v-on="number((m) => offset(end, m))"
      />
      <NumberField
        v-else
        :label="at"
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

<script setup lang="ts">
// The shape of the blur: round, blades or a grey picture, what the barrel cuts off at the corners, and how bright points read.
import { computed, ref } from 'vue'
import ChoiceRow from '../../controls/ChoiceRow.vue'
import NumberField from '../../controls/NumberField.vue'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import ApertureShape from '../focus/ApertureShape.vue'
import { apertureFrom } from '../focus/aperture-file.ts'
import { useFocus, type Focus } from '../focus/focus.ts'
import { useLiveEdits } from '../camera/live-edits.ts'

defineProps<{ off: boolean }>()
/** A shape is made out in a disc of so many pixels (practice). */
const READS_PX = 12
const project = useProject()
const stage = useStage()
const { withFocus, set } = useFocus()
const { number } = useLiveEdits()
const focus = computed(() => project.working!.focus)
const shape = computed(() => focus.value.aperture)
const BLADES = [
  ...[0, 5, 6, 7, 8, 9, 11].map((n) => ({ value: String(n), label: n === 0 ? 'round' : String(n) })),
  { value: 'picture', label: 'own…', title: 'A grey picture from a file: what is white lets light through' },
]
const chosen = computed(() => (shape.value.picture ? 'picture' : String(shape.value.blades)))
const withAperture = (changes: Partial<Focus['aperture']>) => withFocus({ aperture: { ...shape.value, ...changes } })
const input = ref<HTMLInputElement | null>(null)
const said = ref('')
function byBlades(value: string): void {
  said.value = ''
  if (value === 'picture') return input.value?.click()
  const { picture: _, ...rest } = shape.value
  const opened = rest.blades === 0 ? { roundness: 0.3 } : {}
  set({ aperture: { ...rest, blades: Number(value), ...opened } })
}
async function picked(e: Event): Promise<void> {
  const field = e.target as HTMLInputElement
  const file = field.files?.[0]
  field.value = ''
  if (!file) return
  const r = await apertureFrom(file)
  said.value = 'message' in r ? r.message : ''
  if ('picture' in r) set({ aperture: { ...shape.value, picture: r.picture } })
}
/** How many there are, how large, and from which aperture on their shape is made out. */
const told = computed(() => {
  const p = stage.points
  if (!p) return null
  const px = (v: number): string => v.toFixed(v < 10 ? 1 : 0)
  const sizes = px(p.leastPx) === px(p.mostPx) ? `${px(p.midPx)} px` : `${px(p.leastPx)} to ${px(p.mostPx)} px`
  return { count: p.count, sizes, reads: (focus.value.fNumber * p.midPx) / READS_PX }
})
</script>

<template>
  <div>
    <ChoiceRow label="Blades" :options="BLADES" :model-value="chosen" :disabled="off" @change="byBlades" />
    <input
      ref="input"
      class="visually-hidden"
      type="file"
      accept="image/*"
      tabindex="-1"
      aria-label="Picture of the aperture"
      @change="picked"
    />
    <p v-if="said" class="text" role="status" data-testid="aperture-said">{{ said }}</p>
    <div class="shape">
      <ApertureShape :shape="shape" :corner="(shape.catsEye ?? 0) > 0" />
      <div>
        <NumberField
          v-if="shape.blades > 0 && !shape.picture"
          label="Turned"
          suffix="°"
          kind="angle"
          :model-value="shape.rotationDeg"
          :step="1"
          :min="-360"
          :max="360"
          :disabled="off"
          v-on="number((rotationDeg) => withAperture({ rotationDeg }))"
        />
        <NumberField
          v-if="shape.blades > 0 && !shape.picture"
          label="Roundness"
          suffix="%"
          :model-value="shape.roundness * 100"
          :digits="0"
          :min="0"
          :max="100"
          :disabled="off"
          v-on="number((p) => withAperture({ roundness: p / 100 }))"
        />
        <NumberField
          label="Cat’s-eye"
          suffix="%"
          :model-value="(shape.catsEye ?? 0) * 100"
          :digits="0"
          :step="5"
          :min="0"
          :max="150"
          :reset-to="0"
          :disabled="off"
          hint="How far the barrel cuts discs off at the corners, in their radii"
          v-on="number((p) => withAperture({ catsEye: p > 0 ? p / 100 : undefined }))"
        />
      </div>
    </div>
    <NumberField
      label="Highlights"
      suffix="%"
      :model-value="(focus.highlights ?? 1) * 100"
      :digits="0"
      :step="10"
      :min="0"
      :max="5000"
      :reset-to="100"
      :disabled="off"
      hint="Bright points out of focus; 100 % is the light that they have"
      v-on="number((p) => withFocus({ highlights: p === 100 ? undefined : p / 100 }))"
    />
    <p v-if="!off && told" class="text" data-testid="points-told">
      <span class="num">{{ told.count }}</span> bright {{ told.count === 1 ? 'point' : 'points' }}, discs of
      <span class="num">{{ told.sizes }}</span>; their shape reads from
      <span class="num">f/{{ told.reads.toFixed(told.reads < 10 ? 1 : 0) }}</span> on, and wider open.
    </p>
    <p v-else-if="!off" class="text quiet">No bright points out of focus in this picture.</p>
  </div>
</template>

<style scoped src="./panel.css"></style>
<style scoped>
.shape {
  display: grid;
  grid-template-columns: 58px 1fr;
  align-items: center;
  padding-left: 14px;
}
</style>

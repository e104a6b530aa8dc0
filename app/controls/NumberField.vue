<script lang="ts">
import { shallowRef } from 'vue'
import type { Result } from '#core/base'
/** Another way to write a number and to read it. */
export interface Reading {
  readonly suffix: string
  format(value: number): string
  parse(text: string): Result<number, string>
}
/** The field that spoke last: what others said before goes. */
const speaking = shallowRef<symbol>()
</script>
<script setup lang="ts">
// A number with its unit: typed with units and sums, stepped by arrow keys and wheel, dragged by its label, reset by double click.
// Text that cannot be read stays to be mended, with the reason; a number outside the limits gives way to the old value, and the limit
// is told.
import { computed, nextTick, onBeforeUnmount, ref, useId, watch } from 'vue'
import { startDrag } from './drag.ts'
import {
  formatLength,
  lengthSuffix,
  likelierUnit,
  parseQuantity,
  type LengthUnit,
  type QuantityKind,
  type LikelierUnit,
} from '#core/base'
import { WORLD_LIMIT_M } from '#core/placing'

const props = withDefaults(
  defineProps<{
    label: string
    modelValue: number
    kind?: QuantityKind
    unit?: LengthUnit
    /** Unit shown behind the number when it is not a length. */
    suffix?: string
    digits?: number
    step?: number
    min?: number
    max?: number
    resetTo?: number | undefined
    sign?: boolean
    disabled?: boolean
    hint?: string
    /** What is usual here, metres: a bare number a hundred times off is asked about. */
    usualM?: number
    /** A hundred times smaller is asked about too. */
    positive?: boolean
    /** Written and read another way than as a number. */
    reading?: Reading | null
  }>(),
  {
    kind: 'plain',
    unit: 'm',
    suffix: '',
    digits: 2,
    step: 1,
    min: -Infinity,
    max: Infinity,
    sign: false,
    disabled: false,
    hint: '',
    usualM: 0,
    positive: false,
    reading: null,
  },
)
const emit = defineEmits<{ change: [value: number]; live: [value: number]; settle: []; cancel: [from: number] }>()

const id = useId()
const input = ref<HTMLInputElement | null>(null)
const me = Symbol('field')
const text = ref('')
const error = ref('')
/** A number that is waiting for an answer: as typed, or in the likelier unit. */
const asked = ref<{ readonly typed: number; readonly guess: LikelierUnit } | null>(null)
const editing = ref(false)

const shown = computed(() => asShown(props.modelValue))
function asShown(v: number): string {
  if (props.reading) return props.reading.format(v)
  if (props.kind === 'length') return formatLength(v, props.unit)
  const fixed = v.toFixed(props.digits)
  const zero = Number(fixed) === 0
  const plain = zero ? fixed.replace('-', '') : fixed.replace('-', '−')
  return props.sign && !zero && v > 0 ? `+${plain}` : plain
}
const unitText = computed(
  () => props.reading?.suffix ?? (props.kind === 'length' ? lengthSuffix(props.unit) : props.suffix),
)
watch(
  shown,
  (s) => {
    if (editing.value) return
    text.value = s
    // what was said was of another number
    error.value = ''
  },
  { immediate: true },
)

/** Lengths end where the world does. */
const worldM = props.kind === 'length' ? WORLD_LIMIT_M : Infinity
const least = computed(() => Math.max(props.min, -worldM))
const most = computed(() => Math.min(props.max, worldM))
const within = (v: number): number => Math.min(most.value, Math.max(least.value, v))

/** Longest that a sentence stands which nothing follows. */
const SENTENCE_MS = 6000
let silence: ReturnType<typeof setTimeout> | undefined
function tell(sentence: string): void {
  error.value = sentence
  speaking.value = me
  clearTimeout(silence)
}
watch(speaking, (by) => {
  if (by === me) return
  error.value = ''
  asked.value = null
})
/** The old value is back; the sentence stays a moment. */
function restore(): void {
  editing.value = false
  text.value = shown.value
  clearTimeout(silence)
  silence = setTimeout(() => (error.value = ''), SENTENCE_MS)
}
onBeforeUnmount(() => clearTimeout(silence))

/** A limit as a person says it: small lengths in millimetres. */
const withUnit = (v: number): string =>
  props.kind === 'length' && props.unit !== 'ft-in' && v > 0 && v < 0.01
    ? `${Number((v * 1000).toPrecision(3))} mm`
    : format(v)
function typing(): void {
  editing.value = true
  asked.value = null
  clearTimeout(silence)
}
const begin = (e: FocusEvent): void => (e.target as HTMLInputElement).select()
/** Takes over what was typed; text that cannot be used stays in the field with the reason beside it. */
function commit(): void {
  if (!editing.value) return
  const r = props.reading?.parse(text.value) ?? parseQuantity(text.value, props.kind, props.unit)
  if (!r.ok) return tell(r.message)
  if (r.value < least.value || r.value > most.value) {
    tell(
      r.value < least.value ? `At least ${withUnit(least.value).trim()}.` : `At most ${withUnit(most.value).trim()}.`,
    )
    return restore()
  }
  const guess = props.kind === 'length' ? likelierUnit(text.value, props.unit, props.usualM, props.positive) : null
  if (guess && within(guess.valueM) === guess.valueM) {
    error.value = ''
    asked.value = { typed: r.value, guess }
    speaking.value = me
    return
  }
  put(r.value)
}
function answer(value: number): void {
  asked.value = null
  put(value)
}
function put(value: number): void {
  error.value = ''
  asked.value = null
  editing.value = false
  // written while nothing else has changed: later the page would be laid out in the midst of its drawing
  text.value = asShown(value)
  if (input.value) input.value.value = text.value
  // what was refused (a lock) or rounded shows as it really is
  void nextTick(() => (text.value = shown.value))
  emit('change', value)
}
const format = (v: number): string =>
  props.reading
    ? `${props.reading.format(v)} ${props.reading.suffix}`
    : props.kind === 'length'
      ? `${formatLength(v, props.unit)} ${lengthSuffix(props.unit)}`
      : `${v} ${props.suffix}`
function leave(e: FocusEvent): void {
  // the question's own buttons are part of the field
  if (asked.value && (e.relatedTarget as HTMLElement | null)?.closest?.('.ask')) return
  commit()
  // a question that is left unanswered stands beside the old value
  if (asked.value) text.value = shown.value
  else if (error.value) restore()
  editing.value = false
}
function enter(): void {
  commit()
  if (!editing.value) requestAnimationFrame(selectAll)
}
/** Selecting takes the keys in some browsers: not from where they went in the meantime. */
function selectAll(): void {
  if (document.activeElement === input.value) input.value?.select()
}
function escape(): void {
  text.value = shown.value
  error.value = ''
  asked.value = null
  editing.value = false
  input.value?.blur()
}
const factor = (e: { shiftKey: boolean; altKey: boolean }): number => (e.shiftKey ? 10 : e.altKey ? 0.1 : 1)
function stepBy(e: KeyboardEvent | WheelEvent, direction: number): void {
  const next = within(Number((props.modelValue + direction * props.step * factor(e)).toPrecision(12)))
  editing.value = false
  emit('change', next)
  void nextTick(() => (text.value = shown.value))
}
function wheel(e: WheelEvent): void {
  if (document.activeElement !== e.currentTarget || props.disabled) return
  e.preventDefault()
  stepBy(e, e.deltaY < 0 ? 1 : -1)
}

/** The click that ends a drag does not go into the field, where keys would be text. */
let dragged = false
function clicked(e: MouseEvent): void {
  if (dragged) e.preventDefault()
  dragged = false
}
// dragging the label: three pixels a step
function dragLabel(e: PointerEvent): void {
  if (props.disabled || e.button !== 0) return
  e.preventDefault()
  const from = props.modelValue
  startDrag(e, {
    move: (dx, _dy, m) => {
      const to = within(Number((from + Math.round(dx / 3) * props.step * factor(m)).toPrecision(12)))
      emit('live', to)
    },
    end: (moved) => {
      dragged = moved
      if (moved) emit('settle')
    },
    cancel: () => emit('cancel', from),
  })
}
function reset(): void {
  if (props.resetTo !== undefined && !props.disabled) emit('change', props.resetTo)
}
</script>

<template>
  <div class="row" :class="{ disabled }">
    <label
      :for="id"
      :title="hint || (resetTo !== undefined ? 'Drag to change, double click to reset' : 'Drag to change')"
      @pointerdown="dragLabel"
      @click="clicked"
      @dblclick="reset"
      >{{ label }}</label
    >
    <div class="field">
      <!-- plain: the library's own field takes as long to draw as all the rest of a panel -->
      <input
        :id="id"
        ref="input"
        v-model="text"
        class="num"
        :disabled="disabled"
        :aria-invalid="error ? true : undefined"
        :data-untyped="editing ? undefined : ''"
        :aria-describedby="error ? `${id}-why` : undefined"
        autocomplete="off"
        spellcheck="false"
        @focus="begin"
        @input="typing"
        @blur="leave"
        @keydown.enter.prevent="enter"
        @keydown.esc.stop.prevent="escape"
        @keydown.up.prevent="stepBy($event, 1)"
        @keydown.down.prevent="stepBy($event, -1)"
        @wheel="wheel"
      />
      <span class="unit">{{ unitText }}</span>
      <slot />
    </div>
    <p v-if="asked" class="why ask" role="alertdialog" :aria-label="`${label}: which unit?`">
      {{ asked.guess.text }}?
      <button type="button" class="btn" @click="answer(asked.guess.valueM)">{{ asked.guess.text }}</button>
      <button type="button" class="btn" @click="answer(asked.typed)">{{ format(asked.typed) }}</button>
    </p>
    <p v-if="error" :id="`${id}-why`" class="why" role="alert">{{ error }}</p>
  </div>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: 92px 1fr;
  align-items: center;
  column-gap: 8px;
  padding: 2px 14px;
}
label {
  color: var(--quiet);
  cursor: ew-resize;
  touch-action: none;
  user-select: none;
}
.disabled label {
  cursor: default;
  opacity: 0.6;
}
.field {
  display: flex;
  align-items: center;
  border-bottom: 1px solid var(--line);
  min-width: 0;
}
.field:focus-within {
  border-bottom-color: var(--plum);
}
.field > input {
  flex: 1;
  min-width: 0;
  width: 40px;
  border: 0;
  background: none;
  font: 12px var(--mono);
  letter-spacing: -0.02em;
  color: inherit;
  padding: 3px 2px;
  outline-offset: -1px;
}
.field > input:disabled {
  color: var(--quiet);
  opacity: 0.6;
}
.ask {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  align-items: center;
}
.ask .btn {
  min-height: 20px;
  padding: 0 6px;
  font: 11px var(--mono);
}
.why {
  grid-column: 2;
  color: var(--ochre);
  font-size: 11px;
  padding: 2px 0;
}
</style>

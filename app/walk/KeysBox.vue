<script setup lang="ts">
// Curves of the shot at hand over its time: focus, lens, exposure, how far it has come, where it stands and looks; keys are put at the moment, dragged and typed.
import { computed, ref } from 'vue'
import { KEY_CURVES, throughKeys, type Key, type KeyCurve } from '#core/reel'
import NumberField from '../controls/NumberField.vue'
import { startDrag } from '../controls/drag.ts'
import type { ShotPart } from '#model'
import { useProject } from '../stores/project.ts'
import { useFilm } from './film.ts'
import MotionsBox from './MotionsBox.vue'
import TimeField from './TimeField.vue'

interface Curve {
  readonly label: string
  readonly unit: string
  readonly digits: number
  /** Of the first key, where the take has none of its own: 0. */
  readonly plain?: (take: { focusM: number | null }) => number
}
const CURVES: Readonly<Record<KeyCurve, Curve>> = {
  focusM: { label: 'Focus', unit: 'm', digits: 2, plain: (t) => t.focusM ?? 3 },
  focal: { label: 'Focal length', unit: '×', digits: 3, plain: () => 1 },
  ev: { label: 'Exposure', unit: 'EV', digits: 2 },
  progress: { label: 'How far', unit: '%', digits: 1 },
  aheadM: { label: 'Ahead', unit: 'm', digits: 2 },
  asideM: { label: 'Aside', unit: 'm', digits: 2 },
  riseM: { label: 'Up', unit: 'm', digits: 2 },
  panDeg: { label: 'Turn', unit: '°', digits: 1 },
  tiltDeg: { label: 'Tilt', unit: '°', digits: 1 },
}
const NAMES = Object.keys(CURVES) as KeyCurve[]
const project = useProject()
const { shot, moment, shown, dragged } = useFilm()
const curve = ref<KeyCurve>('focusM')
const chosen = ref(-1)
const share = computed(() => moment.value.share)
const lastsS = computed(() => moment.value.lastsS)
const keys = computed<readonly Key[]>(() => shot.value?.keys?.[curve.value] ?? [])
const of = computed(() => ({ ...CURVES[curve.value], ...KEY_CURVES[curve.value] }))
const factor = computed(() => (curve.value === 'progress' ? 100 : 1))
function changed(list: readonly Key[]): ShotPart {
  const { [curve.value]: _, ...rest } = shot.value!.keys ?? {}
  const sorted = [...list].sort((a, b) => a.at - b.at)
  const next = sorted.length > 0 ? { ...rest, [curve.value]: sorted } : rest
  const { keys: _k, ...plain } = shot.value!
  return (Object.keys(next).length > 0 ? { ...plain, keys: next } : plain) as ShotPart
}
function put(list: readonly Key[]): void {
  const next = changed(list)
  dragged.value = null
  project.run({ type: 'putReels', shots: [next] })
}
const SAME = 0.004
function add(): void {
  const value = keys.value.length > 0 ? throughKeys(keys.value, share.value) : curve.value === 'progress' ? share.value : (of.value.plain?.(shown.value?.take ?? { focusM: null }) ?? 0) // prettier-ignore
  const rest = keys.value.filter((k) => Math.abs(k.at - share.value) > SAME)
  put([...rest, { at: share.value, value }])
  chosen.value = [...rest, { at: share.value, value }]
    .sort((a, b) => a.at - b.at)
    .findIndex((k) => k.at === share.value)
}
const W = 268
const H = 74
/** Focus is drawn in dioptres, as a ring turns; the rest as it is. */
const shape = (v: number): number => (curve.value === 'focusM' ? 1 / v : v)
const range = computed(() => {
  const v = keys.value.map((k) => shape(k.value))
  const [a, b] = [Math.min(...v), Math.max(...v)]
  const by = Math.max((b - a) * 0.15, Math.abs(b) * 0.05, 1e-3)
  return { low: a - by, high: b + by }
})
const x = (at: number): number => 6 + at * (W - 12)
const y = (v: number): number =>
  H - 6 - ((shape(v) - range.value.low) / (range.value.high - range.value.low)) * (H - 12)
const d = computed(() => {
  const drawn = keys.value.map((k) => ({ at: k.at, value: shape(k.value) }))
  return drawn.length === 0 ? '' : Array.from({ length: 61 }, (_, i) => `${i ? 'L' : 'M'}${x(i / 60).toFixed(1)} ${(H - 6 - ((throughKeys(drawn, i / 60) - range.value.low) / (range.value.high - range.value.low)) * (H - 12)).toFixed(1)}`).join('') // prettier-ignore
})
function drag(e: PointerEvent, i: number): void {
  chosen.value = i
  const own = keys.value[i]!
  const all = keys.value
  const r = range.value
  let now = all
  startDrag(e, {
    move: (dx, dy) => {
      const least = all[i - 1] ? all[i - 1]!.at + SAME : 0
      const most = all[i + 1] ? all[i + 1]!.at - SAME : 1
      const at = Math.min(most, Math.max(least, own.at + dx / (W - 12)))
      const v = shape(own.value) - (dy / (H - 12)) * (r.high - r.low)
      const value = Math.min(
        of.value.most,
        Math.max(of.value.least, curve.value === 'focusM' ? 1 / Math.max(v, 1e-6) : v),
      )
      now = all.map((k, j) => (j === i ? { at, value } : k))
      dragged.value = changed(now)
    },
    end: (moved) => (moved ? put(now) : void (dragged.value = null)),
    cancel: () => void (dragged.value = null),
  })
}
const one = computed(() => keys.value[chosen.value] ?? null)
const set = (changes: Partial<Key>): void =>
  put(keys.value.map((k, i) => (i === chosen.value ? { ...k, ...changes } : k)))
function remove(): void {
  const left = keys.value.filter((_, i) => i !== chosen.value)
  chosen.value = -1
  put(left)
}
</script>

<template>
  <details v-if="shot" data-testid="keys">
    <summary>Curves and things that move</summary>
    <div class="buttons" role="radiogroup" aria-label="Curve">
      <button
        v-for="c in NAMES"
        :key="c"
        class="btn"
        role="radio"
        :aria-checked="curve === c"
        :class="{ on: curve === c }"
        @click="((curve = c), (chosen = -1))"
      >
        {{ CURVES[c].label }}
      </button>
    </div>
    <svg
      v-if="keys.length > 0"
      class="curve"
      :viewBox="`0 0 ${W} ${H}`"
      role="img"
      :aria-label="`${of.label} over the shot`"
    >
      <path class="now" :d="`M${x(share)} 0V${H}`" />
      <path class="line" :d="d" />
      <circle
        v-for="(k, i) in keys"
        :key="i"
        class="key"
        :class="{ on: i === chosen }"
        :cx="x(k.at)"
        :cy="y(k.value)"
        r="5"
        :data-testid="`key-${i}`"
        @pointerdown.prevent="drag($event, i)"
      />
    </svg>
    <p v-else class="text quiet">No keys: it is as the shot has it.</p>
    <div class="buttons">
      <button class="btn" title="At the moment, with the value it has now" @click="add">Key here</button>
      <button
        v-for="(_, i) in keys"
        :key="i"
        class="btn"
        :class="{ on: i === chosen }"
        :aria-label="`Key ${i + 1}`"
        @click="chosen = i"
      >
        {{ i + 1 }}
      </button>
      <button v-if="one" class="btn" @click="remove">Take key out</button>
    </div>
    <template v-if="one">
      <TimeField
        label="Key at"
        :step="0.1"
        :min="0"
        :max="lastsS"
        :model-value="one.at * lastsS"
        @change="set({ at: Math.min(1, $event / lastsS) })"
      />
      <NumberField
        :label="of.label"
        :suffix="of.unit"
        :digits="of.digits"
        :step="0.1"
        :min="of.least * factor"
        :max="of.most * factor"
        :model-value="one.value * factor"
        @change="set({ value: $event / factor })"
      />
    </template>
    <MotionsBox :share :lasts-s />
  </details>
</template>

<style scoped src="../controls/boxes.css"></style>
<style scoped>
.curve {
  display: block;
  width: calc(100% - 28px);
  margin: 2px 14px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--paper);
  touch-action: none;
}
.line {
  fill: none;
  stroke: var(--plum);
  stroke-width: 1.6;
}
.now {
  stroke: var(--line-strong);
}
.key {
  fill: var(--panel);
  stroke: var(--plum);
  stroke-width: 2;
  cursor: grab;
}
.key.on {
  fill: var(--plum);
}
</style>

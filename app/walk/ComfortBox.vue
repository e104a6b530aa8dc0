<script setup lang="ts">
// What would make a viewer uncomfortable, with its number and its limit; a click goes there, or mends it. All of it eased to fit, before
// and after. Limits are the project's. Rates over time on demand.
import { computed, defineAsyncComponent, ref } from 'vue'
import { COMFORT_LIMITS, timeSuffix, timeText, type ComfortFinding, type ComfortLimits } from '#core/reel'
import ChoiceRow from '../controls/ChoiceRow.vue'
import NumberField from '../controls/NumberField.vue'
import { useProject } from '../stores/project.ts'
import { useEasing } from './easing.ts'
import { useFilm } from './film.ts'

const MotionChart = defineAsyncComponent(() => import('./MotionChart.vue'))
const project = useProject()
const { findings, isJudged, reel, fps, timeUnit, limits, go, stop } = useFilm()
const { isRunning, told, showsAfter, ease, take, drop, mend } = useEasing()
const charts = ref(false)
function show(fromS: number): void {
  stop()
  go(fromS)
}
const spanText = ({ fromS, toS }: ComfortFinding): string =>
  `${timeText(fromS, timeUnit.value, fps.value, 1)} to ${timeText(toS, timeUnit.value, fps.value, 1)} ${timeSuffix(timeUnit.value)}`
const mendText = (f: ComfortFinding): string => (f.kind === 'circle' ? 'Make it a turntable' : ['clearance', 'through', 'looks'].includes(f.kind) ? '' : 'Mend') // prettier-ignore
const SIDES = [{ value: 'before', label: 'before' }, { value: 'after', label: 'after' }] as const // prettier-ignore
/** As they are told: name, unit, the least and the most that can be typed. */
const LIMITS: Readonly<Record<keyof ComfortLimits, readonly [string, string, number, number]>> = {
  walkMps: ['Walks at most', 'm/s', 0.05, 10],
  turnDegPerS: ['Turns at most', '°/s', 1, 360],
  crossS: ['Crosses it in', 's', 0.5, 60],
  swingDeg: ['Swings at most', '°', 10, 720],
  betweenReversalsS: ['Turns back after', 's', 0, 60],
  holdEndsS: ['Rests at its ends', 's', 0, 30],
  clearanceM: ['Keeps away', 'm', 0, 10],
  onceRoundS: ['Once round in', 's', 0.5, 120],
  looksPerMin: ['Looks a minute', '', 1, 120],
}
const rows = computed(() => (Object.keys(LIMITS) as (keyof ComfortLimits)[]).map((key) => ({ key, of: LIMITS[key], value: limits.value[key] }))) // prettier-ignore
function set(key: keyof ComfortLimits, value: number): void {
  const { [key]: _, ...rest } = project.document?.comfortLimits ?? {}
  project.run({ type: 'setProject', changes: { comfortLimits: value === COMFORT_LIMITS[key] ? rest : { ...rest, [key]: value } } }) // prettier-ignore
}
</script>

<template>
  <section v-if="reel.durationS > 0" aria-label="Comfort">
    <h2>Comfort</h2>
    <div v-if="told" class="told" data-testid="eased">
      <p class="text">
        <b class="num">{{ told.beforeS.toFixed(1) }} s</b> with {{ told.before }} found becomes
        <b class="num">{{ told.afterS.toFixed(1) }} s</b> with {{ told.left.length }}.
        <template v-if="findings.some((f) => f.kind === 'clearance' || f.kind === 'through')"
          >What comes too near is left: move its stops.</template
        >
      </p>
      <ChoiceRow
        label="Shown"
        :options="SIDES"
        :model-value="showsAfter ? 'after' : 'before'"
        @change="showsAfter = $event === 'after'"
      />
      <div class="buttons">
        <button class="btn main" @click="take">Take it</button>
        <button class="btn" @click="drop">Leave it</button>
      </div>
    </div>
    <p v-if="findings.length === 0" class="text" role="status" data-testid="comfort">
      {{ isJudged ? '✓ nothing found' : 'looking …' }}
    </p>
    <ul v-else data-testid="comfort">
      <li v-for="(f, i) in findings" :key="i" class="text">
        <span class="warn">{{ f.text }}</span>
        <button class="plain there num" title="Go there" @click="show(f.fromS)">
          {{ spanText(f) }}
        </button>
        <button v-if="mendText(f) && !told" class="plain there" :disabled="isRunning" @click="mend(f)">
          {{ mendText(f) }}
        </button>
      </li>
    </ul>
    <div class="buttons">
      <button
        v-if="findings.length > 0 && !told"
        class="btn"
        :disabled="isRunning"
        title="Slows, rests and rounds until nothing is found; shown before it is taken"
        @click="ease"
      >
        {{ isRunning ? 'Easing…' : 'Ease to fit the limits' }}
      </button>
      <button class="btn" :aria-expanded="charts" @click="charts = !charts">
        {{ charts ? 'Close the charts' : 'Charts' }}
      </button>
    </div>
    <MotionChart v-if="charts" />
    <details>
      <summary>Limits</summary>
      <NumberField
        v-for="r in rows"
        :key="r.key"
        :label="r.of[0]"
        :suffix="r.of[1]"
        :digits="2"
        :step="0.1"
        :min="r.of[2]"
        :max="r.of[3]"
        :reset-to="COMFORT_LIMITS[r.key]"
        :model-value="r.value"
        @change="set(r.key, $event)"
      />
    </details>
  </section>
</template>

<style scoped src="../controls/boxes.css"></style>
<style scoped>
.there {
  text-decoration: underline;
  text-underline-offset: 2px;
  margin-left: 6px;
}
.told {
  margin: 2px 8px 6px;
  border: 1px solid var(--line-strong);
  border-radius: 4px;
  padding-bottom: 4px;
}
.main {
  background: var(--plum);
  color: var(--on-plum);
  border-color: var(--plum);
}
</style>

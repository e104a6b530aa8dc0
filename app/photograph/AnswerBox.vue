<script setup lang="ts">
// What was found: every unknown with its plus and minus, how each is treated, how well all agrees, and what to add where it cannot be told.
import { computed } from 'vue'
import NumberField from '../controls/NumberField.vue'
import type { Treatment, Unknown } from '#core/match'
import { useMatch } from './match.ts'

const { match, photo, answer, solved, weakest, tookMs, change, turnRound } = useMatch()
const longPx = computed(() => Math.max(photo.value!.widthPx, photo.value!.heightPx))
const mm = (px: number): number => (px * 36) / longPx.value

interface Row {
  readonly name: string
  readonly unknowns: readonly Unknown[]
  readonly value: string
  readonly sd: string
  readonly canHold: boolean
  readonly title: string
}
const lens = computed(() => solved.value?.estimate.lens ?? match.value!.start)
const pose = computed(() => solved.value?.estimate.poses[0] ?? null)
const sdText = (u: readonly Unknown[], digits: number, by = 1): string => {
  const sd = u.map((n) => solved.value?.sd[n])
  if (sd.some((v) => v === undefined)) return ''
  return `± ${sd.map((v) => (v! * by).toFixed(digits)).join(', ')}`
}
const rows = computed<Row[]>(() => {
  const l = lens.value
  const p = pose.value
  const tells = solved.value?.tellsStation ?? false
  const own: Row[] = [
    { name: 'Focal length', unknowns: ['focalPx'], value: `${mm(l.focalPx).toFixed(2)} mm`, sd: sdText(['focalPx'], 2, 36 / longPx.value), canHold: true, title: `${l.focalPx.toFixed(1)} px; in millimetres on 36 mm of width` },
    { name: 'Middle', unknowns: ['principalX', 'principalY'], value: `${l.principal[0].toFixed(1)}, ${l.principal[1].toFixed(1)} px`, sd: sdText(['principalX', 'principalY'], 1), canHold: true, title: 'Where the axis meets the photograph: off its middle by rise and cross, or where it was cropped' },
    { name: 'Distortion', unknowns: ['k1'], value: `k1 ${l.distortion.k1.toFixed(4)}`, sd: sdText(['k1'], 4), canHold: true, title: 'Radial: below nought for barrel' },
  ] // prettier-ignore
  if (!p) return own
  const deg = (v: number): string => `${v.toFixed(3)}°`
  return [
    ...own,
    { name: 'Bearing', unknowns: ['bearingDeg'], value: deg(p.bearingDeg), sd: sdText(['bearingDeg'], 3), canHold: false, title: '' },
    { name: 'Tilt', unknowns: ['tiltDeg'], value: deg(p.tiltDeg), sd: sdText(['tiltDeg'], 3), canHold: false, title: '' },
    { name: 'Roll', unknowns: ['rollDeg'], value: deg(p.rollDeg), sd: sdText(['rollDeg'], 3), canHold: false, title: '' },
    ...(tells
      ? [{ name: 'Station', unknowns: ['stationX', 'stationY', 'stationZ'] as const, value: p.station.map((v) => v.toFixed(3)).join(', '), sd: sdText(['stationX', 'stationY', 'stationZ'], 3), canHold: false, title: 'East, north, height, metres' }]
      : []),
  ] // prettier-ignore
})
const kindOf = (u: Unknown): 'fixed' | 'free' | 'near' => {
  const t = match.value?.treatments[u] ?? 'fixed'
  return typeof t === 'string' ? t : 'near'
}
/** What is known of it beforehand, where nobody has said how well: a tenth, a hundredth of the width, a usual distortion. */
const usual = (u: Unknown): number =>
  u === 'focalPx' ? 0.1 * lens.value.focalPx : u === 'k1' ? 0.05 : 0.02 * longPx.value
function treat(row: Row, kind: string): void {
  const m = match.value
  if (!m) return
  const t = (u: Unknown): Treatment => (kind === 'near' ? { sd: usual(u) } : (kind as 'fixed' | 'free'))
  change({ treatments: { ...m.treatments, ...Object.fromEntries(row.unknowns.map((u) => [u, t(u)])) } })
}
const TREATMENTS = [
  { value: 'free', label: 'solve' },
  { value: 'near', label: 'near' },
  { value: 'fixed', label: 'hold' },
] as const
/** What is held or known is typed. */
const isTyped = (u: Unknown): boolean => kindOf(u) !== 'free'
function start(changes: Partial<NonNullable<typeof match.value>['start']>): void {
  const m = match.value
  if (m) change({ start: { ...m.start, ...changes } })
}
function setSd(u: Unknown, sd: number): void {
  const m = match.value
  if (m) change({ treatments: { ...m.treatments, [u]: { sd } } })
}
const sdOf = (u: Unknown): number => {
  const t = match.value?.treatments[u]
  return typeof t === 'object' ? t.sd : 0
}
const weakText = computed(() => {
  const w = weakest.value
  const s = solved.value
  if (!w || !s) return ''
  return `${w.kind === 'line' ? 'Line' : 'Point'} ${w.index + 1} disagrees: without it rms ${s.rmsPx.toFixed(2)} to ${w.rmsPx.toFixed(2)} px.`
})
const wrongText = computed(() => {
  const wrong = solved.value?.wrong ?? []
  return wrong.length > 0 ? `Set aside as wrong: point ${wrong.map((i) => i + 1).join(', ')}.` : ''
})
const isRobust = computed(() => match.value?.robust === true)
</script>

<template>
  <section aria-label="What was found" data-testid="answer">
    <h2>Camera of the photograph</h2>
    <p v-if="photo?.told" class="text quiet">{{ photo.told }}</p>
    <p v-if="answer && !answer.ok" class="text warn" role="status" data-testid="refusal">{{ answer.message }}</p>
    <p v-else-if="solved" class="text" role="status" data-testid="rms">
      rms <b class="num">{{ solved.rmsPx.toFixed(2) }} px</b>, {{ solved.freedom }} left over
      <span class="quiet num">{{ tookMs.toFixed(0) }} ms</span>
    </p>
    <p v-if="solved && !solved.tellsNoise" class="text quiet">
      Too few lines to tell the noise: plus and minus are of half a pixel.
    </p>
    <p v-if="weakText" class="text warn" data-testid="weakest">{{ weakText }}</p>
    <p v-if="wrongText" class="text warn">{{ wrongText }}</p>
    <dl>
      <template v-for="r in rows" :key="r.name">
        <dt :title="r.title">{{ r.name }}</dt>
        <dd class="num">
          {{ r.value }} <span class="quiet">{{ r.sd }}</span>
        </dd>
        <dd v-if="r.canHold" class="treat" role="radiogroup" :aria-label="`${r.name}: solve, near or hold`">
          <button
            v-for="t in TREATMENTS"
            :key="t.value"
            role="radio"
            :aria-checked="kindOf(r.unknowns[0]!) === t.value"
            :class="{ on: kindOf(r.unknowns[0]!) === t.value }"
            @click="treat(r, t.value)"
          >
            {{ t.label }}
          </button>
        </dd>
        <dd v-if="r.canHold && isTyped(r.unknowns[0]!)" class="typed">
          <NumberField
            v-if="r.unknowns[0] === 'focalPx'"
            label="Known focal"
            suffix="mm"
            :model-value="mm(match!.start.focalPx)"
            :min="1"
            :max="5000"
            hint="On 36 mm of the longer side"
            @change="start({ focalPx: ($event / 36) * longPx })"
          />
          <template v-else-if="r.unknowns[0] === 'principalX'">
            <NumberField
              label="Middle across"
              suffix="px"
              :digits="1"
              :model-value="match!.start.principal[0]"
              @change="start({ principal: [$event, match!.start.principal[1]] })"
            />
            <NumberField
              label="Middle down"
              suffix="px"
              :digits="1"
              :model-value="match!.start.principal[1]"
              @change="start({ principal: [match!.start.principal[0], $event] })"
            />
          </template>
          <NumberField
            v-else
            label="Known k1"
            :digits="4"
            :step="0.005"
            :min="-2"
            :max="2"
            :model-value="match!.start.distortion.k1"
            @change="start({ distortion: { ...match!.start.distortion, k1: $event } })"
          />
          <NumberField
            v-if="kindOf(r.unknowns[0]!) === 'near'"
            label="± one sigma"
            :suffix="r.unknowns[0] === 'focalPx' ? 'mm' : r.unknowns[0] === 'k1' ? '' : 'px'"
            :digits="r.unknowns[0] === 'k1' ? 4 : 2"
            :min="0.0001"
            :max="100000"
            :model-value="r.unknowns[0] === 'focalPx' ? mm(sdOf('focalPx')) : sdOf(r.unknowns[0]!)"
            @change="r.unknowns.forEach((u) => setSd(u, u === 'focalPx' ? ($event / 36) * longPx : $event))"
          />
        </dd>
      </template>
    </dl>
    <label v-if="match && match.pairs.length > 5" class="tick"
      ><input type="checkbox" :checked="isRobust" @change="change({ robust: isRobust ? undefined : true })" />Set wrong
      points aside</label
    >
    <div v-if="solved" class="buttons">
      <button
        v-if="match!.pairs.length < 2 && match!.scale?.kind !== 'length'"
        class="btn"
        title="Lines look the same from behind: takes the other way"
        @click="turnRound"
      >
        Other way round
      </button>
    </div>
  </section>
</template>

<style scoped src="./photograph.css"></style>
<style scoped>
dl {
  margin: 4px 0;
  padding: 0 14px;
  display: grid;
  grid-template-columns: 76px 1fr;
  gap: 2px 8px;
  font-size: 12px;
}
dt {
  color: var(--quiet);
}
dd {
  margin: 0;
}
.treat {
  grid-column: 2;
  display: flex;
  border: 1px solid var(--line);
  border-radius: 4px;
  overflow: hidden;
  margin-bottom: 3px;
}
.treat button {
  appearance: none;
  border: 0;
  border-right: 1px solid var(--line);
  background: none;
  flex: 1;
  padding: 2px 4px;
  font: inherit;
  font-size: 11px;
  color: inherit;
  cursor: pointer;
}
.treat button.on {
  background: var(--plum);
  color: var(--on-plum);
}
.typed {
  grid-column: 1 / 3;
  margin: 0 -14px 3px;
}
</style>

<script setup lang="ts">
// The numbers of a walk: where it looks, its corners, heights and pace, and the chosen stop's own.
import { computed } from 'vue'
import { travelled, type TravelShot } from '#core/reel'
import ChoiceRow from '../controls/ChoiceRow.vue'
import NumberField from '../controls/NumberField.vue'
import { useStage } from '../stores/stage.ts'
import { useFilm } from './film.ts'
import { useWalking, type Travel, type WalkTool } from './walking.ts'
import TimeField from './TimeField.vue'

const stage = useStage()
const { reel, resolved, part, cut, go, stop, timeS } = useFilm()
const walking = useWalking()
const {
  travel,
  tool,
  chosen,
  way,
  stopId,
  change,
  live,
  cancel,
  withStop,
  remove,
  addHere,
  setHere,
  smooth,
  direct,
  undirect,
} = walking
/** Listeners of a number: shown while it is dragged, one edit at the end. */
const number = (make: (value: number) => Partial<Travel>) => ({
  change: (v: number) => void change(make(v)),
  live: (v: number) => live(make(v)),
  settle: () => void change({}),
  cancel,
})
const GAZES = [{ value: 'along', label: 'along' }, { value: 'point', label: 'a place' }, { value: 'object', label: 'a thing' }, { value: 'stops', label: 'by stops' }] as const // prettier-ignore
const HEIGHTS = [
  { value: 'floor', label: 'over the floor' },
  { value: 'free', label: 'as set' },
] as const
const gaze = computed(() => travel.value!.gaze)
const lookedAt = computed(() => (gaze.value.kind === 'object' ? gaze.value.objectId.split('/').at(-1) : ''))
function setGaze(kind: string): void {
  if (kind === 'along') void change({ gaze: { kind, aheadM: 1.5, tiltDeg: 0 } })
  else if (kind === 'stops') void change({ gaze: { kind } })
  else tool.value = kind === 'point' ? 'look' : 'object'
}
const use = (t: WalkTool): void => void (tool.value = tool.value === t ? null : t)
const one = computed(() => travel.value?.stops[chosen.value] ?? null)
const speed = computed(() => one.value?.speedMps ?? travel.value?.stops[0]?.speedMps ?? 1)
const atSpeed = (speedMps: number): Partial<Travel> => one.value ? withStop(chosen.value, { speedMps }) : { stops: travel.value!.stops.map((s) => ({ ...s, speedMps })) } // prettier-ignore
const placed = computed(() => reel.value.cuts.find((c) => part.value?.cuts[resolved.value?.places[c.index] ?? -1]?.id === cut.value?.id)) // prettier-ignore
const shot = computed(() => resolved.value?.cuts[placed.value?.index ?? -1]?.shot)
const walk = computed(() => {
  const s = shot.value?.kind === 'travel' ? travelled(shot.value) : null
  return s?.ok ? s.value : null
})
/** How far along the moment is, per cent; and when a share is reached. */
const sharePct = computed(() => {
  const [w, p] = [walk.value, placed.value]
  if (!w || !p) return 0
  return (
    (100 * w.pace.at(Math.min(w.durationS, Math.max(0, p.fromS + timeS.value - p.startS))).alongM) / w.route.lengthM
  )
})
function goShare(pct: number): void {
  const [w, p] = [walk.value, placed.value]
  if (!w || !p) return
  let [lo, hi] = [0, w.durationS]
  for (let i = 0; i < 50; i++) {
    const mid = (lo + hi) / 2
    if (w.pace.at(mid).alongM < (pct / 100) * w.route.lengthM) lo = mid
    else hi = mid
  }
  stop()
  go(p.startS + hi - p.fromS)
}
const reachedS = computed(() => (chosen.value > 0 && !travel.value?.isReversed && !travel.value?.startShare ? (walk.value?.pace.stops[chosen.value]?.reachedS ?? null) : null)) // prettier-ignore
/** The pace of the leg before it that reaches the chosen stop at a time. */
function reachAt(wantedS: number): void {
  const s = shot.value as TravelShot
  const i = chosen.value
  const reached = (speedMps: number): number => {
    const r = travelled({ ...s, speedsMps: s.speedsMps.map((v, k) => (k === i - 1 ? speedMps : v)) })
    return r.ok ? r.value.pace.stops[i]!.reachedS : Infinity
  }
  let [slow, fast] = [0.01, 20]
  for (let k = 0; k < 40; k++) {
    const mid = Math.sqrt(slow * fast)
    if (reached(mid) > wantedS) slow = mid
    else fast = mid
  }
  void change(withStop(i - 1, { speedMps: fast }))
}
const look = computed(() => one.value?.look ?? null)
const ready = computed(() => stage.storeys.length > 0)
</script>

<template>
  <div v-if="travel" data-testid="travel">
    <div class="buttons">
      <button
        class="btn"
        :class="{ on: tool === 'stop' }"
        :aria-pressed="tool === 'stop'"
        :disabled="!ready"
        title="Click stops in Plan or in the picture"
        @click="use('stop')"
      >
        Place stops
      </button>
      <button class="btn" title="A stop where the frame’s camera stands, looking as it looks" @click="addHere">
        Add the frame’s stand
      </button>
      <button
        class="btn"
        :disabled="travel.stops.length < 3"
        title="Stops come nearer to a line; the chosen one, the ends and rests stay"
        @click="smooth"
      >
        Smooth
      </button>
    </div>
    <p v-if="tool === 'look'" class="text">Click a place in Plan or in the picture.</p>
    <p v-else-if="tool === 'object'" class="text">Click a thing in the picture.</p>
    <ChoiceRow label="Looks" :options="GAZES" :model-value="gaze.kind" @change="setGaze" />
    <p v-if="lookedAt" class="text">Keeps {{ lookedAt }} in view.</p>
    <template v-if="gaze.kind === 'along'">
      <NumberField
        label="Ahead"
        kind="length"
        :min="0.05"
        :max="100"
        :model-value="gaze.aheadM"
        v-on="number((aheadM) => ({ gaze: { ...gaze, aheadM } as typeof gaze }))"
      />
      <NumberField
        label="Tilt"
        suffix="°"
        :digits="1"
        :step="1"
        :min="-80"
        :max="80"
        :model-value="gaze.tiltDeg"
        v-on="number((tiltDeg) => ({ gaze: { ...gaze, tiltDeg } as typeof gaze }))"
      />
    </template>
    <NumberField
      label="Corners"
      kind="length"
      hint="Radius of the arc in which corners are walked; 0 passes every stop"
      :min="0"
      :max="20"
      :model-value="travel.cornerM ?? 0"
      v-on="number((cornerM) => ({ cornerM }))"
    />
    <ChoiceRow
      label="Heights"
      :options="HEIGHTS"
      :model-value="travel.heights ?? 'floor'"
      @change="change({ heights: $event as 'floor' | 'free' })"
    />
    <label class="tick"
      ><input type="checkbox" :checked="travel.isClosed" @change="change({ isClosed: !travel.isClosed })" />leads back
      to its first stop</label
    >
    <label class="tick"
      ><input
        type="checkbox"
        :checked="travel.isReversed ?? false"
        @change="change({ isReversed: !travel.isReversed })"
      />the other way round</label
    >
    <NumberField
      v-if="travel.isClosed"
      label="Begins at"
      suffix="%"
      :digits="1"
      :step="1"
      :min="0"
      :max="100"
      :model-value="(travel.startShare ?? 0) * 100"
      v-on="number((v) => ({ startShare: v / 100 }))"
    />
    <NumberField
      v-if="walk"
      label="Along"
      suffix="%"
      hint="How far along the way the moment is; typed, it goes there"
      :digits="1"
      :step="1"
      :min="0"
      :max="100"
      :model-value="sharePct"
      @change="goShare"
    />
    <NumberField
      :label="one ? `Pace from ${chosen + 1}` : 'Pace'"
      suffix="m/s"
      :digits="2"
      :step="0.1"
      :min="0.05"
      :max="20"
      :model-value="speed"
      v-on="number(atSpeed)"
    />
    <template v-if="one">
      <h3>Stop {{ chosen + 1 }} of {{ travel.stops.length }}</h3>
      <TimeField
        label="Rests"
        :digits="1"
        :step="0.5"
        :min="0"
        :max="600"
        :model-value="one.holdS"
        v-on="number((holdS) => withStop(chosen, { holdS }))"
      />
      <TimeField
        v-if="reachedS !== null"
        label="Reached at"
        hint="Typed, the leg before it gets the pace for it"
        :step="0.5"
        :min="0.1"
        :max="3600"
        :model-value="reachedS"
        @change="reachAt"
      />
      <template v-if="gaze.kind === 'stops'">
        <label class="tick"
          ><input
            type="checkbox"
            :checked="look !== null"
            @change="change(withStop(chosen, { look: look ? null : { bearingDeg: 0, tiltDeg: 0 } }))"
          />looks its own way there</label
        >
        <template v-if="look">
          <NumberField
            label="Bearing"
            suffix="°"
            :digits="1"
            :step="5"
            :min="-360"
            :max="720"
            :model-value="look.bearingDeg"
            v-on="number((v) => withStop(chosen, { look: { ...look!, bearingDeg: ((v % 360) + 360) % 360 } }))"
          />
          <NumberField
            label="Tilt"
            suffix="°"
            :digits="1"
            :step="1"
            :min="-89"
            :max="89"
            :model-value="look.tiltDeg"
            v-on="number((v) => withStop(chosen, { look: { ...look!, tiltDeg: v } }))"
          />
        </template>
      </template>
      <div class="buttons">
        <button
          v-if="!one.tangentM"
          class="btn"
          title="Handles in Plan and Side turn the way at this stop"
          @click="direct"
        >
          Give it a direction
        </button>
        <button v-else class="btn" title="As its neighbours have it" @click="undirect">Take its direction away</button>
      </div>
      <div class="buttons">
        <button class="btn" title="Station and look of the frame’s camera" @click="setHere">
          Set it to the frame’s stand
        </button>
        <button class="btn" @click="remove()">Take stop out</button>
      </div>
    </template>
    <p v-else-if="way" class="text quiet">
      {{ travel.stops.length }} stops. Choose one in Plan for its own numbers.
      <template v-for="(s, i) in travel.stops" :key="s.id"
        ><button class="plain num" :aria-label="`Stop ${i + 1}`" @click="stopId = s.id">{{ i + 1 }}</button
        >{{ ' ' }}</template
      >
    </p>
  </div>
</template>

<style scoped src="../controls/boxes.css"></style>
<style scoped>
h3 {
  font-size: 12px;
  font-weight: 600;
  padding: 8px 14px 2px;
}
</style>

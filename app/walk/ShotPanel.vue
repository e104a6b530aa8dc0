<script setup lang="ts">
// The numbers of the shot at hand, and its place in the reel: how long, how it begins and ends.
import { computed } from 'vue'
import ChoiceRow from '../controls/ChoiceRow.vue'
import NumberField from '../controls/NumberField.vue'
import type { ShotPart } from '#model'
import { lastingShot, splitAt } from '#model/reel'
import { useNotices } from '../stores/notices.ts'
import { newId, useProject } from '../stores/project.ts'
import { useFilm } from './film.ts'
import AimBox from './AimBox.vue'
import KeysBox from './KeysBox.vue'
import ShotViewpoints from './ShotViewpoints.vue'
import TravelPanel from './TravelPanel.vue'
import TimeField from './TimeField.vue'
import TurntablePanel from './TurntablePanel.vue'

const project = useProject()
const notices = useNotices()
const { shot, part, cut, cutId, dragged, reel, resolved, reading, timeS, go, stop, faults } = useFilm()
type Of<K extends ShotPart['kind']> = Extract<ShotPart, { kind: K }>
const as = <K extends ShotPart['kind']>(kind: K) => computed(() => (shot.value?.kind === kind ? (shot.value as Of<K>) : null)) // prettier-ignore
const [hold, push, travel, table] = [as('hold'), as('push'), as('travel'), as('turntable')]
const timed = computed(() => hold.value ?? push.value ?? table.value)
const CHANGES = [{ value: 'start', label: 'at once' }, { value: 'middle', label: 'half way' }, { value: 'end', label: 'at its end' }] as const // prettier-ignore
const KINDS = { hold: 'Hold', push: 'Push', travel: 'Walk', turntable: 'Turntable' } as const
const lasts = computed(() => reel.value.cuts.find((c) => part.value?.cuts[resolved.value?.places[c.index] ?? -1]?.id === cut.value?.id)) // prettier-ignore
function set(changes: object): void {
  const now = shot.value
  dragged.value = null
  if (now) project.run({ type: 'putReels', shots: [{ ...now, ...changes } as ShotPart] })
}
/** Listeners of a number: shown while it is dragged, one edit at the end. */
const number = (make: (value: number) => object) => ({
  change: (v: number) => set(make(v)),
  live: (v: number) => void (dragged.value = { ...shot.value!, ...make(v) } as ShotPart),
  settle: () => dragged.value && set(dragged.value),
  cancel: () => void (dragged.value = null),
})
function setCut(changes: object): void {
  const p = part.value
  if (p && cut.value) project.run({ type: 'putReels', reels: [{ ...p, cuts: p.cuts.map((c) => (c.id === cut.value!.id ? { ...c, ...changes } : c)) }] }) // prettier-ignore
}
const at = computed(() => part.value?.cuts.findIndex((c) => c.id === cut.value?.id) ?? -1)
function order(by: -1 | 1): void {
  const p = part.value
  const to = at.value + by
  if (!p || at.value < 0 || to < 0 || to >= p.cuts.length) return
  const cuts = [...p.cuts]
  const [own] = cuts.splice(at.value, 1)
  cuts.splice(to, 0, own!)
  cutId.value = own!.id
  project.run({ type: 'putReels', reels: [{ ...p, cuts }] })
}
function again(): void {
  const p = part.value
  if (!p || !cut.value) return
  const own = { ...cut.value, id: newId() }
  project.run({ type: 'putReels', reels: [{ ...p, cuts: p.cuts.flatMap((c) => (c.id === cut.value!.id ? [c, own] : [c])) }] }) // prettier-ignore
  cutId.value = own.id
}
/** As a shot of its own, to be changed by itself. */
function copy(): void {
  const [p, now] = [part.value, shot.value]
  if (!p || !cut.value || !now) return
  const own = { ...now, id: newId(), name: `${now.name} (copy)`.slice(0, 200) }
  const shots = [own.kind === 'travel' ? { ...own, stops: own.stops.map((s) => ({ ...s, id: newId() })) } : own]
  const placed = { ...cut.value, id: newId(), shotId: own.id }
  const cuts = p.cuts.flatMap((c) => (c.id === cut.value!.id ? [c, placed] : [c]))
  if (project.run({ type: 'putReels', shots, reels: [{ ...p, cuts }] })) cutId.value = placed.id
}
function remove(): void {
  const p = part.value
  if (!p || !cut.value) return
  stop()
  const cuts = p.cuts.filter((c) => c.id !== cut.value!.id)
  project.run({ type: 'putReels', reels: [{ ...p, cuts }] })
  cutId.value = null
  go(0)
}
function last(seconds: number): void {
  const doc = project.document
  const made = doc && travel.value && lastingShot(doc, travel.value, seconds, reading)
  if (made) project.run({ type: 'putReels', shots: [made] })
}
function split(): void {
  const [p, r] = [part.value, resolved.value]
  if (!p || !r) return
  const cuts = splitAt(p, reel.value, r.places, timeS.value, newId)
  if (cuts !== p.cuts) project.run({ type: 'putReels', reels: [{ ...p, cuts: [...cuts] }] })
  else notices.say('Here one shot ends and another begins: go to a moment within one.')
}
const EASES = [{ value: 'soft', label: 'soft' }, { value: 'even', label: 'even' }] as const // prettier-ignore
const fault = computed(() => faults.value.filter((f) => f.cut === at.value).map((f) => f.message).join(' ')) // prettier-ignore
</script>

<template>
  <section v-if="shot && cut" aria-label="Shot" data-testid="shot">
    <h2>{{ KINDS[shot.kind] }}: {{ shot.name }}</h2>
    <p v-if="fault" class="text warn" role="status">{{ fault }}</p>
    <ShotViewpoints :shot="shot" @set="set" />
    <TimeField
      v-if="timed"
      label="Lasts"
      :step="0.5"
      :min="0.04"
      :max="3600"
      :model-value="timed.durationS"
      v-on="number((durationS) => ({ durationS }))"
    />
    <TimeField
      v-else-if="lasts && travel"
      label="Lasts"
      hint="Typed, all paces and rests of the walk go with it"
      :step="0.5"
      :min="0.1"
      :max="3600"
      :model-value="lasts.filmed.durationS"
      @change="last"
    />
    <p v-else-if="lasts" class="text quiet">
      Lasts <b class="num">{{ (lasts.endS - lasts.startS).toFixed(2) }} s</b>
    </p>
    <NumberField
      v-if="hold"
      label="Creeps nearer"
      suffix="%"
      :digits="1"
      :step="1"
      :min="-50"
      :max="50"
      :model-value="hold.creep * 100"
      v-on="number((v) => ({ creep: v / 100 }))"
    />
    <template v-if="push">
      <ChoiceRow label="Pace" :options="EASES" :model-value="push.ease" @change="set({ ease: $event })" />
      <ChoiceRow
        label="Changes"
        title="When what is hidden, the look and cuts of one viewpoint alone change; cuts that both have move with the camera"
        :options="CHANGES"
        :model-value="push.changes ?? 'middle'"
        @change="set({ changes: $event })"
      />
      <TimeField
        label="Fades for"
        hint="What changes fades from one to the other for so long; 0: at once"
        :step="0.1"
        :min="0"
        :max="push.durationS"
        :reset-to="0"
        :model-value="push.fadeS ?? 0"
        v-on="number((fadeS) => ({ fadeS }))"
      />
      <label class="tick"
        ><input type="checkbox" :checked="push.holdsSize" @change="set({ holdsSize: !push.holdsSize })" />the lens keeps
        the subject’s size</label
      >
    </template>
    <TravelPanel v-if="travel" />
    <TurntablePanel />
    <TimeField
      label="Dissolves for"
      hint="Into the cut that follows"
      :step="0.25"
      :min="0"
      :max="60"
      :model-value="cut.dissolveS"
      @change="setCut({ dissolveS: $event })"
    />
    <p v-if="cut.dissolveS > 0 && part && at >= part.cuts.length - 1" class="text" role="status">
      No cut follows that it could dissolve into.
    </p>
    <template v-if="lasts">
      <TimeField
        label="Cut in at"
        hint="Of the shot’s own time"
        :step="0.1"
        :min="0"
        :max="lasts.filmed.durationS"
        :reset-to="0"
        :model-value="lasts.fromS"
        @change="setCut({ fromS: $event })"
      />
      <TimeField
        label="Cut out at"
        hint="Of the shot’s own time"
        :step="0.1"
        :min="0"
        :max="lasts.filmed.durationS"
        :reset-to="lasts.filmed.durationS"
        :model-value="lasts.fromS + lasts.endS - lasts.startS"
        @change="setCut({ toS: $event })"
      />
    </template>
    <AimBox />
    <KeysBox />
    <div class="buttons">
      <button class="btn" title="At the moment" @click="split">Split here</button>
      <button class="btn" :disabled="at <= 0" @click="order(-1)">Earlier</button>
      <button class="btn" :disabled="!part || at >= part.cuts.length - 1" @click="order(1)">Later</button>
      <button class="btn" title="The same shot: what is changed in one is changed in both" @click="again">
        Once more
      </button>
      <button class="btn" title="A shot of its own that begins as this one" @click="copy">Copy</button>
      <button class="btn" @click="remove">Take out</button>
    </div>
  </section>
</template>

<style scoped src="../controls/boxes.css"></style>

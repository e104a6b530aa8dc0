<script setup lang="ts">
// The project's reels, and how new ones begin: all viewpoints in order, a walk through them, a turntable about what is looked at.
import { computed, ref } from 'vue'
import { aimPointOf, directionOf, poseOfStand } from '#core/camera'
import { addScaled, boxCentre } from '#core/math'
import { RATES } from '#core/reel'
import type { ReelPart, ShotPart, Viewpoint } from '#model'
import { lastingReel, newTurntable, newWalk, reelOfViewpoints } from '#model/reel'
import ChoiceRow from '../controls/ChoiceRow.vue'
import NumberField from '../controls/NumberField.vue'
import { LateSelect } from '../controls/late-select.ts'
import { centreOf } from '../stores/centres.ts'
import { useNotices } from '../stores/notices.ts'
import { newId, useProject } from '../stores/project.ts'
import { useStage } from '../stores/stage.ts'
import ClipsBox from './ClipsBox.vue'
import { useExporting } from './exporting.ts'
import { useFilm } from './film.ts'
import { VIEWPOINT_DRAG } from './dragged-viewpoint.ts'
import { useWalking } from './walking.ts'
import TimeField from './TimeField.vue'

const project = useProject()
const stage = useStage()
const notices = useNotices()
const { reels, part, reel, reelId, cutId, reading, timeUnit, stop, go } = useFilm()
const { csv, gltf } = useExporting()
const { tool } = useWalking()
const naming = ref(false)
/** New reels lead back to where they begin. */
const loopsBack = ref(false)
const viewpoints = computed(() => project.document?.viewpoints ?? [])
/** Those that a new reel is made of: all but the ones that were unmarked. */
const unmarked = ref<ReadonlySet<string>>(new Set())
const marked = computed(() => viewpoints.value.filter((v) => !unmarked.value.has(v.id)))
function mark(id: string): void {
  const next = new Set(unmarked.value)
  if (!next.delete(id)) next.add(id)
  unmarked.value = next
}
const carry = (e: DragEvent, id: string): void => e.dataTransfer?.setData(VIEWPOINT_DRAG, id)
/** Typed: everything in the reel goes with it. */
function last(seconds: number): void {
  const [doc, p] = [project.document, part.value]
  const made = doc && p && lastingReel(doc, p, seconds, reading)
  if (made) project.run({ type: 'putReels', shots: made.shots, reels: [made.reel] })
}
const nameOf = (base: string): string => {
  const taken = new Set(reels.value.map((r) => r.name))
  for (let n = 1; ; n++) {
    const name = n === 1 ? base : `${base} ${n}`
    if (!taken.has(name)) return name
  }
}
function open(id: string): void {
  stop()
  reelId.value = id
  cutId.value = null
  go(0)
}
function begin(reel: ReelPart, shots: readonly ShotPart[]): void {
  if (project.run({ type: 'putReels', shots, reels: [reel] })) open(reel.id)
}
const WITHOUT = 'Keep viewpoints in the frame first: a reel shows them.'
function ofAll(style: 'hold' | 'push'): void {
  const name = nameOf(style === 'hold' ? 'Viewpoints' : 'From one to the next')
  const made = reelOfViewpoints(marked.value, { name, style, loops: loopsBack.value, newId, reading })
  if (made) begin(made.reel, made.shots)
  else notices.say(WITHOUT, 'warning')
}
function walk(): void {
  const shot = newWalk(marked.value, { name: 'Walk', loops: loopsBack.value, newId, reading })
  if (!shot) return notices.say('A walk needs two viewpoints in different places: keep them in the frame first.', 'warning') // prettier-ignore
  begin({ id: newId(), name: nameOf('Walk'), rate: '25', cuts: [{ id: newId(), shotId: shot.id, dissolveS: 0 }] }, [shot]) // prettier-ignore
}
/** A walk without stops: they are placed by clicks. */
function draw(): void {
  const v = recalled()
  if (!v)
    return notices.say('Keep a viewpoint in the frame first: the walk takes its lens and light from it.', 'warning')
  const shot: ShotPart = { id: newId(), name: 'Walk', kind: 'travel', viewpointId: v.id, isClosed: false, gaze: { kind: 'along', aheadM: 1.5, tiltDeg: 0 }, stops: [] } // prettier-ignore
  begin({ id: newId(), name: nameOf('Walk'), rate: '25', cuts: [{ id: newId(), shotId: shot.id, dissolveS: 0 }] }, [shot]) // prettier-ignore
  tool.value = 'stop'
}
/** Round what the viewpoint recalled last looks at; for a product, round its middle. */
function turntable(): void {
  const v = recalled()
  if (!v?.parts.stand) return notices.say(WITHOUT, 'warning')
  const pose = poseOfStand(v.parts.stand, centreOf)
  const middle = project.document?.subject === 'product' && stage.facts ? boxCentre(stage.facts.box) : null
  const aim = aimPointOf(v.parts.stand.aim, centreOf) ?? addScaled(pose.station, directionOf(pose.bearingDeg, pose.tiltDeg), 3) // prettier-ignore
  const shot = newTurntable(v, middle ?? aim, newId())
  begin({ id: newId(), name: nameOf('Turntable'), rate: '25', cuts: [{ id: newId(), shotId: shot.id, dissolveS: 0 }] }, [shot]) // prettier-ignore
}
const recalled = (): Viewpoint | undefined => viewpoints.value.find((v) => v.id === project.document?.recalledId) ?? viewpoints.value[0] // prettier-ignore
function rename(e: Event): void {
  naming.value = false
  const name = (e.target as HTMLInputElement).value.trim()
  if (part.value && name && name !== part.value.name) project.run({ type: 'putReels', reels: [{ ...part.value, name }] }) // prettier-ignore
}
function remove(): void {
  if (!part.value) return
  stop()
  const { id, name } = part.value
  if (project.run({ type: 'removeReel', reelId: id })) notices.say(`“${name}” is taken out.`, 'plain', { label: 'Undo', run: project.undoOfThis() }) // prettier-ignore
}
const rates = Object.keys(RATES).map((r) => ({ value: r, label: `${r} a second` }))
const TIMES = [
  { value: 'seconds', label: 's', title: 'Seconds' },
  { value: 'frames', label: 'frames', title: 'Frames of the reel’s rate' },
  { value: 'timecode', label: 'code', title: 'Hours, minutes, seconds and frames' },
] as const
const setRate = (rate: string): void => void (part.value && project.run({ type: 'putReels', reels: [{ ...part.value, rate: rate as ReelPart['rate'] }] })) // prettier-ignore
const setShutter = (shutterDeg: number): void => void (part.value && project.run({ type: 'putReels', reels: [{ ...part.value, shutterDeg }] })) // prettier-ignore
</script>

<template>
  <section aria-label="Reels">
    <h2>Reels</h2>
    <ul data-testid="reels">
      <li v-for="r in reels" :key="r.id">
        <input
          v-if="naming && r.id === part?.id"
          class="rename"
          :value="r.name"
          aria-label="Name of the reel"
          maxlength="200"
          autofocus
          @keydown.enter="rename"
          @keydown.esc.stop="naming = false"
          @blur="naming && rename($event)"
        />
        <button
          v-else
          class="plain reel"
          :class="{ on: r.id === part?.id }"
          :aria-current="r.id === part?.id ? 'true' : undefined"
          @click="open(r.id)"
        >
          {{ r.name }}
        </button>
      </li>
    </ul>
    <div v-if="part" class="buttons">
      <button class="btn" @click="naming = true">Rename</button>
      <button class="btn" @click="remove">Take out</button>
    </div>
    <label v-if="part" class="rate">
      <span class="quiet">Rate</span>
      <LateSelect
        :model-value="part.rate"
        :options="rates"
        option-label="label"
        option-value="value"
        aria-label="Frames a second"
        size="small"
        @update:model-value="setRate"
      />
    </label>
    <ChoiceRow v-if="part" label="Times in" :options="TIMES" :model-value="timeUnit" @change="timeUnit = $event" />
    <NumberField
      v-if="part"
      label="Shutter"
      suffix="°"
      hint="How long it is open in each frame: 180° is half of its time; 0: what moves is sharp. Seen in pictures at rest"
      :digits="0"
      :step="15"
      :min="0"
      :max="360"
      :reset-to="180"
      :model-value="part.shutterDeg ?? 0"
      @change="setShutter"
    />
    <div v-if="part" class="buttons">
      <button class="btn" title="The path as a table: one row a frame" @click="csv">Path as CSV</button>
      <button class="btn" title="The path as a camera that moves" @click="gltf">as glTF</button>
    </div>
    <TimeField
      v-if="part && reel.durationS > 0"
      label="Reel lasts"
      hint="Typed, all shots of the reel go with it"
      :step="1"
      :min="0.1"
      :max="3600"
      :model-value="reel.durationS"
      @change="last"
    />
    <ClipsBox />
    <h2>New</h2>
    <div class="buttons">
      <button
        class="btn"
        title="Every viewpoint with a stand of its own, three seconds each, in their order"
        @click="ofAll('hold')"
      >
        Hold each viewpoint
      </button>
      <button
        class="btn"
        title="The camera goes from each viewpoint to the next and rests there"
        @click="ofAll('push')"
      >
        Push from one to the next
      </button>
      <button class="btn" title="Click its stops in Plan or in the picture" @click="draw">Draw a walk</button>
      <button class="btn" title="One walk that passes the viewpoints’ stations" @click="walk">Walk through them</button>
      <button class="btn" title="Once round, from the viewpoint recalled last" @click="turntable">Turntable</button>
    </div>
    <label v-if="viewpoints.length > 1" class="tick" title="Pushes and walks that are made here"
      ><input v-model="loopsBack" type="checkbox" />lead back to the first viewpoint</label
    >
    <details v-if="viewpoints.length > 0">
      <summary>Viewpoints: {{ marked.length }} of {{ viewpoints.length }} marked</summary>
      <p class="text quiet">New reels are made of these. Drag one to the ruler to cut to it there, and back.</p>
      <label v-for="v in viewpoints" :key="v.id" class="tick" draggable="true" @dragstart="carry($event, v.id)"
        ><input type="checkbox" :checked="!unmarked.has(v.id)" @change="mark(v.id)" />{{ v.name }}</label
      >
    </details>
  </section>
</template>

<style scoped src="../controls/boxes.css"></style>
<style scoped>
.reel {
  width: 100%;
  text-align: left;
  padding: 5px 14px;
  border-left: 3px solid transparent;
}
.reel.on {
  background: var(--plum-soft);
  border-left-color: var(--plum);
}
.rename {
  margin: 2px 14px;
  width: calc(100% - 28px);
  font: inherit;
}
.rate > :last-child {
  width: 100%;
  min-width: 0;
}
.rate {
  display: grid;
  grid-template-columns: 36px minmax(0, 1fr);
  align-items: center;
  gap: 8px;
  padding: 4px 14px;
}
</style>

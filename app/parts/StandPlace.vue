<script setup lang="ts">
// Station, direction and aim in numbers; steps along axes; the aim as direction, point or object.
import { computed, ref } from 'vue'
import { wrapBearingDeg, type LengthUnit } from '#core/base'
import { aimConverted, aimPointOf, directionOf, standMoved, standTurnedTo, type Aim, type Stand } from '#core/camera'
import { addScaled, distance, type Vec3 } from '#core/math'
import ChoiceRow from '../controls/ChoiceRow.vue'
import NumberField from '../controls/NumberField.vue'
import { useFraming } from '../picture/framing.ts'
import { centreOf } from '../stores/centres.ts'
import { useProject } from '../stores/project.ts'
import { useStage } from '../stores/stage.ts'
import { useView } from '../stores/view.ts'
import { usePicking } from '../straighten/picking.ts'
import { useStandMoves } from '../straighten/stand-moves.ts'
import StandSteps from './StandSteps.vue'

const project = useProject()
const stage = useStage()
const view = useView()
const { eyeHeight, floor, aim, distanceM } = useFraming()
const picking = usePicking()
const moves = useStandMoves()

const stand = computed(() => project.working!.stand)
const pose = computed(() => project.camera!.pose)
const unit = computed(() => project.document!.unit)
const own = computed(() => project.document!.eyeHeightM)
/** Lengths a hundred times the model's are asked about. */
const sizeM = computed(() => {
  const b = stage.facts?.box
  return b ? distance(b.min, b.max) : 10
})
const PRESETS = computed(() => [
  { label: 'standing', m: 1.6 },
  { label: 'seated', m: 1.2 },
  { label: 'own', m: own.value },
])
const isAt = (m: number): boolean => eyeHeight.value !== null && Math.abs(eyeHeight.value - m) < 0.0005
const eyeTo = (m: number): Stand | null => (floor.value === null ? null : moves.stationAt(2, floor.value + m))

const turned = (bearingDeg: number, tiltDeg: number): Stand =>
  standTurnedTo(stand.value, wrapBearingDeg(bearingDeg), tiltDeg, centreOf)
const rolled = (rollDeg: number): Stand => ({ ...stand.value, rollDeg })
const withAim = (a: Aim): Stand => ({ ...stand.value, aim: a })
const aimMoved = (axis: 0 | 1 | 2, to: number): Stand => {
  const p = [...aim.value!] as [number, number, number]
  p[axis] = to
  return withAim({ kind: 'point', point: p, topBearingDeg: pose.value.bearingDeg })
}
const offsetMoved = (axis: 0 | 1 | 2, to: number): Stand => {
  const a = stand.value.aim as Extract<Aim, { kind: 'object' }>
  return withAim({ ...a, offset: a.offset.map((v, k) => (k === axis ? to : v)) as unknown as Vec3 })
}
/** The station at a typed distance from the aim, along the sight line. */
const atDistance = (m: number): Stand => {
  const p = aimPointOf(stand.value.aim, centreOf)!
  const to = addScaled(p, directionOf(pose.value.bearingDeg, pose.value.tiltDeg), -m)
  return standMoved(stand.value, to.map((v, k) => v - stand.value.station[k]!) as unknown as Vec3, true, centreOf)
}
function aimKind(kind: Aim['kind']): void {
  if (kind === stand.value.aim.kind) return
  if (kind === 'object') {
    void moves.aimAtObjectAhead()
    return
  }
  done(aimConverted(stand.value, kind, distanceM.value ?? 3, centreOf), `Aim by ${kind}`)
}
const AIMS = [
  { value: 'direction', label: 'direction', title: 'A free direction; the picture does not move' },
  { value: 'point', label: 'point', title: 'A point that the camera keeps looking at' },
  {
    value: 'object',
    label: 'object',
    title: 'The object ahead (or the selected one): the camera keeps looking at it; the picture does not move',
  },
] as const
const UNITS = (['mm', 'cm', 'm', 'ft-in'] as const).map((value) => ({ value, label: value }))
const aimName = computed(() => {
  const a = stand.value.aim
  return a.kind === 'object' ? (stage.byId.get(a.nodeId)?.name ?? 'an object that is gone') : ''
})

const live = (s: Stand | null): void => void (s && project.show({ stand: s }))
const done = (s: Stand | null, label: string): void => void (s && project.move({ stand: s }, label))
const ends = (label: string) => ({ settle: () => project.settle(label), cancel: () => project.letGo() })
const setUnit = (u: LengthUnit): void => void project.run({ type: 'setProject', changes: { unit: u } })
const keepOwn = (): void =>
  void (eyeHeight.value !== null && project.run({ type: 'setProject', changes: { eyeHeightM: eyeHeight.value } }))
/** Three numbers, or a copied stand, pasted into any of the station's fields. */
function paste(e: ClipboardEvent): void {
  const text = e.clipboardData?.getData('text') ?? ''
  if (!/[\s,;]\S/.test(text.trim()) && !text.trim().startsWith('{')) return
  // a single length like 5'11 1/2" or 1.2 m is for the field itself
  if (!text.trim().startsWith('{') && text.trim().split(/[\s,;]+/).map(Number).filter(Number.isFinite).length !== 3) return // prettier-ignore
  e.preventDefault()
  moves.paste(text)
  ;(document.activeElement as HTMLElement | null)?.blur()
}
const orbit = ref<readonly [number, number]>([15, 0])
</script>

<template>
  <div @paste.capture="paste">
    <NumberField
      v-if="eyeHeight !== null"
      label="Eye height"
      kind="length"
      :unit="unit"
      :model-value="eyeHeight"
      :step="0.01"
      :usual-m="own"
      positive
      hint="Above the floor below; the aim comes along"
      :reset-to="own"
      @change="done(eyeTo($event), 'Eye height')"
      @live="live(eyeTo($event))"
      v-on="ends('Eye height')"
    />
    <div v-if="eyeHeight !== null" class="presets" role="group" aria-label="Eye heights">
      <button
        v-for="p in PRESETS"
        :key="p.label"
        class="btn"
        :class="{ on: isAt(p.m) }"
        :aria-pressed="isAt(p.m)"
        :title="`Eye height ${p.m.toFixed(2)} m`"
        @click="moves.eyeAt(p.m)"
      >
        {{ p.label }} <span class="num">{{ p.m.toFixed(2) }}</span>
      </button>
      <button
        v-if="!isAt(own)"
        class="plain quiet keep"
        title="Stand at this height from now on: it becomes the project’s own"
        @click="keepOwn"
      >
        keep as own
      </button>
    </div>
    <NumberField
      v-for="(name, i) in ['East (x)', 'North (y)', 'Height (z)']"
      :key="name"
      :label="name"
      kind="length"
      :unit="unit"
      :model-value="stand.station[i]!"
      :step="0.01"
      :usual-m="sizeM"
      @change="done(moves.stationAt(i as 0 | 1 | 2, $event), 'Station')"
      @live="live(moves.stationAt(i as 0 | 1 | 2, $event))"
      v-on="ends('Station')"
    />
    <label class="tick"
      ><input v-model="view.stationAlone" type="checkbox" />station alone
      <span class="quiet">(the aim stays)</span></label
    >
    <hr />
    <NumberField
      label="Bearing"
      kind="angle"
      suffix="°"
      :model-value="pose.bearingDeg"
      :step="0.5"
      @change="done(turned($event, pose.tiltDeg), 'Bearing')"
      @live="live(turned($event, pose.tiltDeg))"
      v-on="ends('Bearing')"
    />
    <NumberField
      label="Tilt"
      kind="angle"
      suffix="°"
      sign
      :model-value="pose.tiltDeg"
      :step="0.5"
      :min="-90"
      :max="90"
      :reset-to="0"
      @change="done(turned(pose.bearingDeg, $event), 'Tilt')"
      @live="live(turned(pose.bearingDeg, $event))"
      v-on="ends('Tilt')"
    />
    <NumberField
      label="Roll"
      kind="angle"
      suffix="°"
      sign
      :model-value="pose.rollDeg"
      :step="0.5"
      :min="-180"
      :max="180"
      :reset-to="0"
      @change="done(rolled($event), 'Roll')"
      @live="live(rolled($event))"
      v-on="ends('Roll')"
    >
      <button class="plain small" title="Turn the picture a quarter to the left" @click="moves.rollBy(90)">
        ↺ 90<span class="visually-hidden">Roll a quarter left</span>
      </button>
      <button class="plain small" title="Turn the picture a quarter to the right" @click="moves.rollBy(-90)">
        ↻ 90<span class="visually-hidden">Roll a quarter right</span>
      </button>
    </NumberField>
    <hr />
    <ChoiceRow label="Aim" :model-value="stand.aim.kind" :options="AIMS" @change="aimKind" />
    <div class="line look">
      <span class="quiet">Look at</span>
      <span class="buttons">
        <button class="btn" title="Aim at a point: click it" @click="picking.begin('aim-point')">Point…</button>
        <button class="btn" title="Aim at an object: click it" @click="picking.begin('aim-object')">Object…</button>
        <button
          class="btn"
          :disabled="view.selection.length !== 1"
          title="Aim at the middle of the selected object, light or empty node"
          @click="moves.aimAtSelected()"
        >
          Selected
        </button>
      </span>
    </div>
    <template v-if="stand.aim.kind === 'point'">
      <NumberField
        v-for="(name, i) in ['Aim, east', 'Aim, north', 'Aim, height']"
        :key="name"
        :label="name"
        kind="length"
        :unit="unit"
        :model-value="stand.aim.point[i]!"
        :step="0.01"
        :usual-m="sizeM"
        @change="done(aimMoved(i as 0 | 1 | 2, $event), 'Aim')"
        @live="live(aimMoved(i as 0 | 1 | 2, $event))"
        v-on="ends('Aim')"
      />
    </template>
    <template v-else-if="stand.aim.kind === 'object'">
      <p class="line">
        <span class="quiet">Looks at</span><b data-testid="aim-object">{{ aimName }}</b>
      </p>
      <NumberField
        v-for="(name, i) in ['Offset, x', 'Offset, y', 'Offset, z']"
        :key="name"
        :label="name"
        kind="length"
        :unit="unit"
        :model-value="stand.aim.offset[i]!"
        :step="0.01"
        :reset-to="0"
        hint="From the object’s middle, along its own axes"
        @change="done(offsetMoved(i as 0 | 1 | 2, $event), 'Aim offset')"
        @live="live(offsetMoved(i as 0 | 1 | 2, $event))"
        v-on="ends('Aim offset')"
      />
    </template>
    <NumberField
      v-if="distanceM !== null && distanceM > 0"
      label="Distance"
      kind="length"
      :unit="unit"
      :model-value="distanceM"
      :step="0.05"
      :min="0.001"
      :usual-m="sizeM"
      hint="To the aim: the station moves along the sight line"
      @change="done(atDistance($event), 'Distance')"
      @live="live(atDistance($event))"
      v-on="ends('Distance')"
    />
    <div class="line">
      <span class="quiet" title="The aim takes over the station’s place on an axis">Align on</span>
      <span class="buttons">
        <button
          v-for="(name, i) in ['x', 'y', 'height']"
          :key="name"
          class="btn"
          :title="`Station and aim at one ${name === 'height' ? name : `${name} (a sight line along the other axis)`}`"
          @click="moves.align(i as 0 | 1 | 2)"
        >
          {{ name }}
        </button>
      </span>
    </div>
    <StandSteps />
    <details>
      <summary>Round the aim</summary>
      <div class="line">
        <span class="quiet">Turn, rise</span>
        <form class="buttons" @submit.prevent="moves.orbitBy(orbit[0], orbit[1])">
          <input
            class="num"
            type="number"
            step="any"
            aria-label="Turn, degrees"
            :value="orbit[0]"
            @input="orbit = [Number(($event.target as HTMLInputElement).value) || 0, orbit[1]]"
          /><span class="unit">°</span>
          <input
            class="num"
            type="number"
            step="any"
            aria-label="Rise, degrees"
            :value="orbit[1]"
            @input="orbit = [orbit[0], Number(($event.target as HTMLInputElement).value) || 0]"
          /><span class="unit">°</span>
          <button class="btn" title="Goes round the aim clockwise seen from above, and up; the distance stays">
            Go
          </button>
        </form>
      </div>
    </details>
    <hr />
    <div class="line">
      <span class="quiet">Whole stand</span>
      <span class="buttons">
        <button class="btn" title="Station, aim and roll to the clipboard" @click="moves.copy()">Copy</button>
        <button class="btn" title="A copied stand, or three numbers as a station" @click="moves.pasteFromClipboard()">
          Paste
        </button>
      </span>
    </div>
    <ChoiceRow label="Numbers in" :model-value="unit" :options="UNITS" @change="setUnit" />
  </div>
</template>

<style scoped src="./panel.css"></style>
<style scoped>
.look {
  grid-template-columns: auto 1fr;
}
.look .buttons {
  justify-content: flex-end;
}
.presets {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  padding: 2px 14px 4px;
}
.presets .btn {
  min-height: 22px;
  padding: 1px 7px;
  font-size: 11.5px;
}
.keep {
  font-size: 11.5px;
  text-decoration: underline;
}
.small {
  font-size: 11px;
  color: var(--quiet);
  padding: 2px 4px;
  white-space: nowrap;
}
input[type='number'] {
  width: 38px;
  border: 0;
  border-bottom: 1px solid var(--line);
  background: none;
  text-align: right;
}
</style>

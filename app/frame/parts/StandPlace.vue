<script setup lang="ts">
// Station, direction and aim in numbers; steps along axes; the aim as direction, point or object.
import { computed } from 'vue'
import { wrapBearingDeg, type LengthUnit } from '#core/base'
import { standTurnedTo, type Stand } from '#core/camera'
import { distance } from '#core/math'
import AxisFields from '../../controls/AxisFields.vue'
import ChoiceRow from '../../controls/ChoiceRow.vue'
import NumberField from '../../controls/NumberField.vue'
import { useFraming } from '../camera/framing.ts'
import { centreOf } from '../../stores/centres.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'
import { EYE_HEIGHTS, useStandMoves } from '../straighten/stand-moves.ts'
import StandAim from './StandAim.vue'
import StandSteps from './StandSteps.vue'
import { useLiveEdits } from '../camera/live-edits.ts'

const project = useProject()
const stage = useStage()
const view = useView()
const { eyeHeight } = useFraming()
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
const PRESETS = computed(() => [...EYE_HEIGHTS, { label: 'own', m: own.value }])
const isAt = (m: number): boolean => eyeHeight.value !== null && Math.abs(eyeHeight.value - m) < 0.0005
const eyeTo = moves.withEyeAt

const turned = (bearingDeg: number, tiltDeg: number): Stand =>
  standTurnedTo(stand.value, wrapBearingDeg(bearingDeg), tiltDeg, centreOf)
const rolled = (rollDeg: number): Stand => ({ ...stand.value, rollDeg })
const UNITS = (['mm', 'cm', 'm', 'ft-in'] as const).map((value) => ({ value, label: value }))
const live = (s: Stand | null): void => void (s && project.show({ stand: s }))
const done = (s: Stand | null, label: string): void => void (s && project.move({ stand: s }, label))
const { ends } = useLiveEdits()
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
      :min="0"
      :usual-m="own"
      positive
      hint="Above the floor below; the aim comes along"
      :reset-to="own"
      @change="moves.eyeAt($event)"
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
    <AxisFields
      :labels="['East (x)', 'North (y)', 'Height (z)']"
      :value="stand.station"
      :unit="unit"
      :usual-m="sizeM"
      @change="(axis, m) => done(moves.stationAt(axis, m), 'Station')"
      @live="(axis, m) => live(moves.stationAt(axis, m))"
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
    <StandAim :size-m="sizeM" />
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
    <hr />
    <p class="text quiet">
      Round <b>{{ moves.pivot.value?.what ?? 'the aim' }}</b>, which keeps its place in the picture
    </p>
    <NumberField
      label="Looking along"
      kind="angle"
      suffix="°"
      hint="Bearing; the camera goes round"
      :model-value="pose.bearingDeg"
      :step="5"
      @change="done(moves.roundTo($event, pose.tiltDeg), 'Went round')"
      @live="live(moves.roundTo($event, pose.tiltDeg))"
      v-on="ends('Went round')"
    />
    <NumberField
      label="From above by"
      kind="angle"
      suffix="°"
      hint="0 is level, 90 straight down, less than 0 from below"
      :model-value="-pose.tiltDeg"
      :step="5"
      :min="-90"
      :max="90"
      :reset-to="0"
      @change="done(moves.roundTo(pose.bearingDeg, -$event), 'Went round')"
      @live="live(moves.roundTo(pose.bearingDeg, -$event))"
      v-on="ends('Went round')"
    />
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
</style>

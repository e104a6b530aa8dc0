<script setup lang="ts">
// Where the camera stands and looks, in numbers; straightening with the framing kept.
import { computed } from 'vue'
import { wrapBearingDeg } from '#core/base'
import { aimPointOf, standMoved, standTurnedTo, type Stand } from '#core/camera'
import { distance, type Vec3 } from '#core/math'
import { centreOf } from '../stores/centres.ts'
import NumberField from '../controls/NumberField.vue'
import { useFraming } from '../picture/framing.ts'
import { useProject } from '../stores/project.ts'
import { useView } from '../stores/view.ts'
import { signed } from '../text/short.ts'
import PanelHead from './PanelHead.vue'

const project = useProject()
const view = useView()
const { eyeHeight, lean, level } = useFraming()

const stand = computed(() => project.working!.stand)
const pose = computed(() => project.camera!.pose)
const unit = computed(() => project.document!.unit)
const aim = computed(() => aimPointOf(stand.value.aim, centreOf))
const away = computed(() => (aim.value ? distance(aim.value, stand.value.station) : null))
const isLevel = computed(() => Math.abs(pose.value.tiltDeg) < 1e-9 && Math.abs(pose.value.rollDeg) < 1e-9)

const moved = (axis: 0 | 1 | 2, to: number): Stand => {
  const by = [0, 0, 0]
  by[axis] = to - stand.value.station[axis]
  return standMoved(stand.value, by as unknown as Vec3, false, centreOf)
}
const turned = (bearingDeg: number, tiltDeg: number): Stand =>
  standTurnedTo(stand.value, wrapBearingDeg(bearingDeg), tiltDeg, centreOf)
const aimMoved = (axis: 0 | 1 | 2, to: number): Stand => {
  const p = [...aim.value!] as [number, number, number]
  p[axis] = to
  return { ...stand.value, aim: { kind: 'point', point: p, topBearingDeg: pose.value.bearingDeg } }
}
const rolled = (rollDeg: number): Stand => ({ ...stand.value, rollDeg })
const floorOf = (): number => stand.value.station[2] - (eyeHeight.value ?? 0)

// one label-drag at a time: its start is what the numbers showed then
const live = (s: Stand): void => void project.show({ stand: s })
const done = (s: Stand, label: string): void => void project.move({ stand: s }, label)
const ends = (label: string) => ({ settle: () => project.settle(label), cancel: () => project.letGo() })
</script>

<template>
  <section aria-label="Stand">
    <PanelHead part="stand" title="Stand" />
    <NumberField
      v-if="eyeHeight !== null"
      label="Eye height"
      kind="length"
      :unit="unit"
      :model-value="eyeHeight"
      :step="0.01"
      hint="Above the floor below; the aim comes along"
      :reset-to="project.document!.eyeHeightM"
      @change="done(moved(2, floorOf() + $event), 'Eye height')"
      @live="live(moved(2, floorOf() + $event))"
      v-on="ends('Eye height')"
    />
    <NumberField
      v-for="(name, i) in ['East (x)', 'North (y)', 'Height (z)']"
      :key="name"
      :label="name"
      kind="length"
      :unit="unit"
      :model-value="stand.station[i]!"
      :step="0.01"
      @change="done(moved(i as 0 | 1 | 2, $event), 'Station')"
      @live="live(moved(i as 0 | 1 | 2, $event))"
      v-on="ends('Station')"
    />
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
    />
    <div class="straighten">
      <button
        class="btn"
        :class="{ main: !isLevel }"
        title="Level: tilt and roll become rise and cross (L)"
        @click="level()"
      >
        Level, keeping the framing
      </button>
      <label class="tick"><input v-model="view.keepSize" type="checkbox" />and the subject’s width</label>
    </div>
    <p v-if="lean" class="lean num">
      <template v-if="lean.leanLeftDeg !== null"
        >verticals {{ signed(lean.leanLeftDeg, 2) }}° {{ signed(lean.leanRightDeg!, 2) }}°,
        {{ lean.points }}-point</template
      >
      <template v-else>no straight verticals in this form</template>
    </p>
    <template v-if="aim">
      <hr />
      <NumberField
        v-for="(name, i) in ['Aim, east', 'Aim, north', 'Aim, height']"
        :key="name"
        :label="name"
        kind="length"
        :unit="unit"
        :model-value="aim[i]!"
        :step="0.01"
        @change="done(aimMoved(i as 0 | 1 | 2, $event), 'Aim')"
        @live="live(aimMoved(i as 0 | 1 | 2, $event))"
        v-on="ends('Aim')"
      />
      <div class="fact">
        <span class="quiet">Distance</span
        ><span class="num">{{ away!.toFixed(2) }} <span class="unit">m to the aim</span></span>
      </div>
    </template>
  </section>
</template>

<style scoped>
hr {
  border: 0;
  border-top: 1px solid var(--line);
  margin: 6px 14px;
}
.straighten {
  display: grid;
  gap: 5px;
  padding: 8px 14px 4px;
}
.tick {
  display: flex;
  gap: 6px;
  align-items: center;
  color: var(--quiet);
}
.tick input {
  accent-color: var(--plum);
  margin: 0;
}
.lean {
  padding: 2px 14px;
  color: var(--quiet);
}
.fact {
  display: grid;
  grid-template-columns: 92px 1fr;
  gap: 8px;
  padding: 4px 14px 8px;
}
</style>

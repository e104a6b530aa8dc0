<script setup lang="ts">
// What the camera looks at: a direction, a point, or an object that it keeps looking at; and its distance.
import { computed } from 'vue'
import { aimConverted, aimPointOf, directionOf, standMoved, type Aim, type Stand, topTowards } from '#core/camera'
import { addScaled, type Vec3 } from '#core/math'
import AxisFields, { type Axis } from '../../controls/AxisFields.vue'
import ChoiceRow from '../../controls/ChoiceRow.vue'
import NumberField from '../../controls/NumberField.vue'
import { useFraming } from '../camera/framing.ts'
import { centreOf } from '../../stores/centres.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'
import { usePicking } from '../straighten/picking.ts'
import { useStandMoves } from '../straighten/stand-moves.ts'
import { useLiveEdits } from '../camera/live-edits.ts'

defineProps<{
  /** Lengths a hundred times this are asked about. */
  sizeM: number
}>()
const project = useProject()
const stage = useStage()
const view = useView()
const { distanceM } = useFraming()
const picking = usePicking()
const moves = useStandMoves()
const stand = computed(() => project.working!.stand)
const pose = computed(() => project.camera!.pose)
const unit = computed(() => project.document!.unit)

const withAim = (a: Aim): Stand => ({ ...stand.value, aim: a })
const aimMoved = (axis: Axis, to: number): Stand => {
  const p = [...aimPointOf(stand.value.aim, centreOf)!] as [number, number, number]
  p[axis] = to
  return withAim({ kind: 'point', point: p, topBearingDeg: topTowards(stand.value.station, p, pose.value.bearingDeg) })
}
const offsetMoved = (axis: Axis, to: number): Stand => {
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
  if (kind === 'object') void moves.aimAtObjectAhead()
  else done(aimConverted(stand.value, kind, distanceM.value ?? 3, centreOf), `Aim by ${kind}`)
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
const aimName = computed(() => {
  const a = stand.value.aim
  return a.kind === 'object' ? (stage.byId.get(a.nodeId)?.name ?? 'an object that is gone') : ''
})
const live = (s: Stand): void => void project.show({ stand: s })
const done = (s: Stand, label: string): void => void project.move({ stand: s }, label)
const { ends } = useLiveEdits()
</script>

<template>
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
  <AxisFields
    v-if="stand.aim.kind === 'point'"
    :labels="['Aim, east', 'Aim, north', 'Aim, height']"
    :value="stand.aim.point"
    :unit="unit"
    :usual-m="sizeM"
    @change="(axis, m) => done(aimMoved(axis, m), 'Aim')"
    @live="(axis, m) => live(aimMoved(axis, m))"
    v-on="ends('Aim')"
  />
  <template v-else-if="stand.aim.kind === 'object'">
    <p class="line">
      <span class="quiet">Looks at</span><b data-testid="aim-object">{{ aimName }}</b>
    </p>
    <AxisFields
      :labels="['Offset, x', 'Offset, y', 'Offset, z']"
      :value="stand.aim.offset"
      :unit="unit"
      :reset-to="0"
      hint="From the object’s middle, along its own axes"
      @change="(axis, m) => done(offsetMoved(axis, m), 'Aim offset')"
      @live="(axis, m) => live(offsetMoved(axis, m))"
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
</template>

<style scoped src="./panel.css"></style>
<style scoped>
.look {
  grid-template-columns: auto 1fr;
}
.look .buttons {
  justify-content: flex-end;
}
</style>

<script setup lang="ts">
// The numbers of one cut: where it lies, which way it looks, how thick or large it is; typed with units, dragged live.
import { computed } from 'vue'
import { asinDeg, atan2Deg, cosDeg, sinDeg, wrapBearingDeg } from '#core/base'
import { add, dot, scale, type Vec3 } from '#core/math'
import { THINNEST_M, type Cut } from '#core/section'
import AxisFields from '../../controls/AxisFields.vue'
import NumberField from '../../controls/NumberField.vue'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'
import { useCuts } from '../cuts/cuts.ts'
import { useLiveEdits } from '../camera/live-edits.ts'

const props = defineProps<{ cut: Cut }>()
const project = useProject()
const stage = useStage()
const view = useView()
const { withCut } = useCuts()
const { number, axes } = useLiveEdits()
const unit = computed(() => project.document!.unit)
const storey = computed(() => stage.storeys[Math.min(view.storey, stage.storeys.length - 1)] ?? null)
const floorM = computed(() => storey.value?.heightM ?? 0)

/** A plane's place as a distance from the world's origin along the way it looks. */
const ahead = computed<Vec3>(() => {
  const c = props.cut
  if (c.kind === 'upright') return [sinDeg(c.bearingDeg), cosDeg(c.bearingDeg), 0]
  if (c.kind === 'free' || c.kind === 'slice') return scale(c.normal, -1 / Math.hypot(...c.normal))
  return [0, 0, 1]
})
const placeM = computed(() => ('point' in props.cut ? dot(props.cut.point, ahead.value) : 0))
const atPlace = (m: number): Cut => {
  const c = props.cut
  return 'point' in c ? { ...c, point: add(c.point, scale(ahead.value, m - dot(c.point, ahead.value))) } : c
}
/** Rounded where it is wrapped, so that a hair under north is not shown as 360. */
const bearingDeg = computed(() => {
  const raw = props.cut.kind === 'upright' ? props.cut.bearingDeg : atan2Deg(ahead.value[0], ahead.value[1])
  return wrapBearingDeg(Number(raw.toFixed(6)))
})
const tiltDeg = computed(() => asinDeg(ahead.value[2]))
/** Turned in place: about its point. */
function looking(bearing: number, tilt: number): Cut {
  const c = props.cut
  if (c.kind === 'upright') return { ...c, bearingDeg: wrapBearingDeg(bearing) }
  if (c.kind !== 'free' && c.kind !== 'slice') return c
  const way: Vec3 = [sinDeg(bearing) * cosDeg(tilt), cosDeg(bearing) * cosDeg(tilt), sinDeg(tilt)]
  return { ...c, normal: scale(way, -1) }
}
const boxAt = (axis: 0 | 1 | 2, m: number): Cut => {
  const c = props.cut
  return c.kind === 'box' ? { ...c, centre: c.centre.map((v, k) => (k === axis ? m : v)) as unknown as Vec3 } : c
}
const boxSized = (axis: 0 | 1 | 2, m: number): Cut => {
  const c = props.cut
  return c.kind === 'box' ? { ...c, sizeM: c.sizeM.map((v, k) => (k === axis ? m : v)) as unknown as Vec3 } : c
}
/** Off is how far a box lies from what is selected: grown by it on all sides. */
const grown = (by: number): Cut => {
  const c = props.cut
  return c.kind === 'box' ? { ...c, sizeM: c.sizeM.map((v) => Math.max(THINNEST_M, v + 2 * by)) as unknown as Vec3 } : c
}
const stepPoint = (i: number, axis: 0 | 1, m: number): Cut => {
  const c = props.cut
  if (c.kind !== 'stepped') return c
  return {
    ...c,
    points: c.points.map((p, k) => (k === i ? ((axis === 0 ? [m, p[1]] : [p[0], m]) as [number, number]) : p)),
  }
}
const cmd = (c: Cut) => withCut(c)
</script>

<template>
  <div class="numbers">
    <template v-if="cut.kind === 'level'">
      <NumberField
        :label="`Over ${storey?.name ?? 'nought'}`"
        kind="length"
        :unit="unit"
        :model-value="cut.heightM - floorM"
        :step="0.05"
        :disabled="cut.locked === true"
        hint="Height of the cut over the floor chosen in Plan"
        v-on="number((m) => cmd({ ...cut, heightM: m + floorM } as Cut))"
      />
      <NumberField
        label="Height"
        kind="length"
        :unit="unit"
        :model-value="cut.heightM"
        :step="0.05"
        :disabled="cut.locked === true"
        v-on="number((heightM) => cmd({ ...cut, heightM } as Cut))"
      />
    </template>
    <template v-else-if="cut.kind === 'upright' || cut.kind === 'free' || cut.kind === 'slice'">
      <NumberField
        label="Place"
        kind="length"
        :unit="unit"
        :model-value="placeM"
        :step="0.05"
        :disabled="cut.locked === true"
        hint="Along the way it looks, from the origin"
        v-on="number((m) => cmd(atPlace(m)))"
      />
      <NumberField
        v-if="cut.kind === 'slice'"
        label="Thickness"
        kind="length"
        :unit="unit"
        :model-value="cut.thicknessM"
        :step="0.05"
        :min="THINNEST_M"
        :disabled="cut.locked === true"
        v-on="number((thicknessM) => cmd({ ...cut, thicknessM } as Cut))"
      />
      <NumberField
        label="Looks to"
        suffix="°"
        :model-value="bearingDeg"
        :step="1"
        :disabled="cut.locked === true"
        v-on="number((d) => cmd(looking(d, tiltDeg)))"
      />
      <NumberField
        v-if="cut.kind !== 'upright'"
        label="Tilt"
        suffix="°"
        :model-value="tiltDeg"
        :step="1"
        :min="-90"
        :max="90"
        sign
        :disabled="cut.locked === true"
        v-on="number((d) => cmd(looking(bearingDeg, d)))"
      />
    </template>
    <template v-else-if="cut.kind === 'box'">
      <AxisFields
        :labels="['East', 'North', 'Height']"
        :value="cut.centre"
        :unit="unit"
        :disabled="cut.locked === true"
        v-on="axes((axis, m) => cmd(boxAt(axis, m)))"
      />
      <AxisFields
        :labels="['Wide', 'Deep', 'High']"
        :value="cut.sizeM"
        :unit="unit"
        :min="THINNEST_M"
        :disabled="cut.locked === true"
        v-on="axes((axis, m) => cmd(boxSized(axis, m)))"
      />
      <NumberField
        label="Turned"
        suffix="°"
        :model-value="cut.turnDeg"
        :step="1"
        :disabled="cut.locked === true"
        v-on="number((turnDeg) => cmd({ ...cut, turnDeg } as Cut))"
      />
      <NumberField
        label="Grow by"
        kind="length"
        :unit="unit"
        :model-value="0"
        :step="0.05"
        sign
        :disabled="cut.locked === true"
        hint="On all sides"
        v-on="number((m) => cmd(grown(m)))"
      />
    </template>
    <template v-else>
      <div v-for="(p, i) in cut.points" :key="i" class="pair">
        <NumberField
          :label="`${i + 1} east`"
          kind="length"
          :unit="unit"
          :model-value="p[0]"
          :step="0.05"
          :disabled="cut.locked === true"
          v-on="number((m) => cmd(stepPoint(i, 0, m)))"
        />
        <NumberField
          :label="`${i + 1} north`"
          kind="length"
          :unit="unit"
          :model-value="p[1]"
          :step="0.05"
          :disabled="cut.locked === true"
          v-on="number((m) => cmd(stepPoint(i, 1, m)))"
        />
      </div>
    </template>
  </div>
</template>

<style scoped>
.numbers {
  padding-bottom: 4px;
}
</style>

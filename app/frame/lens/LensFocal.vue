<script setup lang="ts">
// Focal length in all its words: millimetres, three angles, width and height at a distance, equivalents; the subject's size held or not.
import { computed } from 'vue'
import {
  equivalentOf,
  fieldOfView,
  FOCAL_RANGE_MM,
  heightAtDepthM,
  widthAtDepthM,
  type FieldOfView,
} from '#core/camera'
import { ok } from '#core/base'
import FocalScale from '../../controls/FocalScale.vue'
import NumberField from '../../controls/NumberField.vue'
import { useProject } from '../../stores/project.ts'
import { useView } from '../../stores/view.ts'
import { useFraming } from '../camera/framing.ts'
import { usePicking } from '../straighten/picking.ts'
import { useLens } from './lens.ts'

const project = useProject()
const view = useView()
const { switchProjection } = useFraming()
const { begin } = usePicking()
const { lens, fov, extent, depthM, focalBy, showFocal, focalEnds, byAngle, byWidth, byHeight, byEquivalent } = useLens()
const unit = computed(() => project.document!.unit)
const equivalent = computed(() => equivalentOf(lens.value!))
const focal = focalBy((mm) => ok(mm))
const ANGLES = [
  ['horizontal', 'Angle across', 'horizontalDeg'],
  ['vertical', 'Angle up', 'verticalDeg'],
  ['diagonal', 'Diagonal angle', 'diagonalDeg'],
] as const
const angle = { horizontal: byAngle('horizontal'), vertical: byAngle('vertical'), diagonal: byAngle('diagonal') }
const width = byWidth(() => depthM.value ?? 1)
const height = byHeight(() => depthM.value ?? 1)
const [byDiagonal, bySide] = [byEquivalent('diagonal'), byEquivalent('width')]
/** What the shortest and the longest lens see: a field says so itself. */
const limits = computed(() => {
  const c = project.camera!
  const [wide, long] = [FOCAL_RANGE_MM.min, FOCAL_RANGE_MM.max].map((focalMm) => ({
    ...c,
    lens: { ...c.lens, focalMm },
  }))
  const [most, least] = [fieldOfView(wide!.lens, c.frame), fieldOfView(long!.lens, c.frame)]
  const up = (v: number): number => Math.ceil(v * 100) / 100
  const down = (v: number): number => Math.floor(v * 100) / 100
  return {
    angle: (key: keyof FieldOfView) => ({ min: up(least[key]), max: Math.min(179.9, down(most[key])) }),
    width: { min: widthAtDepthM(long!, 1), max: widthAtDepthM(wide!, 1) },
    height: { min: heightAtDepthM(long!, 1), max: heightAtDepthM(wide!, 1) },
  }
})
const there = computed(() => (view.lensPoint ? 'the picked point' : 'the aim'))
</script>

<template>
  <div>
    <NumberField
      label="Focal length"
      kind="sensor"
      suffix="mm"
      :digits="1"
      :model-value="lens!.focalMm"
      :step="1"
      :min="FOCAL_RANGE_MM.min"
      :max="FOCAL_RANGE_MM.max"
      v-on="focal"
    />
    <FocalScale :focal-mm="lens!.focalMm" @live="showFocal" @parallel="switchProjection('parallel')" v-on="focalEnds" />
    <label class="tick" title="Alt-wheel on the picture does the same">
      <input v-model="view.holdSubject" type="checkbox" :disabled="depthM === null" />
      Hold the subject’s size: the station moves
    </label>
    <div class="line">
      <span class="quiet">Subject</span>
      <span class="buttons">
        <span class="num">{{ depthM === null ? 'none ahead' : `${there}, ${depthM.toFixed(2)} m` }}</span>
        <button class="btn" :class="{ on: view.picking === 'lens-point' }" @click="begin('lens-point')">Pick</button>
        <button v-if="view.lensPoint" class="btn" title="The aim again" @click="view.lensPoint = null">Aim</button>
      </span>
    </div>
    <NumberField
      v-for="[kind, label, key] in ANGLES"
      :key="kind"
      :label="label"
      suffix="°"
      :digits="2"
      :model-value="fov![key]"
      :step="0.5"
      :min="limits.angle(key).min"
      :max="limits.angle(key).max"
      v-on="angle[kind]"
    />
    <template v-if="extent">
      <NumberField
        label="Width there"
        kind="length"
        :unit="unit"
        :model-value="extent.widthM"
        :step="0.01"
        :min="depthM! * limits.width.min"
        :max="depthM! * limits.width.max"
        hint="Of the picture at the subject’s distance"
        v-on="width"
      />
      <NumberField
        label="Height there"
        kind="length"
        :unit="unit"
        :model-value="extent.heightM"
        :step="0.01"
        :min="depthM! * limits.height.min"
        :max="depthM! * limits.height.max"
        hint="Of the picture at the subject’s distance"
        v-on="height"
      />
    </template>
    <NumberField
      label="On 36 × 24"
      suffix="mm"
      :digits="1"
      :model-value="equivalent.byDiagonalMm"
      :step="1"
      hint="The focal length with the same diagonal angle on 36 × 24 mm"
      v-on="byDiagonal"
      ><span class="quiet by">by diagonal</span></NumberField
    >
    <NumberField
      v-if="!equivalent.isSame"
      label="the same"
      suffix="mm"
      :digits="1"
      :model-value="equivalent.byWidthMm"
      :step="1"
      hint="The focal length with the same angle across the longer side on 36 × 24 mm: the sensor has another shape"
      v-on="bySide"
      ><span class="quiet by">by width</span></NumberField
    >
  </div>
</template>

<style scoped src="../parts/panel.css"></style>
<style scoped>
.by {
  font-size: 11px;
  min-width: 62px;
  text-align: right;
}
</style>

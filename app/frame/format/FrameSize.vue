<script setup lang="ts">
// The picture's size in pixels, or printed at a density.
import { computed, ref } from 'vue'
import { FRAME_LIMIT_PX, type CameraChanges } from '#model'
import NumberField from '../../controls/NumberField.vue'
import { useProject } from '../../stores/project.ts'
import { aspectText } from '../../text/short.ts'
import { useLiveEdits } from '../camera/live-edits.ts'
import { clampPx, useShapes } from './shapes.ts'

const project = useProject()
const { frame, changed } = useShapes()
const { camera } = useLiveEdits()
const MM_PER_INCH = 25.4
/** Width and height together, or each by itself: then the shape changes. */
const keepsShape = ref(true)
/** Another side, as the frame stands in the document: a drag does not add up its roundings. */
function sized(side: 'widthPx' | 'heightPx', px: number): CameraChanges {
  const { widthPx, heightPx } = project.document!.working.frame
  const k = px / (side === 'widthPx' ? widthPx : heightPx)
  if (keepsShape.value) return { frame: { ...project.document!.working.frame, widthPx: clampPx(widthPx * k), heightPx: clampPx(heightPx * k) } } // prettier-ignore
  return changed({ [side]: clampPx(px) }) ?? {}
}
const perMm = computed(() => frame.value!.densityPpi / MM_PER_INCH)
const SIDES = [
  { key: 'widthPx', label: 'Width', print: 'Print width' },
  { key: 'heightPx', label: 'Height', print: 'Print height' },
] as const
</script>

<template>
  <div>
    <NumberField
      v-for="s in SIDES"
      :key="s.key"
      :label="s.label"
      suffix="px"
      :digits="0"
      :model-value="frame![s.key]"
      :step="10"
      :min="16"
      :max="FRAME_LIMIT_PX"
      v-on="camera((px) => sized(s.key, px), 'Picture size')"
    />
    <label class="tick"><input v-model="keepsShape" type="checkbox" /> The shape stays, {{ aspectText(frame!) }}</label>
    <NumberField
      label="Density"
      suffix="ppi"
      :digits="0"
      :model-value="frame!.densityPpi"
      :step="10"
      :min="1"
      :max="10000"
      v-on="camera((densityPpi) => ({ frame: { ...frame!, densityPpi } }), 'Density')"
    />
    <NumberField
      v-for="s in SIDES"
      :key="s.print"
      :label="s.print"
      suffix="mm"
      :digits="1"
      :model-value="frame![s.key] / perMm"
      :step="1"
      :min="16 / perMm"
      :max="FRAME_LIMIT_PX / perMm"
      hint="At this density: the pixels follow"
      v-on="camera((mm) => sized(s.key, mm * perMm), 'Print size')"
    />
  </div>
</template>

<style scoped src="../parts/panel.css"></style>

<script setup lang="ts">
// Shape, size and density of the picture, its guides, and the finished PNG.
import ProgressBar from 'primevue/progressbar'
import { computed } from 'vue'
import type { Frame } from '#core/camera'
import { FRAME_LIMIT_PX } from '#model'
import ChoiceRow from '../../controls/ChoiceRow.vue'
import NumberField from '../../controls/NumberField.vue'
import { savePicture } from '../still/save.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { aspectText } from '../../text/short.ts'
import { useLiveEdits } from './live-edits.ts'
import PanelHead from './PanelHead.vue'
import { clampPx, SHAPES, useShapes } from './shapes.ts'

const project = useProject()
const stage = useStage()
const frame = computed(() => project.working!.frame)
const upright = computed(() => frame.value.heightPx > frame.value.widthPx)
const print = computed(() => {
  const mm = (px: number): string => ((px / frame.value.densityPpi) * 25.4).toFixed(0)
  return `${mm(frame.value.widthPx)} × ${mm(frame.value.heightPx)}`
})
const with_ = (c: Partial<Frame>): Frame => ({ ...frame.value, ...c })
const done = (c: Partial<Frame>, label: string): void => void project.move({ frame: with_(c) }, label)

/** Upright and lying: frame and sensor turn together. */
function turn(): void {
  const { lens } = project.working!
  project.move(
    {
      frame: with_({ widthPx: frame.value.heightPx, heightPx: frame.value.widthPx }),
      lens: { ...lens, sensorMm: { width: lens.sensorMm.height, height: lens.sensorMm.width } },
    },
    'Picture turned',
  )
}
const { camera } = useLiveEdits()
const { shape } = useShapes()
/** Another width or height with the shape kept, as it stands in the document: a drag does not add up its roundings. */
function sized(side: 'widthPx' | 'heightPx', px: number): { frame: Frame } {
  const { widthPx, heightPx } = project.document!.working.frame
  const k = px / (side === 'widthPx' ? widthPx : heightPx)
  return { frame: with_({ widthPx: clampPx(widthPx * k), heightPx: clampPx(heightPx * k) }) }
}
const isShape = (a: number, b: number): boolean => {
  const r = Math.max(frame.value.widthPx, frame.value.heightPx) / Math.min(frame.value.widthPx, frame.value.heightPx)
  return Math.abs(r - a / b) < 0.002
}
const GUIDES = [
  { value: 'none', label: 'none' },
  { value: 'thirds', label: 'thirds' },
  { value: 'centre', label: 'centre' },
  { value: 'diagonals', label: 'diagonals' },
] as const
</script>

<template>
  <section aria-label="Frame">
    <PanelHead cell="frame" title="Frame" />
    <div class="shapes" role="group" aria-label="Shape of the picture">
      <button
        v-for="[a, b] in SHAPES"
        :key="`${a}:${b}`"
        class="plain shape"
        :class="{ on: isShape(a, b) }"
        :aria-pressed="isShape(a, b)"
        :title="`${a}:${b}`"
        @click="shape(a, b)"
      >
        <span
          class="pic"
          :style="{
            aspectRatio: upright ? `${b}/${a}` : `${a}/${b}`,
            height: upright ? '26px' : 'auto',
            width: upright ? 'auto' : '28px',
          }"
        />
        <span class="num">{{ a }}:{{ b }}</span>
      </button>
    </div>
    <NumberField
      label="Width"
      suffix="px"
      :digits="0"
      :model-value="frame.widthPx"
      :step="100"
      :min="16"
      :max="FRAME_LIMIT_PX"
      v-on="camera((px) => sized('widthPx', px), 'Picture size')"
    />
    <NumberField
      label="Height"
      suffix="px"
      :digits="0"
      :model-value="frame.heightPx"
      :step="100"
      :min="16"
      :max="FRAME_LIMIT_PX"
      v-on="camera((px) => sized('heightPx', px), 'Picture size')"
    />
    <NumberField
      label="Crop to height"
      suffix="px"
      :digits="0"
      :model-value="frame.heightPx"
      :step="10"
      :min="16"
      :max="FRAME_LIMIT_PX"
      hint="The width stays: the picture’s shape changes"
      v-on="camera((px) => ({ frame: with_({ heightPx: clampPx(px) }) }), 'Picture height')"
    />
    <NumberField
      label="Density"
      suffix="ppi"
      :digits="0"
      :model-value="frame.densityPpi"
      :step="10"
      :min="1"
      :max="10000"
      v-on="camera((densityPpi) => ({ frame: with_({ densityPpi }) }), 'Density')"
    />
    <div class="fact">
      <span class="quiet">Print</span
      ><span class="num"
        >{{ print }} <span class="unit">mm, {{ aspectText(frame) }}</span></span
      >
    </div>
    <ChoiceRow
      label="Guides"
      :model-value="frame.guides"
      :options="GUIDES"
      @change="done({ guides: $event }, 'Guides')"
    />
    <div class="buttons">
      <button class="btn" title="Swap width and height of frame and sensor" @click="turn">
        {{ upright ? 'Turn to lying' : 'Turn upright' }}
      </button>
    </div>
    <hr />
    <div class="finish">
      <button
        v-if="stage.still === null"
        class="btn main"
        :disabled="!stage.ready"
        title="Render at the frame’s size and download (Ctrl+S)"
        @click="savePicture()"
      >
        Save finished PNG
      </button>
      <template v-else>
        <ProgressBar :value="Math.round(stage.still * 100)" style="height: 14px" aria-label="Finished picture" />
        <button class="btn" @click="stage.cancelStill()">Cancel</button>
      </template>
      <p class="quiet">
        {{ frame.widthPx }} × {{ frame.heightPx }} px at {{ frame.densityPpi }} ppi, rendered by the same camera as the
        picture.
      </p>
    </div>
  </section>
</template>

<style scoped>
.shapes {
  display: flex;
  justify-content: space-between;
  padding: 4px 14px 8px;
}
.shape {
  display: grid;
  justify-items: center;
  align-items: end;
  grid-template-rows: 30px auto;
  gap: 3px;
  padding: 2px;
  border-radius: 4px;
}
.pic {
  border: 1.5px solid var(--quiet);
  border-radius: 1px;
}
.shape.on .pic {
  border-color: var(--plum);
  background: var(--plum-soft);
}
.shape .num {
  font-size: 10px;
  color: var(--quiet);
}
.shape.on .num {
  color: var(--plum);
}
.fact {
  display: grid;
  grid-template-columns: 92px 1fr;
  gap: 8px;
  padding: 3px 14px;
}
.buttons {
  padding: 6px 14px;
}
hr {
  border: 0;
  border-top: 1px solid var(--line);
  margin: 6px 14px;
}
.finish {
  display: grid;
  gap: 8px;
  padding: 4px 14px 10px;
  font-size: 12px;
}
</style>

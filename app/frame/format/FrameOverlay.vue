<script setup lang="ts">
// Over the picture: guides, the mask, other shapes of the same framing, which are dragged by their edge.
import { computed } from 'vue'
import type { Camera, FrameCrop } from '#core/camera'
import { cropBox, cropMoved, guidePieces, metreGrid } from '#core/framing'
import { directionOf } from '#core/camera'
import { startDrag } from '../../controls/drag.ts'
import OverlayChip from '../../controls/OverlayChip.vue'
import { pathOf } from '../../controls/path.ts'
import { useProject } from '../../stores/project.ts'
import { useFraming } from '../camera/framing.ts'
import { useCrops } from './crops.ts'
import { GUIDE_INK } from './guides.ts'

const props = defineProps<{ camera: Camera; width: number; height: number }>()
const project = useProject()
const { mainBearingDeg } = useFraming()
const { crops, missing, showMoved, put, nameOf } = useCrops()

const guides = computed(() => {
  const { width: w, height: h, camera } = props
  const k = w / camera.frame.widthPx
  return camera.frame.guides.map((g) => ({
    kind: g.kind,
    ink: GUIDE_INK[g.colour],
    strength: g.strength,
    d:
      g.kind === 'metres'
        ? metreGrid(camera, g, directionOf(mainBearingDeg.value, 0)).map((p) => pathOf(p, k)).join('')
        : guidePieces(g, w / h).map((p) => pathOf(p.map(([x, y]) => [x * w, y * h] as const))).join(''), // prettier-ignore
  }))
})
/** What the mask covers: a frame with a hole, and the fold. */
const mask = computed(() => {
  const m = props.camera.frame.mask
  if (!m) return ''
  const { width: w, height: h } = props
  const inner = `M${m.left * w} ${m.top * h}V${(1 - m.bottom) * h}H${(1 - m.right) * w}V${m.top * h}Z`
  const fold =
    m.fold > 0 ? `M${(0.5 - m.fold / 2) * w} 0H${(0.5 + m.fold / 2) * w}V${h}H${(0.5 - m.fold / 2) * w}Z` : ''
  return `M0 0H${w}V${h}H0Z${inner}${fold}`
})
const boxes = computed(() =>
  crops.value.map((crop) => {
    const b = cropBox(props.camera.frame, crop)
    const isMissing = missing.value.some((m) => m.id === crop.id)
    return {
      crop,
      x: b.x * props.width,
      y: b.y * props.height,
      w: b.width * props.width,
      h: b.height * props.height,
      isMissing,
    }
  }),
)
function down(e: PointerEvent, crop: FrameCrop): void {
  if (e.button !== 0) return
  e.stopPropagation()
  e.preventDefault()
  startDrag(e, {
    move: (dx, dy) => showMoved(cropMoved(props.camera.frame, crop, dx / props.width, dy / props.height)),
    end: (moved) => moved && project.settle(`Shape ${nameOf(crop)} moved`),
    cancel: () => project.letGo(),
  })
}
/** An arrow key moves it by a hundredth of the frame, with Shift by a tenth. */
function key(e: KeyboardEvent, crop: FrameCrop): void {
  const way = { ArrowUp: [0, -1], ArrowDown: [0, 1], ArrowLeft: [-1, 0], ArrowRight: [1, 0] }[e.key]
  if (!way) return
  e.preventDefault()
  e.stopPropagation()
  const by = e.shiftKey ? 0.1 : 0.01
  const moved = cropMoved(props.camera.frame, crop, way[0]! * by, way[1]! * by)
  put(crops.value.map((c) => (c.id === crop.id ? moved : c)), `Shape ${nameOf(crop)} moved`) // prettier-ignore
}
</script>

<template>
  <svg class="overlay" :viewBox="`0 0 ${width} ${height}`" data-testid="frame-overlay">
    <path v-if="mask" class="mask" :d="mask" fill-rule="evenodd" />
    <path
      v-for="g in guides"
      :key="g.kind"
      class="guide"
      :data-guide="g.kind"
      :d="g.d"
      :stroke="g.ink"
      :stroke-opacity="g.strength"
    />
    <g v-for="b in boxes" :key="b.crop.id" class="crop" :class="{ missing: b.isMissing }">
      <rect class="under" :x="b.x" :y="b.y" :width="b.w" :height="b.h" />
      <rect :x="b.x" :y="b.y" :width="b.w" :height="b.h" />
      <rect
        class="grip"
        tabindex="0"
        role="slider"
        :aria-label="`Shape ${nameOf(b.crop)}`"
        :aria-valuenow="b.crop.x"
        :aria-valuetext="`${Math.round(b.crop.x * 100)} across, ${Math.round(b.crop.y * 100)} down`"
        :data-testid="`crop-${nameOf(b.crop)}`"
        :x="b.x"
        :y="b.y"
        :width="b.w"
        :height="b.h"
        @pointerdown="down($event, b.crop)"
        @keydown="key($event, b.crop)"
      />
      <OverlayChip
        :x="b.x + 6"
        :y="b.y + 18"
        :text="`${nameOf(b.crop)}${b.isMissing ? ', loses the subject' : ''}`"
        :tone="b.isMissing ? 'slip' : 'meant'"
      />
    </g>
  </svg>
</template>

<style scoped>
.overlay {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
  overflow: hidden;
}
.guide {
  fill: none;
}
.mask {
  fill: #fffffff0;
  fill-opacity: 0.75;
}
.crop rect {
  fill: none;
  stroke: #6b3f7a;
  stroke-width: 1.6;
}
.crop.missing rect {
  stroke: #b87306;
  stroke-dasharray: 7 3;
}
.crop .under {
  stroke: #fff;
  stroke-width: 3.2;
  stroke-dasharray: none;
  opacity: 0.8;
}
.crop .grip {
  stroke: transparent;
  stroke-width: 14;
  pointer-events: stroke;
  cursor: move;
  touch-action: none;
}
.crop .grip:focus-visible {
  stroke: #6b3f7a55;
  outline: none;
}
</style>

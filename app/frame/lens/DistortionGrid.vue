<script setup lang="ts">
// A square grid before the lens as the lens draws it into this frame.
import { computed } from 'vue'
import { distort, principalPointPx, viewsOf, type Camera, type Frame, type Lens } from '#core/camera'
import { pathOf } from '../../controls/path.ts'

const props = defineProps<{ lens: Lens; frame: Frame }>()
const WIDTH = 272
const height = computed(() => Math.min(150, (WIDTH * props.frame.heightPx) / props.frame.widthPx))
const k = computed(() => height.value / props.frame.heightPx)
const LINES = 8
const STEPS = 24
const d = computed(() => {
  const { lens, frame } = props
  if (!lens.distortion) return ''
  const camera = { pose: { station: [0, 0, 0], bearingDeg: 0, tiltDeg: 0, rollDeg: 0 }, lens, frame } as Camera
  const view = viewsOf(camera).views[0]
  const { xPx, yPx, pxPerMm } = principalPointPx(camera)
  const straight = principalPointPx(view)
  const focalPx = lens.focalMm * pxPerMm
  const { widthPx, heightPx } = view.frame
  const cell = Math.max(widthPx, heightPx) / LINES
  /** From pixels of the straight view into the frame. */
  const at = (x: number, y: number): [number, number][] => {
    const p = distort(lens.distortion!, (x - straight.xPx) / focalPx, (y - straight.yPx) / focalPx)
    return p ? [[(xPx + p[0] * focalPx) * k.value, (yPx + p[1] * focalPx) * k.value]] : []
  }
  const along = (n: number, of: (t: number) => [number, number][]): string =>
    pathOf(Array.from({ length: STEPS + 1 }, (_, i) => of((n * i) / STEPS)).flat())
  let path = ''
  for (let x = 0; x <= widthPx + 1; x += cell) path += along(heightPx, (t) => at(x, t))
  for (let y = 0; y <= heightPx + 1; y += cell) path += along(widthPx, (t) => at(t, y))
  return path
})
const width = computed(() => props.frame.widthPx * k.value)
</script>

<template>
  <svg
    :viewBox="`0 0 ${width} ${height}`"
    :style="{ height: `${height}px` }"
    role="img"
    aria-label="A square grid through this lens"
    data-testid="distortion-grid"
  >
    <rect :width="width" :height="height" />
    <path :d="d" />
  </svg>
</template>

<style scoped>
svg {
  display: block;
  margin: 4px auto;
  overflow: hidden;
  max-width: calc(100% - 28px);
}
rect {
  fill: var(--plum);
  fill-opacity: 0.06;
  stroke: var(--line-strong);
}
path {
  fill: none;
  stroke: var(--plum);
  stroke-width: 1;
}
</style>

<script setup lang="ts">
// The sensor as seen from behind, upright as the picture: what of it the picture takes, where rise and cross have moved it in the lens's
// image circle, and how far real shift lenses reach. The picture is dragged.
import { computed, useTemplateRef } from 'vue'
import { imageCircleLimitMm, imageCircleMm, USUAL_SHIFT, usedSensor } from '#core/camera'
import { startDrag } from '../../controls/drag.ts'
import { useProject } from '../../stores/project.ts'

const project = useProject()
const svg = useTemplateRef<SVGSVGElement>('svg')
const WIDTH = 272
const HEIGHT = 132
const lens = computed(() => project.working!.lens)
const used = computed(() => usedSensor(lens.value, project.working!.frame))
/** Everything within the field: sensor, circle, the picture where it lies now. */
const g = computed(() => {
  const { width: W, height: H } = lens.value.sensorMm
  const circle = imageCircleMm(lens.value, project.working!.frame)
  const limit = imageCircleLimitMm(lens.value)
  // as large as the settled lens makes it: a drag does not change its own scale
  const settled = project.document!.working
  const all = Math.max(limit, imageCircleMm(settled.lens, settled.frame), H, W * (HEIGHT / WIDTH))
  const k = (HEIGHT - 6) / all
  const [cx, cy] = [WIDTH / 2, HEIGHT / 2]
  const { widthMm: w, heightMm: h } = used.value
  return {
    ...{ k, cx, cy },
    reach: (limit / 2) * k,
    needed: (circle / 2) * k,
    usual: USUAL_SHIFT * Math.max(w, h) * k,
    isPast: circle > limit * (1 + 1e-9),
    sensor: { x: cx - (W * k) / 2, y: cy - (H * k) / 2, w: W * k, h: H * k },
    picture: { x: cx + (lens.value.crossMm - w / 2) * k, y: cy - (lens.value.riseMm + h / 2) * k, w: w * k, h: h * k },
  }
})
/** What the picture takes of the sensor, in words. */
const words = computed(() => {
  const { width: W, height: H } = lens.value.sensorMm
  const { widthMm: w, heightMm: h } = used.value
  const size = `${w.toFixed(1)} × ${h.toFixed(1)} mm`
  const [isWide, isHigh] = [Math.abs(w - W) < 0.01, Math.abs(h - H) < 0.01]
  if (isWide && isHigh) return `all of the sensor, ${size}`
  if (w > W + 0.01 || h > H + 0.01) return `more than the sensor ${w > W + 0.01 ? 'across' : 'up'}: ${size}`
  return `${isWide ? 'its whole width' : isHigh ? 'its whole height' : 'a part'}, ${size}`
})
/** Near nought it is nought, millimetres; with Alt it is not. */
const SNAP_MM = 0.4
function down(e: PointerEvent): void {
  if (e.button !== 0) return
  const { riseMm, crossMm } = project.document!.working.lens
  const k = g.value.k * (svg.value!.getBoundingClientRect().width / WIDTH)
  const snapped = (mm: number, free: boolean): number =>
    !free && Math.abs(mm) < SNAP_MM ? 0 : Math.round(mm * 20) / 20
  startDrag(e, {
    move: (dx, dy, m) => {
      // Shift holds it to one way
      const [x, y] = m.shiftKey ? (Math.abs(dx) > Math.abs(dy) ? [dx, 0] : [0, dy]) : [dx, dy]
      const next = { crossMm: snapped(crossMm + x / k, m.altKey), riseMm: snapped(riseMm - y / k, m.altKey) }
      project.show({ lens: { ...project.working!.lens, ...next } })
    },
    end: (moved) => moved && project.settle('Rise and cross'),
    cancel: () => project.letGo(),
  })
}
/** An arrow key moves it by a tenth of a millimetre, with Shift by one. */
function step(e: KeyboardEvent): void {
  const way = { ArrowUp: [0, 1], ArrowDown: [0, -1], ArrowLeft: [-1, 0], ArrowRight: [1, 0] }[e.key]
  if (!way) return
  e.preventDefault()
  const by = e.shiftKey ? 1 : 0.1
  const { lens: l } = project.working!
  const moved = (mm: number, n: number): number => Number((mm + n * by).toFixed(6))
  project.move(
    { lens: { ...l, crossMm: moved(l.crossMm, way[0]!), riseMm: moved(l.riseMm, way[1]!) } },
    'Rise and cross',
  )
}
</script>

<template>
  <figure>
    <svg ref="svg" :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" data-testid="sensor-picture">
      <circle class="reach" :cx="g.cx" :cy="g.cy" :r="g.reach" />
      <circle class="needed" :class="{ past: g.isPast }" :cx="g.cx" :cy="g.cy" :r="g.needed" />
      <rect class="sensor" :x="g.sensor.x" :y="g.sensor.y" :width="g.sensor.w" :height="g.sensor.h" />
      <path class="axis" :d="`M${g.cx - 5} ${g.cy}h10M${g.cx} ${g.cy - 5}v10`" />
      <!-- a tenth of the longer side: as far as the picture's middle usually goes -->
      <path
        class="axis"
        data-testid="usual-shift"
        :d="`M${g.cx - g.usual} ${g.cy - 3}v6M${g.cx + g.usual} ${g.cy - 3}v6M${g.cx - 3} ${g.cy - g.usual}h6M${g.cx - 3} ${g.cy + g.usual}h6`"
      />
      <circle class="middle" :cx="g.picture.x + g.picture.w / 2" :cy="g.picture.y + g.picture.h / 2" r="1.6" />
      <rect
        class="picture"
        tabindex="0"
        role="slider"
        aria-label="Place of the picture in the image circle"
        :aria-valuenow="lens.riseMm"
        :aria-valuetext="`rise ${lens.riseMm.toFixed(2)} mm, cross ${lens.crossMm.toFixed(2)} mm`"
        :x="g.picture.x"
        :y="g.picture.y"
        :width="g.picture.w"
        :height="g.picture.h"
        @pointerdown.prevent="down"
        @keydown="step"
      />
    </svg>
    <figcaption>Takes {{ words }}</figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 4px 14px 2px;
}
svg {
  display: block;
  width: 100%;
}
circle {
  fill: none;
}
.reach {
  stroke: var(--quiet);
  stroke-dasharray: 1 3;
}
.needed {
  stroke: var(--moss);
}
.needed.past {
  stroke: var(--ochre);
  stroke-dasharray: 5 2;
}
.sensor {
  fill: none;
  stroke: var(--line-strong);
  stroke-dasharray: 3 2;
}
.middle {
  fill: var(--plum);
}
.axis {
  stroke: var(--quiet);
}
.picture {
  fill: var(--plum);
  fill-opacity: 0.14;
  stroke: var(--plum);
  stroke-width: 1.4;
  cursor: move;
  touch-action: none;
}
figcaption {
  font-size: 11px;
  color: var(--quiet);
}
</style>

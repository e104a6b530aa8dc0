<script setup lang="ts">
// What rise does: the sensor behind a lens seen from the side; the lens moves up with rise, and with it what the sensor sees.
import { computed, useTemplateRef } from 'vue'
import { type Frame, isPerspective, type Lens, usedSensor } from '#core/camera'
import { startDrag } from './drag.ts'
import { signed } from '../text/short.ts'

const props = defineProps<{ lens: Lens; frame: Frame }>()
const emit = defineEmits<{ live: [riseMm: number]; settle: []; cancel: [] }>()
const svg = useTemplateRef<SVGSVGElement>('svg')

const MID = 54
const SENSOR_X = 24
const g = computed(() => {
  const { heightMm: h } = usedSensor(props.lens, props.frame)
  // 24 mm of sensor are 48 px; focal length is compressed so that all lenses fit
  const px = Math.min(2, 60 / h)
  const rise = Math.max(-20, Math.min(20, props.lens.riseMm * px))
  const lensX = SENSOR_X + 26 + Math.min(96, Math.log2(props.lens.focalMm / 8) * 22)
  const y = MID - rise
  const top = MID - (h * px) / 2
  const bottom = MID + (h * px) / 2
  const parallel = !isPerspective(props.lens)
  // a ray from a sensor edge through the lens's middle, on to the scene
  const beyond = (from: number): number =>
    parallel ? y + (MID - from) + (y - MID) * 0 : y + ((y - from) / (lensX - SENSOR_X)) * (266 - lensX)
  return { px, lensX, y, top, bottom, upper: beyond(bottom), lower: beyond(top), h, parallel }
})
/** The lens is dragged up and down: rise. Near nought it is nought, with Alt it is not. */
function down(e: PointerEvent): void {
  if (e.button !== 0) return
  const from = props.lens.riseMm
  const pxPerMm = g.value.px * (svg.value!.getBoundingClientRect().width / 272)
  startDrag(e, {
    move: (_dx, dy, m) => {
      const mm = Math.round((from - dy / pxPerMm) * 20) / 20
      emit('live', !m.altKey && Math.abs(mm) < 0.3 ? 0 : mm)
    },
    end: (moved) => moved && emit('settle'),
    cancel: () => emit('cancel'),
  })
}
</script>

<template>
  <svg
    ref="svg"
    class="diagram"
    viewBox="0 0 272 112"
    role="img"
    :aria-label="`Lens ${lens.focalMm.toFixed(1)} mm, rise ${lens.riseMm.toFixed(2)} mm`"
  >
    <defs>
      <clipPath id="lens-diagram"><rect width="272" height="112" /></clipPath>
    </defs>
    <g clip-path="url(#lens-diagram)">
      <path class="axis" :d="`M8 ${MID}H266`" />
      <template v-if="!g.parallel">
        <path class="seen" :d="`M${g.lensX} ${g.y}L266 ${g.upper}V${g.lower}Z`" />
        <path class="ray" :d="`M${SENSOR_X} ${g.top}L266 ${g.lower}M${SENSOR_X} ${g.bottom}L266 ${g.upper}`" />
        <path class="horizon" :d="`M${g.lensX} ${g.y}H266`" />
        <path
          class="glass"
          data-testid="diagram-lens"
          :d="`M${g.lensX} ${g.y - 32}c10 14 10 50 0 64c-10 -14 -10 -50 0 -64z`"
          @pointerdown.prevent="down"
        >
          <title>Drag up and down: rise</title>
        </path>
      </template>
      <template v-else>
        <path class="seen" :d="`M${SENSOR_X} ${g.top - (MID - g.y) * -1}H266V${g.bottom + (g.y - MID)}H${SENSOR_X}Z`" />
        <path class="ray" :d="`M${SENSOR_X} ${g.top + (g.y - MID)}H266M${SENSOR_X} ${g.bottom + (g.y - MID)}H266`" />
      </template>
      <rect class="sensor" :x="SENSOR_X - 5" :y="g.top" width="5" :height="g.bottom - g.top" />
      <g v-if="!g.parallel && Math.abs(lens.riseMm) > 0.005">
        <path
          class="move"
          :d="`M${g.lensX + 17} ${MID}V${g.y}m-3 ${g.y < MID ? 4 : -4}l3 ${g.y < MID ? -4 : 4}l3 ${g.y < MID ? 4 : -4}`"
        />
        <text class="plum" :x="g.lensX + 24" :y="g.y < MID ? g.y - 4 : g.y + 11">
          rise {{ signed(lens.riseMm, 2) }} mm
        </text>
      </g>
      <text x="4" y="108">sensor {{ g.h.toFixed(1) }} mm high</text>
      <text v-if="g.parallel" x="268" y="108" text-anchor="end">no vanishing points</text>
    </g>
  </svg>
</template>

<style scoped>
.diagram {
  display: block;
  width: calc(100% - 28px);
  margin: 0 14px;
}
.axis {
  stroke: var(--quiet);
  stroke-dasharray: 2 3;
}
.ray {
  stroke: var(--plum);
  opacity: 0.55;
  fill: none;
}
.seen {
  fill: var(--plum);
  opacity: 0.08;
}
.horizon {
  stroke: var(--plum);
  stroke-dasharray: 7 4;
}
.glass {
  cursor: ns-resize;
  touch-action: none;
  fill: var(--panel);
  stroke: var(--plum);
  stroke-width: 2;
}
.sensor {
  fill: var(--ink);
}
.move {
  stroke: var(--plum);
  stroke-width: 1.4;
  fill: none;
}
text {
  font: 9.5px var(--mono);
  fill: var(--quiet);
}
.plum {
  fill: var(--plum);
}
</style>

<script setup lang="ts">
// Focal lengths on a logarithmic scale with ticks at the usual primes; the mark is dragged, a tick is clicked. Past its long end lies the
// parallel picture, in which the lens is infinitely long.
import { computed, ref } from 'vue'
import { FOCAL_RANGE_MM, PRIMES_MM } from '#core/camera'
import { startDrag } from './drag.ts'

const props = defineProps<{ focalMm: number; disabled?: boolean }>()
const emit = defineEmits<{ live: [mm: number]; settle: []; cancel: []; parallel: [] }>()

const WIDTH = 266
const PAD = 8
/** Room for the parallel picture at the long end. */
const END = 30
/** The lenses of rooms and products take most of the scale; what is longer and shorter shares the rest. */
const STOPS: readonly (readonly [number, number])[] = [
  [FOCAL_RANGE_MM.min, 0],
  [14, 0.13],
  [150, 0.8],
  [FOCAL_RANGE_MM.max, 1],
]
const LABELS = [5, 14, 24, 35, 50, 85, 135, 400, 2000]
const TICKS = [...PRIMES_MM, 5, 8, 11, 300, 400, 800, 2000].sort((a, b) => a - b)
function part(mm: number): number {
  const held = Math.min(FOCAL_RANGE_MM.max, Math.max(FOCAL_RANGE_MM.min, mm))
  const i = STOPS.findIndex(([to], k) => k > 0 && held <= to)
  const [[a, pa], [b, pb]] = [STOPS[i - 1]!, STOPS[i]!]
  return pa + ((Math.log(held) - Math.log(a)) / (Math.log(b) - Math.log(a))) * (pb - pa)
}
function mmOf(t: number): number {
  const held = Math.min(1, Math.max(0, t))
  const i = STOPS.findIndex(([, to], k) => k > 0 && held <= to)
  const [[a, pa], [b, pb]] = [STOPS[i - 1]!, STOPS[i]!]
  return Math.exp(Math.log(a) + ((held - pa) / (pb - pa)) * (Math.log(b) - Math.log(a)))
}
const x = (mm: number): number => PAD + part(mm) * (WIDTH - 2 * PAD - END)
const at = computed(() => x(props.focalMm))
const svg = ref<SVGSVGElement | null>(null)

const placeOf = (e: PointerEvent): number => {
  const box = svg.value!.getBoundingClientRect()
  return (e.clientX - box.left) * (WIDTH / box.width)
}
function mmAt(e: PointerEvent): number {
  const mm = mmOf((placeOf(e) - PAD) / (WIDTH - 2 * PAD - END))
  const near = TICKS.find((p) => Math.abs(x(p) - x(mm)) < 3)
  return e.altKey || !near ? Math.round(mm * 10) / 10 : near
}
/** Dragged on past the long end. */
const isPast = (e: PointerEvent): boolean => placeOf(e) > WIDTH - PAD - END / 2
function down(e: PointerEvent): void {
  if (props.disabled || e.button !== 0) return
  if (isPast(e)) return emit('parallel')
  emit('live', mmAt(e))
  startDrag(e, {
    move: (_dx, _dy, m) => emit('live', mmAt(m)),
    end: (_moved, m) => {
      emit('settle')
      if (isPast(m)) emit('parallel')
    },
    cancel: () => emit('cancel'),
  })
}
</script>

<template>
  <svg
    ref="svg"
    class="scale"
    :class="{ disabled }"
    :viewBox="`0 0 ${WIDTH} 30`"
    aria-hidden="true"
    @pointerdown="down"
  >
    <path class="line" :d="`M${PAD} 9H${WIDTH - PAD - END}`" />
    <path class="line on" :d="`M${WIDTH - PAD - END} 9h${END - 8}`" />
    <path class="tick" :d="`M${WIDTH - PAD - 6} 3.5v11m4 -11v11`" />
    <text :x="WIDTH - PAD - 4" y="26" text-anchor="middle">∞</text>
    <g v-for="p in TICKS" :key="p">
      <path class="tick" :d="`M${x(p)} 4.5v9`" />
      <text v-if="LABELS.includes(p)" :x="x(p)" y="26" text-anchor="middle">{{ p }}</text>
    </g>
    <circle class="mark" :cx="at" cy="9" r="6" />
  </svg>
</template>

<style scoped>
.scale {
  display: block;
  width: calc(100% - 28px);
  margin: 2px 14px 0;
  cursor: pointer;
  touch-action: none;
}
.disabled {
  opacity: 0.4;
  pointer-events: none;
}
.line {
  stroke: var(--line);
  stroke-width: 2;
}
.on {
  stroke-dasharray: 2 3;
}
.tick {
  stroke: var(--quiet);
  fill: none;
}
text {
  font: 9.5px var(--mono);
  fill: var(--quiet);
}
.mark {
  fill: var(--panel);
  stroke: var(--plum);
  stroke-width: 2.4;
}
</style>

<script setup lang="ts">
// Focal lengths on a logarithmic scale with ticks at the usual primes; the mark is dragged, a tick is clicked.
import { computed, ref } from 'vue'
import { startDrag } from './drag.ts'
import { PRIMES_MM } from '#core/camera'

const props = defineProps<{ focalMm: number; disabled?: boolean }>()
const emit = defineEmits<{ live: [mm: number]; settle: []; cancel: [] }>()

const WIDTH = 266
const PAD = 8
const LOW = Math.log(12)
const HIGH = Math.log(200)
const LABELS = [14, 20, 24, 35, 50, 85, 135]
const x = (mm: number): number =>
  PAD + ((Math.log(Math.min(200, Math.max(12, mm))) - LOW) / (HIGH - LOW)) * (WIDTH - 2 * PAD)
const at = computed(() => x(props.focalMm))
const svg = ref<SVGSVGElement | null>(null)

function mmAt(e: PointerEvent): number {
  const box = svg.value!.getBoundingClientRect()
  const t = ((e.clientX - box.left) * (WIDTH / box.width) - PAD) / (WIDTH - 2 * PAD)
  const mm = Math.exp(LOW + Math.min(1, Math.max(0, t)) * (HIGH - LOW))
  const near = PRIMES_MM.find((p) => Math.abs(x(p) - x(mm)) < 3)
  return e.altKey || !near ? Math.round(mm * 10) / 10 : near
}
function down(e: PointerEvent): void {
  if (props.disabled || e.button !== 0) return
  emit('live', mmAt(e))
  startDrag(e, {
    move: (_dx, _dy, m) => emit('live', mmAt(m)),
    end: () => emit('settle'),
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
    <path class="line" :d="`M${PAD} 9H${WIDTH - PAD}`" />
    <g v-for="p in PRIMES_MM" :key="p">
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
.tick {
  stroke: var(--quiet);
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

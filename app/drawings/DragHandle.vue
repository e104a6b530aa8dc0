<script setup lang="ts">
// A handle of constant size on a strip: 24 px to hit, dragged or nudged by arrow keys, its number shown at the pointer.
import OverlayChip from '../controls/OverlayChip.vue'
import { startDrag } from '../controls/drag.ts'

defineProps<{
  x: number
  y: number
  shape: 'round' | 'ring' | 'diamond' | 'edge'
  label: string
  /** Shown at the pointer while it is dragged. */
  reading?: string
  /** What it stands at, for who cannot see it: a number and the same in words. */
  value: number
  spoken: string
  testid?: string
}>()
const emit = defineEmits<{
  start: [e: PointerEvent]
  drag: [e: PointerEvent]
  nudge: [dx: number, dy: number]
  done: []
  cancel: []
}>()

function down(e: PointerEvent): void {
  if (e.button !== 0) return
  e.stopPropagation()
  e.preventDefault()
  ;(e.currentTarget as SVGElement).focus()
  emit('start', e)
  startDrag(e, {
    move: (_dx, _dy, m) => emit('drag', m),
    end: (moved) => (moved ? emit('done') : emit('cancel')),
    cancel: () => emit('cancel'),
  })
}
const STEPS: Record<string, readonly [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
}
/** One centimetre, ten with Shift, a millimetre with Alt. */
function key(e: KeyboardEvent): void {
  const s = STEPS[e.key]
  if (!s) return
  e.preventDefault()
  e.stopPropagation()
  const m = e.shiftKey ? 0.1 : e.altKey ? 0.001 : 0.01
  emit('nudge', s[0] * m, s[1] * m)
}
</script>

<template>
  <g
    class="handle"
    :class="shape"
    :transform="`translate(${x} ${y})`"
    tabindex="0"
    role="slider"
    :aria-label="label"
    :aria-valuetext="spoken"
    :aria-valuenow="value"
    :data-testid="testid"
    @pointerdown="down"
    @keydown="key"
  >
    <title>{{ label }}</title>
    <circle v-if="shape === 'ring'" class="hit ring-hit" r="15" />
    <circle v-else class="hit" r="12" />
    <circle v-if="shape === 'round'" class="ink" r="5.5" />
    <circle v-else-if="shape === 'ring'" class="ink thin" r="14" />
    <path v-else-if="shape === 'diamond'" class="ink" d="M0 -6.5l6.5 6.5l-6.5 6.5l-6.5 -6.5z" />
    <circle v-else class="ink small" r="3.6" />
    <OverlayChip v-if="reading" class="reading" :x="15" :y="-10" :text="reading" themed />
  </g>
</template>

<style scoped>
.handle {
  cursor: grab;
  outline: none;
}
.hit {
  fill: transparent;
}
.ring-hit {
  stroke: transparent;
  stroke-width: 9;
  fill: none;
  pointer-events: stroke;
}
.ink {
  fill: var(--panel);
  stroke: var(--plum);
  stroke-width: 2.3;
}
.ink.thin {
  fill: none;
  stroke-width: 1.2;
  stroke-dasharray: 3 2.5;
  pointer-events: none;
}
.ink.small {
  fill: var(--plum);
  stroke: var(--panel);
  stroke-width: 1.2;
}
.handle:hover .ink.small {
  r: 5px;
}
.handle:focus-visible .ink {
  stroke: var(--ink);
  stroke-width: 3;
}
.reading {
  pointer-events: none;
}
</style>

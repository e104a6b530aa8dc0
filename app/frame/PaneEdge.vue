<script setup lang="ts">
// The edge of a pane: dragged wider or narrower, by arrows too; a double click gives the width of its own back.
import { computed } from 'vue'

const props = defineProps<{
  label: string
  /** On which side of the pane the edge lies. */
  edge: 'left' | 'right'
  /** Page pixels: the width now, and how wide the pane may be. */
  width: number
  least: number
  most: number
}>()
const emit = defineEmits<{ resize: [px: number | null] }>()
const STEP_PX = 16
const sign = computed(() => (props.edge === 'right' ? 1 : -1))
const to = (px: number): void => emit('resize', Math.round(Math.min(props.most, Math.max(props.least, px))))

function down(e: PointerEvent): void {
  if (e.button !== 0) return
  const handle = e.currentTarget as HTMLElement
  const [from, width] = [e.clientX, props.width]
  handle.setPointerCapture(e.pointerId)
  const move = (m: PointerEvent): void => to(width + sign.value * (m.clientX - from))
  handle.addEventListener('pointermove', move)
  handle.addEventListener('lostpointercapture', () => handle.removeEventListener('pointermove', move), { once: true })
}
function key(e: KeyboardEvent): void {
  const by = e.key === 'ArrowRight' ? 1 : e.key === 'ArrowLeft' ? -1 : 0
  if (by) to(props.width + sign.value * by * STEP_PX)
  else if (e.key === 'Home') to(props.least)
  else if (e.key === 'End') to(props.most)
  else return
  e.preventDefault()
  e.stopPropagation()
}
</script>

<template>
  <div
    class="edge"
    :class="`at-${edge}`"
    role="separator"
    aria-orientation="vertical"
    tabindex="0"
    :aria-label="label"
    :aria-valuenow="Math.round(width)"
    :aria-valuemin="least"
    :aria-valuemax="most"
    :aria-valuetext="`${Math.round(width)} pixels wide`"
    title="Drag it wider or narrower; a double click gives its own width back"
    @pointerdown.prevent="down"
    @dblclick="emit('resize', null)"
    @keydown="key"
  />
</template>

<style scoped>
.edge {
  position: absolute;
  top: 0;
  bottom: 0;
  width: 8px;
  cursor: col-resize;
  touch-action: none;
  z-index: 4;
}
.at-left {
  left: -4px;
}
.at-right {
  right: -4px;
}
.edge:hover::after,
.edge:focus-visible::after {
  content: '';
  position: absolute;
  inset: 0 3px;
  background: var(--plum);
}
.edge:focus-visible {
  outline: none;
}
</style>

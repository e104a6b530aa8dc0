<script setup lang="ts">
// A loupe's frame with its cross; what is magnified lies in it.
import { LOUPE_PX as SIZE } from './loupe.ts'

defineProps<{ side: 'left' | 'right'; told: string }>()
const cross = `M${SIZE / 2} 0V${SIZE / 2 - 8}M${SIZE / 2} ${SIZE / 2 + 8}V${SIZE}M0 ${SIZE / 2}H${SIZE / 2 - 8}M${SIZE / 2 + 8} ${SIZE / 2}H${SIZE}` // prettier-ignore
</script>

<template>
  <div class="loupe" :class="side" aria-hidden="true">
    <slot />
    <svg :viewBox="`0 0 ${SIZE} ${SIZE}`">
      <path class="under" :d="cross" />
      <path class="over" :d="cross" />
    </svg>
    <span class="num">{{ told }}</span>
  </div>
</template>

<style scoped>
.loupe {
  position: absolute;
  top: 12px;
  width: 150px;
  height: 168px;
  border: 1px solid var(--line-strong);
  border-radius: 4px;
  background: var(--panel);
  overflow: hidden;
  box-shadow: var(--shadow);
  pointer-events: none;
}
.left {
  left: 12px;
}
.right {
  right: 12px;
}
.loupe > :deep(canvas),
svg {
  position: absolute;
  inset: 0 auto auto 0;
  width: 148px;
  height: 148px;
  image-rendering: pixelated;
}
.under {
  stroke: #fff;
  stroke-width: 3;
}
.over {
  stroke: #000;
  stroke-width: 1;
}
span {
  position: absolute;
  bottom: 1px;
  left: 0;
  right: 0;
  text-align: center;
  font-size: 10.5px;
}
</style>

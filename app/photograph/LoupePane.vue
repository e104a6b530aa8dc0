<script setup lang="ts">
// What lies under the pointer, magnified, from the photograph's own pixels; a cross marks the place itself.
import { ref, watch } from 'vue'
import type { PicturePlace } from '#core/match'
import { useOpenedPhoto } from './opened.ts'

const props = defineProps<{ place: PicturePlace; side: 'left' | 'right' }>()
const SIZE = 148
/** Photograph's pixels across. */
const SEEN_PX = 21
const canvas = ref<HTMLCanvasElement | null>(null)
const { client } = useOpenedPhoto()
let asked = 0
watch(
  () => props.place,
  async ([x, y]) => {
    const mine = ++asked
    const bitmap = await client.value?.part(x - SEEN_PX / 2, y - SEEN_PX / 2, SEEN_PX, SEEN_PX, SIZE, SIZE)
    const c = canvas.value
    if (!bitmap || !c || mine !== asked) return bitmap?.close()
    c.getContext('bitmaprenderer')!.transferFromImageBitmap(bitmap)
  },
  { immediate: true, flush: 'post' },
)
</script>

<template>
  <div class="loupe" :class="side" aria-hidden="true" data-testid="loupe">
    <canvas ref="canvas" :width="SIZE" :height="SIZE" />
    <svg :viewBox="`0 0 ${SIZE} ${SIZE}`">
      <path
        class="under"
        :d="`M${SIZE / 2} 0V${SIZE / 2 - 8}M${SIZE / 2} ${SIZE / 2 + 8}V${SIZE}M0 ${SIZE / 2}H${SIZE / 2 - 8}M${SIZE / 2 + 8} ${SIZE / 2}H${SIZE}`"
      />
      <path
        class="over"
        :d="`M${SIZE / 2} 0V${SIZE / 2 - 8}M${SIZE / 2} ${SIZE / 2 + 8}V${SIZE}M0 ${SIZE / 2}H${SIZE / 2 - 8}M${SIZE / 2 + 8} ${SIZE / 2}H${SIZE}`"
      />
    </svg>
    <span class="num">{{ place[0].toFixed(1) }}, {{ place[1].toFixed(1) }} px</span>
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
canvas,
svg {
  position: absolute;
  left: 0;
  top: 0;
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

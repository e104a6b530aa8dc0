<script setup lang="ts">
// One small picture on a canvas, or words for a framing without a stand.
import { ref, watchPostEffect } from 'vue'
import type { Setup } from '#model'
import { useThumbs } from './thumbs.ts'

const props = defineProps<{ setup: Setup | null; words?: string }>()
const canvas = ref<HTMLCanvasElement | null>(null)
const bitmap = useThumbs().shownPicture(() => props.setup)
watchPostEffect(() => {
  const c = canvas.value
  const b = bitmap.value
  if (!c || !b) return
  c.width = b.width
  c.height = b.height
  c.getContext('2d')?.drawImage(b, 0, 0)
})
</script>

<template>
  <span class="thumb">
    <canvas v-show="bitmap" ref="canvas" :data-drawn="bitmap ? 'yes' : 'no'" />
    <span v-if="!setup" class="words num">{{ words }}</span>
  </span>
</template>

<style scoped>
.thumb {
  position: relative;
  display: grid;
  place-items: center;
  width: 100%;
  height: 100%;
  background: var(--mount);
  overflow: hidden;
}
canvas {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  object-fit: contain;
}
.words {
  font-size: 10px;
  color: #fff;
}
</style>

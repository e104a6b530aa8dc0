<script setup lang="ts">
// One small picture on a canvas, or words for a framing without a stand.
import { ref, watchPostEffect } from 'vue'
import type { Setup } from '#model'
import { useThumbs } from './thumbs.ts'

const props = defineProps<{ setup: Setup | null; words?: string }>()
const canvas = ref<HTMLCanvasElement | null>(null)
const picture = useThumbs().shownPicture(() => props.setup)
watchPostEffect(() => {
  const c = canvas.value
  const b = picture.value?.bitmap
  // one that was let go meanwhile has no size
  if (!c || !b || b.width === 0) return
  c.width = b.width
  c.height = b.height
  c.getContext('2d')?.drawImage(b, 0, 0)
})
</script>

<template>
  <span class="thumb">
    <canvas
      v-show="picture"
      ref="canvas"
      :class="{ old: picture?.isOld }"
      :data-drawn="picture && !picture.isOld ? 'yes' : 'no'"
    />
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
  background: var(--thumb-ground, var(--mount));
  overflow: hidden;
}
canvas {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  object-fit: contain;
}
.old {
  opacity: 0.55;
}
.words {
  font-size: 10px;
  padding: 0 4px;
  text-align: center;
  background: var(--mount);
  color: #fff;
}
</style>

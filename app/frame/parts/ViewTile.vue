<script setup lang="ts">
// One measured view to choose: the project's own model seen so, and a word.
import { ref, watchPostEffect } from 'vue'
import type { MeasuredView } from '#core/framing'
import { useViewTiles } from '../straighten/view-tiles.ts'

const props = defineProps<{ view: MeasuredView; word: string; label: string }>()
defineEmits<{ choose: [] }>()
const { picture } = useViewTiles()
/** Pixels of the tile: twice its size on a plain display. */
const SHOWN_PX = 96
const canvas = ref<HTMLCanvasElement | null>(null)
watchPostEffect(() => {
  const b = picture(props.view)
  const g = canvas.value?.getContext('2d')
  if (!g) return
  g.clearRect(0, 0, SHOWN_PX, SHOWN_PX)
  g.imageSmoothingQuality = 'high'
  if (b && b.width > 0) g.drawImage(b, 0, 0, SHOWN_PX, SHOWN_PX)
})
</script>

<template>
  <button class="plain tile" :title="label" @click="$emit('choose')">
    <canvas ref="canvas" :width="SHOWN_PX" :height="SHOWN_PX" aria-hidden="true" />
    <span class="word">{{ word }}</span>
    <span class="visually-hidden">{{ label }}</span>
  </button>
</template>

<style scoped>
.tile {
  width: 48px;
  text-align: center;
}
canvas {
  display: block;
  width: 48px;
  height: 48px;
  border: 1px solid var(--line);
  border-radius: 4px;
}
.tile:hover canvas {
  border-color: var(--plum);
}
.word {
  display: block;
  font-size: 10.5px;
  line-height: 13px;
  white-space: nowrap;
  font-stretch: 80%;
  color: var(--quiet);
}
</style>

<script setup lang="ts">
// What lies under the pointer, magnified, from the photograph's own pixels.
import { ref, watch } from 'vue'
import type { PicturePlace } from '#core/match'
import LoupeFrame from './LoupeFrame.vue'
import { LOUPE_PX, SEEN_PX } from './loupe.ts'
import { useOpenedPhoto } from './opened.ts'

const props = defineProps<{ place: PicturePlace; side: 'left' | 'right' }>()
const canvas = ref<HTMLCanvasElement | null>(null)
const { client } = useOpenedPhoto()
let asked = 0
watch(
  () => props.place,
  async ([x, y]) => {
    const mine = ++asked
    const bitmap = await client.value?.part(x - SEEN_PX / 2, y - SEEN_PX / 2, SEEN_PX, SEEN_PX, LOUPE_PX, LOUPE_PX)
    const c = canvas.value
    if (!bitmap || !c || mine !== asked) return bitmap?.close()
    c.getContext('bitmaprenderer')!.transferFromImageBitmap(bitmap)
  },
  { immediate: true, flush: 'post' },
)
</script>

<template>
  <LoupeFrame :side="side" :told="`${place[0].toFixed(1)}, ${place[1].toFixed(1)} px`" data-testid="loupe">
    <canvas ref="canvas" :width="LOUPE_PX" :height="LOUPE_PX" />
  </LoupeFrame>
</template>

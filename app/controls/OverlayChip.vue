<script setup lang="ts">
// Words over the picture on a small solid ground: readable on anything.
import { computed } from 'vue'

const props = withDefaults(
  defineProps<{
    x: number
    /** The line that the words stand on. */
    y: number
    text: string
    /** Whether the words end at x. */
    end?: boolean
    tone?: 'plain' | 'upright' | 'slip' | 'meant'
    /** In the theme's colours: over drawings, not over the picture. */
    themed?: boolean
  }>(),
  { end: false, tone: 'plain', themed: false },
)
/** Width of a letter of the mono at 10.5 px, and the room beside the words. */
const LETTER_PX = 6.1
const PAD_PX = 5
const width = computed(() => props.text.length * LETTER_PX + 2 * PAD_PX)
const left = computed(() => (props.end ? props.x - width.value : props.x))
</script>

<template>
  <g class="chip" :class="[tone, { themed }]">
    <rect :x="left" :y="y - 11" :width="width" height="15" rx="2" />
    <text :x="left + PAD_PX" :y="y" :textLength="width - 2 * PAD_PX" lengthAdjust="spacingAndGlyphs">{{ text }}</text>
  </g>
</template>

<style scoped>
rect {
  fill: #faf7f0;
  opacity: 0.94;
}
text {
  font: 10.5px var(--mono);
  fill: #4f2b5c;
}
.themed rect {
  fill: var(--panel);
}
.themed text {
  fill: var(--plum);
}
.upright text {
  fill: #3d521d;
}
.slip text {
  fill: #7a4f06;
}
.meant text {
  fill: #33363f;
}
</style>

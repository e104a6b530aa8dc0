<script setup lang="ts">
// The frame of a strip: head with its controls, base image, drawing above it, zoom buttons, scale bar.
import {
  IconArrowsDiagonal,
  IconArrowsDiagonalMinimize2,
  IconCone,
  IconFocus2,
  IconMaximize,
  IconMinus,
  IconPlus,
} from '@tabler/icons-vue'
import { onMounted, useTemplateRef } from 'vue'
import { useView } from '../stores/view.ts'
import type { Strip } from './strip.ts'

const view = useView()
const props = defineProps<{
  title: string
  /** Its view: what wheel and buttons move, and the image that is drawn for it. */
  strip: Strip
  crosshair: boolean
  note: string
  large: boolean
  /** Cones of viewpoints are not shown there. */
  noCones?: boolean
  /** North is up: its arrow. */
  north?: boolean
}>()
defineEmits<{
  down: [e: PointerEvent]
  fitCamera: []
  enlarge: []
}>()
const { width, height, scaleBar: scale } = props.strip
const host = defineModel<HTMLElement | null>('host')
const canvas = defineModel<HTMLCanvasElement | null>('canvas')
const hostElement = useTemplateRef<HTMLElement>('hostElement')
const canvasElement = useTemplateRef<HTMLCanvasElement>('canvasElement')
onMounted(() => {
  host.value = hostElement.value
  canvas.value = canvasElement.value
})
</script>

<template>
  <section class="strip" :aria-label="title">
    <header>
      <h2>{{ title }}</h2>
      <slot name="head" />
      <button
        class="plain enlarge"
        :title="large ? `${title} back to its place` : `${title} large, in the middle`"
        @click="$emit('enlarge')"
      >
        <IconArrowsDiagonalMinimize2 v-if="large" :size="14" stroke="1.6" /><IconArrowsDiagonal
          v-else
          :size="14"
          stroke="1.6"
        />
        <span class="visually-hidden">{{ large ? `Make ${title} small` : `Make ${title} large` }}</span>
      </button>
    </header>
    <div
      ref="hostElement"
      class="host"
      :class="{ crosshair }"
      :data-testid="title.toLowerCase()"
      @wheel="strip.wheel"
      @pointerdown="$emit('down', $event)"
      @contextmenu.prevent
    >
      <canvas ref="canvasElement" :style="strip.imageStyle.value as Record<string, string>" />
      <svg :viewBox="`0 0 ${Math.max(1, width)} ${Math.max(1, height)}`" class="above">
        <slot />
        <g v-if="north" class="north" :transform="`translate(${width - 18} 26)`">
          <path d="M0 10V-10m-3.5 5l3.5 -5l3.5 5" />
          <text y="21" text-anchor="middle">N</text>
        </g>
        <g class="bar" :transform="`translate(12 ${height - 12})`">
          <path :d="`M0 -4V0H${scale.px}V-4`" />
          <text :x="scale.px + 5" y="1">{{ scale.text }}</text>
        </g>
      </svg>
      <div class="zoom" @pointerdown.stop>
        <button
          v-if="!noCones"
          class="plain"
          :class="{ on: view.allCones }"
          :aria-pressed="view.allCones"
          title="All viewpoints as named cones, here, in the other drawings and from outside"
          @click="view.allCones = !view.allCones"
        >
          <IconCone :size="14" stroke="1.6" /><span class="visually-hidden">All viewpoints</span>
        </button>
        <button class="plain" :title="`Fit the model in ${title}`" @click="strip.fitModel">
          <IconMaximize :size="14" stroke="1.6" /><span class="visually-hidden">Fit the model</span>
        </button>
        <button class="plain" :title="`Fit the camera in ${title}`" @click="$emit('fitCamera')">
          <IconFocus2 :size="14" stroke="1.6" /><span class="visually-hidden">Fit the camera</span>
        </button>
        <button class="plain" title="Nearer" @click="strip.zoomAt(1 / 1.4)">
          <IconPlus :size="14" stroke="1.6" /><span class="visually-hidden">Nearer</span>
        </button>
        <button class="plain" title="Farther" @click="strip.zoomAt(1.4)">
          <IconMinus :size="14" stroke="1.6" /><span class="visually-hidden">Farther</span>
        </button>
      </div>
      <p v-if="note" class="note">{{ note }}</p>
    </div>
  </section>
</template>

<style scoped>
.strip {
  display: grid;
  grid-template-rows: auto 1fr;
  min-height: 0;
  min-width: 0;
}
header {
  display: flex;
  align-items: center;
  gap: 6px;
  padding: 6px 8px 5px 12px;
  min-height: 33px;
}
h2 {
  font-size: 11px;
  font-weight: 600;
  letter-spacing: 0.04em;
  color: var(--quiet);
}
header :deep(.head-select) {
  font-size: 11.5px;
  min-width: 0;
  max-width: 140px;
}
header :deep(.head-select .p-select-label) {
  padding: 1px 2px 1px 6px;
  font-size: 11.5px;
}
header :deep(.head-select .p-select-dropdown) {
  width: 20px;
}
header :deep(.grow) {
  flex: 1;
}
.enlarge {
  line-height: 0;
  padding: 3px;
  color: var(--quiet);
}
.enlarge:hover {
  color: var(--ink);
}
.host {
  position: relative;
  overflow: hidden;
  min-height: 0;
  cursor: grab;
  touch-action: none;
}
.host.crosshair {
  cursor: crosshair;
}
canvas {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  transform-origin: center;
}
.above {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}
.bar path {
  stroke: var(--ink);
  stroke-width: 1.4;
  fill: none;
}
.bar text {
  font: 9.5px var(--mono);
  fill: var(--ink);
  stroke: var(--panel);
  stroke-width: 3px;
  paint-order: stroke;
}
.north {
  pointer-events: none;
}
.north path {
  stroke: var(--quiet);
  fill: none;
}
.north text {
  font: 9.5px var(--mono);
  fill: var(--quiet);
}
.zoom {
  position: absolute;
  right: 6px;
  bottom: 6px;
  display: flex;
  gap: 2px;
}
.zoom button {
  line-height: 0;
  padding: 4px;
  border-radius: 4px;
  color: var(--quiet);
  background: color-mix(in srgb, var(--panel) 80%, transparent);
}
.zoom button.on {
  color: var(--plum);
}
.zoom button:hover {
  color: var(--ink);
}
.note {
  position: absolute;
  left: 8px;
  right: 8px;
  top: 6px;
  text-align: center;
  font-size: 11.5px;
  color: var(--plum);
  pointer-events: none;
}
</style>

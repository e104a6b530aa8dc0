<script setup lang="ts">
// The photograph, large, with all that is drawn on it, and the model over it.
import { useElementSize, useEventListener } from '@vueuse/core'
import { computed, ref, watchEffect } from 'vue'
import type { PicturePlace } from '#core/match'
import { startDrag } from '../controls/drag.ts'
import { useDrawing } from './drawing.ts'
import { handlesOf } from './handles.ts'
import LoupePane from './LoupePane.vue'
import { useMatch } from './match.ts'
import ModelOver from './ModelOver.vue'
import { useOpenedPhoto } from './opened.ts'
import PhotoMarks from './PhotoMarks.vue'
import { useSheetView } from './sheet-view.ts'
import { usePicks } from './picks.ts'
import { usePhotoTools } from './tools.ts'

const box = ref<HTMLElement | null>(null)
const canvas = ref<HTMLCanvasElement | null>(null)
const { width, height } = useElementSize(box)
const { photo, match, put } = useMatch()
const { bitmap, edges, problem } = useOpenedPhoto()
const { tool, chosen, overlay, bundleId, pendingEdge } = usePhotoTools()
const {
  loupe,
  drawn,
  outline,
  addLine,
  bendLine,
  addMeasure,
  setLength,
  setFoot,
  setEdge,
  endMask,
  stroke,
  drag,
  remove,
} = useDrawing()
const picks = usePicks()
const { at, toWindow, toPhoto, magnify, move, reset, isFitted } = useSheetView(width, height, () => photo.value)
const k = computed(() => at.value.k)

watchEffect(() => {
  const c = canvas.value
  const b = bitmap.value
  const p = photo.value
  if (!c || width.value < 1) return
  const dpr = Math.min(2, window.devicePixelRatio)
  c.width = Math.round(width.value * dpr)
  c.height = Math.round(height.value * dpr)
  const paper = c.getContext('2d')!
  if (!b || !p || b.width === 0) return
  paper.imageSmoothingEnabled = k.value * dpr < 4
  paper.imageSmoothingQuality = 'high'
  paper.drawImage(b, at.value.x * dpr, at.value.y * dpr, p.widthPx * k.value * dpr, p.heightPx * k.value * dpr)
})

const GRIP_PX = 9
const placeOf = (e: PointerEvent | WheelEvent): PicturePlace => {
  const r = box.value!.getBoundingClientRect()
  return toPhoto(e.clientX - r.left, e.clientY - r.top)
}
const near = (a: PicturePlace, b: PicturePlace): number => Math.hypot(a[0] - b[0], a[1] - b[1]) * k.value

function pan(e: PointerEvent): void {
  const from = { x: at.value.x, y: at.value.y }
  startDrag(e, { move: (dx, dy) => move(from, dx, dy), end: () => undefined, cancel: () => move(from, 0, 0) })
}
function press(e: PointerEvent): void {
  if (!match.value || problem.value) return
  const place = placeOf(e)
  box.value?.focus({ preventScroll: true })
  if (e.button !== 0 || tool.value === 'hand') return pan(e)
  // what is being put goes before what is there
  const held = outline.value.length > 0 || pendingEdge.value ? null : handlesOf(match.value).map((h) => ({ h, px: near(h.at, place) })).sort((a, b) => a.px - b.px)[0] // prettier-ignore
  if (tool.value === 'line' && e.shiftKey && chosen.value?.kind === 'line') return bendLine(chosen.value.id, place)
  if (held && held.px < GRIP_PX) return drag(e, held.h, k.value)
  switch (tool.value) {
    case 'line':
      return stroke(e, place, k.value, (to) => (to ? addLine(place, to, k.value) : takeEdge(place)))
    case 'measure':
      return stroke(e, place, k.value, async (to) => to && addMeasure(place, to, await picks.surfaceAt(place)))
    case 'scale':
      return stroke(e, place, k.value, (to) => scale(place, to))
    case 'mask':
      outline.value = [...outline.value, place]
      return
    case 'pair':
      return void picks.placeInPhoto(place, GRIP_PX / k.value)
    case 'choose':
      return void picks.chooseAt(place, e.shiftKey)
    case 'sun':
      return void picks.shadowAt(place, GRIP_PX / k.value)
  }
}
function scale(from: PicturePlace, to: PicturePlace | null): void {
  const edge = pendingEdge.value
  pendingEdge.value = null
  if (!to) setFoot(from)
  else if (edge) setEdge(from, to, edge)
  else setLength(from, to)
}
/** A click on an edge that was found takes it as a line. */
function takeEdge(place: PicturePlace): void {
  const ends = edges.value?.ends
  if (!ends) {
    chosen.value = null
    return
  }
  let best: { a: PicturePlace; b: PicturePlace; px: number } | null = null
  for (let i = 0; i < ends.length; i += 4) {
    const [a, b] = [[ends[i]!, ends[i + 1]!] as const, [ends[i + 2]!, ends[i + 3]!] as const]
    const l = Math.hypot(b[0] - a[0], b[1] - a[1])
    const t = Math.min(
      1,
      Math.max(0, ((place[0] - a[0]) * (b[0] - a[0]) + (place[1] - a[1]) * (b[1] - a[1])) / (l * l)),
    )
    const px = near([a[0] + t * (b[0] - a[0]), a[1] + t * (b[1] - a[1])], place)
    if (px < GRIP_PX && (!best || px < best.px)) best = { a, b, px }
  }
  if (best) void addLine(best.a, best.b, k.value)
  else chosen.value = null
}

const STEP: Readonly<Record<string, readonly [number, number]>> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] } // prettier-ignore
/** The end of what is chosen that the arrow keys move. */
const end = ref(0)
function key(e: KeyboardEvent): void {
  const m = match.value
  if (!m) return
  const own = handlesOf(m).filter((h) => h.chosen && chosen.value && h.chosen.id === chosen.value.id)
  const step = STEP[e.key]
  if (e.key === 'Enter' && outline.value.length > 2) endMask()
  else if ((e.key === 'Delete' || e.key === 'Backspace') && chosen.value) remove(chosen.value)
  else if (e.key === ' ' && own.length > 0) end.value = (end.value + 1) % own.length
  else if (step && own.length > 0 && !e.ctrlKey && !e.metaKey) {
    const h = own[Math.min(end.value, own.length - 1)]!
    const by = e.shiftKey ? 10 : e.altKey ? 0.1 : 1
    put(h.moved(m, [h.at[0] + step[0] * by, h.at[1] + step[1] * by]))
  } else return
  e.preventDefault()
  e.stopPropagation()
}
useEventListener(window, 'keydown', (e) => {
  if (e.key === 'Escape' && outline.value.length > 0) outline.value = []
})
const pointer = ref<PicturePlace | null>(null)
function point(e: PointerEvent | null): void {
  pointer.value = e && placeOf(e)
  picks.pointed.value = pointer.value
}
const loupePlace = computed(() => loupe.value ?? (tool.value === 'pair' ? picks.pointed.value : null))
const loupeSide = computed(() =>
  loupePlace.value && toWindow(loupePlace.value)[0] < width.value / 2 ? 'right' : 'left',
)
defineExpose({ reset })
</script>

<template>
  <div
    id="photograph"
    ref="box"
    class="sheet"
    :class="tool"
    tabindex="0"
    role="group"
    aria-label="Photograph: arrow keys move the end that is held, Space takes the other one, Delete removes"
    data-testid="photograph"
    @pointerdown="press"
    @pointermove="point($event)"
    @pointerleave="point(null)"
    @wheel.prevent="
      (e) =>
        magnify(
          Math.exp(-e.deltaY * 0.0015),
          e.clientX - box!.getBoundingClientRect().left,
          e.clientY - box!.getBoundingClientRect().top,
        )
    "
    @contextmenu.prevent
    @keydown="key"
  >
    <canvas ref="canvas" :data-ready="bitmap ? 'yes' : 'no'" data-testid="photo-canvas" />
    <ModelOver v-if="overlay !== 'none'" :view="at" />
    <PhotoMarks
      v-if="photo && match && bitmap"
      :view="at"
      :width="width"
      :height="height"
      :drawn="drawn"
      :outline="outline"
      :pointer="pointer"
      :bundle-id="bundleId"
    />
    <LoupePane v-if="loupePlace && bitmap" :place="loupePlace" :side="loupeSide" />
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <p v-else-if="photo && !bitmap" class="problem quiet" role="status">Opening the photograph…</p>
    <button v-if="!isFitted" class="btn fit" title="Shows all of the photograph" @click="reset" @pointerdown.stop>
      Show all
    </button>
  </div>
</template>

<style scoped>
.sheet {
  position: relative;
  overflow: hidden;
  background: var(--mount);
  min-width: 0;
  min-height: 0;
  touch-action: none;
  cursor: crosshair;
}
.sheet.hand {
  cursor: grab;
}
.sheet:focus-visible {
  outline: 2px solid var(--plum);
  outline-offset: -2px;
}
canvas {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}
.problem {
  position: absolute;
  left: 50%;
  top: 45%;
  transform: translateX(-50%);
  max-width: 420px;
  padding: 10px 14px;
  background: var(--panel);
  border-radius: 4px;
}
.fit {
  position: absolute;
  left: 12px;
  bottom: 12px;
  background: var(--panel);
}
</style>

<script setup lang="ts">
// The reel on a ruler of time: cuts as blocks as long as they last, the moment as a line that is dragged, findings above the ruler.
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import { startDrag } from '../controls/drag.ts'
import { timecode, timeSuffix, timeText } from '#core/reel'
import { cutInto } from '#model/reel'
import { newId, useProject } from '../stores/project.ts'
import { useFilm } from './film.ts'
import { VIEWPOINT_DRAG } from './dragged-viewpoint.ts'

const host = ref<HTMLElement | null>(null)
const { width } = useElementSize(host)
const project = useProject()
const { reel, resolved, part, fps, timeS, timeUnit, go, stop, step, findings, cutId } = useFilm()
const k = computed(() => (reel.value.durationS > 0 ? width.value / reel.value.durationS : 0))
const STEPS_S = [0.5, 1, 2, 5, 10, 30, 60, 120, 300]
/** Whole seconds without a point. */
const tickText = (t: number): string =>
  timeUnit.value === 'seconds' ? `${t} s` : `${timeText(t, timeUnit.value, fps.value)} ${timeSuffix(timeUnit.value)}`
const ticks = computed(() => {
  const every = STEPS_S.find((s) => s * k.value >= (timeUnit.value === 'timecode' ? 74 : 46)) ?? 600
  const n = Math.floor(reel.value.durationS / every)
  if (k.value <= 0) return []
  const wide = timeUnit.value === 'timecode' ? 64 : 34
  return Array.from({ length: n + 1 }, (_, i) => {
    const x = i * every * k.value
    const isLast = x > width.value - wide
    // a last one stands before its line: not over the one before it
    const text = isLast && every * k.value < 2 * wide ? '' : tickText(i * every)
    return { x, text, isLast }
  })
})
const shots = computed(() => new Map(project.document?.shots?.map((s) => [s.id, s])))
const blocks = computed(() =>
  reel.value.cuts.map((c) => {
    const own = part.value!.cuts[resolved.value!.places[c.index]!]!
    const shot = shots.value.get(own.shotId)
    return { id: own.id, at: c.startS, name: shot?.name ?? '', kind: shot?.kind ?? '', x: c.startS * k.value, w: Math.max(2, (c.endS - c.startS) * k.value - 1) } // prettier-ignore
  }),
)
const marks = computed(() => findings.value.map((f, i) => ({ i, x: f.fromS * k.value, w: Math.max(3, (f.toS - f.fromS) * k.value), text: f.text }))) // prettier-ignore
function press(e: PointerEvent): void {
  const left = host.value!.getBoundingClientRect().left
  const at = (x: number): void => go((x - left) / (k.value || 1))
  stop()
  const before = timeS.value
  at(e.clientX)
  startDrag(e, { move: (_x, _y, m) => at(m.clientX), end: () => undefined, cancel: () => go(before) })
}
/** A viewpoint dropped here: cut there, and back. */
function drop(e: DragEvent): void {
  const id = e.dataTransfer?.getData(VIEWPOINT_DRAG)
  const v = project.document?.viewpoints.find((x) => x.id === id)
  const [p, r] = [part.value, resolved.value]
  if (!v || !p || !r) return
  e.preventDefault()
  const t = (e.clientX - host.value!.getBoundingClientRect().left) / (k.value || 1)
  const made = cutInto(p, reel.value, r.places, Math.min(Math.max(0, t), reel.value.durationS), v, newId)
  project.run({ type: 'putReels', shots: made.shots, reels: [made.reel] })
}
function choose(id: string, at: number): void {
  cutId.value = id
  stop()
  go(at)
}
function key(e: KeyboardEvent): void {
  const by = { ArrowLeft: -1, ArrowRight: 1, PageUp: -fps.value, PageDown: fps.value }[e.key]
  if (e.key === 'Home') go(0)
  else if (e.key === 'End') go(reel.value.durationS)
  else if (by !== undefined) step(Math.round(by * (e.shiftKey ? 10 : 1)))
  else return
  e.preventDefault()
  e.stopPropagation()
}
</script>

<template>
  <div class="ruler" data-testid="reel-ruler" @dragover.prevent @drop="drop">
    <div
      ref="host"
      class="scale"
      tabindex="0"
      role="slider"
      aria-label="Moment of the reel: arrow keys go by frames"
      :aria-valuemin="0"
      :aria-valuemax="reel.durationS"
      :aria-valuenow="timeS"
      :aria-valuetext="timecode(timeS, fps)"
      data-testid="ruler"
      @pointerdown="press"
      @keydown="key"
    >
      <span
        v-for="m in marks"
        :key="m.i"
        class="mark"
        :title="m.text"
        :style="{ left: `${m.x}px`, width: `${m.w}px` }"
      />
      <span v-for="t in ticks" :key="t.x" class="tick num" :class="{ last: t.isLast }" :style="{ left: `${t.x}px` }">{{
        t.text
      }}</span>
      <span v-if="k > 0" class="now" :style="{ left: `${timeS * k}px` }" />
    </div>
    <div class="blocks">
      <button
        v-for="b in blocks"
        :key="b.id"
        class="block"
        :class="[b.kind, { on: b.id === cutId }]"
        :style="{ left: `${b.x}px`, width: `${b.w}px` }"
        :title="b.name"
        @click="choose(b.id, b.at)"
      >
        {{ b.name }}
      </button>
      <span v-if="k > 0" class="now" :style="{ left: `${timeS * k}px` }" />
    </div>
  </div>
</template>

<style scoped>
.ruler {
  padding: 0 14px 10px;
  background: var(--panel);
}
.scale {
  position: relative;
  height: 26px;
  cursor: ew-resize;
  touch-action: none;
}
.scale:focus-visible {
  outline: 2px solid var(--plum);
  outline-offset: 1px;
}
.tick {
  position: absolute;
  bottom: 1px;
  font-size: 10px;
  color: var(--quiet);
  border-left: 1px solid var(--line-strong);
  padding-left: 3px;
  pointer-events: none;
  white-space: nowrap;
}
.tick.last {
  transform: translateX(-100%);
  border-left: 0;
  border-right: 1px solid var(--line-strong);
  padding: 0 3px 0 0;
}
.mark {
  position: absolute;
  top: 2px;
  height: 5px;
  border-radius: 2px;
  background: var(--ochre);
}
.blocks {
  position: relative;
  height: 34px;
  border: 1px solid var(--line);
  border-radius: 4px;
  overflow: hidden;
}
.block {
  appearance: none;
  position: absolute;
  top: 0;
  bottom: 0;
  border: 0;
  border-right: 1px solid var(--line-strong);
  background: var(--plum-soft);
  color: var(--ink);
  font: inherit;
  font-size: 11px;
  padding: 0 5px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  text-align: left;
  cursor: pointer;
}
.block.hold {
  background: var(--paper);
}
.block.on {
  box-shadow: inset 0 -3px 0 var(--plum);
}
.block:focus-visible {
  outline: 2px solid var(--plum);
  outline-offset: -2px;
}
.now {
  position: absolute;
  top: 0;
  bottom: 0;
  width: 0;
  border-left: 2px solid var(--plum);
  pointer-events: none;
}
</style>

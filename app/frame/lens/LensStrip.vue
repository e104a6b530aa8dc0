<script setup lang="ts">
// The same subject at the same size through five lenses, side by side; a click takes one.
import { computed, shallowRef, watch } from 'vue'
import { focalHoldingSize, focalOfEquivalent, poseOfStand } from '#core/camera'
import type { Setup } from '#model'
import { centreOf } from '../../stores/centres.ts'
import { useProject } from '../../stores/project.ts'
import { useView } from '../../stores/view.ts'
import FramingThumb from '../thumbs/FramingThumb.vue'
import { FIVE_MM, useLens } from './lens.ts'
import { useWallBehind } from './wall-behind.ts'
import { sameList } from '../../controls/same-list.ts'

const project = useProject()
const view = useView()
const { depthM, point, holding } = useLens()
/** Near cuts of those whose station passes a wall, by focal length. */
const cuts = shallowRef<Readonly<Record<number, number>>>({})
const lenses = computed(() => {
  const w = project.working
  const depth = depthM.value
  if (!w || depth === null) return []
  return FIVE_MM.map((mm) => {
    const focalMm = Number(focalOfEquivalent(w.lens.sensorMm, mm, 'diagonal').toPrecision(3))
    const f = focalHoldingSize({ stand: w.stand, lens: w.lens }, depth, focalMm, centreOf)
    const near = cuts.value[focalMm]
    // a near cut of another kind stays; one that a move back made is this lens's own
    const isOther = w.cut.near.on && w.cut.near.madeBy !== 'standBack'
    const cut = isOther ? w.cut : { ...w.cut, near: near === undefined ? { ...w.cut.near, on: false } : { on: true, distanceM: near } } // prettier-ignore
    const setup: Setup = { ...w, stand: f.stand, lens: f.lens, cut }
    return {
      focalMm,
      setup,
      isNow: Math.abs(w.lens.focalMm / focalMm - 1) < 0.001,
      awayM: (depth * focalMm) / w.lens.focalMm,
    }
  })
})
const { nearFor } = useWallBehind()
watch(
  sameList(
    () => [project.isShowing, project.working?.stand, project.working?.lens, point.value, project.shown] as const,
  ),
  async ([isShowing, stand]) => {
    const subject = point.value
    if (isShowing || !stand || !subject) return
    const found: Record<number, number> = {}
    for (const { focalMm, setup } of lenses.value) {
      const camera = { pose: poseOfStand(setup.stand, centreOf), lens: setup.lens, frame: setup.frame }
      const near = await nearFor(camera, subject)
      if (near !== null) found[focalMm] = near
    }
    if (project.working?.stand === stand) cuts.value = found
  },
  { immediate: true },
)
</script>

<template>
  <div class="five" role="group" aria-label="Five lenses, the subject’s size held" data-testid="five-lenses">
    <p v-if="lenses.length === 0" class="quiet">Aim at something, or pick a subject: its size is held.</p>
    <button
      v-for="l in lenses"
      :key="l.focalMm"
      class="plain"
      :class="{ on: l.isNow }"
      :aria-pressed="l.isNow"
      :title="`${l.focalMm} mm, ${l.awayM.toFixed(2)} m from the subject`"
      @click="holding(l.focalMm)"
    >
      <FramingThumb :setup="l.setup" />
      <span class="num"
        >{{ l.focalMm }} mm <span class="away">{{ l.awayM.toFixed(2) }} m</span></span
      >
    </button>
    <button class="plain close" aria-label="Close the five lenses" title="Close" @click="view.fiveLenses = false">
      ×
    </button>
  </div>
</template>

<style scoped>
.five {
  display: grid;
  grid-template-columns: repeat(5, 1fr) 22px;
  gap: 6px;
  height: 100%;
  padding: 6px 8px;
  background: var(--panel);
  border: 1px solid var(--line);
  border-radius: 4px;
}
.five p {
  grid-column: 1 / span 5;
  align-self: center;
}
.five button {
  display: grid;
  grid-template-rows: 1fr auto;
  gap: 2px;
  min-width: 0;
  padding: 2px;
  border: 1.5px solid transparent;
  border-radius: 4px;
  text-align: center;
  font-size: 11px;
}
.five button.on {
  border-color: var(--plum);
  color: var(--plum);
}
.away {
  color: var(--quiet);
}
.five .close {
  grid-template-rows: 1fr;
  align-items: start;
  font-size: 15px;
}
</style>

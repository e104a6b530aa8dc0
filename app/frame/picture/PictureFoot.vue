<script setup lang="ts">
// Below the picture: what is being worked out, and how drags and keys behave; from outside, the ways back.
import { computed, defineAsyncComponent } from 'vue'
import { formatLength } from '#core/base'
import type { ClearAt } from '#mesh'
import { useOutside } from '../outside/outside.ts'
import { useFocus } from '../focus/focus.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'
import { useHoldLevel } from '../camera/hold-level.ts'
import { usePointer } from '../camera/pointer.ts'
import { flightMps } from './walking.ts'

const PhotoMiss = defineAsyncComponent(() => import('./PhotoMiss.vue'))
defineProps<{ status: string }>()
const stage = useStage()
const project = useProject()
const { probe } = usePointer()
const { part: focus, blurPx } = useFocus()
const long = (m: number): string => {
  const u = project.document?.unit ?? 'm'
  return u === 'ft-in' ? formatLength(m, u) : `${formatLength(m, u)} ${u}`
}
/** In a section: how much room there is, or how thick what is cut is. */
const clearText = ({ cutName, widthM, heightM, isSolid }: ClearAt): string => {
  const size = (m: number | null): string => (m === null ? 'open' : long(m))
  return `${cutName}: ${isSolid ? 'cut' : 'clear'} ${size(widthM)} wide, ${size(heightM)} high`
}
/** Under the pointer: how far, what, how high, and how wide the picture is there. */
const readout = computed(() => {
  const p = probe.value
  if (!p) return ''
  if (p.clear) return `${clearText(p.clear)} · ${p.clear.isSolid ? '' : `${long(p.awayM)} · `}${p.hit.nodeName}`
  const soft = focus.value?.on ? ` · blur ${blurPx(p.depthM).toFixed(1)} px` : ''
  return `${long(p.awayM)}${soft} · ${long(p.hit.point[2])} high · ${long(p.widthM)} wide · ${p.hit.nodeName}`
})
/** A photograph behind the picture that something is drawn on. */
const behind = computed(() => {
  const backdrop = project.working?.look.backdrop
  if (backdrop?.kind !== 'photo') return null
  const photo = project.document?.photos?.find((p) => p.id === backdrop.photoId)
  return photo && photo.match.lines.length + photo.match.pairs.length > 0 ? photo : null
})
const view = useView()
const outside = useOutside()
const holdLevel = useHoldLevel()
const switchLevel = (): void => void (holdLevel.value = !holdLevel.value)
const switchSquare = (): void => void (view.holdSquare = !view.holdSquare)
const switchGait = (): void => void (view.gait = view.gait === 'walk' ? 'fly' : 'walk')
const sizeM = computed(() => {
  const b = stage.facts?.box
  return b ? Math.hypot(b.max[0] - b.min[0], b.max[1] - b.min[1], b.max[2] - b.min[2]) : 10
})
const gait = computed(() => (outside.on ? 'fly' : view.gait))
const speed = computed(() => (gait.value === 'walk' ? view.walkMps : (view.flyMps ?? flightMps(sizeM.value))))
const text = (v: number): string => (v >= 10 ? v.toFixed(0) : v >= 1 ? v.toFixed(1) : v.toFixed(2))
function faster(by: number): void {
  const next = Math.min(50, Math.max(0.02, Number((speed.value * by).toPrecision(2))))
  if (gait.value === 'walk') view.walkMps = next
  else view.flyMps = next
}
</script>

<template>
  <div class="foot">
    <span v-if="outside.on" class="outside">
      <button
        class="btn"
        title="What the white frame shows becomes the picture, lens included (Enter)"
        @click="outside.standHere('taken')"
      >
        Stand here
      </button>
      <button class="btn" title="Stand here with the lens that the camera has" @click="outside.standHere('kept')">
        with the camera’s lens
      </button>
      <button
        class="btn"
        title="Moves this view until the camera and its frame are in it"
        @click="outside.bringCamera()"
      >
        Find the camera
      </button>
      <button
        class="btn"
        :disabled="view.selection.length === 0"
        title="Moves this view until what is selected is in it"
        @click="outside.bringSelection()"
      >
        the selection
      </button>
      <button class="btn" title="Drop this view, which changed nothing (O or Esc)" @click="outside.back()">
        Back inside
      </button>
    </span>
    <span v-else-if="status" role="status">{{ status }}</span>
    <span
      v-else
      class="num readout"
      title="Under the pointer: how far, what, its height, and how wide the picture is there"
      data-testid="readout"
      >{{ readout }}</span
    >
    <PhotoMiss v-if="behind && !outside.on" :photo="behind" />
    <span class="switches">
      <span class="gait">
        <button
          class="plain"
          :disabled="outside.on"
          title="W A S D: on foot over the floors, stopped by walls; or flying freely. Q and E: down and up. Shift hurries"
          @click="switchGait"
        >
          <b>{{ gait }}</b>
        </button>
        <button class="plain step" title="Slower" @click="faster(0.8)">
          −<span class="visually-hidden">Slower</span>
        </button>
        <span class="num" data-testid="speed">{{ text(speed) }} m/s</span>
        <button class="plain step" title="Faster" @click="faster(1.25)">
          +<span class="visually-hidden">Faster</span>
        </button>
      </span>
      <button
        class="plain"
        :aria-pressed="view.clay"
        title="One plain tone for all surfaces while you work; pictures that are saved keep their look (B)"
        @click="view.clay = !view.clay"
      >
        clay <b>{{ view.clay ? 'on' : 'off' }}</b>
      </button>
      <template v-if="!outside.on">
        <button
          class="plain"
          :aria-pressed="holdLevel"
          title="Up and down drags move the lens (rise) instead of tilting; the wheel stops before walls (Shift frees it)"
          @click="switchLevel"
        >
          hold level <b>{{ holdLevel ? 'on' : 'off' }}</b>
        </button>
        <button
          class="plain"
          :aria-pressed="view.holdSquare"
          title="Sideways drags move the lens (cross) instead of turning"
          @click="switchSquare"
        >
          hold square <b>{{ view.holdSquare ? 'on' : 'off' }}</b>
        </button>
      </template>
    </span>
  </div>
</template>

<style scoped>
.foot {
  position: absolute;
  left: 16px;
  right: 16px;
  bottom: 10px;
  display: flex;
  justify-content: space-between;
  gap: 14px;
  color: var(--mount-ink);
  font-size: 11.5px;
}
.switches {
  display: flex;
  gap: 14px;
}
.switches b {
  font-weight: 600;
}
.outside {
  display: flex;
  align-items: center;
  gap: 6px;
}
.foot {
  align-items: center;
}
.outside .btn {
  padding: 1px 9px;
  font-size: 11.5px;
}
.readout {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  margin-right: 12px;
}
.gait {
  display: flex;
  gap: 5px;
  align-items: baseline;
}
.step {
  padding: 0 3px;
}
.switches {
  margin-left: auto;
  white-space: nowrap;
}
</style>

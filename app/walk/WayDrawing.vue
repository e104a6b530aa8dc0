<script setup lang="ts">
// Plan or Side of a reel: the way of the cut at hand with its seconds marked, stops that are placed and dragged, where the camera is now.
import { computed, ref, watch } from 'vue'
import { formatLength, lengthSuffix } from '#core/base'
import { poseOfStand, type Camera } from '#core/camera'
import { boxCorners, type Vec3 } from '#core/math'
import type { Shown } from '#core/section'
import { setupAsShown, shownOf } from '#model'
import ConeShape from '../drawings/ConeShape.vue'
import { coneOf } from '../drawings/cones.ts'
import DragHandle from '../drawings/DragHandle.vue'
import { useStorey } from '../drawings/storeys.ts'
import StoreySelect from '../drawings/StoreySelect.vue'
import StripFrame from '../drawings/StripFrame.vue'
import { useStrip } from '../drawings/strip.ts'
import { sameList } from '../controls/same-list.ts'
import { centreInFile, centresIn } from '../stores/centres.ts'
import { useProject } from '../stores/project.ts'
import { useStage } from '../stores/stage.ts'
import { useAiming } from './aiming.ts'
import AimMarks from './AimMarks.vue'
import { useFilm } from './film.ts'
import GazeMark from './GazeMark.vue'
import PivotMark from './PivotMark.vue'
import TangentMarks from './TangentMarks.vue'
import { useTurning } from './turning.ts'
import { useWalking } from './walking.ts'
import { useWayLines } from './way-lines.ts'

const props = defineProps<{ kind: 'plan' | 'side'; large: boolean }>()
defineEmits<{ enlarge: [] }>()
const project = useProject()
const stage = useStage()
const { part, shown, moment, isPlaying, go, stop } = useFilm()
const { addNow } = useAiming()
const { table, set: turnRound } = useTurning()
const { travel, way, tool, stopId, eyeM, add, insertAt, drag, drop, cancel, remove, live, look } = useWalking()
const host = ref<HTMLElement | null>(null)
const canvas = ref<HTMLCanvasElement | null>(null)
const isPlan = computed(() => props.kind === 'plan')
const { storey, cutZ } = useStorey()
/** As the moment shows it, once it rests: things stand where they are then. */
const shownNow = computed<Shown | null>((before) => {
  const s = shown.value
  if (!s || isPlaying.value) return before ?? null
  const now = shownOf(setupAsShown(s.setup, project.document, centreInFile))
  return before && JSON.stringify(before) === JSON.stringify(now) ? before : now
})
const strip = useStrip({
  key: props.kind,
  host,
  canvas,
  shown: shownNow,
  headPx: 0,
  direction: computed(() => (isPlan.value ? { bearingDeg: 0, tiltDeg: -90 } : { bearingDeg: 0, tiltDeg: 0 })),
  cut: computed(() => {
    if (isPlan.value) return cutZ.value !== null ? { point: [0, 0, cutZ.value] as Vec3, normal: [0, 0, 1] as Vec3 } : null // prettier-ignore
    // from the south, cut where the way is
    const first = travel.value?.stops[0]?.station
    const y = first?.[1] ?? project.working?.stand.station[1] ?? 0
    return { point: [0, y, 0] as Vec3, normal: [0, -1, 0] as Vec3 }
  }),
})
const { toPx, toWorld } = strip
const d = (points: readonly Vec3[]): string =>
  points.map((p, i) => { const q = toPx(p); return `${i ? 'L' : 'M'}${q.x.toFixed(1)} ${q.y.toFixed(1)}` }).join('') // prettier-ignore
const { placed, along, plainWay, seconds, metresAt } = useWayLines()
// another cut whose way lies off the page: it is shown with the model
watch(
  sameList(() => [part.value?.id, placed.value?.index, strip.isSized.value, stage.facts] as const),
  () => {
    const points = [...along.value, ...plainWay.value]
    const [w, h] = [strip.width.value, strip.height.value]
    const isOff = points.map(toPx).some(({ x, y }) => x < 0 || y < 0 || x > w || y > h)
    if (isOff && !isPlaying.value && stage.facts) strip.fitPoints([...points, ...boxCorners(stage.facts.box)])
  },
  { immediate: true },
)
const camera = computed<Camera | null>(() => {
  const s = shown.value
  return s && { pose: poseOfStand(s.setup.stand, centresIn(s.setup)), lens: s.setup.lens, frame: s.setup.frame }
})
const now = computed(() => (camera.value ? toPx(camera.value.pose.station) : null))
const CONE_PX = 70
const cone = computed(() => (camera.value ? coneOf(camera.value, isPlan.value ? 'left-right' : 'top-bottom', toPx, CONE_PX) : null)) // prettier-ignore
const stops = computed(() => (travel.value?.stops ?? []).map((s, i) => ({ ...toPx(s.station), s, i })))
const unit = computed(() => project.document?.unit ?? 'm')
const reading = (p: Vec3): string =>
  `${formatLength(p[0], unit.value)}, ${isPlan.value ? formatLength(p[1], unit.value) : formatLength(p[2], unit.value)} ${lengthSuffix(unit.value)}`
const dragged = ref(-1)
/** Where the pointer puts a stop: in Plan at its height, in Side along the page and up. */
function at(e: PointerEvent, [, y, z]: Vec3): Vec3 {
  const p = toWorld(e)
  return isPlan.value ? [p[0], p[1], z] : [p[0], y, p[2]]
}
function begin(i: number): void {
  dragged.value = i
  stopId.value = travel.value!.stops[i]!.id
  tool.value = null
}
function move(e: PointerEvent, i: number): void {
  drag(i, at(e, travel.value!.stops[i]!.station))
  // a height set by hand stays
  if (!isPlan.value && travel.value?.heights !== 'free') live({ heights: 'free' })
}
async function done(): Promise<void> {
  dragged.value = -1
  await drop()
}
function letGo(): void {
  dragged.value = -1
  cancel()
}
async function nudge(dx: number, dy: number, i: number): Promise<void> {
  const [x, y, z] = travel.value!.stops[i]!.station
  drag(i, isPlan.value ? [x + dx, y + dy, z] : [x + dx, y, z + dy])
  if (!isPlan.value && dy !== 0) live({ heights: 'free' })
  await drop()
}
/** While a place is asked for, marks are in nobody's way: it may be that of a stop. */
const isPlaceAsked = computed(() => tool.value === 'aim' || tool.value === 'look' || tool.value === 'pivot')
const NEAR_PX = 9
/** How far along the way a place on the page lies, where it is near it. */
function nearWay(e: { clientX: number; clientY: number }): number | null {
  const w = way.value
  const r = host.value?.getBoundingClientRect()
  if (!w || !r) return null
  const [x, y] = [e.clientX - r.left, e.clientY - r.top]
  let best = { px: NEAR_PX, i: -1 }
  along.value.forEach((p, i) => {
    const q = toPx(p)
    const px = Math.hypot(q.x - x, q.y - y)
    if (px < best.px) best = { px, i }
  })
  return best.i < 0 ? null : metresAt(best.i)
}
async function press(e: PointerEvent): Promise<void> {
  if (e.button !== 0 || !tool.value) return strip.slideStrip(e, () => click(e))
  const p = toWorld(e)
  if (tool.value === 'aim') {
    e.preventDefault()
    // in Plan as high as the eye at this moment
    const z = moment.value.placed ? (shown.value?.take.pose.station[2] ?? eyeM.value) : eyeM.value
    tool.value = null
    return addNow(isPlan.value ? [p[0], p[1], z] : p)
  }
  if (tool.value === 'pivot' && table.value) {
    e.preventDefault()
    tool.value = null
    return turnRound({ pivot: at(e, table.value.pivot) })
  }
  if (!travel.value) return strip.slideStrip(e, () => click(e))
  e.preventDefault()
  if (tool.value === 'look') {
    const z =
      travel.value.gaze.kind === 'point' ? travel.value.gaze.point[2] : (storey.value?.heightM ?? 0) + eyeM.value
    return look(isPlan.value ? [p[0], p[1], z] : p)
  }
  if (tool.value !== 'stop' || !isPlan.value) return
  const on = nearWay(e)
  if (on !== null) return insertAt(on)
  await add([p[0], p[1], (storey.value?.heightM ?? 0) + eyeM.value])
}
/** A click on the way goes there in time. */
function click(e: PointerEvent): void {
  const on = nearWay(e)
  const p = placed.value
  if (on === null || !p || !way.value) return
  let best = { d: Infinity, t: 0 }
  const target = way.value!.route.at(on).point
  const n = 400
  for (let k = 0; k <= n; k++) {
    const t = ((p.endS - p.startS) * k) / n
    const s = p.filmed.at(p.fromS + t).pose.station
    const off = Math.hypot(s[0] - target[0], s[1] - target[1], s[2] - target[2])
    if (off < best.d) best = { d: off, t }
  }
  stop()
  go(p.startS + best.t)
}
const fit = (): void => strip.fitCamera([...along.value, ...plainWay.value, ...(camera.value ? [camera.value.pose.station] : [])]) // prettier-ignore
async function key(e: KeyboardEvent, i: number): Promise<void> {
  if (e.key !== 'Delete' && e.key !== 'Backspace') return
  e.preventDefault()
  e.stopPropagation()
  await remove(i)
}
</script>

<template>
  <StripFrame
    v-model:host="host"
    v-model:canvas="canvas"
    :title="isPlan ? 'Plan' : 'Side'"
    :large="large"
    :north="isPlan"
    :strip="strip"
    :crosshair="tool !== null && isPlan"
    :note="tool === 'stop' && isPlan ? 'Click where the walk goes; on the way to insert a stop. Esc ends' : ''"
    no-cones
    @enlarge="$emit('enlarge')"
    @down="press"
    @fit-camera="fit"
  >
    <template #head>
      <StoreySelect v-if="isPlan" />
      <span class="grow" />
    </template>
    <path v-if="along.length > 0" class="case" :d="d(along)" />
    <path v-if="along.length > 0" class="way" :d="d(along)" data-testid="way" />
    <path v-if="plainWay.length > 1" class="way thin" :d="d(plainWay)" />
    <g class="seconds"><circle v-for="s in seconds" :key="s.t" :cx="toPx(s.at).x" :cy="toPx(s.at).y" r="1.8" /></g>
    <ConeShape v-if="cone" :cone="cone" />
    <circle v-if="now" class="now" :cx="now.x" :cy="now.y" r="4" />
    <g :class="{ through: isPlaceAsked }">
      <TangentMarks :to-px="toPx" :at="at" :is-plan="isPlan" :reading="reading" />
      <PivotMark :to-px="toPx" :at="at" :is-plan="isPlan" :reading="reading" />
      <AimMarks :to-px="toPx" :at="at" :is-plan="isPlan" :reading="reading" />
      <GazeMark :to-px="toPx" :at="at" :is-plan="isPlan" :reading="reading" />
      <g
        v-for="p in stops"
        :key="p.s.id"
        class="stop"
        :class="{ on: p.s.id === stopId }"
        @keydown="key($event, p.i)"
        @focusin="stopId = p.s.id"
      >
        <DragHandle
          :x="p.x"
          :y="p.y"
          shape="round"
          :label="`Stop ${p.i + 1}: drag it; Delete takes it out`"
          :testid="`${kind}-stop-${p.i}`"
          :value="p.s.station[0]"
          :spoken="reading(p.s.station)"
          :reading="dragged === p.i ? reading(p.s.station) : ''"
          @start="begin(p.i)"
          @drag="move($event, p.i)"
          @nudge="(dx, dy) => nudge(dx, dy, p.i)"
          @done="done"
          @cancel="letGo"
        />
        <text :x="p.x + 8" :y="p.y - 6">{{ p.i + 1 }}</text>
      </g>
    </g>
  </StripFrame>
</template>

<style scoped>
.case,
.way {
  fill: none;
  pointer-events: none;
  stroke-linejoin: round;
}
.case {
  stroke: var(--panel);
  stroke-width: 4.5;
}
.way {
  stroke: var(--plum);
  stroke-width: 2;
}
.way.thin {
  stroke-width: 1.4;
  stroke-dasharray: 4 3;
}
.seconds {
  fill: var(--panel);
  stroke: var(--plum);
  stroke-width: 1;
  pointer-events: none;
}
.now {
  fill: var(--plum);
  pointer-events: none;
}
.stop text {
  font: 10px var(--mono);
  fill: var(--plum);
  paint-order: stroke;
  stroke: var(--panel);
  stroke-width: 3px;
  pointer-events: none;
}
.stop.on :deep(.ink) {
  fill: var(--plum);
}
.through {
  pointer-events: none;
}
</style>

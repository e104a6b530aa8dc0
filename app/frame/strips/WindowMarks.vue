<script setup lang="ts">
// The picture as a window in Plan and Side, between the camera and its aim: its middle is dragged for rise or cross, its ends for the focal
// length (or the width of view); beside it the image circle that shift lenses have.
import { computed, ref } from 'vue'
import {
  aimPointOf,
  FOCAL_RANGE_MM,
  toCamera,
  usedSensor,
  widthOfView,
  withWidthOfView,
  type Camera,
  type Lens,
} from '#core/camera'
import { lensOfEnd, pictureWindow, shiftPerMetre, type Across } from '#core/framing'
import { dot, sub, type Vec3 } from '#core/math'
import { centreOf } from '../../stores/centres.ts'
import { useProject } from '../../stores/project.ts'
import { signed } from '../../text/short.ts'
import DragHandle from '../../drawings/DragHandle.vue'

const props = defineProps<{
  across: Across
  toPx: (p: Vec3) => { x: number; y: number }
  toWorld: (e: { clientX: number; clientY: number }) => Vec3
  /** The ends are dragged here too; in Plan the cone's own edges are. */
  ends?: boolean
}>()
const project = useProject()
const SHIFT = { right: ['crossMm', 'Cross'], up: ['riseMm', 'Rise'] } as const
const key = computed(() => SHIFT[props.across][0])
const name = computed(() => SHIFT[props.across][1])

/** The window stands so far on the way to the aim: handles of both stay apart. */
const ON_THE_WAY = 0.62
const AHEAD_M = 3
/** Shorter than this on the page, or seen from its end, it is no window. */
const LEAST_PX = 18
function depthOf(c: Camera): number {
  const w = project.working
  const aim = w && aimPointOf(w.stand.aim, centreOf)
  const depth = aim ? -toCamera(c.pose, aim)[2] : AHEAD_M
  return (depth > 0.01 ? depth : AHEAD_M) * ON_THE_WAY
}
/** While it is dragged its depth stays: with the size held the aim's does not. */
let heldDepthM: number | null = null
const shown = computed(() => {
  const c = project.camera
  if (!c) return null
  const depthM = heldDepthM ?? depthOf(c)
  const w = pictureWindow(c, props.across, depthM)
  if (!w) return null
  const [a, b] = w.ends.map(props.toPx) as [{ x: number; y: number }, { x: number; y: number }]
  const long = Math.hypot(b.x - a.x, b.y - a.y)
  if (long < LEAST_PX) return null
  const circle = w.circle?.map(props.toPx)
  const [nx, ny] = [-(b.y - a.y) / long, (b.x - a.x) / long]
  const tick = (p: { x: number; y: number }, h: number): string =>
    `M${p.x - nx * h} ${p.y - ny * h}L${p.x + nx * h} ${p.y + ny * h}`
  return {
    depthM,
    window: w,
    d: `M${a.x} ${a.y}L${b.x} ${b.y}${tick(a, 5)}${tick(b, 5)}`,
    circle: circle ? `${tick(circle[0]!, 3)}${tick(circle[1]!, 3)}` : '',
    middle: props.toPx(w.middle),
    ends: [a, b] as const,
  }
})

const active = ref<'' | 'middle' | 'end'>('')
let from: { readonly camera: Camera; readonly at: Vec3; readonly window: NonNullable<ReturnType<typeof pictureWindow>>; readonly depthM: number } | null = null // prettier-ignore
function begin(what: 'middle' | 'end', e: PointerEvent): void {
  const [c, s] = [project.camera, shown.value]
  active.value = what
  heldDepthM = s?.depthM ?? null
  from = c && s ? { camera: c, window: s.window, depthM: s.depthM, at: props.toWorld(e) } : null
}
/** Metres along the window that the pointer went, as this drawing shows them. */
function went(e: PointerEvent): number | null {
  if (!from) return null
  const { along, ends } = from.window
  // what of the window's direction this drawing shows
  const [p, q] = [props.toPx(ends[0]), props.toPx(ends[1])]
  const long = Math.hypot(q.x - p.x, q.y - p.y)
  if (long < LEAST_PX) return null
  const by = sub(props.toWorld(e), from.at)
  // the drawing's plane shows a part of it: as far as the pointer goes along, so far goes the window
  const seen = partSeen(along)
  return seen > 0.05 ? dot(by, along) / seen : null
}
/** Squared length of a direction as this drawing shows it. */
function partSeen(d: Vec3): number {
  const s = project.camera!.pose.station
  const [o, x, y, z, t] = [s, [s[0] + 1, s[1], s[2]], [s[0], s[1] + 1, s[2]], [s[0], s[1], s[2] + 1], [s[0] + d[0], s[1] + d[1], s[2] + d[2]]].map((p) => props.toPx(p as unknown as Vec3)) as { x: number; y: number }[] as [P, P, P, P, P] // prettier-ignore
  const metre = Math.max(...[x, y, z].map((p) => Math.hypot(p.x - o.x, p.y - o.y)))
  return Math.min(1, (Math.hypot(t.x - o.x, t.y - o.y) / metre) ** 2)
}
type P = { readonly x: number; readonly y: number }

const SNAP_MM = 0.25
function dragMiddle(e: PointerEvent): void {
  const m = went(e)
  if (m === null || !from) return
  const { lens, frame } = from.camera
  const mm = lens[key.value] + m * shiftPerMetre({ lens, frame }, from.depthM)
  const held = !e.altKey && Math.abs(mm) < SNAP_MM ? 0 : Math.round(mm * 20) / 20
  show({ ...lens, [key.value]: held })
}
function dragEnd(e: PointerEvent, end: 0 | 1): void {
  const m = went(e)
  if (m === null || !from) return
  const { lens, frame } = from.camera
  const r = lensOfEnd({ lens, frame }, props.across, end, from.window.fromAxisM[end] + m, from.depthM)
  if (!r) return
  if ('widthM' in r) return show(withWidthOfView(lens, r.widthM))
  const mm = e.altKey ? r.focalMm : Math.round(r.focalMm * 10) / 10
  show({ ...lens, focalMm: Math.min(FOCAL_RANGE_MM.max, Math.max(FOCAL_RANGE_MM.min, mm)) })
}
const show = (lens: Lens): void => void project.show({ lens })
function over(): void {
  active.value = ''
  heldDepthM = from = null
}
function done(label: string): void {
  over()
  project.settle(label)
}
function cancel(): void {
  over()
  project.letGo()
}
/** An arrow key: a tenth of a millimetre, with Shift one. */
function nudge(by: number): void {
  const lens = project.working?.lens
  if (lens) project.move({ lens: { ...lens, [key.value]: Number((lens[key.value] + 10 * by).toFixed(6)) } }, name.value)
}
function nudgeEnd(by: number): void {
  const lens = project.working?.lens
  if (!lens) return
  const widthM = widthOfView(lens)
  const focalMm = Math.max(FOCAL_RANGE_MM.min, Math.min(FOCAL_RANGE_MM.max, lens.focalMm + 100 * by))
  project.move({ lens: widthM === null ? { ...lens, focalMm } : withWidthOfView(lens, Math.max(0.01, widthM - 10 * by)) }, 'Focal length') // prettier-ignore
}
const shiftText = computed(() => {
  const c = project.camera!
  const used = usedSensor(c.lens, c.frame)
  const mm = c.lens[key.value]
  const part = (100 * mm) / (props.across === 'right' ? used.widthMm : used.heightMm)
  return `${name.value.toLowerCase()} ${signed(mm, 2)} mm, ${signed(part, 1)} %`
})
const endText = computed(() => {
  const { lens } = project.camera!
  const widthM = widthOfView(lens)
  return widthM === null ? `${lens.focalMm.toFixed(1)} mm` : `${widthM.toFixed(2)} m wide`
})
</script>

<template>
  <g v-if="shown" class="window" data-testid="picture-window">
    <path class="circle" :d="shown.circle" />
    <path class="line" :d="shown.d" />
    <template v-if="ends">
      <DragHandle
        v-for="(p, i) in shown.ends"
        :key="i"
        :x="p.x"
        :y="p.y"
        shape="edge"
        label="Edge of the view: focal length"
        :testid="`${across === 'up' ? 'side' : 'plan'}-end-${i}`"
        :value="project.camera!.lens.focalMm"
        :spoken="endText"
        :reading="active === 'end' ? endText : ''"
        @start="begin('end', $event)"
        @drag="dragEnd($event, i as 0 | 1)"
        @nudge="(x, y) => nudgeEnd(x || y)"
        @done="done('Focal length')"
        @cancel="cancel"
      />
    </template>
    <DragHandle
      :x="shown.middle.x"
      :y="shown.middle.y"
      shape="edge"
      :label="`The picture’s window: ${name.toLowerCase()}`"
      :testid="`${across === 'up' ? 'side' : 'plan'}-window`"
      :value="project.camera!.lens[key]"
      :spoken="shiftText"
      :reading="active === 'middle' ? shiftText : ''"
      @start="begin('middle', $event)"
      @drag="dragMiddle"
      @nudge="(x, y) => nudge(across === 'up' ? y : x || y)"
      @done="done(name)"
      @cancel="cancel"
    />
  </g>
</template>

<style scoped>
.line {
  fill: none;
  stroke: var(--plum);
  stroke-width: 2.2;
  pointer-events: none;
}
.circle {
  fill: none;
  stroke: var(--quiet);
  stroke-width: 1.4;
  pointer-events: none;
}
</style>

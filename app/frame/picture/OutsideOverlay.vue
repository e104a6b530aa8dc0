<script setup lang="ts">
// What the camera is, seen from outside: its body, its cone to the outline of the frame, cuts and focus, and all viewpoints.
import { CHIP_LETTERS, placedLabels, shortened } from '../../controls/labels.ts'
import OverlayChip from '../../controls/OverlayChip.vue'
import { pathOf } from '../../controls/path.ts'
import { computed, shallowRef } from 'vue'
import {
  aimPointOf,
  axesOf,
  type Camera,
  frameCorners,
  frameOutline,
  imageCircleLimitMm,
  isPerspective,
  poseOfStand,
  projectPoint,
  projectSegment,
  toCamera,
} from '#core/camera'
import { windowOf } from '#core/framing'
import { addScaled, distance, type Vec3 } from '#core/math'
import type { Viewpoint } from '#model'
import { centreOf, centresIn } from '../../stores/centres.ts'
import { newStamp, useProject } from '../../stores/project.ts'
import { useView } from '../../stores/view.ts'
import { useFocus } from '../focus/focus.ts'
import { AHEAD_M } from '../outside/outside.ts'
import FramingThumb from '../thumbs/FramingThumb.vue'
import { shownBy } from '../thumbs/thumbs.ts'

const props = defineProps<{ from: Camera; width: number; height: number }>()
const project = useProject()
const view = useView()
const { at: focusAt, sharp, hasLens: focusHasLens } = useFocus()
const k = computed(() => props.width / props.from.frame.widthPx)
const hovered = shallowRef<Viewpoint | null>(null)

/** A path of straight pieces, each clipped where it lies behind the outside view. */
function path(lines: readonly (readonly Vec3[])[]): string {
  let d = ''
  for (const line of lines)
    for (let i = 0; i + 1 < line.length; i++) d += pathOf(projectSegment(props.from, line[i]!, line[i + 1]!), k.value)
  return d
}
const frameAt = (camera: Camera, depthM: number): Vec3[] | null =>
  frameOutline(camera, depthM)?.map((corner) => corner.at) ?? null
const closed = (points: readonly Vec3[]): Vec3[] => [...points, points[0]!]

/** A box with a lens before it, as large as the view's distance makes it legible. */
function bodyOf(camera: Camera, size: number): Vec3[][] {
  const { right, up, forward } = axesOf(camera.pose)
  const s = camera.pose.station
  const at = (x: number, y: number, z: number): Vec3 =>
    addScaled(addScaled(addScaled(s, right, x * size), up, y * size), forward, z * size)
  const face = (x: number, y: number, z: number): Vec3[] => [at(-x, y, z), at(x, y, z), at(x, -y, z), at(-x, -y, z)]
  const [front, rear] = [face(0.55, 0.4, -0.25), face(0.55, 0.4, -0.9)]
  const ring = (r: number, z: number): Vec3[] =>
    Array.from({ length: 13 }, (_, i) => at(r * Math.cos((i * Math.PI) / 6), r * Math.sin((i * Math.PI) / 6), z))
  const hood = [at(-0.2, 0.4, -0.5), at(-0.12, 0.6, -0.5), at(0.12, 0.6, -0.5), at(0.2, 0.4, -0.5)]
  return [closed(front), closed(rear), ...front.map((p, i) => [p, rear[i]!]), ring(0.3, -0.25), ring(0.3, 0.1), hood]
}

/** The image circle that shift lenses have, at a depth. */
function circleOf(camera: Camera, depth: number): Vec3[] {
  if (!isPerspective(camera)) return [camera.pose.station]
  const { forward, right, up } = axesOf(camera.pose)
  const r = ((imageCircleLimitMm(camera.lens) / 2) * depth) / camera.lens.focalMm
  const middle = addScaled(camera.pose.station, forward, depth)
  return Array.from({ length: 48 }, (_, i) => {
    const a = (i * Math.PI) / 24
    return addScaled(addScaled(middle, right, r * Math.cos(a)), up, r * Math.sin(a))
  })
}
const depthM = computed(() => {
  const w = project.working
  const c = project.camera
  if (!w || !c) return 1
  const aim = aimPointOf(w.stand.aim, centreOf)
  return aim ? Math.max(0.05, -toCamera(c.pose, aim)[2]) : AHEAD_M
})
const camera = computed(() => {
  const c = project.camera
  if (!c) return null
  const size = Math.max(0.01, distance(c.pose.station, props.from.pose.station) * 0.05)
  const corners = frameCorners(c, depthM.value)
  const outline = frameAt(c, depthM.value)
  const label = projectPoint(props.from, c.pose.station)
  const aim = project.working ? aimPointOf(project.working.stand.aim, centreOf) : null
  return {
    body: path(bodyOf(c, size)),
    outline: outline ? path([closed(outline)]) : '',
    circle: path([closed(circleOf(c, depthM.value))]),
    cone: corners ? path(corners.map((corner) => [corner.from, corner.at])) : '',
    sight: aim ? path([[c.pose.station, aim]]) : '',
    label: label ? { x: label.xPx * k.value, y: label.yPx * k.value } : null,
  }
})
/** Near and far cut and the focus distance, where they are on: rectangles across the cone. */
const planes = computed(() => {
  const w = project.working
  const c = project.camera
  if (!w || !c) return []
  const isOn = w.focus.on && focusHasLens.value && focusAt.value !== null
  const wanted = [
    { kind: 'cut', name: 'near cut', on: w.cut.near.on, at: w.cut.near.distanceM },
    { kind: 'cut', name: 'far cut', on: w.cut.far.on, at: w.cut.far.distanceM },
    { kind: 'focus', name: 'focus', on: isOn, at: focusAt.value?.distanceM ?? 0 },
    { kind: 'sharp', name: '', on: isOn && sharp.value !== null, at: sharp.value?.nearM ?? 0 },
    { kind: 'sharp', name: '', on: isOn && Number.isFinite(sharp.value?.farM), at: sharp.value?.farM ?? 0 },
  ]
  return wanted.flatMap((p) => {
    const corners = p.on ? frameAt(c, p.at) : null
    const label = corners ? projectPoint(props.from, corners[1]!) : null
    return corners ? [{ ...p, d: path([closed(corners)]), label }] : []
  })
})
const placed = computed(() => {
  const doc = project.document
  if (!doc || !view.allCones) return []
  return doc.viewpoints.flatMap((v) => {
    const setup = shownBy(doc, v)
    if (!setup || v.id === doc.recalledId) return []
    const c: Camera = { pose: poseOfStand(setup.stand, centresIn(setup)), lens: setup.lens, frame: setup.frame }
    const at = projectPoint(props.from, c.pose.station)
    if (!at) return []
    const away = Math.max(0.05, at.depthM)
    const end = frameAt(c, away * 0.07)
    const d = path([...bodyOf(c, away * 0.02), ...(end ? [closed(end), ...end.map((p) => [c.pose.station, p])] : [])])
    return [{ v, setup, d, x: at.xPx * k.value, y: at.yPx * k.value }]
  })
})
/** With names where they do not lie over each other; the one pointed at has its name in any case. */
const marks = computed(() => {
  const labels = placedLabels(
    placed.value.map(({ x, y, v }) => ({ x, y, text: v.name })),
    { letters: CHIP_LETTERS },
  )
  return placed.value.map((m, i) => {
    const own = hovered.value === m.v ? { x: m.x + 6, y: m.y - 6 } : null
    return { ...m, text: shortened(m.v.name, CHIP_LETTERS), label: labels[i] ?? own }
  })
})
/** What the frame would show from here: the part that *Stand here* takes. */
const here = computed(() => {
  const f = project.working?.frame
  if (!f) return null
  const w = windowOf(props.from.frame, f)
  return { x: w.xPx * k.value, y: w.yPx * k.value, width: w.widthPx * k.value, height: w.heightPx * k.value }
})
const thumb = computed(() => marks.value.find((m) => m.v === hovered.value) ?? null)
const recall = (v: Viewpoint): void => {
  hovered.value = null
  project.run({ type: 'recall', viewpointId: v.id, stamp: newStamp() })
}
</script>

<template>
  <svg :viewBox="`0 0 ${width} ${height}`" data-testid="outside-overlay">
    <g v-if="here" class="here">
      <path
        class="beyond"
        fill-rule="evenodd"
        :d="`M0 0H${width}V${height}H0ZM${here.x} ${here.y}v${here.height}h${here.width}v${-here.height}Z`"
      />
      <rect v-bind="here" data-testid="outside-window" />
    </g>
    <g v-if="camera" class="camera">
      <path class="under" :d="camera.outline + camera.body" />
      <path class="cone" :d="camera.cone" />
      <path class="sight" :d="camera.sight" />
      <path class="circle" :d="camera.circle" />
      <path class="outline" :d="camera.outline" data-testid="frame-outline" />
      <path class="body" :d="camera.body" data-testid="camera-body" />
      <OverlayChip v-if="camera.label" :x="camera.label.x + 12" :y="camera.label.y - 12" text="camera" />
    </g>
    <g v-for="(p, i) in planes" :key="i" :class="p.kind">
      <path :d="p.d" />
      <OverlayChip v-if="p.label && p.name" :x="p.label.xPx * k + 4" :y="p.label.yPx * k" :text="p.name" />
    </g>
    <g
      v-for="m in marks"
      :key="m.v.id"
      class="mark"
      role="button"
      tabindex="0"
      :aria-label="`Recall “${m.v.name}”`"
      @pointerdown.stop
      @click="recall(m.v)"
      @keydown.enter.stop.prevent="recall(m.v)"
      @pointerenter="hovered = m.v"
      @pointerleave="hovered = null"
    >
      <path :d="m.d" />
      <circle :cx="m.x" :cy="m.y" r="12" class="hit" />
      <OverlayChip v-if="m.label" :x="m.label.x" :y="m.label.y" :text="m.text" />
    </g>
    <foreignObject
      v-if="thumb"
      :x="Math.min(thumb.x + 14, width - 170)"
      :y="Math.min(thumb.y + 10, height - 116)"
      width="162"
      height="108"
      class="over"
    >
      <FramingThumb :setup="thumb.setup" />
    </foreignObject>
  </svg>
</template>

<style scoped>
svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
  overflow: hidden;
}
path {
  fill: none;
  stroke-linejoin: round;
}
.here .beyond {
  fill: #0003;
}
.here rect {
  fill: none;
  stroke: #fff;
  stroke-opacity: 0.9;
}
.under {
  stroke: #fff;
  opacity: 0.75;
  stroke-width: 4;
}
.body,
.circle {
  fill: none;
  stroke: #65645f;
  stroke-dasharray: 1 4;
}
.outline {
  stroke: #6b3f7a;
  stroke-width: 1.8;
}
.cone {
  stroke: #6b3f7a;
  stroke-width: 1;
}
.sight {
  stroke: #6b3f7a;
  stroke-dasharray: 3 3;
}
.cut path {
  stroke: #17636e;
  stroke-width: 1.5;
  stroke-dasharray: 12 3 2 3;
}
.focus path {
  stroke: #56722b;
  stroke-width: 1.5;
}
.sharp path {
  stroke: #56722b;
  stroke-width: 1;
  stroke-dasharray: 4 3;
}
.mark {
  pointer-events: auto;
  cursor: pointer;
  outline: none;
}
.mark path {
  pointer-events: none;
}
.mark path {
  stroke: #6b3f7a;
  stroke-width: 1;
  opacity: 0.75;
}
.mark:hover path,
.mark:focus-visible path {
  stroke-width: 2;
  opacity: 1;
}
.hit {
  fill: transparent;
}
.over {
  border: 1px solid #fff;
}
</style>

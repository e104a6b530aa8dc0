<script setup lang="ts">
// Section lines in Plan and Side: chain lines with arrows and letters, the removed side thinly hatched, a handle on each plane.
import { computed, useId } from 'vue'
import { addScaled, dot, type Vec3 } from '#core/math'
import { cutMarks, type Cut, type CutMark } from '#core/section'
import { useStage } from '../../stores/stage.ts'
import { useCuts } from '../cuts/cuts.ts'
import { useCutLine } from '../cuts/cut-line.ts'
import { keyOf, placeOf, useCutDrag, type Grip } from '../cuts/cut-drag.ts'
import DragHandle from '../../drawings/DragHandle.vue'

const props = defineProps<{
  /** The way the drawing looks. */
  sight: Vec3
  toPx: (p: Vec3) => { x: number; y: number }
  toWorld: (e: { clientX: number; clientY: number }) => Vec3
  metresPerPx: number
  width: number
  height: number
}>()
const stage = useStage()
/** Plan and Side have one each. */
const hatchId = useId()
const { list, part, chosenId } = useCuts()
const { dragging, begin, drag, nudge, done, cancel, reading } = useCutDrag()
const line = useCutLine()
const ARROW_PX = 15
const HATCH_PX = 16

interface Mark extends CutMark {
  readonly cut: Cut
  readonly a: { x: number; y: number }
  readonly b: { x: number; y: number }
  readonly at: { x: number; y: number }
  /** Towards what goes, page pixels of unit length. */
  readonly way: { x: number; y: number }
}
/** Arrows and letters stand within the drawing: a line that reaches past it ends this far from its edge. */
const EDGE_PX = 18
interface At {
  readonly x: number
  readonly y: number
}
function seen(a: At, b: At): readonly [At, At] {
  let [from, to] = [0, 1]
  for (const [d, near, far] of [
    [b.x - a.x, EDGE_PX - a.x, props.width - EDGE_PX - a.x],
    [b.y - a.y, EDGE_PX - a.y, props.height - EDGE_PX - a.y],
  ] as const) {
    if (Math.abs(d) < 1e-9) continue
    from = Math.max(from, Math.min(near / d, far / d))
    to = Math.min(to, Math.max(near / d, far / d))
  }
  // one that lies wholly outside stays there
  if (from >= to) return [a, b]
  const at = (t: number): At => ({ x: a.x + t * (b.x - a.x), y: a.y + t * (b.y - a.y) })
  return [at(from), at(to)]
}
/** The section line that is being drawn. */
const drawn = computed(() =>
  line.points.value.map(([x, y], i) => {
    const p = props.toPx([x, y, 0])
    return `${i === 0 ? `M${p.x - 3} ${p.y}h6M${p.x} ${p.y - 3}v6M` : 'L'}${p.x} ${p.y}`
  }).join(''),
) // prettier-ignore
const marks = computed<readonly Mark[]>(() => {
  const box = stage.facts?.box
  if (!box || part.value?.allOff) return []
  return list.value
    .filter((c) => c.on)
    .flatMap((cut) =>
      cutMarks(cut, props.sight, box).map((m) => {
        const start = props.toPx(m.from)
        const [a, b] = seen(start, props.toPx(m.to))
        const past = props.toPx(addScaled(m.from, m.removed, 1))
        const l = Math.hypot(past.x - start.x, past.y - start.y) || 1
        return {
          ...{ ...m, cut, a, b },
          at: { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 },
          way: { x: (past.x - start.x) / l, y: (past.y - start.y) / l },
        }
      }),
    )
})
/** Arrows point the way one looks: away from what goes. */
const arrow = (p: { x: number; y: number }, { way: w }: Mark): string => {
  const [tx, ty] = [p.x - w.x * ARROW_PX, p.y - w.y * ARROW_PX]
  const [sx, sy] = [-w.y * 3.6, w.x * 3.6]
  return `M${p.x} ${p.y}L${tx} ${ty}M${tx} ${ty}l${w.x * 6 + sx} ${w.y * 6 + sy}M${tx} ${ty}l${w.x * 6 - sx} ${w.y * 6 - sy}`
}
const hatch = ({ a, b, way: w }: Mark): string =>
  `M${a.x} ${a.y}L${b.x} ${b.y}l${w.x * HATCH_PX} ${w.y * HATCH_PX}L${a.x + w.x * HATCH_PX} ${a.y + w.y * HATCH_PX}Z`
/** A section line has a letter; of longer names the first. */
const letterOf = (name: string): string => (name.length > 2 ? name.slice(0, 1).toUpperCase() : name)
const letterAt = (p: { x: number; y: number }, { way: w }: Mark) => ({ x: p.x + w.x * 9, y: p.y + w.y * 9 + 4 })

const grip = (m: Mark): Grip => ({ cut: m.cut, plane: m.plane, normal: m.removed, at: m.from })
let from: number | null = null
function take(m: Mark): void {
  from = null
  begin(grip(m))
}
function pull(m: Mark, e: PointerEvent): void {
  const at = dot(m.removed, props.toWorld(e))
  from ??= at
  drag(at - from, e, props.metresPerPx)
}
const step = (m: Mark, dx: number, dy: number): void =>
  nudge(grip(m), Math.abs(m.way.x) > Math.abs(m.way.y) ? dx * Math.sign(m.way.x) : -dy * Math.sign(m.way.y))
</script>

<template>
  <g class="cut-marks" data-testid="cut-marks">
    <defs>
      <pattern :id="hatchId" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <path d="M0 0V5" class="thin" />
      </pattern>
    </defs>
    <path v-if="drawn" class="chain" :d="drawn" data-testid="cut-line" />
    <g v-for="m in marks" :key="keyOf(grip(m))" :class="{ chosen: m.cut.id === chosenId }" :data-cut="m.cut.name">
      <path class="gone" :fill="`url(#${hatchId})`" :d="hatch(m)" />
      <path class="chain" :d="`M${m.a.x} ${m.a.y}L${m.b.x} ${m.b.y}`" />
      <path class="end" :d="arrow(m.a, m) + arrow(m.b, m)" />
      <text v-for="(p, i) in [m.a, m.b]" :key="i" :x="letterAt(p, m).x" :y="letterAt(p, m).y" text-anchor="middle">{{
        letterOf(m.cut.name)
      }}</text>
      <DragHandle
        :x="m.at.x"
        :y="m.at.y"
        shape="edge"
        class="grip"
        :label="`Cut ${m.cut.name}${m.cut.locked ? ', locked' : ''}`"
        :testid="`cut-${m.cut.name}-${m.plane}`"
        :value="placeOf(grip(m))"
        :spoken="reading(grip(m))"
        :reading="dragging === keyOf(grip(m)) ? reading(grip(m)) : ''"
        @start="take(m)"
        @drag="pull(m, $event)"
        @nudge="(x, y) => step(m, x, y)"
        @done="done"
        @cancel="cancel"
      />
    </g>
  </g>
</template>

<style scoped>
.gone {
  stroke: none;
  opacity: 0.7;
  pointer-events: none;
}
.thin {
  stroke: var(--petrol);
  stroke-width: 0.8;
}
.chain {
  stroke: var(--petrol);
  stroke-width: 1.3;
  stroke-dasharray: 12 3 2 3;
  fill: none;
  pointer-events: none;
}
.end {
  stroke: var(--petrol);
  stroke-width: 2;
  fill: none;
  pointer-events: none;
}
.chosen .chain {
  stroke-width: 2;
}
text {
  font: 600 11px var(--font);
  fill: var(--petrol);
  pointer-events: none;
}
.grip :deep(.ink) {
  fill: var(--petrol);
  stroke: var(--panel);
}
.grip :deep(.chip text) {
  fill: var(--petrol);
}
</style>

<script setup lang="ts">
// The one selected object, or model, in Plan: its outline with a handle that moves it over the floor, seen in the picture too; one edit at the end.
import { computed, ref, shallowRef } from 'vue'
import type { Box, Vec3 } from '#core/math'
import type { Command } from '#model'
import { useSelection } from '../selection/selection.ts'
import { useProject } from '../../stores/project.ts'
import { signed } from '../../text/short.ts'
import DragHandle from '../../drawings/DragHandle.vue'

const props = defineProps<{
  toPx: (p: Vec3) => { x: number; y: number }
  toWorld: (e: { clientX: number; clientY: number }) => Vec3
}>()
const project = useProject()
const { nodes } = useSelection()
const by = ref<readonly [number, number] | null>(null)
const start = shallowRef<Box | null>(null)
let from: Vec3 | null = null

const one = computed(() => (nodes.value.length === 1 ? nodes.value[0]! : null))
const model = computed(() => {
  const key = one.value?.id.split('/', 1)[0]
  return project.document?.models.find((m) => m.key === key) ?? null
})
/** Its outline where it is dragged to: the facts of what moves come a moment later. */
const shape = computed(() => {
  const box = start.value ?? one.value?.box
  if (!box) return null
  const [dx, dy] = by.value ?? [0, 0]
  const a = props.toPx([box.min[0] + dx, box.max[1] + dy, box.max[2]])
  const b = props.toPx([box.max[0] + dx, box.min[1] + dy, box.max[2]])
  return { x: a.x, y: a.y, w: Math.max(1, b.x - a.x), h: Math.max(1, b.y - a.y) }
})
/** Where it lies, as long as nothing drags it. */
const sizeWords = computed(() => {
  const b = one.value?.box
  return b ? `from ${b.min[0].toFixed(2)} m east, ${b.min[1].toFixed(2)} m north` : ''
})
function begin(): void {
  by.value = from = null
  start.value = one.value?.box ?? null
}
function drag(e: PointerEvent): void {
  const p = props.toWorld(e)
  from ??= p
  const [dx, dy] = [p[0] - from[0], p[1] - from[1]]
  // Shift holds the drag to one axis
  by.value = e.shiftKey ? (Math.abs(dx) > Math.abs(dy) ? [dx, 0] : [0, dy]) : [dx, dy]
  const command = movedBy(by.value)
  if (command) project.showEdit(command)
}
function movedBy([dx, dy]: readonly [number, number]): Command | null {
  const n = one.value
  const m = model.value
  if (!n || !m || (dx === 0 && dy === 0)) return null
  const add = ([x, y, z]: Vec3): [number, number, number] => [x + dx, y + dy, z]
  if (n.parentId === null)
    return { type: 'placeModel', modelId: m.id, changes: { place: { ...m.place, position: add(m.place.position) } } }
  const now = m.moved.find((o) => o.path === n.id) ?? { path: n.id, moveM: [0, 0, 0] as Vec3, turnDeg: 0 }
  return { type: 'moveObject', modelId: m.id, move: { ...now, moveM: add(now.moveM) } }
}
function nudge(way: readonly [number, number]): void {
  const command = movedBy(way)
  if (command) project.run(command)
}
function over(): void {
  by.value = from = start.value = null
}
function done(): void {
  over()
  project.settleEdit()
}
function cancel(): void {
  over()
  project.letGo()
}
const reading = computed(() => (by.value ? `${signed(by.value[0], 2)}, ${signed(by.value[1], 2)} m` : ''))
</script>

<template>
  <g v-if="shape && one && model" data-testid="placing">
    <rect :x="shape.x" :y="shape.y" :width="shape.w" :height="shape.h" />
    <DragHandle
      :x="shape.x + shape.w / 2"
      :y="shape.y + shape.h / 2"
      shape="edge"
      :label="`Move “${one.name}”`"
      testid="plan-object"
      :value="one.box.min[0]"
      :spoken="reading || sizeWords"
      :reading="reading"
      @start="begin"
      @drag="drag"
      @nudge="(x, y) => nudge([x, y])"
      @done="done"
      @cancel="cancel"
    />
  </g>
</template>

<style scoped>
rect {
  fill: none;
  stroke: var(--plum);
  stroke-width: 1.4;
  stroke-dasharray: 4 3;
  pointer-events: none;
}
</style>

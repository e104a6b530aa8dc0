<script setup lang="ts">
// The picture as a window in Plan and Side, between the camera and its aim: its middle is dragged for rise or cross, its ends for the focal
// length (or the width of view); beside it the image circle that shift lenses have.
import { computed } from 'vue'
import { usedSensor, widthOfView } from '#core/camera'
import { useProject } from '../../stores/project.ts'
import { signed } from '../../text/short.ts'
import DragHandle from '../../drawings/DragHandle.vue'
import { useShownWindow, type WindowDrawing } from './picture-window.ts'
import { SHIFT, useWindowDrag } from './window-drag.ts'

/** The ends are dragged here too; in Plan the cone's own edges are. */
const props = defineProps<WindowDrawing & { ends?: boolean }>()
const project = useProject()
const { shown, heldDepthM } = useShownWindow(props)
const { active, begin, dragMiddle, dragEnd, nudge, nudgeEnd, done, cancel } = useWindowDrag(props, shown, heldDepthM)
// a drawing lies one way for as long as it is there
const [key, name] = SHIFT[props.across]

const shiftText = computed(() => {
  const c = project.camera!
  const used = usedSensor(c.lens, c.frame)
  const mm = c.lens[key]
  const part = (100 * mm) / (props.across === 'right' ? used.widthMm : used.heightMm)
  return `${name.toLowerCase()} ${signed(mm, 2)} mm, ${signed(part, 1)} %`
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
    <path class="line" :d="shown.line" />
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

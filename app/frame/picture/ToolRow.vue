<script setup lang="ts">
// What a plain drag on the picture does now, for mouse, pen, touch and trackpad.
import { useOutside } from '../outside/outside.ts'
import { usePicking } from '../straighten/picking.ts'
import { useView, type Tool } from '../../stores/view.ts'

const view = useView()
const outside = useOutside()
const { begin } = usePicking()
const PICKS = [
  {
    what: 'square',
    label: 'Square up',
    title: 'Click a wall to square up to it, the framing kept (U: the one under the pointer)',
  },
  { what: 'measure', label: 'Measure', title: 'Distance and height between two points (M)' },
] as const
const TOOLS: readonly { tool: Tool; label: string; title: string }[] = [
  { tool: 'turn', label: 'Turn in place', title: 'Drag turns the direction of view, the station stays (Shift: orbit)' },
  { tool: 'orbit', label: 'Orbit', title: 'Drag goes round what is under the pointer (Shift: turn in place)' },
  { tool: 'slide', label: 'Slide', title: 'Drag moves the station sideways and up; also with the right button' },
  { tool: 'dolly', label: 'To and fro', title: 'Drag moves towards and away; also with the wheel' },
  {
    tool: 'pick',
    label: 'Pick',
    title: 'Drag draws a band round objects; also with Ctrl in any tool. A click always selects',
  },
  { tool: 'stand', label: 'Stand there', title: 'Click a floor, or drag in Plan from the station to the aim (G)' },
]
</script>

<template>
  <div class="tools" role="radiogroup" aria-label="What a drag does">
    <button
      v-for="t in TOOLS"
      :key="t.tool"
      class="tool"
      role="radio"
      :aria-checked="view.tool === t.tool"
      :class="{ on: view.tool === t.tool }"
      :title="t.title"
      @click="view.tool = t.tool"
    >
      {{ t.label }}
    </button>
    <button
      v-for="p in PICKS"
      :key="p.what"
      class="tool"
      :class="{ on: view.picking === p.what, apart: p.what === 'square' }"
      :aria-pressed="view.picking === p.what"
      :title="p.title"
      :disabled="outside.on"
      @click="begin(p.what)"
    >
      {{ p.label }}
    </button>
    <button
      class="tool apart"
      :class="{ on: outside.on }"
      :aria-pressed="outside.on"
      title="See the camera, its cone and its frame from elsewhere; nothing changes (O)"
      @click="outside.on ? outside.back() : outside.step()"
    >
      See from outside
    </button>
  </div>
</template>

<style scoped>
.tools {
  display: flex;
  gap: 4px;
  z-index: 2;
}
.tool {
  appearance: none;
  border: 1px solid #0002;
  border-radius: 4px;
  background: #ffffffd9;
  color: #22252b;
  padding: 3px 9px;
  white-space: nowrap;
  font-size: 11.5px;
  cursor: pointer;
}
.apart {
  margin-left: 10px;
}
.tool.on {
  background: #6b3f7a;
  border-color: #6b3f7a;
  color: #fff;
}
/* the mount may be narrow in a wide window: panes can be dragged wider */
@container (max-width: 700px) {
  .tools {
    gap: 3px;
  }
  .tool {
    padding: 3px 5px;
    font-size: 11px;
    font-stretch: 78%;
  }
  .apart {
    margin-left: 5px;
  }
}
@container (max-width: 490px) {
  .tools {
    right: 8px;
    flex-wrap: wrap;
  }
}
</style>

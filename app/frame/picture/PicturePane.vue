<script setup lang="ts">
// The camera's picture, small, while something else stands large; a click brings it back to the middle.
import { computed } from 'vue'
import { useOutside } from '../outside/outside.ts'
import { useProject } from '../../stores/project.ts'
import { useView } from '../../stores/view.ts'
import StagePicture from './StagePicture.vue'

const props = defineProps<{ busy: boolean; area: { width: number; height: number } }>()
const project = useProject()
const view = useView()
const outside = useOutside()
const SHARE = 0.3

const size = computed(() => {
  const f = project.working?.frame
  if (!f) return { width: 0, height: 0 }
  const k = Math.min((props.area.width * SHARE) / f.widthPx, (props.area.height * SHARE) / f.heightPx)
  return { width: Math.round(f.widthPx * k), height: Math.round(f.heightPx * k) }
})
function back(): void {
  view.main = 'picture'
  outside.back()
}
</script>

<template>
  <button
    class="plain pane"
    :style="{ width: `${size.width}px`, height: `${size.height}px` }"
    title="The camera’s picture: back to the middle"
    data-testid="picture-pane"
    @click="back"
  >
    <StagePicture :camera="project.camera" :width="size.width" :height="size.height" :busy="busy" place="picture" />
    <span class="visually-hidden">Back to the picture</span>
  </button>
</template>

<style scoped>
.pane {
  position: absolute;
  right: 24px;
  top: 54px;
  border: 2px solid #fff;
  box-shadow: 0 2px 10px #0006;
  background: #9a9a9a;
}
.pane:hover {
  border-color: var(--plum);
}
</style>

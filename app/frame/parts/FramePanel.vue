<script setup lang="ts">
// Shape, size and density of the picture, other shapes of it, its guides, and the finished PNG.
import ProgressBar from 'primevue/progressbar'
import { computed } from 'vue'
import FrameCrops from '../format/FrameCrops.vue'
import FrameGuides from '../format/FrameGuides.vue'
import FrameShape from '../format/FrameShape.vue'
import FrameSize from '../format/FrameSize.vue'
import { savePicture } from '../still/save.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import PanelHead from './PanelHead.vue'

const project = useProject()
const stage = useStage()
const frame = computed(() => project.working!.frame)
</script>

<template>
  <section aria-label="Frame">
    <PanelHead cell="frame" title="Frame" />
    <FrameShape />
    <hr />
    <FrameSize />
    <div class="finish">
      <button
        v-if="stage.still === null"
        class="btn main"
        :disabled="!stage.ready"
        title="Render at the frame’s size and download (Ctrl+S)"
        @click="savePicture()"
      >
        Save finished PNG
      </button>
      <template v-else>
        <ProgressBar :value="Math.round(stage.still * 100)" style="height: 14px" aria-label="Finished picture" />
        <button class="btn" @click="stage.cancelStill()">Cancel</button>
      </template>
      <p class="quiet">
        {{ frame.widthPx }} × {{ frame.heightPx }} px at {{ frame.densityPpi }} ppi, rendered by the same camera as the
        picture.
      </p>
    </div>
    <hr />
    <FrameCrops />
    <hr />
    <FrameGuides />
  </section>
</template>

<style scoped src="./panel.css"></style>
<style scoped>
.finish {
  display: grid;
  gap: 8px;
  padding: 6px 14px;
  font-size: 12px;
}
</style>

<script setup lang="ts">
// A picture that is being finished: how far, how long still, and a way to end it; in the header, wherever one is.
import ProgressBar from 'primevue/progressbar'
import { computed } from 'vue'
import { useStage } from '../stores/stage.ts'

const stage = useStage()
const share = computed(() => Math.round((stage.still ?? 0) * 100))
/** Where it stands: it may wait for what belongs to it first. */
const WAITS = { light: 'Waiting for the light', faces: 'Waiting for the cut faces' } as const
const left = computed(() => {
  const s = stage.stillLeftS
  if (s === null) return ''
  return s < 60 ? `${Math.max(1, Math.round(s))} s left` : `${Math.round(s / 60)} min left`
})
</script>

<template>
  <div v-if="stage.still !== null" class="still" role="status" aria-label="Finished picture" data-testid="still">
    <span>{{ stage.stillWaits ? WAITS[stage.stillWaits] : 'Finishing the picture' }}</span>
    <ProgressBar :value="share" :show-value="false" class="bar" aria-label="Share of the picture that is finished" />
    <span class="num">{{ share }} %</span>
    <span v-if="left" class="quiet left">{{ left }}</span>
    <button class="btn" title="Ends it; nothing is saved" @click="stage.cancelStill()">Cancel</button>
  </div>
</template>

<style scoped>
.still {
  display: flex;
  align-items: center;
  gap: 8px;
  font-size: 12px;
  white-space: nowrap;
  min-width: 0;
}
.bar {
  width: 72px;
  height: 6px;
}
.num {
  min-width: 36px;
  text-align: right;
}
@media (max-width: 1200px) {
  .still > span:first-child {
    display: none;
  }
}
@media (max-width: 1000px) {
  .bar {
    display: none;
  }
}
</style>

<script setup lang="ts">
// How far the lines and points of the photograph behind lie off under this camera, while it is moved too. Its code comes with it.
import { computed } from 'vue'
import { rmsUnder } from '#core/match'
import { type Photo } from '#model'
import { askedOf, estimateOfCamera } from '#model/photo'
import { useProject } from '../../stores/project.ts'

const props = defineProps<{ photo: Photo }>()
const project = useProject()
const text = computed(() => {
  const e = project.camera ? estimateOfCamera(props.photo, project.camera) : null
  if (!e) return ''
  const rms = rmsUnder(askedOf(props.photo), e)
  return `photograph: rms ${rms < 1e4 ? rms.toFixed(1) : 'over 10 000'} px`
})
</script>

<template>
  <span
    v-if="text"
    class="num"
    title="How far the lines and points of the photograph behind lie off under this camera"
    data-testid="photo-miss"
    >{{ text }}</span
  >
</template>

<script setup lang="ts">
// The storey that plans show.
import { LateSelect as Select } from '../controls/late-select.ts'
import { useStage } from '../stores/stage.ts'
import { useView } from '../stores/view.ts'
import { useStorey } from './storeys.ts'

const stage = useStage()
const view = useView()
const { index } = useStorey()
</script>

<template>
  <Select
    :model-value="index"
    :options="stage.storeys.map((s, i) => ({ i, name: s.name }))"
    option-label="name"
    option-value="i"
    size="small"
    class="head-select"
    aria-label="Storey"
    @update:model-value="view.storey = $event"
  />
</template>

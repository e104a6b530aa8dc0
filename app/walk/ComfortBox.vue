<script setup lang="ts">
// What would make a viewer uncomfortable, with its number and its limit; a click goes there. Rates over time on demand.
import { defineAsyncComponent, ref } from 'vue'
import { useFilm } from './film.ts'

const MotionChart = defineAsyncComponent(() => import('./MotionChart.vue'))
const { findings, reel, go, stop } = useFilm()
const charts = ref(false)
function show(fromS: number): void {
  stop()
  go(fromS)
}
</script>

<template>
  <section v-if="reel.durationS > 0" aria-label="Comfort">
    <h2>Comfort</h2>
    <p v-if="findings.length === 0" class="text" role="status" data-testid="comfort">✓ nothing found</p>
    <ul v-else data-testid="comfort">
      <li v-for="(f, i) in findings" :key="i" class="text">
        <span class="warn">{{ f.text }}</span>
        <button class="plain there num" @click="show(f.fromS)">
          {{ f.fromS.toFixed(1) }} to {{ f.toS.toFixed(1) }} s
        </button>
      </li>
    </ul>
    <div class="buttons">
      <button class="btn" :aria-expanded="charts" @click="charts = !charts">
        {{ charts ? 'Close the chart' : 'Chart of rates' }}
      </button>
    </div>
    <MotionChart v-if="charts" />
  </section>
</template>

<style scoped src="./walk.css"></style>
<style scoped>
.there {
  text-decoration: underline;
  text-underline-offset: 2px;
  margin-left: 6px;
}
</style>

<script setup lang="ts">
// Where the shot at hand looks by itself: places that the aim goes through over its time, or a thing that is kept in view.
import { computed } from 'vue'
import { useAiming } from './aiming.ts'
import { useFilm } from './film.ts'
import { useWalking, type WalkTool } from './walking.ts'
import TimeField from './TimeField.vue'

const { shot, moment, go, stop } = useFilm()
const { aim, watchId, set, remove, watchThing } = useAiming()
const { tool } = useWalking()
const use = (t: WalkTool): void => void (tool.value = tool.value === t ? null : t)
const thing = computed(() => watchId.value?.split('/').at(-1) ?? '')
function show(at: number): void {
  const p = moment.value.placed
  if (!p) return
  stop()
  go(Math.min(p.endS, Math.max(p.startS, p.startS + at * moment.value.lastsS - p.fromS)))
}
</script>

<template>
  <details v-if="shot" data-testid="aim">
    <summary>Where it looks, over time</summary>
    <div class="buttons">
      <button
        class="btn"
        :class="{ on: tool === 'aim' }"
        :aria-pressed="tool === 'aim'"
        title="From this moment to the next place the aim goes along a line of its own"
        @click="use('aim')"
      >
        Aim at a place now
      </button>
      <button class="btn" :class="{ on: tool === 'watch' }" :aria-pressed="tool === 'watch'" @click="use('watch')">
        Keep a thing in view
      </button>
    </div>
    <p v-if="tool === 'aim'" class="text" role="status">Click a place in the picture or in Plan.</p>
    <p v-else-if="tool === 'watch'" class="text" role="status">Click a thing in the picture.</p>
    <p v-if="thing" class="text">
      Keeps {{ thing }} in view{{ aim.length > 0 ? ', where no place is given below' : '' }}.
      <button class="plain link" @click="watchThing(null)">let go</button>
    </p>
    <p v-if="aim.length === 0 && !thing" class="text quiet">As the shot has it.</p>
    <div v-for="(k, i) in aim" :key="i" :data-testid="`aim-${i}`">
      <TimeField
        :label="`Place ${i + 1} at`"
        :step="0.1"
        :min="0"
        :max="moment.lastsS"
        :model-value="k.at * moment.lastsS"
        @change="set(i, { at: $event / moment.lastsS })"
      />
      <p class="text">
        {{ k.point.map((v) => v.toFixed(2)).join(', ') }} m
        <button class="plain link" @click="show(k.at)">go there</button>{{ ' ' }}
        <button class="plain link" :aria-label="`Take place ${i + 1} out`" @click="remove(i)">take out</button>
      </p>
    </div>
  </details>
</template>

<style scoped src="../controls/boxes.css"></style>

<script setup lang="ts">
// What was found: every unknown with its plus and minus, how each is treated, how well all agrees, and what to add where it cannot be told.
import { computed, ref } from 'vue'
import { useMatch } from './match.ts'
import UnknownItem from './UnknownItem.vue'
import { kindOf, unknownRows, type UnknownRow } from './unknowns.ts'

const { photo, answer, match, solved, weakest, tookMs, change, turnRound } = useMatch()
const rows = computed(() =>
  unknownRows(Math.max(photo.value!.widthPx, photo.value!.heightPx), solved.value?.tellsStation ?? false),
)
const weakText = computed(() => {
  const w = weakest.value
  const s = solved.value
  if (!w || !s) return ''
  return `${w.kind === 'line' ? 'Line' : 'Point'} ${w.index + 1} disagrees: without it rms ${s.rmsPx.toFixed(2)} to ${w.rmsPx.toFixed(2)} px.`
})
const wrongText = computed(() => {
  const wrong = solved.value?.wrong ?? []
  return wrong.length > 0 ? `Set aside as wrong: point ${wrong.map((i) => i + 1).join(', ')}.` : ''
})
const isEmpty = computed(() => !match.value || match.value.lines.length + match.value.pairs.length === 0)
const showsRare = ref(false)
const isHeld = (r: UnknownRow): boolean => r.fields.every((f) => kindOf(match.value!, f.unknown) === 'fixed')
const isRobust = computed(() => match.value?.robust === true)
const isEitherWay = computed(() => match.value!.pairs.length < 2 && match.value!.scale?.kind !== 'length')
</script>

<template>
  <section aria-label="What was found" data-testid="answer">
    <h2>Camera of the photograph</h2>
    <p v-if="photo?.told" class="text quiet">{{ photo.told }}</p>
    <p v-if="isEmpty" class="text quiet">
      Nothing is drawn yet: two lines along edges of the building in each of two directions make a beginning.
    </p>
    <p v-else-if="answer && !answer.ok" class="text warn" role="status" data-testid="refusal">{{ answer.message }}</p>
    <p v-else-if="solved" class="text" role="status" data-testid="rms">
      rms <b class="num">{{ solved.rmsPx.toFixed(2) }} px</b>, {{ solved.freedom }} left over
      <span class="quiet num">{{ tookMs.toFixed(0) }} ms</span>
    </p>
    <p v-if="solved && !solved.tellsNoise" class="text quiet">
      Too few lines to tell the noise: plus and minus are of half a pixel.
    </p>
    <p v-if="weakText" class="text warn" data-testid="weakest">{{ weakText }}</p>
    <p v-if="wrongText" class="text warn">{{ wrongText }}</p>
    <template v-for="r in rows" :key="r.name">
      <UnknownItem v-if="!r.isRare || showsRare || !isHeld(r)" :row="r" />
      <button v-if="r.name === 'Distortion'" class="more" :aria-expanded="showsRare" @click="showsRare = !showsRare">
        {{ showsRare ? 'Fewer of the lens' : 'More of the lens: k2, k3, p1, p2' }}
      </button>
    </template>
    <label v-if="match && match.pairs.length > 5" class="tick"
      ><input type="checkbox" :checked="isRobust" @change="change({ robust: isRobust ? undefined : true })" />Set wrong
      points aside</label
    >
    <div v-if="solved && isEitherWay" class="buttons">
      <button class="btn" title="Lines look the same from behind: takes the other way" @click="turnRound">
        Other way round
      </button>
    </div>
  </section>
</template>

<style scoped src="../controls/boxes.css"></style>
<style scoped>
.more {
  appearance: none;
  border: 0;
  background: none;
  padding: 1px 14px 3px 96px;
  font: inherit;
  font-size: 11px;
  color: var(--quiet);
  text-decoration: underline;
  text-underline-offset: 2px;
  cursor: pointer;
}
.more:focus-visible {
  outline: 2px solid var(--plum);
  outline-offset: -2px;
}
</style>

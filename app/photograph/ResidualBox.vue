<script setup lang="ts">
// What every line and point misses by, the largest first: chosen by a click, taken out by a button; as a chart on demand.
import { computed, defineAsyncComponent, ref } from 'vue'
import { bundleLook } from './bundle-looks.ts'
import { useDrawing } from './drawing.ts'
import { useMatch } from './match.ts'
import { useMeasures } from './measures.ts'
import { usePhotoTools, type Chosen } from './tools.ts'

const ResidualChart = defineAsyncComponent(() => import('./ResidualChart.vue'))
const { match, solved, weakest } = useMatch()
const { chosen, arrows, tool } = usePhotoTools()
const { remove } = useDrawing()
const { texts } = useMeasures()
const chart = ref(false)

interface Row extends Chosen {
  readonly name: string
  readonly px: number | null
  readonly note: string
}
const rows = computed<Row[]>(() => {
  const m = match.value
  if (!m) return []
  const s = solved.value
  const letter = new Map(m.bundles.map((b, i) => [b.id, bundleLook(i).letter]))
  const isWeak = (kind: string, i: number): boolean => weakest.value?.kind === kind && weakest.value.index === i
  const lines = m.lines.map((l, i) => ({
    ...{ kind: 'line' as const, id: l.id, name: `Line ${letter.get(l.bundleId)}${i + 1}` },
    px: s?.lineMissesPx[i] ?? null,
    note: isWeak('line', i) ? 'disagrees' : '',
  }))
  const pairs = m.pairs.map((p, i) => {
    const miss = s?.pairMissesPx[i]
    const px = miss && Number.isFinite(miss[0]) ? Math.hypot(...miss) : null
    return { kind: 'pair' as const, id: p.id, name: `Point ${i + 1}`, px, note: s?.wrong.includes(i) ? 'set aside' : isWeak('pair', i) ? 'disagrees' : '' } // prettier-ignore
  })
  return [...lines, ...pairs].sort((a, b) => (b.px ?? 0) - (a.px ?? 0))
})
const others = computed(() => [
  ...(match.value?.measures ?? []).map((m, i) => ({ kind: 'measure' as const, id: m.id, name: `Measure ${i + 1}`, text: texts.value.get(m.id) ?? '' })),
  ...(match.value?.masks ?? []).map((m, i) => ({ kind: 'mask' as const, id: m.id, name: `Mask ${i + 1}`, text: `${m.points.length} corners` })),
]) // prettier-ignore
const choose = (c: Chosen): void => void (chosen.value = { kind: c.kind, id: c.id })
</script>

<template>
  <section aria-label="How well it agrees">
    <h2>Agreement</h2>
    <p v-if="rows.length === 0" class="text quiet">Draw along edges of the building: two or more in two directions.</p>
    <ul class="rows" data-testid="residuals">
      <li v-for="r in rows" :key="r.id" :class="{ on: chosen?.id === r.id }">
        <button class="plain" @click="choose(r)">
          <span>{{ r.name }}</span>
          <span class="warn">{{ r.note }}</span>
          <span class="num">{{ r.px === null ? '' : `${r.px.toFixed(2)} px` }}</span>
        </button>
        <button class="plain out" :aria-label="`Take out ${r.name}`" title="Take out (Delete)" @click="remove(r)">
          ×
        </button>
      </li>
      <li v-for="o in others" :key="o.id" :class="{ on: chosen?.id === o.id }">
        <button class="plain" @click="choose(o)">
          <span>{{ o.name }}</span>
          <span />
          <span class="num">{{ o.text }}</span>
        </button>
        <button class="plain out" :aria-label="`Take out ${o.name}`" title="Take out (Delete)" @click="remove(o)">
          ×
        </button>
      </li>
    </ul>
    <label class="tick"><input v-model="arrows" type="checkbox" />Arrows at the points</label>
    <div class="buttons">
      <button class="btn" :disabled="!solved" :aria-expanded="chart" @click="chart = !chart">
        {{ chart ? 'Close the chart' : 'Chart of the misses' }}
      </button>
      <button class="btn" :class="{ on: tool === 'measure' }" @click="tool = 'measure'">Measure a length</button>
    </div>
    <ResidualChart v-if="chart && solved" />
  </section>
</template>

<style scoped src="../controls/boxes.css"></style>
<style scoped>
.rows {
  max-height: 190px;
  overflow-y: auto;
}
li {
  display: grid;
  grid-template-columns: 1fr 24px;
}
li.on {
  background: var(--plum-soft);
}
li > .plain:first-child {
  display: grid;
  grid-template-columns: auto 1fr auto;
  gap: 8px;
  padding: 2px 0 2px 14px;
  text-align: left;
  font-size: 12px;
}
.out {
  color: var(--quiet);
  text-align: center;
}
</style>

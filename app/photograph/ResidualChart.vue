<script setup lang="ts">
// The misses of points as a scatter, right and down, and of lines by their size: a cloud about nought is noise, a drift is a model that
// does not fit.
import { loadPlotly, type Plotly } from '../controls/plotly.ts'
import { onBeforeUnmount, ref, watch } from 'vue'
import { useMatch } from './match.ts'
import { useView } from '../stores/view.ts'

const { solved, match } = useMatch()
const view = useView()
const box = ref<HTMLElement | null>(null)
const failed = ref('')
let plotly: Plotly | null = null
const colour = (name: string): string => getComputedStyle(document.documentElement).getPropertyValue(name).trim()
async function draw(): Promise<void> {
  const s = solved.value
  const m = match.value
  if (!s || !m || !box.value) return
  try {
    plotly ??= await loadPlotly()
  } catch {
    failed.value = 'The server did not send the chart. Open it again.'
    return
  }
  if (!box.value) return
  const pairs = s.pairMissesPx.map((p, i) => ({ x: p[0], y: p[1], n: i + 1 })).filter((p) => Number.isFinite(p.x))
  const quiet = colour('--quiet')
  const axis = { zeroline: true, zerolinecolor: colour('--line-strong'), gridcolor: colour('--line'), tickfont: { size: 10, color: quiet } } // prettier-ignore
  await plotly.react(
    box.value,
    [
      { type: 'scatter', mode: 'text+markers', name: 'points', x: pairs.map((p) => p.x), y: pairs.map((p) => p.y), text: pairs.map((p) => String(p.n)), textposition: 'top right', textfont: { size: 9, color: quiet }, marker: { color: colour('--plum'), size: 7, symbol: 'cross-thin', line: { width: 1.5, color: colour('--plum') } }, hovertemplate: 'point %{text}: %{x:.2f}, %{y:.2f} px<extra></extra>' },
      { type: 'scatter', mode: 'markers', name: 'lines', x: s.lineMissesPx.map((v) => v), y: s.lineMissesPx.map(() => 0), text: m.lines.map((_, i) => String(i + 1)), marker: { color: colour('--ochre'), size: 6, symbol: 'line-ns', line: { width: 1.5, color: colour('--ochre') } }, hovertemplate: 'line %{text}: %{x:.2f} px<extra></extra>' },
    ],
    { height: 190, margin: { l: 34, r: 10, t: 6, b: 30 }, showlegend: false, paper_bgcolor: 'transparent', plot_bgcolor: 'transparent', xaxis: { ...axis, title: { text: 'right, px', font: { size: 10, color: quiet } } }, yaxis: { ...axis, autorange: 'reversed' as const } },
    { displayModeBar: false, responsive: true },
  ) // prettier-ignore
}
watch([solved, box, () => view.theme], () => void draw(), { flush: 'post', immediate: true })
onBeforeUnmount(() => box.value && plotly?.purge(box.value))
</script>

<template>
  <p v-if="failed" role="alert">{{ failed }}</p>
  <div v-else ref="box" class="chart" role="img" aria-label="Misses of points, right and down; lines by their size" />
</template>

<style scoped>
.chart {
  margin: 0 8px;
}
</style>

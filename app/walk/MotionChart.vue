<script setup lang="ts">
// Speed and turning over time, with the limits that the comfort check holds them against; the moment as a line; a click goes there.
import { onBeforeUnmount, ref, watch } from 'vue'
import { COMFORT_LIMITS } from '#core/reel'
import { loadPlotly, type Plotly } from '../controls/plotly.ts'
import { useView } from '../stores/view.ts'
import { useFilm } from './film.ts'

const { motion, timeS, go, stop } = useFilm()
const view = useView()
const box = ref<HTMLElement | null>(null)
const failed = ref('')
let plotly: Plotly | null = null
/** More places than these are not seen on a chart so small. */
const MOST = 600
const colour = (name: string): string => getComputedStyle(document.documentElement).getPropertyValue(name).trim()
const line = (y: number, yref: 'y' | 'y2') => ({ type: 'line' as const, xref: 'paper' as const, yref, x0: 0, x1: 1, y0: y, y1: y, line: { color: colour('--ochre'), width: 1, dash: 'dash' as const } }) // prettier-ignore
const moment = () => ({ type: 'line' as const, xref: 'x' as const, yref: 'paper' as const, x0: timeS.value, x1: timeS.value, y0: 0, y1: 1, line: { color: colour('--plum'), width: 1.5 } }) // prettier-ignore
const shapes = () => [line(COMFORT_LIMITS.walkMps, 'y'), line(COMFORT_LIMITS.turnDegPerS, 'y2'), moment()]
async function draw(): Promise<void> {
  const m = motion.value
  if (!box.value) return
  try {
    plotly ??= await loadPlotly()
  } catch {
    failed.value = 'The server did not send the chart. Open it again.'
    return
  }
  if (!box.value) return
  const every = Math.max(1, Math.ceil(m.timeS.length / MOST))
  const at = Array.from({ length: Math.ceil(m.timeS.length / every) }, (_, i) => i * every)
  const quiet = colour('--quiet')
  const axis = { gridcolor: colour('--line'), tickfont: { size: 10, color: quiet }, zerolinecolor: colour('--line-strong') } // prettier-ignore
  const trace = (values: Float64Array, name: string, unit: string, yaxis: 'y' | 'y2') => ({ type: 'scatter' as const, mode: 'lines' as const, name, x: at.map((k) => m.timeS[k]!), y: at.map((k) => values[k]!), yaxis, line: { color: colour('--plum'), width: 1.5 }, hovertemplate: `%{x:.2f} s: %{y:.2f} ${unit}<extra></extra>` }) // prettier-ignore
  await plotly.react(
    box.value,
    [trace(m.speedMps, 'speed', 'm/s', 'y'), trace(m.turnDegPerS, 'turning', '°/s', 'y2')],
    { height: 260, margin: { l: 38, r: 8, t: 6, b: 26 }, showlegend: false, paper_bgcolor: 'transparent', plot_bgcolor: 'transparent', hovermode: 'x', xaxis: { ...axis, anchor: 'y2' }, yaxis: { ...axis, domain: [0.54, 1], rangemode: 'tozero', title: { text: 'm/s', font: { size: 10, color: quiet } } }, yaxis2: { ...axis, domain: [0, 0.46], rangemode: 'tozero', title: { text: '°/s', font: { size: 10, color: quiet } } }, shapes: shapes() },
    { displayModeBar: false, responsive: true },
  ) // prettier-ignore
  const el = box.value as HTMLElement & { on?: (name: string, f: (e: { points: { x: number }[] }) => void) => void; removeAllListeners?: (name: string) => void } // prettier-ignore
  el.removeAllListeners?.('plotly_click')
  el.on?.('plotly_click', (e) => {
    stop()
    go(e.points[0]!.x)
  })
}
watch([motion, box, () => view.theme], () => void draw(), { flush: 'post', immediate: true })
watch(timeS, () => box.value && plotly?.relayout(box.value, { shapes: shapes() }))
onBeforeUnmount(() => box.value && plotly?.purge(box.value))
</script>

<template>
  <p v-if="failed" role="alert">{{ failed }}</p>
  <div v-else ref="box" class="chart" role="img" aria-label="Speed and turning over time" data-testid="motion-chart" />
</template>

<style scoped>
.chart {
  margin: 0 8px;
}
</style>

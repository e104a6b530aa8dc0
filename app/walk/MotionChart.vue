<script setup lang="ts">
// Rates, height, clearance and lens over time, with the limits that the comfort check holds them against; the moment as a line; a click goes there.
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import { loadPlotly, type Plotly } from '../controls/plotly.ts'
import { useView } from '../stores/view.ts'
import { useFilm } from './film.ts'

const { motion, beside, limits, timeS, go, stop } = useFilm()
const view = useView()
const box = ref<HTMLElement | null>(null)
const failed = ref('')
let plotly: Plotly | null = null
/** More places than these are not seen on a chart so small. */
const MOST = 600
const colour = (name: string): string => getComputedStyle(document.documentElement).getPropertyValue(name).trim()
/** What is drawn one above the other: name, unit, values, limit. */
interface Row {
  readonly name: string
  readonly unit: string
  readonly values: ArrayLike<number>
  readonly limit?: number
  /** So much lies between the ends of its axis at least. */
  readonly least: number
}
const rows = computed<readonly Row[]>(() => {
  const [m, l] = [motion.value, limits.value]
  const known = beside.value
  return [
    { name: 'speed', unit: 'm/s', values: m.speedMps, limit: l.walkMps, least: 0.5 },
    { name: 'turning', unit: '°/s', values: m.turnDegPerS, limit: l.turnDegPerS, least: 10 },
    { name: 'tilting', unit: '°/s', values: m.tiltDegPerS, least: 10 },
    ...(known ? [{ name: 'eye over the floor', unit: 'm', values: known.heightM, least: 0.5 }, { name: 'clearance', unit: 'm', values: known.clearanceM, limit: l.clearanceM, least: 0.5 }] : []),
    { name: 'focal length', unit: 'mm', values: m.focalMm, least: 5 },
    ...(m.focusM.some((v) => !Number.isNaN(v)) ? [{ name: 'focus', unit: 'm', values: m.focusM, least: 1 }] : []),
  ] // prettier-ignore
})
/** What has no end (no floor below, nothing near) is a gap. */
const drawn = (v: number): number | null => (Number.isFinite(v) ? v : null)
const ROW_PX = 74
/** From and to of an axis: what hardly changes is shown as a line, not as its last digits. */
function rangeOf({ values, limit, least }: Row): [number, number] {
  let [low, high] = [limit ?? Infinity, limit ?? -Infinity]
  for (const v of Array.from(values)) if (Number.isFinite(v)) [low, high] = [Math.min(low, v), Math.max(high, v)]
  if (low > high) return [0, 1]
  const span = Math.max(high - low, least)
  const middle = (low + high) / 2
  return [middle - span * 0.55, middle + span * 0.55]
}
const AXES = ['y', 'y2', 'y3', 'y4', 'y5', 'y6', 'y7'] as const
const axisOf = (i: number): (typeof AXES)[number] => AXES[i]!
const line = (y: number, i: number) => ({ type: 'line' as const, xref: 'paper' as const, yref: axisOf(i), x0: 0, x1: 1, y0: y, y1: y, line: { color: colour('--ochre'), width: 1, dash: 'dash' as const } }) // prettier-ignore
const moment = () => ({ type: 'line' as const, xref: 'x' as const, yref: 'paper' as const, x0: timeS.value, x1: timeS.value, y0: 0, y1: 1, line: { color: colour('--plum'), width: 1.5 } }) // prettier-ignore
const shapes = () => [...rows.value.flatMap((r, i) => (r.limit === undefined ? [] : [line(r.limit, i)])), moment()]
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
  const n = rows.value.length
  const share = 1 / n
  const traces = rows.value.map((r, i) => ({ type: 'scatter' as const, mode: 'lines' as const, name: r.name, x: at.map((k) => m.timeS[k]!), y: at.map((k) => drawn(r.values[k]!)), yaxis: axisOf(i), line: { color: colour('--plum'), width: 1.3 }, hovertemplate: `${r.name} %{y:.2f} ${r.unit}<extra></extra>` })) // prettier-ignore
  const axes = Object.fromEntries(rows.value.map((r, i) => [`yaxis${i === 0 ? '' : i + 1}`, { ...axis, nticks: 3, range: rangeOf(r), domain: [1 - (i + 1) * share + share * 0.1, 1 - i * share - share * 0.12], title: { text: r.unit, font: { size: 9.5, color: quiet } } }])) // prettier-ignore
  const names = rows.value.map((r, i) => ({ text: r.name, xref: 'paper' as const, yref: 'paper' as const, x: 0, y: 1 - i * share, showarrow: false, xanchor: 'left' as const, yanchor: 'top' as const, font: { size: 10, color: quiet } })) // prettier-ignore
  await plotly.react(
    box.value,
    traces,
    { height: n * ROW_PX + 26, margin: { l: 40, r: 8, t: 4, b: 22 }, showlegend: false, paper_bgcolor: 'transparent', plot_bgcolor: 'transparent', hovermode: 'x', xaxis: { ...axis, anchor: axisOf(n - 1) }, ...axes, annotations: names, shapes: shapes() },
    { displayModeBar: false, responsive: true },
  ) // prettier-ignore
  const el = box.value as HTMLElement & { on?: (name: string, f: (e: { points: { x: number }[] }) => void) => void; removeAllListeners?: (name: string) => void } // prettier-ignore
  el.removeAllListeners?.('plotly_click')
  el.on?.('plotly_click', (e) => {
    stop()
    go(e.points[0]!.x)
  })
}
watch([rows, box, () => view.theme], () => void draw(), { flush: 'post', immediate: true })
watch(timeS, () => box.value && plotly?.relayout(box.value, { shapes: shapes() }))
onBeforeUnmount(() => box.value && plotly?.purge(box.value))
</script>

<template>
  <p v-if="failed" role="alert">{{ failed }}</p>
  <div
    v-else
    ref="box"
    class="chart"
    role="img"
    aria-label="Rates, height, clearance and lens over time"
    data-testid="motion-chart"
  />
</template>

<style scoped>
.chart {
  margin: 0 8px;
}
</style>

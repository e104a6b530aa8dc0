<script setup lang="ts">
// How the tones of the finished picture are spread, by channel, from black to white. The chart's code comes when it is opened.
import { loadPlotly, type Plotly } from '../../controls/plotly.ts'
import { nextTick, onBeforeUnmount, ref, watch } from 'vue'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'

const stage = useStage()
const open = ref(false)
const box = ref<HTMLElement | null>(null)
const failed = ref('')
let plotly: Plotly | null = null
const view = useView()
const CHANNELS = [
  ['red', '#b4563f'],
  ['green', '#6d8a44'],
  ['blue', '#5d78b8'],
] as const
/** Its colours are those of the page: read when it is drawn. */
const colour = (name: string): string => getComputedStyle(document.documentElement).getPropertyValue(name).trim()

async function draw(): Promise<void> {
  const tones = stage.tones
  if (!open.value || !tones) return
  try {
    plotly ??= await loadPlotly()
  } catch {
    failed.value = 'The server did not send the chart. Open it again.'
    return
  }
  failed.value = ''
  await nextTick()
  if (!box.value || !open.value) return
  const at = Array.from({ length: tones.red.length }, (_, i) => (i / (tones.red.length - 1)) * 255)
  const total = tones.red.reduce((s, v) => s + v, 0)
  const quiet = colour('--quiet')
  await plotly.react(
    box.value,
    CHANNELS.map(([name, line]) => ({
      type: 'scatter' as const,
      mode: 'lines' as const,
      name,
      x: at,
      y: tones[name].map((v) => (100 * v) / total),
      line: { color: line, width: 1.4, shape: 'spline' as const, smoothing: 0.4 },
      fill: 'tozeroy' as const,
      fillcolor: `${line}22`,
      hovertemplate: '%{y:.1f} %',
    })),
    {
      height: 118,
      margin: { l: 8, r: 8, t: 6, b: 20 },
      showlegend: false,
      paper_bgcolor: 'transparent',
      plot_bgcolor: 'transparent',
      hovermode: 'x unified',
      hoverlabel: { bgcolor: colour('--panel'), font: { size: 10.5, color: colour('--ink') } },
      font: { size: 10, color: quiet, family: 'inherit' },
      xaxis: { range: [-3, 258], tickvals: [0, 64, 128, 192, 255], fixedrange: true, gridcolor: colour('--line'), zeroline: false }, // prettier-ignore
      yaxis: { visible: false, fixedrange: true, rangemode: 'tozero' },
    },
    { displayModeBar: false, responsive: true },
  )
}
watch([() => stage.tones, open, () => view.theme], () => void draw(), { flush: 'post' })
onBeforeUnmount(() => box.value && plotly?.purge(box.value))
const percent = (share: number): string => (share === 0 ? 'none' : share < 0.001 ? 'under 0.1 %' : `${(100 * share).toFixed(1)} %`) // prettier-ignore
</script>

<template>
  <details @toggle="open = ($event.target as HTMLDetailsElement).open">
    <summary>How the tones are spread</summary>
    <p v-if="failed" class="text" role="alert">{{ failed }}</p>
    <p v-else-if="!stage.tones" class="text quiet">It is counted when the picture is finished.</p>
    <div ref="box" class="chart" data-testid="histogram" role="img" aria-label="Histogram of the finished picture" />
    <p v-if="stage.clipped" class="text quiet">
      Clipped bright <span class="num">{{ percent(stage.clipped.bright) }}</span>, dark
      <span class="num">{{ percent(stage.clipped.dark) }}</span>.
    </p>
  </details>
</template>

<style scoped src="./panel.css"></style>
<style scoped>
.chart {
  margin: 0 10px;
}
</style>

<script setup lang="ts">
// The chosen cut in numbers: area and outline, of all and by object; its polygons as JSON, and as SVG at a drawing scale.
import { watchDebounced } from '@vueuse/core'
import Select from 'primevue/select'
import { computed, ref, shallowRef } from 'vue'
import { STANDARD_SCALES } from '#core/framing'
import { sectionJson, sectionSvg } from '#formats/section'
import type { PlaneFacts } from '#mesh'
import { useNotices } from '../../stores/notices.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useCuts } from '../cuts/cuts.ts'

const project = useProject()
const stage = useStage()
const notices = useNotices()
const { list, chosen } = useCuts()
const facts = shallowRef<readonly PlaneFacts[]>([])
const scale = ref(project.document?.subject === 'product' ? 1 : 50)
const SCALES = STANDARD_SCALES.map((k) => ({ value: k, label: `1 : ${k}` }))
let asked = 0
async function ask(): Promise<void> {
  const mine = ++asked
  const found = await stage.rays.cutFacts(project.shown)
  if (mine === asked) facts.value = found ?? []
}
watchDebounced([() => project.shown, () => stage.epoch, () => stage.storeys], () => void ask(), {
  debounce: 120,
  immediate: true,
})

const cut = computed(() => chosen.value ?? list.value[0] ?? null)
const mine = computed(() => facts.value.filter((f) => f.cutId === cut.value?.id))
const total = computed(() => mine.value.reduce((s, f) => s + f.areaM2, 0))
const around = computed(() => mine.value.reduce((s, f) => s + f.perimeterM, 0))
/** By object over all planes of the cut, the largest first; what is open comes last. */
const objects = computed(() => {
  const all = new Map<string, { nodeId: string; areaM2: number; openGapM: number | null }>()
  for (const o of mine.value.flatMap((f) => f.objects)) {
    const known = all.get(o.nodeId) ?? { nodeId: o.nodeId, areaM2: 0, openGapM: null }
    const openGapM = o.openGapM === null ? known.openGapM : Math.max(o.openGapM, known.openGapM ?? 0)
    all.set(o.nodeId, { ...known, areaM2: known.areaM2 + o.areaM2, openGapM })
  }
  return [...all.values()].sort((a, b) => b.areaM2 - a.areaM2)
})
const nameOf = (id: string): string => stage.byId.get(id)?.name ?? id
const m2 = (v: number): string => (v < 0.01 ? `${(v * 1e4).toFixed(2)} cm²` : `${v.toFixed(v < 1 ? 4 : 2)} m²`)
const SHOWN = 8

function download(text: string, name: string, type: string): void {
  const url = URL.createObjectURL(new Blob([text], { type }))
  Object.assign(document.createElement('a'), { href: url, download: name }).click()
  setTimeout(() => URL.revokeObjectURL(url), 60_000)
}
const fileName = (end: string): string => `${project.document!.name} section ${cut.value?.name ?? ''}`.replace(/[^\p{L}\p{N} ._-]+/gu, '').trim().replace(/\s+/g, '-') + end // prettier-ignore
async function save(kind: 'json' | 'svg'): Promise<void> {
  const c = cut.value
  const faces = ((await stage.rays.cutFaces(project.shown)) ?? []).filter((f) => f.cutId === c?.id)
  if (!c || faces.length === 0) return notices.say('This cut meets nothing: there is nothing to save.', 'warning')
  if (kind === 'json')
    return download(
      sectionJson(faces, () => c.name),
      fileName('.json'),
      'application/json',
    )
  const planes = [...new Set(faces.map((f) => f.plane))]
  for (const plane of planes) {
    const svg = sectionSvg(
      faces.filter((f) => f.plane === plane),
      scale.value,
      `Section ${c.name}`,
    )
    if (svg) download(svg, fileName(`${planes.length > 1 ? `-${plane + 1}` : ''}.svg`), 'image/svg+xml')
  }
}
</script>

<template>
  <details v-if="cut" class="facts" open data-testid="cut-facts">
    <summary>What cut {{ cut.name }} lays open</summary>
    <p v-if="mine.length === 0" class="text quiet">
      {{ cut.on && !project.working!.cut.allOff ? 'Nothing: it meets no object.' : 'It is off.' }}
    </p>
    <template v-else>
      <p class="text num">
        <b>{{ m2(total) }}</b> in all, outline {{ around.toFixed(2) }} m
      </p>
      <table class="num">
        <tbody>
          <tr v-for="(o, i) in objects.slice(0, SHOWN)" :key="i">
            <th :title="o.nodeId">{{ nameOf(o.nodeId) }}</th>
            <td v-if="o.openGapM === null || o.areaM2 > 0">{{ m2(o.areaM2) }}</td>
            <td v-else class="open" title="Its surface is not closed there: drawn as lines, not filled">
              △ open, {{ o.openGapM < 0.01 ? `${(o.openGapM * 1000).toFixed(1)} mm` : `${o.openGapM.toFixed(2)} m` }}
            </td>
          </tr>
        </tbody>
      </table>
      <p v-if="objects.length > SHOWN" class="text quiet">and {{ objects.length - SHOWN }} more in the JSON</p>
      <div class="save">
        <button class="btn" @click="save('json')">JSON</button>
        <button class="btn" @click="save('svg')">SVG at</button>
        <Select
          v-model="scale"
          :options="SCALES"
          option-label="label"
          option-value="value"
          size="small"
          aria-label="Scale of the SVG"
        />
      </div>
    </template>
  </details>
</template>

<style scoped src="./panel.css"></style>
<style scoped>
table {
  width: calc(100% - 28px);
  margin: 0 14px;
  border-collapse: collapse;
  font-size: 11.5px;
}
th {
  font: inherit;
  font-family: var(--font);
  text-align: left;
  max-width: 140px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  padding: 1px 0;
}
td {
  text-align: right;
  white-space: nowrap;
}
.open {
  color: var(--ochre);
}
.save {
  display: flex;
  gap: 4px;
  align-items: center;
  padding: 6px 14px;
}
</style>

<script setup lang="ts">
// Bringing in a model, step by step: reading with progress, judging unit and up axis, storing; and the report of a newer file.
import Dialog from 'primevue/dialog'
import ProgressBar from 'primevue/progressbar'
import Select from 'primevue/select'
import { computed } from 'vue'
import { useRouter } from 'vue-router'
import { boxSize } from '#core/math'
import type { FileUnit } from '#core/placing'
import { sizeText } from '../text/short.ts'
import ChoiceRow from '../controls/ChoiceRow.vue'
import { useBring } from './bring.ts'
import SizeView from './SizeView.vue'

const bring = useBring()
const router = useRouter()
const UNITS: readonly { value: FileUnit; label: string }[] = [
  { value: 'mm', label: 'a millimetre' },
  { value: 'cm', label: 'a centimetre' },
  { value: 'm', label: 'a metre' },
  { value: 'in', label: 'an inch' },
  { value: 'ft', label: 'a foot' },
]
const UPS = [
  { value: 'y', label: 'y up' },
  { value: 'z', label: 'z up' },
] as const

const facts = computed(() => bring.judged?.facts ?? null)
const size = computed(() => (bring.boxM ? sizeText(boxSize(bring.boxM)) : ''))
const guessed = computed(
  () => facts.value && bring.unit === facts.value.guess.unit && bring.up === facts.value.guess.up,
)
const count = (n: number, one: string, many = `${one}s`): string => `${n.toLocaleString('en')} ${n === 1 ? one : many}`
const closed = computed(() => {
  const c = bring.closedness
  if (!c) return 'being worked out…'
  return c.closed ? 'watertight' : `not watertight, ${count(c.openEdges, 'open edge')}`
})
const odd = computed(() => {
  if (!bring.boxM) return ''
  const longest = Math.max(...boxSize(bring.boxM))
  if (longest < 0.005) return 'Smaller than 5 mm: is the unit right?'
  return longest > 1000 ? 'Longer than a kilometre: is the unit right?' : ''
})
const visible = computed(() => bring.busy)
const header = computed(() => bring.judged?.fileName ?? 'Bringing in the model')

async function accept(replacing: boolean): Promise<void> {
  const id = await bring.accept(replacing)
  if (id) await router.push(`/project/${id}`)
}
const few = (ids: readonly string[]): string =>
  ids
    .slice(0, 6)
    .map((id) => id.slice(id.lastIndexOf('/') + 1))
    .join(', ') + (ids.length > 6 ? `, and ${ids.length - 6} more` : '')
</script>

<template>
  <Dialog
    :visible="visible"
    modal
    :closable="false"
    :header="header"
    :style="{ width: bring.judged ? '560px' : '380px' }"
    :draggable="false"
    data-testid="bring"
    @keydown.esc.stop="bring.cancel()"
  >
    <div v-if="bring.judged && facts && bring.boxM" class="judge">
      <SizeView :front="bring.fronts[bring.up] ?? null" :box-m="bring.boxM" />
      <p class="size">
        <b class="num" data-testid="bring-size">{{ size }}</b>
        <span class="quiet"> wide, deep, high</span>
      </p>
      <div class="row">
        <span>One unit of the file is</span>
        <Select
          v-model="bring.unit"
          :options="[...UNITS]"
          option-label="label"
          option-value="value"
          size="small"
          aria-label="Unit of the file"
        />
        <ChoiceRow class="ups" label="" :model-value="bring.up" :options="UPS" @change="bring.up = $event" />
      </div>
      <p class="quiet why">
        <template v-if="guessed"
          >Guessed: {{ facts.guess.unitWhy }}; {{ facts.guess.up }} up, {{ facts.guess.upWhy }}.</template
        >
        <template v-else>Changed by hand. Both can be changed later under Models.</template>
      </p>
      <p v-if="odd" class="warn" role="alert">△ {{ odd }}</p>
      <dl>
        <dt>Holds</dt>
        <dd class="num">
          {{ count(facts.triangles, 'triangle') }}, {{ count(facts.objects, 'object') }},
          {{ count(facts.materials, 'material') }}
        </dd>
        <dt>Surface</dt>
        <dd>{{ closed }}</dd>
        <template v-if="facts.missingTextures.length">
          <dt class="warn">△ Missing</dt>
          <dd>
            {{ facts.missingTextures.slice(0, 4).join(', ')
            }}{{ facts.missingTextures.length > 4 ? ` and ${facts.missingTextures.length - 4} more` : '' }}. Pick
            pictures together with the model to have them.
          </dd>
        </template>
      </dl>
      <p v-if="bring.same" class="quiet">
        The project has a model of this name. A newer file in its place keeps viewpoints and hidden objects.
      </p>
    </div>
    <div v-else>
      <p class="what" role="status">{{ bring.progress?.what }}</p>
      <ProgressBar
        :mode="bring.progress?.done === null ? 'indeterminate' : 'determinate'"
        :value="Math.round((bring.progress?.done ?? 0) * 100)"
        style="height: 14px"
      />
    </div>
    <template #footer>
      <button class="btn" @click="bring.cancel()">Cancel</button>
      <template v-if="bring.judged">
        <button v-if="bring.same" class="btn" @click="accept(false)">Bring in as another</button>
        <button v-if="bring.same" class="btn main" autofocus @click="accept(true)">Put in its place</button>
        <button v-else class="btn main" autofocus @click="accept(false)">Bring in</button>
      </template>
    </template>
  </Dialog>
  <Dialog
    :visible="bring.report !== null"
    modal
    :header="`“${bring.report?.name}” is replaced`"
    :style="{ width: '440px' }"
    :draggable="false"
    data-testid="replace-report"
    @update:visible="bring.report = null"
  >
    <dl v-if="bring.report">
      <dt>Same</dt>
      <dd class="num">{{ count(bring.report.kept, 'object') }}</dd>
      <dt>Found elsewhere</dt>
      <dd>{{ bring.report.elsewhere.length ? few(bring.report.elsewhere) : 'none' }}</dd>
      <dt>New</dt>
      <dd>{{ bring.report.added.length ? few(bring.report.added) : 'none' }}</dd>
      <dt>Gone</dt>
      <dd>{{ bring.report.gone.length ? few(bring.report.gone) : 'none' }}</dd>
    </dl>
    <p class="quiet">Viewpoints and hidden objects stay. Undo brings the former file back.</p>
    <template #footer><button class="btn main" autofocus @click="bring.report = null">Good</button></template>
  </Dialog>
</template>

<style scoped>
.judge {
  display: grid;
  gap: 8px;
}
.size b {
  font-size: 15px;
}
.row {
  display: flex;
  align-items: center;
  gap: 10px;
}
.ups {
  grid-template-columns: 0 130px;
  padding: 0;
}
.ups :deep(.choices) {
  width: 130px;
}
.why {
  font-size: 12px;
}
.what {
  margin-bottom: 10px;
}
.warn {
  color: var(--ochre);
}
dl {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: 3px 14px;
  margin: 0;
}
dt {
  color: var(--quiet);
}
dt.warn {
  color: var(--ochre);
}
dd {
  margin: 0;
}
</style>

<script setup lang="ts">
// The models of the project: how their files are read, where they stand, what they hold; bringing in, a newer file, taking out.
import { IconTrash } from '@tabler/icons-vue'
import Select from 'primevue/select'
import { computed, reactive, ref, watch } from 'vue'
import { boxSize, joinBoxes, type Vec3 } from '#core/math'
import { boxInMetres, placedPoint, replaced, UNIT_M, type FileUnit } from '#core/placing'
import type { Closedness } from '#mesh'
import { lostAims, type Command, type ModelRef } from '#model'
import { useBring } from '../../bring/bring.ts'
import { PICKER_ACCEPT } from '../../bring/drop.ts'
import ChoiceRow from '../../controls/ChoiceRow.vue'
import AxisFields from '../../controls/AxisFields.vue'
import NumberField from '../../controls/NumberField.vue'
import { useNotices } from '../../stores/notices.ts'
import { centreOf } from '../../stores/centres.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { sizeText } from '../../text/short.ts'
import { useLiveEdits } from '../camera/live-edits.ts'

const project = useProject()
const stage = useStage()
const bring = useBring()
const notices = useNotices()
const picker = ref<HTMLInputElement | null>(null)
const models = computed(() => project.models ?? [])
const unit = computed(() => project.document!.unit)
/** The one opened last; a model just brought in opens by itself. */
const opened = ref<string | null>(null)
watch(
  () => models.value.length,
  (now, before) => now > before && (opened.value = models.value.at(-1)!.id),
)
const UNITS = [
  { value: 'mm', label: 'millimetres' },
  { value: 'cm', label: 'centimetres' },
  { value: 'm', label: 'metres' },
  { value: 'in', label: 'inches' },
  { value: 'ft', label: 'feet' },
]
const UPS = [
  { value: 'y', label: 'y up' },
  { value: 'z', label: 'z up' },
] as const

const nodeOf = (m: ModelRef) => stage.facts?.nodes.find((n) => n.id === m.key) ?? null
/** Extents without what the file marks as surroundings. */
function sizeOf(m: ModelRef): readonly number[] {
  const own = (stage.facts?.nodes ?? []).filter((n) => n.id.startsWith(`${m.key}/`) && n.materials.length > 0)
  const main = own.filter((n) => n.kind !== 'surroundings')
  const boxes = (main.length > 0 ? main : own).map((n) => n.box)
  return boxSize(boxes.length > 0 ? boxes.reduce(joinBoxes) : nodeOf(m)!.box)
}
const surface = reactive(new Map<string, Closedness>())
watch(
  () => stage.storeys,
  async () => {
    surface.clear()
    for (const m of models.value) {
      const c = await stage.closedness(m.key)
      if (c) surface.set(m.key, c)
    }
  },
  { immediate: true },
)
const unitOf = (m: ModelRef): FileUnit | null =>
  (Object.entries(UNIT_M) as [FileUnit, number][]).find(([, v]) => v === m.unitM)?.[0] ?? null
const { number, axes } = useLiveEdits()
type Placing = Partial<Pick<ModelRef, 'unitM' | 'up' | 'place'>>
const withPlace = (m: ModelRef, changes: Placing): Command => ({ type: 'placeModel', modelId: m.id, changes })
const place = (m: ModelRef, changes: Placing): void => void project.run(withPlace(m, changes))

/** Bounds before placing, for turning and sizing about the middle of the base; the file's origin where they are not known. */
const boxOf = (m: ModelRef) => (m.fileBox ? boxInMetres(m.fileBox, m.unitM, m.up) : { min: ZERO, max: ZERO })
const ZERO: Vec3 = [0, 0, 0]
const baseOf = (m: ModelRef): Vec3 => {
  const b = boxOf(m)
  return placedPoint(m.place, [(b.min[0] + b.max[0]) / 2, (b.min[1] + b.max[1]) / 2, b.min[2]])
}
function movedTo(m: ModelRef, axis: 0 | 1 | 2, value: number): Command {
  const by = value - baseOf(m)[axis]
  const position = m.place.position.map((v, i) => (i === axis ? v + by : v)) as unknown as Vec3
  return withPlace(m, { place: { ...m.place, position } })
}
function remove(m: ModelRef): void {
  const { document: doc } = project
  if (!doc) return
  // what is aimed at goes with its model: no picture moves
  const lost = lostAims(doc, (id) => id === m.key || id.startsWith(`${m.key}/`), centreOf)
  if (project.run({ type: 'removeModel', modelId: m.id, lost }))
    notices.say(`“${m.name}” is out of the project.`, 'plain', { label: 'Undo', run: project.undoOfThis() })
}
function picked(e: Event): void {
  const input = e.target as HTMLInputElement
  void bring.begin([...(input.files ?? [])])
  input.value = ''
}
const surfaceText = (c: Closedness): string =>
  c.closed ? 'watertight' : `not watertight: ${c.openEdges.toLocaleString('en')} open edges`
</script>

<template>
  <section aria-label="Models">
    <header>
      <h2>Models</h2>
      <button
        class="btn"
        title="GLB, glTF, OBJ, STL or PLY; files that belong together are picked together"
        @click="picker?.click()"
      >
        Bring in…
      </button>
      <input
        ref="picker"
        type="file"
        :accept="PICKER_ACCEPT"
        multiple
        hidden
        data-testid="model-file"
        @change="picked"
      />
    </header>
    <p v-if="models.length === 0" class="quiet note">No model yet. Drop a file anywhere on this page.</p>
    <div v-for="m in models" :key="m.id" class="model">
      <button class="plain bin" :title="`Take “${m.name}” out`" @click="remove(m)">
        <IconTrash :size="14" stroke="1.6" /><span class="visually-hidden">Take out {{ m.name }}</span>
      </button>
      <details
        :open="opened === m.id || models.length === 1"
        data-testid="model"
        @toggle="($event.target as HTMLDetailsElement).open && (opened = m.id)"
      >
        <summary>
          <span class="name">{{ m.name }}</span>
        </summary>
        <dl v-if="nodeOf(m)">
          <dt>Size</dt>
          <dd class="num">{{ sizeText(sizeOf(m)) }}</dd>
          <dt>Holds</dt>
          <dd class="num">{{ nodeOf(m)!.triangles.toLocaleString('en') }} triangles</dd>
          <dt>Surface</dt>
          <dd>{{ surface.get(m.key) ? surfaceText(surface.get(m.key)!) : 'being worked out…' }}</dd>
          <template v-if="m.missingTextures?.length">
            <dt class="warn">Missing</dt>
            <dd class="warn">
              {{ m.missingTextures.slice(0, 4).join(', ')
              }}{{ m.missingTextures.length > 4 ? ` and ${m.missingTextures.length - 4} more` : '' }}. Bring the file in
              again together with its pictures.
            </dd>
          </template>
          <dt>File</dt>
          <dd class="num">{{ (m.sizeBytes / 1e6).toFixed(m.sizeBytes < 1e7 ? 2 : 0) }} MB</dd>
        </dl>
        <div class="reading">
          <span class="unit-label quiet">One unit is</span>
          <Select
            :model-value="unitOf(m)"
            :options="UNITS"
            option-label="label"
            option-value="value"
            size="small"
            aria-label="Unit of the file"
            @update:model-value="place(m, { unitM: UNIT_M[$event as FileUnit] })"
          />
        </div>
        <ChoiceRow label="Up axis" :model-value="m.up" :options="UPS" @change="place(m, { up: $event })" />
        <AxisFields
          :labels="['Stands east', 'North', 'Height']"
          :value="baseOf(m)"
          :unit="unit"
          :step="0.1"
          hint="Where the middle of its base stands"
          v-on="axes((axis, to) => movedTo(m, axis, to))"
        />
        <NumberField
          label="Turned"
          kind="angle"
          suffix="°"
          sign
          :model-value="m.place.turnDeg"
          :step="5"
          :min="-720"
          :max="720"
          :reset-to="0"
          hint="Clockwise from above, about the middle of its base"
          v-on="number((turnDeg) => withPlace(m, { place: replaced(m.place, boxOf(m), { turnDeg }) }))"
        />
        <NumberField
          label="Times its size"
          suffix="×"
          :digits="3"
          :model-value="m.place.scale"
          :step="0.01"
          :min="0.000001"
          :max="1000000"
          :reset-to="1"
          v-on="number((scale) => withPlace(m, { place: replaced(m.place, boxOf(m), { scale }) }))"
        />
      </details>
    </div>
    <p v-if="models.length" class="quiet note">
      A file of the same name offers to take a model’s place: viewpoints stay.
    </p>
  </section>
</template>

<style scoped>
header {
  display: flex;
  align-items: center;
  justify-content: space-between;
  padding: 8px 14px;
}
h2 {
  font-size: 13px;
  font-weight: 600;
}
details {
  border-top: 1px solid var(--line);
  padding: 6px 0 8px;
}
summary {
  display: flex;
  align-items: center;
  gap: 6px;
  padding: 2px 40px 2px 14px;
  cursor: pointer;
}
summary .name {
  flex: 1;
  font-weight: 600;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.model {
  position: relative;
}
.bin {
  position: absolute;
  right: 10px;
  top: 5px;
  line-height: 0;
  padding: 4px;
  color: var(--quiet);
}
.bin:hover {
  color: var(--ink);
}
dl {
  display: grid;
  grid-template-columns: 92px 1fr;
  gap: 2px 8px;
  margin: 2px 14px 6px;
}
dt {
  color: var(--quiet);
}
dd {
  margin: 0;
}
.warn {
  color: var(--ochre);
}
.unit-label {
  font-size: 13px;
}
.reading {
  display: grid;
  grid-template-columns: 92px 1fr;
  gap: 8px;
  align-items: center;
  padding: 3px 14px;
}
.note {
  padding: 8px 14px;
}
</style>

<script setup lang="ts">
// Tight fit by what gives way, with margins at each side; standing back through the wall; distances measured.
import { isParallel, isPerspective } from '#core/camera'
import { computed } from 'vue'
import { formatLength, lengthSuffix } from '#core/base'
import type { FitBy } from '#core/framing'
import ChoiceRow from '../../controls/ChoiceRow.vue'
import NumberField from '../../controls/NumberField.vue'
import { useMeasurements } from '../measure/measurements.ts'
import { useProject } from '../../stores/project.ts'
import { useView } from '../../stores/view.ts'
import { useFitting, type Margins } from '../straighten/fitting.ts'
import { usePicking } from '../straighten/picking.ts'
import { signed } from '../../text/short.ts'

const project = useProject()
const view = useView()
const measurements = useMeasurements()
const picking = usePicking()
const fitting = useFitting()
const { margins, by, keepHeight, target, nearCut } = fitting

const flat = computed(() => isParallel(project.working!.lens))
const BY: readonly { value: FitBy; label: string; title: string }[] = [
  { value: 'distance', label: 'distance', title: 'The station moves: the smallest distance' },
  { value: 'focal', label: 'lens', title: 'The longest focal length from here, the shift as it is' },
  { value: 'shift', label: 'shift', title: 'Rise and cross only: centred' },
  { value: 'focal+shift', label: 'lens + shift', title: 'Focal length, rise and cross: as large as can be from here' },
]
const UNITS = [
  { value: '%', label: 'per cent' },
  { value: 'px', label: 'pixels' },
] as const
const SIDES = [
  ['left', 'Left'],
  ['right', 'Right'],
  ['top', 'Top'],
  ['bottom', 'Bottom'],
] as const
type Side = (typeof SIDES)[number][0]
const set = (side: Side, v: number): void => void (margins.value = { ...margins.value, [side]: v } as Margins)
const alike = (): void => {
  const { left, unit } = margins.value
  margins.value = { unit, left, right: left, top: left, bottom: left }
}
const isAlike = computed(() => new Set(SIDES.map(([s]) => margins.value[s])).size === 1)
const long = (m: number): string => {
  const u = project.document!.unit
  return u === 'ft-in' ? formatLength(m, u) : `${formatLength(m, u)} ${lengthSuffix(u)}`
}
</script>

<template>
  <div>
    <p class="text">
      Fills the frame with <b data-testid="fit-target">{{ target?.what ?? 'nothing' }}</b>.
    </p>
    <div class="line">
      <span class="quiet">Points</span>
      <span class="buttons">
        <button
          class="btn"
          :class="{ on: view.picking === 'fit-points' }"
          title="Click points in the picture, Plan or Side: they are to lie at the frame’s edges"
          @click="picking.begin('fit-points')"
        >
          Click them…
        </button>
        <button class="btn" :disabled="measurements.fitPoints.length === 0" @click="measurements.clearFitPoints()">
          Clear
        </button>
      </span>
    </div>
    <ChoiceRow v-if="!flat" label="By" :model-value="by" :options="BY" @change="by = $event" />
    <p v-else class="text quiet">A parallel picture changes its width of view.</p>
    <label v-if="!flat && by === 'distance'" class="tick" title="Of level cameras: the frame moves up and down by rise"
      ><input v-model="keepHeight" type="checkbox" />at this eye height <span class="quiet">(rise instead)</span></label
    >
    <ChoiceRow label="Margins in" :model-value="margins.unit" :options="UNITS" @change="fitting.marginUnit" />
    <div class="sides">
      <NumberField
        v-for="[side, label] in SIDES"
        :key="side"
        :label="label"
        :suffix="margins.unit"
        :digits="margins.unit === '%' ? 1 : 0"
        :model-value="margins[side]"
        :step="margins.unit === '%' ? 0.5 : 10"
        :min="0"
        :max="margins.unit === '%' ? 95 : 16000"
        @change="set(side, $event)"
        @live="set(side, $event)"
        @cancel="set(side, $event)"
      />
    </div>
    <div class="wide">
      <button class="btn" :disabled="isAlike" title="All sides as the left one" @click="alike()">All as left</button>
      <button class="btn main" title="The direction of view stays (T)" @click="fitting.fit()">Tight fit</button>
    </div>
    <hr />
    <h3>Room too small for the lens</h3>
    <div class="wide">
      <button
        class="btn"
        :disabled="!isPerspective(project.working!.lens)"
        title="As far back as the fit needs, outside the room if need be; the near cut then lies just inside the wall"
        @click="fitting.standBack()"
      >
        Stand back through the wall
      </button>
    </div>
    <p v-if="nearCut !== null" class="text" data-testid="near-cut">
      Near cut at <span class="num">{{ long(nearCut) }}</span>.
      <button class="plain link" title="Nothing is cut away before the camera" @click="fitting.clearNearCut()">
        off
      </button>
    </p>
    <hr />
    <h3>Measure</h3>
    <div class="line">
      <span class="quiet">Two points</span>
      <span class="buttons">
        <button
          class="btn"
          :class="{ on: view.picking === 'measure' }"
          title="Click two points in the picture, Plan or Side; corners and edges are caught (M)"
          @click="picking.begin('measure')"
        >
          Click them…
        </button>
        <button
          class="btn"
          :disabled="measurements.pairs.length + measurements.staffs.length === 0"
          @click="measurements.clear()"
        >
          Clear
        </button>
      </span>
    </div>
    <div class="line">
      <span class="quiet">Staff</span>
      <span class="buttons">
        <button
          class="btn"
          :class="{ on: view.picking === 'staff' }"
          title="A measuring staff with marks, upright on a point that is clicked in the picture, Plan or Side"
          @click="picking.begin('staff')"
        >
          Stand it…
        </button>
      </span>
    </div>
    <NumberField
      label="of"
      kind="length"
      :unit="project.document!.unit"
      :model-value="measurements.staffHeightM"
      :step="0.1"
      :min="0.001"
      :max="1000"
      hint="How high the next staff is"
      @change="measurements.staffHeightM = $event"
    />
    <ol v-if="measurements.staffs.length" class="measured">
      <li v-for="(s, i) in measurements.staffs" :key="i">
        <b class="num">{{ long(s.heightM) }}</b>
        <span class="num quiet"
          >on x {{ signed(s.foot[0], 2) }} y {{ signed(s.foot[1], 2) }} z {{ signed(s.foot[2], 2) }}</span
        >
        <button class="plain quiet" title="Take this one away" @click="measurements.removeStaff(i)">
          ×<span class="visually-hidden">Remove staff {{ i + 1 }}</span>
        </button>
      </li>
    </ol>
    <ol v-if="measurements.list.length" class="measured">
      <li v-for="(m, i) in measurements.list" :key="i">
        <b class="num">{{ long(m.distanceM) }}</b>
        <span class="num quiet"
          >x {{ signed(m.alongM[0], 2) }} y {{ signed(m.alongM[1], 2) }} z {{ signed(m.alongM[2], 2) }}</span
        >
        <button class="plain quiet" title="Take this one away" @click="measurements.remove(i)">
          ×<span class="visually-hidden">Remove measure {{ i + 1 }}</span>
        </button>
      </li>
    </ol>
  </div>
</template>

<style scoped src="./panel.css"></style>
<style scoped>
.sides {
  display: grid;
  grid-template-columns: 1fr 1fr;
}
.sides :deep(.row) {
  grid-template-columns: 46px 1fr;
}
.wide {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 5px;
  padding: 5px 14px;
}
.wide > :only-child {
  grid-column: 1 / -1;
}
.measured {
  margin: 2px 0;
  padding: 0 14px 6px 34px;
}
.measured li > * {
  margin-right: 6px;
}
</style>

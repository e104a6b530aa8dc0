<script setup lang="ts">
// Focus: on, what is sharp, how much, and the shape of the blur last.
import { computed } from 'vue'
import { articled } from '#core/base'
import { F_STOPS, nextStop, usualCocMm, type StopKind } from '#core/optics'
import ChoiceRow from '../../controls/ChoiceRow.vue'
import NumberField from '../../controls/NumberField.vue'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'
import { SEEN_PX, useFocus, type Focus } from '../focus/focus.ts'
import { wantedBlurPx } from '../focus/focus-picks.ts'
import { usePicking } from '../straighten/picking.ts'
import { useLiveEdits } from '../camera/live-edits.ts'
import ApertureFields from './ApertureFields.vue'
import PanelHead from './PanelHead.vue'

const project = useProject()
const stage = useStage()
const view = useView()
const { begin } = usePicking()
const { number } = useLiveEdits()
const f = useFocus()
const { hasLens, at, sharp, blurPx, diffractionPx, withFocus, set, long, recent, toHyperfocal } = f
const focus = computed(() => project.working!.focus)
const off = computed(() => !focus.value.on || !hasLens.value)
type Kind = Focus['mode']['kind']
const KINDS: readonly { value: Kind; label: string; title: string }[] = [
  { value: 'aim', label: 'aim', title: 'What the camera is aimed at' },
  { value: 'distance', label: 'distance', title: 'A distance along the axis' },
  { value: 'point', label: 'place', title: 'A place that was clicked (J, Alt-click)' },
  { value: 'object', label: 'object', title: 'An object, followed when it or the camera moves' },
  { value: 'nearest', label: 'nearest', title: 'The nearest thing in the middle part of the picture' },
]
function byKind(kind: Kind): void {
  const distanceM = at.value?.distanceM ?? 3
  if (kind === 'aim') set({ mode: { kind } })
  else if (kind === 'distance') set({ mode: { kind, distanceM } })
  else if (kind === 'nearest') set({ mode: { kind, field: 0.2 } })
  else if (kind === 'object') begin('focus-object')
  else begin('focus-point')
}
const mode = computed(() => focus.value.mode)
const objectName = computed(() =>
  mode.value.kind === 'object' ? (stage.byId.get(mode.value.nodeId)?.name ?? null) : null,
)
const TROUBLES = {
  gone: 'The object is no longer there: its last distance is kept.',
  behind: 'That lies behind the camera: focused at 3 m instead.',
  'no-aim': 'The camera looks in a direction without an aim: focused at 3 m instead.',
  nothing: 'Nothing is met there: focused at 3 m instead.',
} as const
const STOPS: readonly { value: StopKind; label: string }[] = [
  { value: 'full', label: 'full' },
  { value: 'half', label: 'half' },
  { value: 'third', label: 'third' },
]
const stop = (by: 1 | -1): boolean => set({ fNumber: nextStop(focus.value.fNumber, by, view.stops) })
/** What lies far behind is blurred by so much: the most that is seen of the aperture. */
const farPx = computed(() => blurPx(1e6))
const why = computed(() => {
  const w = project.working!
  if (!hasLens.value) return 'Parallel pictures have no lens: all of it is sharp.'
  if (off.value || farPx.value >= SEEN_PX) return ''
  return `${articled(w.lens.focalMm.toFixed(0))} mm lens at f/${focus.value.fNumber} blurs even what is far by ${farPx.value.toFixed(1)} px only, focused at ${long(at.value?.distanceM ?? 0)}.`
})
const CRITERIA = [
  { value: 'circle', label: 'on the sensor', title: 'A disc of so many millimetres counts as sharp' },
  { value: 'pixel', label: 'one pixel', title: 'Of the finished picture' },
] as const
const byCriterion = (kind: 'circle' | 'pixel'): boolean =>
  set({ criterion: kind === 'pixel' ? { kind } : { kind, cocMm: usualCocMm(project.working!.lens.sensorMm) } })
const LAST = F_STOPS.full.at(-1)!
</script>

<template>
  <section aria-label="Focus">
    <PanelHead cell="focus" title="Focus" />
    <label class="tick"
      ><input type="checkbox" :checked="focus.on" :disabled="!hasLens" @change="f.switchOn()" />the lens blurs what is
      out of focus</label
    >
    <p v-if="why" class="text" data-testid="no-blur">{{ why }}</p>
    <ChoiceRow label="Sharp is" :options="KINDS" :model-value="mode.kind" :disabled="off" @change="byKind" />
    <NumberField
      v-if="mode.kind === 'nearest'"
      label="in the middle"
      suffix="%"
      :model-value="mode.field * 100"
      :digits="0"
      :min="0"
      :max="100"
      :disabled="off"
      hint="Part of the picture’s width and height that is looked at"
      v-on="number((p) => withFocus({ mode: { kind: 'nearest', field: p / 100 } }))"
    />
    <template v-if="mode.kind === 'object'">
      <p class="text">
        <b>{{ objectName ?? 'an object that is gone' }}</b>
      </p>
      <ChoiceRow
        label="at its"
        :options="[
          { value: 'surface', label: 'surface', title: 'The nearest that is seen of it' },
          { value: 'centre', label: 'middle' },
        ]"
        :model-value="mode.at"
        :disabled="off"
        @change="mode.kind === 'object' && set({ mode: { ...mode, at: $event } })"
      />
      <NumberField
        label="and on by"
        kind="length"
        sign
        :unit="project.document!.unit"
        :model-value="mode.offsetM"
        :step="0.01"
        :disabled="off"
        v-on="number((offsetM) => withFocus({ mode: { ...mode, offsetM } as Focus['mode'] }))"
      />
    </template>
    <NumberField
      label="Distance"
      kind="length"
      :unit="project.document!.unit"
      :model-value="at?.distanceM ?? 0"
      :step="0.05"
      :min="0.001"
      :max="1e6"
      :disabled="off"
      hint="Along the axis: the plane of focus is parallel to the sensor"
      v-on="number((distanceM) => withFocus({ mode: { kind: 'distance', distanceM } }))"
    />
    <p v-if="!off && at?.trouble" class="text warn" role="status">△ {{ TROUBLES[at.trouble] }}</p>
    <div class="line">
      <span class="quiet">Click</span>
      <span class="buttons">
        <button
          class="btn"
          :disabled="!hasLens"
          :class="{ on: view.picking === 'focus-point' }"
          title="What is to be sharp (J, or Alt-click at once)"
          @click="begin('focus-point')"
        >
          a place
        </button>
        <button
          class="btn"
          :disabled="!hasLens"
          :class="{ on: view.picking === 'focus-between' }"
          title="Two places: distance and f-number that keep everything between them sharp"
          @click="begin('focus-between')"
        >
          from here to there
        </button>
      </span>
    </div>
    <div v-if="recent.length" class="line">
      <span class="quiet">Lately</span>
      <span class="buttons">
        <button
          v-for="r in recent"
          :key="r.name"
          class="btn"
          @click="set({ on: true, mode: { kind: 'point', point: r.point } })"
        >
          {{ r.name }}
        </button>
      </span>
    </div>
    <hr />
    <div class="stops">
      <NumberField
        label="f-number"
        kind="plain"
        :model-value="focus.fNumber"
        :step="0.1"
        :min="0.5"
        :max="256"
        :digits="1"
        :disabled="off"
        hint="Smaller blurs more"
        v-on="number((fNumber) => withFocus({ fNumber }))"
      />
      <button class="btn" :disabled="off || focus.fNumber <= 1" title="Opens by a stop" @click="stop(-1)">
        −<span class="visually-hidden">open by a stop</span>
      </button>
      <button class="btn" :disabled="off || focus.fNumber >= LAST" title="Closes by a stop" @click="stop(1)">
        +<span class="visually-hidden">close by a stop</span>
      </button>
    </div>
    <ChoiceRow label="Stops" :options="STOPS" :model-value="view.stops" @change="view.stops = $event" />
    <p v-if="!off && sharp" class="text" data-testid="sharp">
      Sharp from <b class="num">{{ long(sharp.nearM) }}</b> to <b class="num">{{ long(sharp.farM) }}</b><template
        v-if="sharp.farM !== Infinity"
        >, <span class="num">{{ long(sharp.farM - sharp.nearM) }}</span> in all</template
      >. Far things are blurred by <span class="num">{{ farPx.toFixed(farPx < 10 ? 1 : 0) }} px</span>.
    </p>
    <label v-if="hasLens" class="tick" title="A line round what is sharp, by its depth; never in saved pictures"
      ><input v-model="view.zone" type="checkbox" />outline what is sharp</label
    >
    <p v-if="!off && diffractionPx > SEEN_PX" class="text">
      Diffraction spreads points over <span class="num">{{ diffractionPx.toFixed(1) }} px</span> at this aperture.
    </p>
    <div v-if="!off && sharp" class="line">
      <span class="quiet">Hyperfocal</span>
      <span class="buttons"
        ><span class="num">{{ long(sharp.hyperfocalM) }}</span>
        <button class="btn" title="Sharp from half of it to infinity" @click="toHyperfocal">Focus there</button></span
      >
    </div>
    <NumberField
      label="Blur wanted"
      suffix="px"
      :model-value="wantedBlurPx"
      :digits="0"
      :step="1"
      :min="0.5"
      :max="2000"
      :disabled="off"
      hint="In the finished picture; then click the place"
      @change="wantedBlurPx = $event"
    />
    <div class="line">
      <span class="quiet">at</span>
      <span class="buttons"
        ><button
          class="btn"
          :disabled="off"
          :class="{ on: view.picking === 'focus-blur' }"
          title="The f-number that blurs it so much"
          @click="begin('focus-blur')"
        >
          a clicked place
        </button></span
      >
    </div>
    <hr />
    <ChoiceRow
      label="Counts as sharp"
      :options="CRITERIA"
      :model-value="focus.criterion.kind"
      :disabled="off"
      @change="byCriterion"
    />
    <NumberField
      v-if="focus.criterion.kind === 'circle'"
      label="a disc of"
      suffix="mm"
      :model-value="focus.criterion.cocMm"
      :digits="3"
      :step="0.001"
      :min="0.001"
      :max="1"
      :reset-to="usualCocMm(project.working!.lens.sensorMm)"
      :disabled="off"
      v-on="number((cocMm) => withFocus({ criterion: { kind: 'circle', cocMm } }))"
    />
    <hr />
    <ApertureFields :off="off" />
  </section>
</template>

<style scoped src="./panel.css"></style>
<style scoped>
.stops {
  display: grid;
  grid-template-columns: 1fr 28px 28px;
  gap: 4px;
  align-items: center;
  padding-right: 14px;
}
.warn {
  color: var(--ochre);
}
</style>

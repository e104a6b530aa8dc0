<script setup lang="ts">
// Level and back, square up, centre on, horizon through; and what converges in the picture, measured.
import { isPerspective } from '#core/camera'
import { computed } from 'vue'
import ChoiceRow from '../../controls/ChoiceRow.vue'
import { useFraming } from '../camera/framing.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'
import { usePicking } from '../straighten/picking.ts'
import { useStraighten } from '../straighten/straighten.ts'
import { leanText, signed } from '../../text/short.ts'

const project = useProject()
const stage = useStage()
const view = useView()
const { lean, level, tiltBack, mainBearingDeg } = useFraming()
const picking = usePicking()
const straighten = useStraighten()
const pose = computed(() => project.camera!.pose)
const lens = computed(() => project.working!.lens)
const isLevel = computed(() => Math.abs(pose.value.tiltDeg) < 1e-9 && Math.abs(pose.value.rollDeg) < 1e-9)
const perspective = computed(() => isPerspective(lens.value))
const shifted = computed(() => lens.value.riseMm !== 0 || lens.value.crossMm !== 0)
const CENTRES = [
  { value: 'cross', label: 'cross', title: 'By moving the lens sideways: nothing turns or moves' },
  { value: 'bearing', label: 'turning', title: 'By turning the camera' },
  { value: 'move', label: 'moving', title: 'By moving the station sideways' },
] as const
const from = computed(() =>
  view.mainBearingDeg !== null
    ? 'picked'
    : (stage.walls?.mainBearingDeg ?? null) === null
      ? 'north, no walls prevail'
      : 'found from the walls',
)
</script>

<template>
  <div>
    <p v-if="lean" class="lean" data-testid="convergence">
      <template v-if="lean.leanLeftDeg !== null">
        <b>{{ ['Nothing converges', 'One-point', 'Two-point', 'Three-point'][lean.points] }}</b>
        <span class="num"
          >verticals {{ signed(lean.leanLeftDeg, 2) }}° {{ signed(lean.leanRightDeg!, 2) }}°,
          {{ leanText(lean).split(', ')[1] ?? (Math.abs(pose.tiltDeg) > 45 ? 'seen along' : 'lying') }}</span
        >
      </template>
      <template v-else>No straight verticals in this form</template>
    </p>
    <div class="wide">
      <button
        class="btn"
        :class="{ main: !isLevel }"
        title="Level: tilt and roll become rise and cross (L)"
        @click="level()"
      >
        Level, keeping the framing
      </button>
      <button
        class="btn"
        :disabled="!perspective || !shifted"
        title="Rise and cross become tilt and bearing again: the same framing, with leaning verticals"
        @click="tiltBack()"
      >
        Tilt again
      </button>
      <label class="tick flush"
        ><input v-model="view.keepSize" type="checkbox" />keep the subject as wide as it is</label
      >
    </div>
    <hr />
    <h3>Square up <span class="quiet">keeping the framing</span></h3>
    <div class="wide">
      <button
        class="btn"
        :class="{ on: view.picking === 'square' }"
        title="Click the wall (U: the one under the pointer)"
        @click="picking.begin('square')"
      >
        To a wall: click it…
      </button>
      <button
        class="btn"
        title="To the building’s direction nearest to the present one"
        @click="straighten.squareNearest()"
      >
        To the nearest direction
      </button>
    </div>
    <p class="text quiet">
      The building runs at <span class="num">{{ signed(mainBearingDeg, 2) }}°</span>, {{ from }}.
      <button class="plain link" title="Click one of its walls" @click="picking.begin('main-direction')">
        Click a wall…
      </button>
      <button v-if="view.mainBearingDeg !== null" class="plain link" @click="view.mainBearingDeg = null">
        as found
      </button>
    </p>
    <hr />
    <h3>Centre on</h3>
    <ChoiceRow
      label="By"
      :model-value="picking.centreBy.value"
      :options="CENTRES"
      @change="picking.centreBy.value = $event"
    />
    <div class="wide">
      <button class="btn" :class="{ on: view.picking === 'centre' }" @click="picking.begin('centre')">
        A point or an edge: click it…
      </button>
      <button
        class="btn"
        :disabled="view.selection.length !== 1"
        title="The middle of the selected object"
        @click="straighten.centreSelected(picking.centreBy.value)"
      >
        The selected object
      </button>
    </div>
    <hr />
    <h3>Horizon through <span class="quiet">the subject stays</span></h3>
    <div class="wide">
      <button
        class="btn"
        :class="{ on: view.picking === 'horizon' }"
        title="The eye goes to its height; the selected object, or what is aimed at, keeps its place by rise (H)"
        @click="picking.begin('horizon')"
      >
        A point or an edge: click it…
      </button>
    </div>
  </div>
</template>

<style scoped src="./panel.css"></style>
<style scoped>
.wide {
  display: grid;
  gap: 5px;
  padding: 4px 14px;
}
.flush {
  padding: 0;
  color: var(--quiet);
}
.lean {
  display: grid;
  gap: 1px;
  padding: 4px 14px 6px;
}
.lean .num {
  color: var(--quiet);
}
h3 .quiet {
  font-weight: 400;
}
</style>

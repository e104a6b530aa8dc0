<script setup lang="ts">
// The parts of the working Setup with their present values; a dot marks what differs from the viewpoint it came from. At the end
// what can be done about it. While keeping, the cells become tick boxes.
import { IconLock } from '@tabler/icons-vue'
import { computed, ref, watch } from 'vue'
import {
  cellLabel,
  cellOf,
  CELLS,
  CAMERA_PARTS,
  partLabel,
  PARTS,
  partsOfCell,
  type CellName,
  type PartName,
} from '#model'
import { useNotices } from '../../stores/notices.ts'
import { useOutdoors } from '../../stores/outdoors.ts'
import { newId, useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'
import { useFraming } from '../camera/framing.ts'
import { useFocus } from '../focus/focus.ts'
import { CELL_VIEWS } from '../parts/registry.ts'
import KeepActions from './KeepActions.vue'

const project = useProject()
const view = useView()
const notices = useNotices()
const outdoors = useOutdoors()
const stage = useStage()
const { eyeHeight } = useFraming()
const { at } = useFocus()
const actions = ref<InstanceType<typeof KeepActions> | null>(null)
const ticked = ref<PartName[]>([])
const isTicked = (cell: CellName): boolean => partsOfCell(cell).some((p) => ticked.value.includes(p))

const cells = computed(() => {
  const setup = project.working
  const c = project.camera
  const doc = project.document
  if (!setup || !c || !doc) return []
  const outdoorEv = outdoors.isOutdoors(setup) ? (setup.exposure.outsideEv100 ?? stage.shownEv) : null
  const from = {
    setup,
    pose: c.pose,
    eyeHeightM: eyeHeight.value,
    unit: doc.unit,
    focusM: at.value?.distanceM ?? null,
    hiddenCount: project.shown.hidden.length,
    outdoorEv,
  }
  return CELLS.map((cell) => ({
    cell,
    label: cellLabel(cell),
    lines: CELL_VIEWS[cell].short(from),
    changed: partsOfCell(cell).some((p) => project.changed.includes(p)),
    locked: partsOfCell(cell).some((p) => doc.locked.includes(p)),
  }))
})

function ownParts(): PartName[] {
  const w = project.working
  if (!w) return []
  const hides = project.shown.hidden.length > 0
  const cuts = w.cut.near.on || w.cut.far.on || w.cut.cuts.some((c) => c.on)
  return PARTS.filter((p) => project.changed.includes(p) || (p === 'visible' && hides) || (p === 'cut' && cuts))
}
// entering a keeping mode ticks what changed, or what was kept last
watch(
  () => view.keeping,
  (mode) => {
    if (!mode) return
    const last = view.lastKept.filter((p): p is PartName => CELLS.includes(cellOf(p as PartName)))
    // a new viewpoint takes what changed too, and what is hidden or cut away: else it would show something else
    const kept = last.length > 0 ? last : [...CAMERA_PARTS]
    const also = ownParts().filter((p) => !kept.includes(p))
    ticked.value = mode === 'keep' ? [...project.changed] : [...kept, ...also]
    if (ticked.value.length === 0) ticked.value = [...CAMERA_PARTS]
  },
)
function press(cell: CellName): void {
  if (!view.keeping) {
    view.open(cell)
    return
  }
  const parts = partsOfCell(cell)
  const changed = parts.filter((p) => project.changed.includes(p))
  ticked.value = isTicked(cell)
    ? ticked.value.filter((p) => !parts.includes(p))
    : [...ticked.value, ...(view.keeping === 'keep' && changed.length > 0 ? changed : parts)]
}
function confirm(): void {
  const parts = [...ticked.value]
  if (view.keeping === 'keep') {
    if (!project.run({ type: 'keepChanged', parts })) return
    notices.say(`Kept: ${parts.map(partLabel).join(', ')}.`, 'plain', { label: 'Undo', run: project.undoOfThis() })
  } else if (view.keeping === 'new') {
    const name = actions.value?.name ?? ''
    if (!project.run({ type: 'keepAsNew', id: newId(), name, parts })) return
    view.lastKept = parts
  }
  view.keeping = null
}
/** Esc ends keeping; otherwise it is for whatever lies deeper. */
function escape(e: KeyboardEvent): void {
  if (!view.keeping) return
  e.stopPropagation()
  view.keeping = null
}
defineExpose({ confirm })
</script>

<template>
  <div class="strip" :class="{ keeping: view.keeping }" role="toolbar" aria-label="Setup" @keydown.esc="escape">
    <button
      v-for="c in cells"
      :key="c.cell"
      class="plain cell"
      :class="{ on: !view.keeping && view.panel === c.cell, tick: view.keeping }"
      :aria-pressed="view.keeping ? isTicked(c.cell) : view.panel === c.cell"
      :title="view.keeping ? `Keep ${c.label.toLowerCase()} or not` : `${c.label}: open its panel`"
      :data-testid="`cell-${c.cell}`"
      @click="press(c.cell)"
    >
      <span class="name"
        ><span v-if="view.keeping" class="box" :class="{ full: isTicked(c.cell) }" />{{ c.label
        }}<IconLock v-if="c.locked" :size="11" stroke="2"
      /></span>
      <template v-if="!view.keeping">
        <span class="num">{{ c.lines[0] }}</span>
        <span class="num">{{ c.lines[1] }}</span>
      </template>
      <i v-if="c.changed" class="dot" title="Differs from the viewpoint it came from" />
    </button>
    <KeepActions ref="actions" :ticked="ticked" @confirm="confirm" />
  </div>
</template>

<style scoped>
.strip {
  display: flex;
  background: var(--strip);
  color: var(--strip-ink);
  min-width: 0;
  min-height: 62px;
}
.cell {
  position: relative;
  width: 80px;
  flex: 0 1 80px;
  min-width: 52px;
  overflow: hidden;
  padding: 7px 2px 5px 8px;
  border-right: 1px solid var(--strip-line);
  font-stretch: 82%;
}
.cell .name {
  display: flex;
  align-items: center;
  gap: 5px;
  font-size: 10.5px;
  font-weight: 500;
  color: var(--strip-quiet);
}
.cell .num {
  display: block;
  white-space: nowrap;
  font-size: 11.5px;
  line-height: 1.28;
}
.cell.on {
  background: var(--panel);
  color: var(--ink);
}
.cell.on .name {
  color: var(--quiet);
}
.cell:focus-visible {
  outline-offset: -3px;
}
.dot {
  position: absolute;
  top: 8px;
  right: 8px;
  width: 7px;
  height: 7px;
  border-radius: 50%;
  background: var(--dot);
}
.box {
  flex: none;
  width: 10px;
  height: 10px;
  border: 1.5px solid var(--strip-quiet);
  border-radius: 2px;
}
.box.full {
  background: var(--dot);
  border-color: var(--dot);
}
/* without room for nine in a row: two rows of four, the actions beside them */
@container middle (max-width: 690px) {
  .strip {
    display: grid;
    grid-template-columns: repeat(4, minmax(0, 1fr)) minmax(92px, 0.8fr);
    grid-auto-rows: 40px;
    grid-auto-flow: row;
  }
  .cell {
    width: auto;
    padding: 5px 2px 3px 8px;
    border-bottom: 1px solid var(--strip-line);
  }
  .cell .num {
    display: inline;
    margin-right: 4px;
    font-size: 10.2px;
  }
  .strip > :last-child {
    grid-column: 5;
    grid-row: 1 / span 2;
  }
  .strip.keeping {
    grid-template-columns: repeat(8, minmax(0, 1fr));
  }
  .keeping > :last-child {
    grid-column: 1 / -1;
    grid-row: 2;
  }
}
/* beside an open drawer the values stand one under the other */
@container middle (max-width: 540px) {
  .strip {
    grid-auto-rows: 48px;
  }
  .cell {
    padding: 3px 2px 2px 7px;
  }
  .cell .num {
    display: block;
    font-size: 11px;
    line-height: 1.2;
  }
}
</style>

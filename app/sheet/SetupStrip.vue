<script setup lang="ts">
// The parts of the working Setup with their present values; a dot marks what differs from the viewpoint last recalled. At the end
// what can be done about it: keep, put back, keep as new. While keeping, the cells become tick boxes.
import { IconLock } from '@tabler/icons-vue'
import { computed, nextTick, ref, watch } from 'vue'
import type { PartName } from '#model'
import { partLabel } from '#model'
import { useFraming } from '../picture/framing.ts'
import { useNotices } from '../stores/notices.ts'
import { newId, useProject } from '../stores/project.ts'
import { useView } from '../stores/view.ts'
import { cutShort, frameShort, lensShort, standShort, visibleShort } from '../text/short.ts'

const project = useProject()
const view = useView()
const notices = useNotices()
const { eyeHeight } = useFraming()
const name = ref('')
const nameInput = ref<HTMLInputElement | null>(null)
/** Parts with a cell and a panel. */
type Cell = 'stand' | 'lens' | 'frame' | 'cut' | 'visible'
const CELLS: readonly Cell[] = ['stand', 'lens', 'frame', 'cut', 'visible']
const isCell = (p: string): p is Cell => (CELLS as readonly string[]).includes(p)
const ticked = ref<Cell[]>([])

const cells = computed(() => {
  const w = project.working
  const c = project.camera
  const doc = project.document
  if (!w || !c || !doc) return []
  const texts = {
    stand: standShort(c.pose, eyeHeight.value, doc.unit),
    lens: lensShort(w.lens),
    frame: frameShort(w.frame),
    cut: cutShort(w.cut, doc.unit),
    visible: visibleShort(w.visible.hidden.length),
  }
  return CELLS.map((part) => ({
    part,
    label: partLabel(part),
    lines: texts[part],
    changed: project.changed.includes(part),
    locked: doc.locked.includes(part),
  }))
})
const changedNames = computed(() => project.changed.map((p: PartName) => partLabel(p)).join(', '))

// entering a keeping mode ticks what changed, or what was kept last
watch(
  () => view.keeping,
  (mode) => {
    if (!mode) return
    const changed = project.changed.filter(isCell)
    ticked.value = mode === 'keep' ? changed : view.lastKept.filter(isCell)
    if (ticked.value.length === 0) ticked.value = ['stand', 'lens', 'frame']
    name.value = mode === 'new' ? freeName() : ''
    void nextTick(() => {
      nameInput.value?.focus()
      nameInput.value?.select()
    })
  },
)
function freeName(): string {
  const taken = new Set(project.document?.viewpoints.map((v) => v.name))
  const stem = project.recalled?.name.replace(/ \d+$/, '') ?? 'View'
  for (let i = 2; ; i++)
    if (!taken.has(`${stem} ${i}`))
      return taken.has(stem) || stem === 'View'
        ? stem === 'View' && !taken.has('View 1')
          ? 'View 1'
          : `${stem} ${i}`
        : stem
}
function cell(part: Cell): void {
  if (!view.keeping) {
    view.panel = part
    return
  }
  ticked.value = ticked.value.includes(part) ? ticked.value.filter((p) => p !== part) : [...ticked.value, part]
}
function confirm(): void {
  const parts = [...ticked.value]
  if (view.keeping === 'keep' && project.recalled) {
    const vp = project.recalled
    if (!project.run({ type: 'keep', viewpointId: vp.id, parts })) return
    notices.say(`Kept in “${vp.name}”: ${parts.map(partLabel).join(', ')}.`, 'plain', {
      label: 'Undo',
      run: project.undoEdit,
    })
  } else if (view.keeping === 'new') {
    if (!project.run({ type: 'keepAsNew', id: newId(), name: name.value, parts })) return
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
const putBack = (): void => void project.run({ type: 'putBack', parts: project.changed })
defineExpose({ confirm })
</script>

<template>
  <div class="strip" role="toolbar" aria-label="Setup" @keydown.esc="escape">
    <button
      v-for="c in cells"
      :key="c.part"
      class="plain cell"
      :class="{ on: !view.keeping && view.panel === c.part, tick: view.keeping }"
      :aria-pressed="view.keeping ? ticked.includes(c.part) : view.panel === c.part"
      :title="view.keeping ? `Keep ${c.label.toLowerCase()} or not` : `${c.label}: open its panel`"
      :data-testid="`cell-${c.part}`"
      @click="cell(c.part)"
    >
      <span class="name"
        ><span v-if="view.keeping" class="box" :class="{ full: ticked.includes(c.part) }" />{{ c.label
        }}<IconLock v-if="c.locked" :size="11" stroke="2"
      /></span>
      <span class="num">{{ c.lines[0] }}</span>
      <span class="num">{{ c.lines[1] }}</span>
      <i v-if="c.changed" class="dot" title="Differs from the viewpoint last recalled" />
    </button>
    <div v-if="view.keeping" class="keep">
      <template v-if="view.keeping === 'new'">
        <label class="visually-hidden" for="new-name">Name of the new viewpoint</label>
        <input id="new-name" ref="nameInput" v-model="name" maxlength="200" @keydown.enter.prevent="confirm" />
      </template>
      <span v-else class="what">Keep the ticked parts in “{{ project.recalled?.name }}”</span>
      <button class="go" :disabled="ticked.length === 0" @click="confirm">Keep</button>
      <button class="act" @click="view.keeping = null">Cancel</button>
    </div>
    <div
      v-else
      class="keep"
      :title="project.changed.length ? `Changed since “${project.recalled?.name}”: ${changedNames}` : ''"
    >
      <span class="what" :class="{ crowded: project.changed.length > 0 }">
        <template v-if="project.changed.length"
          >Changed since “{{ project.recalled?.name }}”: <b>{{ changedNames }}</b></template
        >
        <template v-else-if="project.recalled">As in “{{ project.recalled.name }}”</template>
        <template v-else>Not kept yet</template>
      </span>
      <button v-if="project.changed.length" class="act" title="Back to what the viewpoint keeps" @click="putBack">
        Put back
      </button>
      <button
        v-if="project.changed.length"
        class="go"
        title="Write the changed parts into the viewpoint (K)"
        @click="view.keeping = 'keep'"
      >
        Keep
      </button>
      <button
        :class="project.changed.length ? 'act' : 'go'"
        title="A new viewpoint of the ticked parts (Shift+K)"
        @click="view.keeping = 'new'"
      >
        Keep as new
      </button>
    </div>
  </div>
</template>

<style scoped>
.strip {
  display: flex;
  background: var(--strip);
  color: var(--strip-ink);
  min-width: 0;
}
.cell {
  position: relative;
  width: 87px;
  flex: 0 1 87px;
  min-width: 58px;
  overflow: hidden;
  padding: 7px 4px 5px 10px;
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
  width: 10px;
  height: 10px;
  border: 1.5px solid var(--strip-quiet);
  border-radius: 2px;
}
.box.full {
  background: var(--dot);
  border-color: var(--dot);
}
.keep {
  flex: 1;
  display: flex;
  align-items: center;
  justify-content: flex-end;
  gap: 8px;
  padding: 0 14px;
  min-width: 0;
}
.what {
  flex: 1;
  min-width: 0;
  font-size: 12px;
  color: var(--strip-quiet);
  overflow: hidden;
  text-overflow: ellipsis;
  display: -webkit-box;
  -webkit-line-clamp: 2;
  -webkit-box-orient: vertical;
}
.what b {
  color: var(--strip-ink);
  font-weight: 500;
}
.go,
.act {
  appearance: none;
  border: 1px solid var(--strip-line);
  border-radius: 4px;
  padding: 5px 12px;
  font-size: 12px;
  background: none;
  color: var(--strip-ink);
  cursor: pointer;
  white-space: nowrap;
}
.go {
  background: #6b3f7a;
  border-color: #6b3f7a;
  color: #fff;
  font-weight: 600;
}
.go:disabled {
  opacity: 0.4;
}
.go:focus-visible,
.act:focus-visible,
.keep input:focus-visible {
  outline-color: #d9b4e6;
}
.keep input {
  flex: 1;
  min-width: 80px;
  border: 1px solid var(--strip-line);
  border-radius: 4px;
  background: #0003;
  color: var(--strip-ink);
  padding: 5px 8px;
}
/* beside three buttons there is no room for a sentence: the dots say which parts, the title says it all */
@media (max-width: 1420px) {
  .what.crowded {
    display: none;
  }
}
@media (max-width: 1240px) {
  .keep {
    min-width: 214px;
    gap: 5px;
    padding: 0 8px;
  }
  .go,
  .act {
    padding: 5px 7px;
  }
  .cell {
    padding-left: 8px;
    padding-right: 2px;
  }
  .what {
    font-size: 11.5px;
  }
}
</style>

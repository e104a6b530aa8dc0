<script setup lang="ts">
// Keys, mouse and the few ideas one needs to begin.
import Dialog from 'primevue/dialog'
import { computed } from 'vue'
import { useView } from '../stores/view.ts'
import { shownKey, useActions } from './registry.ts'

const view = useView()
const actions = useActions()
const keys = computed(() => actions.value.filter((a) => a.key))
const MOUSE = [
  ['Drag on the picture', 'as chosen in the tool row; Shift: the other of turn and orbit'],
  ['Shift pressed during a drag', 'holds it to one axis'],
  ['Click, Shift-click, Ctrl-drag', 'select, add, draw a band; nothing moves'],
  ['Alt while dragging in Plan and Side', 'nothing snaps; Alt-click with Stand: onto furniture'],
  ['W A S D, Q E', 'walk (or fly); down and up; Shift hurries'],
  ['Right or middle drag', 'slide'],
  ['Wheel', 'to and from what is under the pointer; with the level kept Shift goes through walls'],
  ['Two fingers', 'slide, and to and fro by their spread'],
  ['Arrows, + and − on the picture', 'what the tool’s drag does; to and fro'],
  ['Alt + wheel', 'focal length, the subject at the aim kept at its size'],
  ['Esc during a drag or a walk', 'restores the start exactly'],
  ['Arrows on a handle', '1 cm; Shift 10 cm; Alt 1 mm'],
  ['Numbers', 'type units and sums: 1.2 m + 35 cm, 5\'11 1/2"'],
]
</script>

<template>
  <Dialog
    v-model:visible="view.help"
    modal
    header="Keys and help"
    :style="{ width: '640px' }"
    :draggable="false"
    dismissable-mask
  >
    <div class="columns">
      <dl>
        <template v-for="a in keys" :key="a.id">
          <dt class="num">{{ shownKey(a.key!) }}</dt>
          <dd>{{ a.label }}</dd>
        </template>
      </dl>
      <div>
        <dl class="mouse">
          <template v-for="[what, does] in MOUSE" :key="what">
            <dt>{{ what }}</dt>
            <dd class="quiet">{{ does }}</dd>
          </template>
        </dl>
        <label class="tick"><input v-model="view.singleKeys" type="checkbox" /> Single-letter keys</label>
      </div>
    </div>
  </Dialog>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 24px;
}
dl {
  display: grid;
  grid-template-columns: 96px 1fr;
  gap: 4px 8px;
  margin: 0;
  font-size: 12.5px;
}
.mouse {
  grid-template-columns: 1fr;
  gap: 0;
}
dd {
  margin: 0 0 4px;
}
dt.num {
  color: var(--plum);
}
.tick {
  display: flex;
  gap: 6px;
  margin-top: 12px;
}
.tick input {
  accent-color: var(--plum);
}
</style>

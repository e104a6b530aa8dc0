<script setup lang="ts">
// Over the picture while a click is asked for: what to click; with Stand chosen, at what height and on what.
import { computed } from 'vue'
import { formatLength, parseQuantity } from '#core/base'
import { useProject } from '../../stores/project.ts'
import { useView } from '../../stores/view.ts'
import { usePicking } from '../straighten/picking.ts'

const project = useProject()
const view = useView()
const { ask, end } = usePicking()
const unit = computed(() => project.document?.unit ?? 'm')
const own = computed(() => project.document?.eyeHeightM ?? 1.58)
const height = computed(() => view.standHeightM ?? own.value)
const PRESETS = [
  { label: 'standing', m: 1.6 },
  { label: 'seated', m: 1.2 },
] as const
function typed(e: Event): void {
  const input = e.target as HTMLInputElement
  const r = parseQuantity(input.value, 'length', unit.value)
  if (r.ok && r.value >= 0.01 && r.value <= 100) view.standHeightM = r.value
  input.value = formatLength(height.value, unit.value)
}
const leaveStand = (): void => void (view.tool = project.document?.subject === 'product' ? 'orbit' : 'turn')
</script>

<template>
  <div v-if="view.picking" class="ask" role="status" data-testid="ask">
    {{ ask }} <button class="plain" title="Esc" @click="end">Done</button>
  </div>
  <div v-else-if="view.tool === 'stand'" class="ask" data-testid="stand-bar">
    <span>Stand at</span>
    <input
      class="num"
      :value="formatLength(height, unit)"
      aria-label="Height to stand at"
      @change="typed"
      @keydown.enter="($event.target as HTMLInputElement).blur()"
      @keydown.esc.stop="($event.target as HTMLInputElement).blur()"
    />
    <span class="unit">{{ unit === 'ft-in' ? '' : unit }}</span>
    <button v-for="p in PRESETS" :key="p.label" class="plain" @click="view.standHeightM = p.m">{{ p.label }}</button>
    <button class="plain" :title="`${own.toFixed(2)} m`" @click="view.standHeightM = null">own</button>
    <label title="Also by Alt-click"><input v-model="view.onFurniture" type="checkbox" />on furniture too</label>
    <button class="plain" title="Esc" @click="leaveStand">Done</button>
  </div>
</template>

<style scoped>
.ask {
  position: absolute;
  z-index: 3;
  top: 10px;
  left: 50%;
  transform: translateX(-50%);
  display: flex;
  gap: 9px;
  align-items: center;
  padding: 4px 12px;
  border-radius: 4px;
  background: var(--panel);
  color: var(--ink);
  box-shadow: var(--shadow);
  font-size: 12px;
  white-space: nowrap;
  cursor: default;
}
.ask button {
  color: var(--plum);
  text-decoration: underline;
}
.ask label {
  display: flex;
  gap: 4px;
  align-items: center;
}
.ask input[type='checkbox'] {
  accent-color: var(--plum);
  margin: 0;
}
.ask .num {
  width: 62px;
  border: 0;
  border-bottom: 1px solid var(--line);
  background: none;
  text-align: right;
}
</style>

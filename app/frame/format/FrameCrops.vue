<script setup lang="ts">
// Other shapes of the same framing, shown over the picture and moved there; a mask for a title or a fold.
import { computed, ref } from 'vue'
import type { FrameMask } from '#core/camera'
import NumberField from '../../controls/NumberField.vue'
import { newStamp, useProject } from '../../stores/project.ts'
import { useView } from '../../stores/view.ts'
import { useCrops } from './crops.ts'

const project = useProject()
const view = useView()
const { crops, missing, put, nameOf } = useCrops()
const frame = computed(() => project.working!.frame)
const OFFERED = [[1, 1], [9, 16], [16, 9], [4, 5]] as const // prettier-ignore
const isOn = (w: number, h: number) => crops.value.find((c) => c.width === w && c.height === h)
function toggle(width: number, height: number): void {
  const old = isOn(width, height)
  const next = old
    ? crops.value.filter((c) => c !== old)
    : [...crops.value, { id: newStamp().id, width, height, x: 0, y: 0 }]
  put(next, `Shape ${width}:${height} beside`)
}
const own = ref(1.25)
const mask = computed<FrameMask>(() => frame.value.mask ?? { left: 0, right: 0, top: 0, bottom: 0, fold: 0 })
function setMask(changes: Partial<FrameMask>): void {
  const next = { ...mask.value, ...changes }
  const { mask: _, ...rest } = frame.value
  const isNone = Object.values(next).every((v) => v === 0)
  project.move({ frame: isNone ? rest : { ...rest, mask: next } }, 'Mask')
}
const MASK = [
  ['left', 'Left'],
  ['right', 'Right'],
  ['top', 'Top'],
  ['bottom', 'Bottom'],
  ['fold', 'Fold'],
] as const
</script>

<template>
  <div>
    <div class="line">
      <span class="quiet" title="The same framing in other shapes, drawn over the picture">Also as</span>
      <span class="buttons">
        <button
          v-for="[w, h] in OFFERED"
          :key="`${w}:${h}`"
          class="btn"
          :class="{ on: isOn(w, h) }"
          :aria-pressed="!!isOn(w, h)"
          @click="toggle(w, h)"
        >
          {{ w }}:{{ h }}
        </button>
      </span>
    </div>
    <NumberField
      label="Own, to 1"
      :digits="3"
      :model-value="own"
      :step="0.05"
      :min="0.05"
      :max="20"
      @change="own = $event"
      ><button class="btn add" :disabled="crops.length >= 12" @click="toggle(Number(own.toPrecision(4)), 1)">
        {{ isOn(Number(own.toPrecision(4)), 1) ? 'Take away' : 'Add' }}
      </button></NumberField
    >
    <p v-for="m in missing" :key="m.id" class="text warn">
      {{ nameOf(m) }} loses {{ Math.round(m.part * 100) }} % of {{ m.what }}: move it over the picture.
    </p>
    <NumberField
      label="Past the frame"
      suffix="%"
      :digits="0"
      :model-value="view.pastFrame * 100"
      :step="5"
      :min="0"
      :max="50"
      :reset-to="0"
      hint="What lies beyond the frame, dimmed, on every side"
      @change="view.pastFrame = $event / 100"
      @live="view.pastFrame = $event / 100"
    />
    <details :open="frame.mask !== undefined">
      <summary>Mask inside, for a title or a fold</summary>
      <NumberField
        v-for="[key, label] in MASK"
        :key="key"
        :label="label"
        suffix="%"
        :digits="1"
        :model-value="mask[key] * 100"
        :step="1"
        :min="0"
        :max="key === 'fold' ? 50 : 49"
        :reset-to="0"
        :hint="key === 'fold' ? 'A strip in the middle, where pages meet' : 'So much of this side is covered'"
        @change="setMask({ [key]: $event / 100 })"
      />
    </details>
  </div>
</template>

<style scoped src="../parts/panel.css"></style>
<style scoped>
.warn {
  color: var(--ochre);
}
.add {
  min-height: 20px;
  padding: 0 6px;
  font-size: 11px;
  white-space: nowrap;
}
</style>

<script setup lang="ts">
// The picture's shape, and what of the view stays when it changes.
import { computed } from 'vue'
import { MOST_ASPECT } from '#core/framing'
import ChoiceRow from '../../controls/ChoiceRow.vue'
import NumberField from '../../controls/NumberField.vue'
import { useView } from '../../stores/view.ts'
import { SHAPES, useShapes, type KeptInView } from './shapes.ts'

const view = useView()
const { frame, isUpright, shape, own, turn } = useShapes()
const ratio = computed(() => frame.value!.widthPx / frame.value!.heightPx)
const long = computed(() => Math.max(ratio.value, 1 / ratio.value))
const isShape = (r: number): boolean => Math.abs(long.value - r) < 0.003
const KEEP: readonly { value: KeptInView; label: string; title: string }[] = [
  { value: 'width', label: 'width', title: 'As much is seen across as before' },
  { value: 'height', label: 'height', title: 'As much is seen up as before' },
  { value: 'all', label: 'all', title: 'All that was seen is seen' },
  { value: 'area', label: 'area', title: 'Of another shape, but as large' },
]
</script>

<template>
  <div>
    <div class="shapes" role="group" aria-label="Shape of the picture">
      <button
        v-for="s in SHAPES"
        :key="s.label"
        class="plain shape"
        :class="{ on: isShape(s.ratio) }"
        :aria-pressed="isShape(s.ratio)"
        :title="s.title"
        @click="shape(s)"
      >
        <span
          class="pic"
          :style="{
            aspectRatio: isUpright ? 1 / s.ratio : s.ratio,
            height: isUpright ? '24px' : 'auto',
            width: isUpright ? 'auto' : '24px',
          }"
        />
        <span class="num">{{ s.label }}</span>
      </button>
    </div>
    <NumberField
      label="Own, to 1"
      :digits="3"
      :model-value="ratio"
      :step="0.01"
      :min="1 / MOST_ASPECT"
      :max="MOST_ASPECT"
      hint="Width to a height of one"
      @change="own"
      ><button class="btn turn" title="Frame and sensor turn together" @click="turn">
        {{ isUpright ? 'Turn to lying' : 'Turn upright' }}
      </button></NumberField
    >
    <ChoiceRow
      label="Keeps in view"
      :model-value="view.keptInView"
      :options="KEEP"
      @change="view.keptInView = $event"
    />
  </div>
</template>

<style scoped>
.shapes {
  display: grid;
  grid-template-columns: repeat(9, 1fr);
  padding: 4px 12px 6px;
}
.shape {
  display: grid;
  justify-items: center;
  align-items: end;
  grid-template-rows: 28px auto;
  gap: 3px;
  padding: 2px 0;
  border-radius: 4px;
}
.pic {
  border: 1.5px solid var(--quiet);
  border-radius: 1px;
}
.shape.on .pic {
  border-color: var(--plum);
  background: var(--plum-soft);
}
.shape .num {
  font-size: 10px;
  letter-spacing: -0.06em;
  color: var(--quiet);
}
.shape.on .num {
  color: var(--plum);
}
.turn {
  min-height: 22px;
  padding: 0 6px;
  font-size: 11px;
  white-space: nowrap;
}
</style>

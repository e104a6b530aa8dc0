<script setup lang="ts">
// At the pointer, when a level drag runs out of rise: how far the lens is, and tilting instead.
import { computed } from 'vue'
import { signed } from '../../text/short.ts'
import { useTiltOffer } from './tilt-offer.ts'

const props = defineProps<{ width: number; height: number }>()
const { offer, take, drop } = useTiltOffer()
const ROOM = { x: 238, y: 70 } as const
const place = computed(() => {
  const [x, y] = offer.value?.at ?? [0, 0]
  const left = Math.max(4, Math.min(x + 14, props.width - ROOM.x))
  const top = Math.max(4, Math.min(y + 14, props.height - ROOM.y))
  return { left: `${left}px`, top: `${top}px` }
})
</script>

<template>
  <div
    v-if="offer"
    class="offer"
    :class="{ running: !offer.instead }"
    :style="place"
    role="status"
    data-testid="tilt-offer"
  >
    <span>Rise {{ signed(offer.riseMm, 1) }} mm is past what shift lenses reach.</span>
    <span v-if="offer.instead" class="do">
      <button class="btn" title="The same drag by tilting: verticals will lean" @click="take">Tilt instead</button>
      <button class="plain" @click="drop">Keep the rise</button>
    </span>
  </div>
</template>

<style scoped>
.offer {
  position: absolute;
  z-index: 4;
  width: 230px;
  display: grid;
  gap: 5px;
  padding: 7px 10px;
  border-radius: 4px;
  border-left: 3px solid var(--ochre);
  background: var(--panel);
  color: var(--ink);
  box-shadow: var(--shadow);
  font-size: 12px;
  cursor: default;
}
.running {
  pointer-events: none;
}
.do {
  display: flex;
  gap: 10px;
  align-items: center;
}
.plain {
  color: var(--plum);
  text-decoration: underline;
}
</style>

<script setup lang="ts">
// One viewpoint of the contact sheet: its picture, number and name, which parts it keeps, and the way to more.
import { IconDots, IconLock } from '@tabler/icons-vue'
import { onLongPress } from '@vueuse/core'
import { computed, nextTick, ref, watch } from 'vue'
import { CAMERA_PARTS, keptNames, partLabel, type Viewpoint } from '#model'
import { useProject } from '../../stores/project.ts'
import FramingThumb from '../thumbs/FramingThumb.vue'
import { useShownBy } from '../thumbs/thumbs.ts'

const props = defineProps<{ viewpoint: Viewpoint; index: number; renaming: boolean }>()
const emit = defineEmits<{
  recall: []
  keydown: [e: KeyboardEvent]
  menu: [e: Event]
  rename: []
  renamed: [name: string]
  cancel: []
}>()
const project = useProject()
const item = ref<HTMLElement | null>(null)
// touch and pen have no other button: held, a tile opens its menu
onLongPress(item, (e) => e.pointerType !== 'mouse' && emit('menu', e), { delay: 550, distanceThreshold: 8 })
const input = ref<HTMLInputElement | null>(null)
const shown = useShownBy(() => props.viewpoint)
const isNow = computed(() => project.recalled?.id === props.viewpoint.id)
const words = computed(
  () =>
    `${keptNames(props.viewpoint.parts)
      .map((p) => partLabel(p).toLowerCase())
      .join(', ')} only`,
)
watch(
  () => props.renaming,
  (on) => {
    if (!on) return
    void nextTick(() => {
      input.value?.focus()
      input.value?.select()
    })
  },
)
/** Once: leaving the field after Enter or Esc tells nothing more. */
const renamed = (e: Event): void => void (props.renaming && emit('renamed', (e.target as HTMLInputElement).value))
</script>

<template>
  <div
    class="item"
    :class="{ now: isNow }"
    :data-index="index"
    data-testid="viewpoint"
    ref="item"
    @contextmenu.prevent="emit('menu', $event)"
  >
    <button
      class="plain recall"
      :title="`Recall “${viewpoint.name}”`"
      :aria-label="`Recall “${viewpoint.name}”`"
      :aria-current="isNow"
      @click="emit('recall')"
      @keydown="emit('keydown', $event)"
    >
      <FramingThumb :setup="shown" :words="words" />
      <span class="marks" aria-hidden="true"
        ><i v-for="p in CAMERA_PARTS" :key="p" :class="{ kept: viewpoint.parts[p] }"
      /></span>
      <IconLock v-if="viewpoint.locked" class="lock" :size="13" stroke="1.8" />
    </button>
    <div class="caption">
      <span class="num quiet">{{ String(index + 1).padStart(2, '0') }}</span>
      <input
        v-if="renaming"
        ref="input"
        class="name-input"
        :value="viewpoint.name"
        aria-label="Name of the viewpoint"
        maxlength="200"
        @keydown.enter="renamed"
        @keydown.esc.stop="emit('cancel')"
        @blur="renamed"
      />
      <span
        v-else
        class="name"
        :title="`${viewpoint.name}: click to recall, twice to rename`"
        @click="emit('recall')"
        @dblclick="emit('rename')"
        >{{ viewpoint.name }}</span
      >
      <button
        class="plain more"
        :title="`More for “${viewpoint.name}”`"
        aria-haspopup="menu"
        @click="emit('menu', $event)"
      >
        <IconDots :size="14" stroke="1.6" /><span class="visually-hidden">More for {{ viewpoint.name }}</span>
      </button>
    </div>
  </div>
</template>

<style scoped>
.item {
  width: var(--tile-w);
  flex: none;
}
.recall {
  position: relative;
  display: block;
  width: var(--tile-w);
  height: var(--tile-h);
  border: 1px solid var(--line);
  border-radius: 2px;
  overflow: hidden;
  /* another shape than the tile's stands on the sheet */
  --thumb-ground: var(--paper);
}
.now .recall {
  outline: 2px solid var(--plum);
  outline-offset: 1px;
}
.recall:focus-visible {
  outline: 2px solid var(--ink);
  outline-offset: 1px;
}
.marks {
  position: absolute;
  left: 4px;
  bottom: 4px;
  display: flex;
  gap: 2px;
}
.marks i {
  width: 11px;
  height: 4px;
  background: #fffc;
  border: 1px solid #0004;
}
.marks i.kept {
  background: #6b3f7a;
}
.lock {
  position: absolute;
  right: 3px;
  top: 3px;
  color: #fff;
  filter: drop-shadow(0 0 2px #000);
}
.caption {
  display: flex;
  gap: 5px;
  align-items: flex-start;
  margin-top: 3px;
  font-size: 11px;
  line-height: 13px;
}
.caption .num {
  font-size: 11px;
}
.name {
  flex: 1;
  min-width: 0;
  max-height: 26px;
  overflow: hidden;
  display: -webkit-box;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 2;
  line-clamp: 2;
  overflow-wrap: anywhere;
  font-stretch: 88%;
  cursor: pointer;
}
.name-input {
  flex: 1;
  width: 40px;
  border: 0;
  border-bottom: 1px solid var(--plum);
  background: none;
  padding: 0;
  outline: none;
}
.more {
  line-height: 0;
  color: var(--quiet);
  opacity: 0;
  padding: 1px;
}
.item:hover .more,
.more:focus-visible {
  opacity: 1;
}
</style>

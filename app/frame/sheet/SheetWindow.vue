<script setup lang="ts">
// The tiles that are in the window of a long contact sheet; dragged, they change their order.
import { onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue'
import type { Viewpoint } from '#model'

const props = defineProps<{
  items: readonly Viewpoint[]
  /** Place of the first of them in the whole list. */
  first: number
}>()
const emit = defineEmits<{ moved: [from: number, to: number] }>()
const root = ref<HTMLElement | null>(null)
const list = shallowRef<Viewpoint[]>([])
watch(() => props.items, (items) => (list.value = [...items]), { immediate: true }) // prettier-ignore
// its code comes after the picture's
let dragging: { destroy: () => void } | null = null
let isGone = false
onMounted(async () => {
  const { useDraggable } = await import('vue-draggable-plus')
  if (!root.value || isGone) return
  dragging = useDraggable(root.value, list, {
    animation: 120,
    handle: '.recall',
    delay: 60,
    onEnd: ({ oldIndex, newIndex }) => {
      if (oldIndex === undefined || newIndex === undefined || oldIndex === newIndex) return
      emit('moved', props.first + oldIndex, props.first + newIndex)
    },
  })
})
onBeforeUnmount(() => {
  isGone = true
  dragging?.destroy()
})
</script>

<template>
  <div ref="root">
    <slot v-for="(v, k) in items" :key="v.id" :viewpoint="v" :index="first + k" />
  </div>
</template>

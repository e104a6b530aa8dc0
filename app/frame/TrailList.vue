<script setup lang="ts">
// The trail: earlier positions of the camera with small pictures, newest first; a click goes there.
import { onClickOutside } from '@vueuse/core'
import { computed, nextTick, ref, watch } from 'vue'
import { trailPlace, type Setup, type TrailStep } from '#model'
import FramingThumb from './thumbs/FramingThumb.vue'
import { useProject } from '../stores/project.ts'
import { useView } from '../stores/view.ts'

const project = useProject()
const view = useView()
const panel = ref<HTMLElement | null>(null)
const AT_ONCE = 20
const shown = ref(AT_ONCE)
watch(
  () => view.trail,
  async (open) => {
    if (!open) return
    shown.value = AT_ONCE
    await nextTick()
    panel.value?.querySelector<HTMLElement>('[aria-current=true]')?.focus()
  },
)
onClickOutside(panel, () => (view.trail = false), { ignore: ['[data-trail-button]'] })

const steps = computed(() => {
  const doc = project.document
  if (!doc || !view.trail) return []
  const all = doc.trail.steps.map((step, at) => ({ step, at })).reverse()
  // the present step is always among those shown
  return all.slice(0, Math.max(shown.value, all.length - doc.trail.at + 2))
})
const more = computed(() => (project.document?.trail.steps.length ?? 0) - steps.value.length)
const setupOf = (s: TrailStep): Setup => ({
  ...project.document!.working,
  stand: s.stand,
  lens: s.lens,
  frame: s.frame,
})
const go = (at: number): void => void project.run({ type: 'trailTo', at })
function key(e: KeyboardEvent): void {
  const by = e.key === 'ArrowDown' ? 1 : e.key === 'ArrowUp' ? -1 : 0
  const all = [...(panel.value?.querySelectorAll<HTMLElement>('.step') ?? [])]
  if (e.key === 'Escape') view.trail = false
  else if (by) all[all.indexOf(document.activeElement as HTMLElement) + by]?.focus()
  else if (e.key === 'Home') all[0]?.focus()
  else if (e.key === 'End') all.at(-1)?.focus()
  else return
  e.preventDefault()
  e.stopPropagation()
}
</script>

<template>
  <div
    v-if="view.trail && project.document"
    ref="panel"
    class="trail"
    role="dialog"
    aria-label="Trail"
    data-testid="trail"
    @keydown="key"
  >
    <button
      v-for="{ step, at } in steps"
      :key="at"
      class="plain step"
      :class="{ now: at === project.document.trail.at, branch: step.branch }"
      :title="step.branch ? `${step.label}: left aside when another way was taken` : step.label"
      :aria-current="at === project.document.trail.at"
      data-testid="trail-step"
      @click="go(at)"
    >
      <span class="pic"><FramingThumb :setup="setupOf(step)" /></span>
      <span class="num quiet">{{ step.branch ? '' : trailPlace(project.document.trail, at).place }}</span>
      <span class="label">{{ step.label }}</span>
    </button>
    <button v-if="more > 0" class="btn more" @click="shown += 20">{{ more }} earlier</button>
  </div>
</template>

<style scoped>
.trail {
  position: absolute;
  top: 2px;
  right: 120px;
  z-index: 20;
  width: 268px;
  max-height: min(560px, 80vh);
  overflow-y: auto;
  background: var(--panel);
  border: 1px solid var(--line-strong);
  border-radius: 4px;
  box-shadow: var(--shadow);
  padding: 5px;
}
.step {
  display: grid;
  grid-template-columns: 84px 26px 1fr;
  gap: 8px;
  align-items: center;
  width: 100%;
  padding: 4px;
  border-radius: 3px;
  border-left: 2px solid transparent;
}
.step.branch {
  padding-left: 22px;
  grid-template-columns: 66px 26px 1fr;
  color: var(--quiet);
}
.branch .pic {
  height: 38px;
}
.step:hover {
  background: var(--paper);
}
.step.now {
  border-left-color: var(--plum);
  background: var(--plum-soft);
}
.pic {
  height: 48px;
}
.num {
  text-align: right;
}
.label {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.more {
  margin: 4px;
}
</style>

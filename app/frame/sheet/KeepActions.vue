<script setup lang="ts">
// What can be done about changes, in one button with the rest folded behind it: keep, keep as new, put back. While keeping, a name
// where one is needed, and the way out.
import { IconChevronDown } from '@tabler/icons-vue'
import Menu from 'primevue/menu'
import { computed, nextTick, ref, watch } from 'vue'
import { keepingPlan, partLabel, type PartName } from '#model'
import { useProject } from '../../stores/project.ts'
import { useView } from '../../stores/view.ts'

const props = defineProps<{ ticked: readonly PartName[] }>()
defineEmits<{ confirm: [] }>()
const project = useProject()
const view = useView()
const name = ref('')
const nameInput = ref<HTMLInputElement | null>(null)
const menu = ref<InstanceType<typeof Menu> | null>(null)

const changed = computed(() => project.changed)
const changedNames = computed(() => changed.value.map(partLabel).join(', '))
/** Which viewpoint each ticked part would be kept in, in words. */
const into = computed(() => {
  const doc = project.document
  if (!doc) return ''
  const plan = [...keepingPlan(doc, props.ticked)]
  if (plan.length === 1) return `into “${plan[0]![0].name}”`
  return plan.map(([vp, parts]) => `${parts.map(partLabel).join(', ')} into “${vp.name}”`).join('; ')
})
watch(
  () => view.keeping,
  (mode) => {
    if (!mode) return
    name.value = mode === 'new' ? freeName() : ''
    void nextTick(() => {
      nameInput.value?.focus()
      nameInput.value?.select()
    })
  },
)
/** The recalled viewpoint's name with the next number, or “View 1”. */
function freeName(): string {
  const taken = new Set(project.document?.viewpoints.map((v) => v.name))
  const stem = project.recalled?.name.replace(/ \d+$/, '') ?? 'View'
  if (stem !== 'View' && !taken.has(stem)) return stem
  for (let i = stem === 'View' ? 1 : 2; ; i++) if (!taken.has(`${stem} ${i}`)) return `${stem} ${i}`
}
const items = computed(() => [
  ...(changed.value.length > 0
    ? [
        { label: `Keep ${changedNames.value} (K)`, command: () => (view.keeping = 'keep') },
        {
          label: 'Put back',
          command: () => void project.run({ type: 'putBack', parts: changed.value }),
        },
      ]
    : []),
  { label: 'Keep as new (Shift+K)', command: () => (view.keeping = 'new') },
])
const main = (): void => void (view.keeping = changed.value.length > 0 ? 'keep' : 'new')
const title = computed(() => {
  const from = project.recalled?.name
  if (changed.value.length > 0) return `Changed since “${from ?? 'the start'}”: ${changedNames.value}`
  return from ? `As in “${from}”` : 'Not kept yet'
})
defineExpose({ name })
</script>

<template>
  <div v-if="view.keeping" class="keep asking">
    <template v-if="view.keeping === 'new'">
      <label class="visually-hidden" for="new-name">Name of the new viewpoint</label>
      <input id="new-name" ref="nameInput" v-model="name" maxlength="200" @keydown.enter.prevent="$emit('confirm')" />
    </template>
    <span v-else class="what" :title="into">{{ into }}</span>
    <button class="go" :disabled="ticked.length === 0" @click="$emit('confirm')">Keep</button>
    <button class="act" @click="view.keeping = null">Cancel</button>
  </div>
  <div v-else class="keep" :class="{ changed: changed.length > 0 }" :title="title">
    <button
      class="main"
      :title="
        changed.length > 0
          ? 'Write the changed parts into the viewpoint (K)'
          : 'A new viewpoint of the ticked parts (Shift+K)'
      "
      @click="main"
    >
      <b>{{ changed.length > 0 ? 'Keep' : 'Keep as new' }}</b>
      <span v-if="changed.length > 0" class="of">{{ changedNames }}</span>
      <span v-else-if="project.recalled" class="of">{{ project.recalled.name }}</span>
    </button>
    <button class="more" aria-haspopup="menu" title="More: keep as new, put back" @click="menu?.toggle($event)">
      <IconChevronDown :size="14" stroke="1.8" /><span class="visually-hidden">More ways to keep</span>
    </button>
    <Menu ref="menu" :model="items" popup />
  </div>
</template>

<style scoped>
.keep {
  flex: 1 0 96px;
  min-width: 0;
  display: flex;
  align-items: stretch;
  background: var(--strip);
}
.keep.changed {
  background: #6b3f7a;
}
.main,
.more {
  appearance: none;
  border: 0;
  background: none;
  color: #fff;
  cursor: pointer;
}
.main {
  flex: 1;
  min-width: 0;
  display: grid;
  align-content: center;
  gap: 2px;
  padding: 0 2px 0 9px;
  text-align: left;
  font-stretch: 84%;
}
.main b {
  font-size: 12px;
  font-weight: 600;
  white-space: nowrap;
}
.of {
  font-size: 10.5px;
  opacity: 0.9;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.more {
  width: 24px;
  padding: 0;
  display: grid;
  place-items: center;
}
.main:hover,
.more:hover {
  background: #ffffff1f;
}
.main:focus-visible,
.more:focus-visible,
.go:focus-visible,
.act:focus-visible,
.asking input:focus-visible {
  outline: 2px solid #d9b4e6;
  outline-offset: -2px;
}
.asking {
  flex: 1 0 240px;
  gap: 6px;
  padding: 0 10px;
  align-items: center;
}
.what {
  flex: 1;
  min-width: 0;
  font-size: 11.5px;
  color: var(--strip-quiet);
  overflow: hidden;
  display: -webkit-box;
  -webkit-line-clamp: 3;
  -webkit-box-orient: vertical;
}
.go,
.act {
  appearance: none;
  border: 1px solid var(--strip-line);
  border-radius: 4px;
  padding: 5px 9px;
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
.asking input {
  flex: 1;
  min-width: 80px;
  border: 1px solid var(--strip-line);
  border-radius: 4px;
  background: #0003;
  color: var(--strip-ink);
  padding: 5px 8px;
}
</style>

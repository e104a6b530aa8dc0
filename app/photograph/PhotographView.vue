<script setup lang="ts">
// The photograph large, what is drawn on it at the left, what follows from it at the right; the model beside it while points are paired.
import { useEventListener } from '@vueuse/core'
import { computed, onBeforeUnmount, watch } from 'vue'
import { useRouter } from 'vue-router'
import { action, grouped, handleKey, offerActions } from '../actions/registry.ts'
import { isDragging } from '../controls/drag.ts'
import { isPhotoName } from '#formats/photo'
import { useNotices } from '../stores/notices.ts'
import { useProject } from '../stores/project.ts'
import { useView } from '../stores/view.ts'
import { useAdding } from './adding.ts'
import AnswerBox from './AnswerBox.vue'
import BundleList from './BundleList.vue'
import { useDrawing } from './drawing.ts'
import { useMatch } from './match.ts'
import ModelPane from './ModelPane.vue'
import { useOpenedPhoto } from './opened.ts'
import PhotoList from './PhotoList.vue'
import PhotoSheet from './PhotoSheet.vue'
import { usePicks } from './picks.ts'
import ResidualBox from './ResidualBox.vue'
import ScaleBox from './ScaleBox.vue'
import { TOOLS, usePhotoTools, type ToolName } from './tools.ts'
import UseBox from './UseBox.vue'
import { sameList } from '../controls/same-list.ts'

const props = defineProps<{ photoId?: string }>()
const project = useProject()
const view = useView()
const notices = useNotices()
const router = useRouter()
const { photoId: opened, photo, photos } = useMatch()
const { find, close } = useOpenedPhoto()
const { tool, snaps, overlay, chosen, pendingWorld, pendingEdge, showsEdges, measuresOn } = usePhotoTools()
const { outline, remove } = useDrawing()
const { top } = usePicks()
const { begin } = useAdding()

// without one in the address it is the first
watch(
  sameList(() => [props.photoId, photos.value] as const),
  ([id, list]) => (opened.value = list.find((p) => p.id === id)?.id ?? list[0]?.id ?? null),
  { immediate: true },
)
onBeforeUnmount(() => {
  opened.value = null
  close()
})
/** The model is picked in beside the photograph. */
const isBeside = computed(() => photo.value !== null && (tool.value === 'pair' || tool.value === 'scale'))
const hint = computed(() => TOOLS.find((t) => t.name === tool.value)!.hint)
function use(name: ToolName): void {
  tool.value = name
  outline.value = []
  top.value = null
  pendingWorld.value = null
  pendingEdge.value = null
}
const has = (): boolean => photo.value !== null
const actions = [
  ...grouped('Photograph', [
    ...TOOLS.map((t) => action(`photo-${t.name}`, `${t.label}: ${t.hint}`, () => use(t.name), { key: t.key, enabled: has })),
    action('photo-edges', 'Find edges in the photograph', () => void find(), { key: 'E', enabled: has }),
    action('photo-over', 'The model over the photograph, on and off', () => (overlay.value = overlay.value === 'none' ? 'model' : 'none'), { key: 'M', enabled: has }),
    action('photo-remove', 'Take out what is chosen', () => chosen.value && remove(chosen.value), { enabled: () => chosen.value !== null }),
    action('to-frame', 'Back to the frame', () => void router.push(`/project/${project.id}`)),
  ]),
  ...grouped('Trail and undo', [
    action('undo', 'Undo the last edit', project.undoEdit, { key: 'Ctrl+Z', enabled: () => project.canUndo }),
    action('redo', 'Redo', project.redoEdit, { key: 'Ctrl+Shift+Z', enabled: () => project.canRedo }),
  ]),
  ...grouped('Yoroi', [
    action('commands', 'All commands', () => (view.commands = true), { key: 'Ctrl+K' }),
    action('help', 'Keys and help', () => (view.help = true), { key: 'F1' }),
  ]),
] // prettier-ignore
offerActions(() => actions)
useEventListener(window, 'keydown', (e) => {
  const dialogOpen = view.help || view.commands || project.saveState === 'conflict'
  if (e.key === 'Escape' && !dialogOpen && !isDragging()) {
    if (pendingWorld.value || pendingEdge.value || top.value) {
      pendingWorld.value = null
      pendingEdge.value = null
      top.value = null
    } else chosen.value = null
    return
  }
  handleKey(e, actions, { dialogOpen, singleKeys: view.singleKeys, dragging: isDragging() })
})
function drop(e: DragEvent): void {
  const files = [...(e.dataTransfer?.files ?? [])]
  const fit = files.filter((f) => isPhotoName(f.name))
  if (fit.length < files.length) notices.say('Only photographs are taken here: JPEG, PNG, WebP or AVIF. Models are brought in at the frame.', 'warning') // prettier-ignore
  void begin(fit)
}
</script>

<template>
  <div class="view" @dragover.prevent @drop.prevent="drop">
    <h1 class="visually-hidden">{{ project.document?.name }}: photograph</h1>
    <aside class="left" aria-label="What is drawn">
      <PhotoList />
      <template v-if="photo">
        <BundleList />
        <ScaleBox />
      </template>
    </aside>
    <main>
      <div class="tools" role="toolbar" aria-label="Tools">
        <button
          v-for="t in TOOLS"
          :key="t.name"
          class="btn"
          :class="{ on: tool === t.name }"
          :aria-pressed="tool === t.name"
          :disabled="!photo"
          :title="`${t.hint} (${t.key})`"
          @click="use(t.name)"
        >
          {{ t.label }}
        </button>
        <label class="tick" title="Lines lie on the edge of the photograph near them"
          ><input v-model="snaps" type="checkbox" />Snap</label
        >
        <label class="tick" title="Edges that were found"><input v-model="showsEdges" type="checkbox" />Edges</label>
        <label v-if="tool === 'measure'" class="tick" title="Else on the ground"
          ><input
            type="checkbox"
            :checked="measuresOn === 'model'"
            @change="measuresOn = measuresOn === 'model' ? 'ground' : 'model'"
          />From the model</label
        >
        <p class="hint quiet">{{ photo ? hint : '' }}</p>
      </div>
      <div class="sheets" :class="{ two: isBeside }">
        <PhotoSheet v-if="photo" />
        <div v-else class="empty">
          <p>Bring in a photograph of the site: drop it here, or pick it at the left.</p>
        </div>
        <ModelPane v-if="isBeside" />
      </div>
    </main>
    <aside class="right" aria-label="What follows">
      <template v-if="photo">
        <AnswerBox />
        <UseBox />
        <ResidualBox />
      </template>
    </aside>
  </div>
</template>

<style scoped>
.view {
  display: grid;
  grid-template-columns: 232px minmax(0, 1fr) 300px;
  min-height: 0;
  height: 100%;
}
aside {
  background: var(--panel);
  overflow-y: auto;
  overflow-x: hidden;
  min-height: 0;
  padding-bottom: 16px;
}
.left {
  border-right: 1px solid var(--line);
}
.right {
  border-left: 1px solid var(--line);
}
main {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  min-width: 0;
  min-height: 0;
}
.tools {
  display: flex;
  gap: 4px;
  align-items: center;
  padding: 5px 10px;
  background: var(--panel);
  border-bottom: 1px solid var(--line);
  white-space: nowrap;
  flex-wrap: wrap;
}
.tools .btn {
  padding: 3px 8px;
}
.tick {
  display: flex;
  gap: 4px;
  align-items: center;
  font-size: 12px;
  margin-left: 6px;
}
.tick input {
  accent-color: var(--plum);
  margin: 0;
}
.hint {
  flex-basis: 100%;
  white-space: normal;
  font-size: 11.5px;
  margin: 1px 0 0;
}
.sheets {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  min-height: 0;
}
.sheets.two {
  grid-template-rows: minmax(0, 1.2fr) minmax(0, 1fr);
}
.empty {
  display: grid;
  place-content: center;
  background: var(--mount);
  color: var(--mount-ink);
}
@media (max-width: 1100px) {
  .view {
    grid-template-columns: 190px minmax(0, 1fr) 260px;
  }
}
</style>

<script setup lang="ts">
// Mark, project, trail, undo, saving, theme, help.
import { IconArrowLeft, IconArrowRight, IconHelp, IconMoon, IconSun } from '@tabler/icons-vue'
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import { trailPlace } from '#model'
import { AppError, isPassing, type ErrorCode } from '#core/base'
import { failureText } from '../stores/notices.ts'
import { useProject } from '../stores/project.ts'
import { useStage } from '../stores/stage.ts'
import { useView } from '../stores/view.ts'
import StillProgress from './StillProgress.vue'
import YoroiMark from './YoroiMark.vue'

const project = useProject()
const view = useView()
const stage = useStage()
const naming = ref(false)
const route = useRoute()
/** The trail and the models belong to the frame. */
const here = computed(() => /\/(photograph|walk)(\/|$)/.exec(route.path)?.[1] ?? 'frame')
const isFrame = computed(() => here.value === 'frame')
const VIEWS = [
  { name: 'frame', label: 'Frame', path: '' },
  { name: 'photograph', label: 'Photograph', path: '/photograph' },
  { name: 'walk', label: 'Walk', path: '/walk' },
] as const

const saved = computed(() => {
  switch (project.saveState) {
    case 'saved':
      return project.savedAt
        ? `Saved ${new Date(project.savedAt).toLocaleTimeString([], { hour: '2-digit', minute: '2-digit' })}`
        : 'Saved'
    case 'waiting':
    case 'saving':
      return 'Saving…'
    case 'failed':
      return `Not saved: ${project.problem ? (WHY[project.problem] ?? 'refused') : 'trying again'}`
    case 'behind':
      return 'Saved in another tab'
    case 'conflict':
      return project.theirs ? 'Changed in another tab' : 'Deleted in another tab'
  }
  return ''
})
/** Why nothing is saved, in two words; the whole sentence is in the tooltip. */
const WHY: Partial<Record<ErrorCode, string>> = {
  offline: 'server away',
  internal: 'trying again',
  'storage-full': 'disk full',
  'storage-busy': 'file locked',
  'storage-failed': 'disk fails',
  'storage-damaged': 'file damaged',
}
const savedTitle = computed(() => {
  if (project.saveState !== 'failed' || !project.problem) return undefined
  const again = isPassing(project.problem) ? ' Tried again every four seconds; kept in this browser meanwhile.' : ' Kept in this browser meanwhile.' // prettier-ignore
  return failureText(new AppError(project.problem)) + again
})
const trailText = computed(() => {
  const trail = project.document?.trail
  if (!trail) return ''
  const { place, of } = trailPlace(trail, trail.at)
  return `${trail.steps[trail.at]!.branch ? 'aside' : place} of ${of}`
})
function renamed(e: Event): void {
  if (!naming.value) return
  naming.value = false
  const name = (e.target as HTMLInputElement).value.trim()
  if (name !== project.document?.name) project.run({ type: 'setProject', changes: { name } })
}
const toggleTheme = (): void => void (view.theme = view.theme === 'day' ? 'night' : 'day')
</script>

<template>
  <header :class="{ finishing: stage.still !== null }">
    <RouterLink to="/" class="home" title="Projects"><YoroiMark /><b>Yoroi</b></RouterLink>
    <template v-if="project.document">
      <input
        v-if="naming"
        class="rename"
        :value="project.document.name"
        aria-label="Name of the project"
        maxlength="200"
        autofocus
        @keydown.enter="renamed"
        @keydown.esc="naming = false"
        @blur="renamed"
      />
      <button v-else class="plain name" title="Rename the project" @click="naming = true">
        {{ project.document.name }}
      </button>
    </template>
    <nav v-if="project.document && project.id" class="views" aria-label="Views">
      <RouterLink
        v-for="v in VIEWS"
        :key="v.name"
        :to="`/project/${project.id}${v.path}`"
        :class="{ on: here === v.name }"
        :aria-current="here === v.name ? 'page' : undefined"
        >{{ v.label }}</RouterLink
      >
    </nav>
    <StillProgress />
    <div class="right">
      <template v-if="project.document">
        <template v-if="isFrame">
          <button class="btn icon" :disabled="!project.canBack" title="Trail: back ([)" @click="project.trail(-1)">
            <IconArrowLeft :size="15" stroke="1.6" /><span class="visually-hidden">Trail back</span>
          </button>
          <button
            class="plain quiet trail"
            data-trail-button
            :aria-expanded="view.trail"
            title="Earlier positions of the camera, with pictures"
            @click="view.trail = !view.trail"
          >
            <span class="trail-word">trail </span><span class="num">{{ trailText }}</span>
          </button>
          <button class="btn icon" :disabled="!project.canForward" title="Trail: forward (])" @click="project.trail(1)">
            <IconArrowRight :size="15" stroke="1.6" /><span class="visually-hidden">Trail forward</span>
          </button>
          <span class="gap" />
          <button
            class="btn"
            :class="{ on: view.panel === 'models' }"
            title="The models of the project: bring in, place, take out"
            @click="view.open(view.panel === 'models' ? 'stand' : 'models')"
          >
            Models
          </button>
        </template>
        <button class="btn" :disabled="!project.canUndo" title="Undo the last edit (Ctrl+Z)" @click="project.undoEdit">
          Undo
        </button>
        <button class="btn" :disabled="!project.canRedo" title="Redo (Ctrl+Shift+Z)" @click="project.redoEdit">
          Redo
        </button>
        <button
          v-if="project.saveState === 'behind'"
          class="btn"
          title="Another tab saved this project: goes on with that version"
          @click="project.takeTheirs"
        >
          Show that version
        </button>
        <span
          class="saved quiet"
          :class="project.saveState"
          role="status"
          :title="savedTitle"
          data-testid="save-state"
          >{{ saved }}</span
        >
        <button class="btn" title="All commands (Ctrl+K)" @click="view.commands = true">Commands</button>
      </template>
      <button class="btn icon" :title="view.theme === 'day' ? 'Night' : 'Day'" @click="toggleTheme">
        <IconMoon v-if="view.theme === 'day'" :size="15" stroke="1.6" /><IconSun v-else :size="15" stroke="1.6" />
        <span class="visually-hidden">{{ view.theme === 'day' ? 'Night theme' : 'Day theme' }}</span>
      </button>
      <button v-if="project.document" class="btn icon" title="Keys and help (F1)" @click="view.help = true">
        <IconHelp :size="15" stroke="1.6" /><span class="visually-hidden">Help</span>
      </button>
    </div>
  </header>
</template>

<style scoped>
header {
  position: relative;
  z-index: 5;
  display: flex;
  align-items: center;
  gap: 14px;
  height: 46px;
  padding: 0 14px 0 12px;
  background: var(--panel);
  border-bottom: 1px solid var(--line);
}
.home {
  display: flex;
  align-items: center;
  gap: 9px;
  color: inherit;
  text-decoration: none;
  font-size: 15px;
}
.name {
  color: var(--quiet);
  max-width: 280px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  padding: 3px 5px;
  border-radius: 4px;
}
.name:hover {
  color: var(--ink);
}
.rename {
  border: 0;
  border-bottom: 1px solid var(--plum);
  background: none;
  padding: 3px 5px;
  width: 260px;
}
.views {
  display: flex;
  gap: 2px;
}
.views a {
  padding: 4px 9px;
  border-radius: 4px;
  color: var(--quiet);
  text-decoration: none;
}
.views a:hover {
  color: var(--ink);
}
.views a.on {
  color: var(--plum);
  box-shadow: inset 0 -2px var(--plum);
  border-radius: 0;
}
.right {
  margin-left: auto;
  display: flex;
  gap: 6px;
  align-items: center;
}
.trail {
  font-size: 12px;
  white-space: nowrap;
}
.trail .num {
  margin-left: 4px;
  font-size: 11px;
}
.gap {
  width: 8px;
}
.saved {
  font-size: 12px;
  min-width: 84px;
  text-align: center;
  white-space: nowrap;
}
.saved.failed,
.saved.conflict {
  color: var(--ochre);
}
@media (max-width: 1000px) {
  header {
    gap: 8px;
  }
  .gap {
    display: none;
  }
  .trail-word {
    display: none;
  }
  .right {
    gap: 4px;
  }
  .name {
    min-width: 0;
    flex: 0 1 auto;
  }
  .finishing .saved,
  .finishing .name {
    display: none;
  }
}
</style>

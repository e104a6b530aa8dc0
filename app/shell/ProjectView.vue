<script setup lang="ts">
// An opened project: opens and closes it, keeps the stage in step with its models and its sun, whichever view is shown.
import { computed, defineAsyncComponent, onBeforeUnmount, ref, watch } from 'vue'
import { onBeforeRouteLeave } from 'vue-router'
import { useEventListener } from '@vueuse/core'
import { CommandList, HelpDialog } from '../actions/later.ts'
import { setupAsShown, type Setup } from '#model'
import { useBring } from '../bring/bring.ts'
import { useThumbs } from '../frame/thumbs/thumbs.ts'
import { centreInFile } from '../stores/centres.ts'
import { failureText, useNotices } from '../stores/notices.ts'
import { useProject } from '../stores/project.ts'
import { openedBy, useStage } from '../stores/stage.ts'
import { useView } from '../stores/view.ts'
import { sameList } from '../controls/same-list.ts'

const ConflictDialog = defineAsyncComponent(() => import('./ConflictDialog.vue'))

const props = defineProps<{ id: string }>()
const project = useProject()
const stage = useStage()
const notices = useNotices()
const view = useView()
const bring = useBring()
const failed = ref('')
stage.warm()
// small pictures outlive the view that shows them
useThumbs()

watch(
  () => props.id,
  async (id) => {
    failed.value = ''
    try {
      await project.open(id)
      if (project.document && project.id === id) view.forSubject(project.document.subject)
    } catch (e) {
      failed.value = failureText(e)
    }
  },
  { immediate: true },
)
const shownAs = (setup: Setup): Setup => setupAsShown(setup, project.document, centreInFile)
// the stage follows the models: brought in, placed, taken out, undone; while one is dragged it is only shown there
watch(
  () => project.models,
  (models) => {
    if (!models || !project.working) return
    // a picture that is being finished would show two scenes
    if (stage.still !== null) {
      stage.cancelStill()
      notices.say('The models have changed: the picture that was being finished was ended.')
    }
    if (project.isShowing && models !== project.document?.models) void stage.place(models)
    else void stage.load(models, shownAs(project.working))
  },
)
// light from all sides follows the sun, the cuts that let it in and what stands elsewhere, whoever moved them; while they are dragged only the
// sun's own does
const openings = computed(() => {
  const w = project.document?.working
  return w ? JSON.stringify(openedBy(shownAs(w))) : ''
})
watch(
  sameList(() => [project.id, project.document?.working.look.sun, openings.value, stage.storeys] as const),
  ([id], [before]) =>
    id === before && project.working && stage.storeys.length > 0 && void stage.relight(shownAs(project.working)),
)
watch(
  () => project.document?.name,
  (name) => (window.document.title = name ? `${name} · Yoroi` : 'Yoroi'),
)
onBeforeRouteLeave(() => {
  // one that waits for this project's light would wait for ever
  if (stage.stillWaits) stage.cancelStill()
  bring.cancel()
  return project.close()
})
onBeforeUnmount(() => {
  window.document.title = 'Yoroi'
  view.help = view.commands = false
})
// leaving the page with work that is not on the server yet asks first (it is kept in this browser all the same)
useEventListener(window, 'beforeunload', (e) => {
  if (!project.unsaved) return
  void project.save()
  e.preventDefault()
})
</script>

<template>
  <div class="project">
    <div v-if="failed" class="message" role="alert">
      <h1>The project cannot be opened</h1>
      <p>{{ failed }}</p>
      <RouterLink class="btn" to="/">To the projects</RouterLink>
    </div>
    <div v-else-if="!project.document" class="message quiet" role="status">Opening the project…</div>
    <RouterView v-else />
    <CommandList />
    <HelpDialog />
    <ConflictDialog />
  </div>
</template>

<style scoped>
.project {
  height: 100%;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  position: relative;
  min-height: 0;
}
.message {
  display: grid;
  place-content: center;
  justify-items: center;
  gap: 12px;
  text-align: center;
}
.message p {
  max-width: 460px;
}
h1 {
  font-size: 18px;
}
a.btn {
  text-decoration: none;
}
</style>

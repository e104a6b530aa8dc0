<script setup lang="ts">
// The project was changed in another tab: keep mine as a copy, or take theirs; what differs is listed.
import Dialog from 'primevue/dialog'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { compareSetups } from '#model'
import { useNotices } from '../stores/notices.ts'
import { useProject } from '../stores/project.ts'
import { differenceText } from '../text/short.ts'

const project = useProject()
const notices = useNotices()
const router = useRouter()
const busy = ref(false)

const differences = computed(() => {
  const mine = project.document
  const theirs = project.theirs
  if (!mine || !theirs) return []
  const names = (d: typeof mine): Map<string, string> => new Map(d.viewpoints.map((v) => [v.id, v.name]))
  const [a, b] = [names(theirs), names(mine)]
  const lists = [
    ...[...b].filter(([id]) => !a.has(id)).map(([, n]) => `viewpoint “${n}” is only here`),
    ...[...a].filter(([id]) => !b.has(id)).map(([, n]) => `viewpoint “${n}” is only in the other`),
    ...[...b]
      .filter(([id, n]) => a.has(id) && a.get(id) !== n)
      .map(([id, n]) => `viewpoint “${a.get(id)}” is called “${n}” here`),
  ]
  return [
    ...(mine.name !== theirs.name ? [`name: ${theirs.name} → ${mine.name}`] : []),
    ...lists,
    ...compareSetups(theirs.working, mine.working).map(differenceText),
  ]
})
async function choose(work: () => Promise<unknown>): Promise<void> {
  busy.value = true
  try {
    await work()
  } catch (e) {
    notices.fail(e)
  } finally {
    busy.value = false
  }
}
const copy = (): Promise<void> =>
  choose(async () => {
    const id = await project.keepAsCopy()
    if (id) await router.replace(`/project/${id}`)
  })
const theirs = (): Promise<void> => choose(() => project.takeTheirs())
/** Not changed but deleted elsewhere. */
const deleted = computed(() => project.theirs === null)
const letGo = (): Promise<void> =>
  choose(async () => {
    await project.letGoOfIt()
    await router.replace('/')
  })
</script>

<template>
  <Dialog
    :visible="project.saveState === 'conflict'"
    modal
    :closable="false"
    :header="deleted ? 'Deleted in another tab' : 'Changed in another tab'"
    :style="{ width: '480px' }"
    :draggable="false"
  >
    <p v-if="deleted">
      This project is no longer on the server: it was deleted, or the server uses another data folder. What you see is
      still here: keep it as a new project, or let it go.
    </p>
    <p v-else>
      This project was saved from another tab after this one read it. Nothing is lost yet: choose what becomes of the
      version here.
    </p>
    <div v-if="differences.length" class="list">
      <h3>Other version → here</h3>
      <ul class="num">
        <li v-for="d in differences.slice(0, 12)" :key="d">{{ d }}</li>
        <li v-if="differences.length > 12" class="quiet">and {{ differences.length - 12 }} more</li>
      </ul>
    </div>
    <p v-else-if="!deleted" class="quiet">The working framing is the same in both.</p>
    <template #footer>
      <button v-if="deleted" class="btn" :disabled="busy" @click="letGo">Let it go</button>
      <button v-else class="btn" :disabled="busy" @click="theirs">Take the other version</button>
      <button class="btn main" :disabled="busy" @click="copy">
        {{ deleted ? 'Keep as a new project' : 'Keep mine as a copy' }}
      </button>
    </template>
  </Dialog>
</template>

<style scoped>
.list {
  margin: 12px 0 0;
}
h3 {
  font-size: 11px;
  color: var(--quiet);
  margin-bottom: 4px;
}
ul {
  margin: 0;
  padding: 0;
  list-style: none;
  max-height: 220px;
  overflow: auto;
  font-size: 11.5px;
}
</style>

<script setup lang="ts">
// Home: the projects as their best picture; a new one from a model file, by drop or picker.
import { IconPlus, IconTrash } from '@tabler/icons-vue'
import Dialog from 'primevue/dialog'
import { onMounted, ref, watch } from 'vue'
import { api, type ProjectCard, type Weight } from '../api/client.ts'
import { BringDialog } from '../bring/later.ts'
import { useBring } from '../bring/bring.ts'
import { PICKER_ACCEPT, useDrop } from '../bring/drop.ts'
import { useKeptWork } from '../stores/kept-work.ts'
import { failureText, useNotices } from '../stores/notices.ts'
import { freedText } from '../text/short.ts'

const notices = useNotices()
const cards = ref<ProjectCard[] | null>(null)
const failed = ref('')
const removing = ref<ProjectCard | null>(null)
const picker = ref<HTMLInputElement | null>(null)
const bring = useBring()
const { over, handlers } = useDrop()

const kept = useKeptWork()

async function list(): Promise<void> {
  failed.value = ''
  try {
    await kept.send()
    cards.value = await api.projects()
    kept.tell(cards.value, list)
  } catch (e) {
    failed.value = failureText(e)
  }
}
onMounted(list)
/** What deleting would give back, once it is known. */
const weight = ref<Weight | null>(null)
watch(removing, async (card) => {
  weight.value = null
  const w = card ? await api.weight(card.id).catch(() => null) : null
  if (removing.value === card) weight.value = w
})

function picked(e: Event): void {
  const input = e.target as HTMLInputElement
  void bring.begin([...(input.files ?? [])])
  input.value = ''
}
async function remove(): Promise<void> {
  const card = removing.value
  removing.value = null
  if (!card) return
  try {
    notices.say(`“${card.name}” is deleted. ${freedText(await api.remove(card.id))}`)
  } catch (e) {
    notices.fail(e)
  }
  await list()
}
const day = (iso: string): string =>
  new Date(iso).toLocaleString([], { day: 'numeric', month: 'long', hour: '2-digit', minute: '2-digit' })
</script>

<template>
  <div class="page" :class="{ over }" v-on="handlers">
    <main>
      <h1>Projects</h1>
      <div v-if="failed" class="message" role="alert">
        <p>{{ failed }}</p>
        <button class="btn" @click="list">Try again</button>
      </div>
      <div v-else-if="cards === null" class="message quiet" role="status">Looking up the projects…</div>
      <div v-else class="grid">
        <article v-for="c in cards" :key="c.id" data-testid="project-card">
          <RouterLink :to="`/project/${c.id}`" class="card">
            <span class="pic"
              ><img v-if="c.hasCover" :src="api.coverUrl(c)" alt="" /><span v-else class="quiet"
                >No picture yet</span
              ></span
            >
            <span class="name">{{ c.name }}</span>
            <span class="quiet">{{ day(c.updatedAt) }}</span>
            <span v-if="kept.of.value.get(c.id)" class="kept">Not saved yet: kept in this browser</span>
          </RouterLink>
          <button class="plain bin" :title="`Delete “${c.name}”`" @click="removing = c">
            <IconTrash :size="15" stroke="1.6" /><span class="visually-hidden">Delete {{ c.name }}</span>
          </button>
        </article>
        <button class="plain new" @click="picker?.click()">
          <span class="pic"><IconPlus :size="26" stroke="1.4" /></span>
          <span class="name">New from a model</span>
          <span class="quiet">Drop a GLB, glTF, OBJ, STL or PLY file here, or click</span>
        </button>
        <input
          ref="picker"
          type="file"
          :accept="PICKER_ACCEPT"
          multiple
          hidden
          data-testid="model-file"
          @change="picked"
        />
      </div>
    </main>
    <BringDialog />
    <Dialog
      :visible="removing !== null"
      modal
      header="Delete the project?"
      :style="{ width: '380px' }"
      :draggable="false"
      @update:visible="removing = null"
    >
      <p>“{{ removing?.name }}” with all its viewpoints and versions goes for good.</p>
      <p v-if="weight" class="quiet" data-testid="weight">{{ freedText(weight) }}</p>
      <template #footer>
        <button class="btn" @click="removing = null">Keep it</button>
        <button class="btn main" @click="remove">Delete</button>
      </template>
    </Dialog>
  </div>
</template>

<style scoped>
.page {
  height: 100%;
  display: grid;
  min-height: 0;
}
.page.over {
  outline: 3px dashed var(--plum);
  outline-offset: -8px;
}
main {
  overflow: auto;
  padding: 26px 40px 40px;
}
h1 {
  font-size: 20px;
  font-weight: 600;
  margin-bottom: 18px;
}
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(280px, 1fr));
  gap: 24px;
  max-width: 1300px;
}
article {
  position: relative;
}
.card,
.new {
  display: grid;
  gap: 2px;
  color: inherit;
  text-decoration: none;
  width: 100%;
}
.pic {
  display: grid;
  place-items: center;
  aspect-ratio: 3 / 2;
  background: var(--mount);
  border: 1px solid var(--line);
  border-radius: 3px;
  overflow: hidden;
  margin-bottom: 6px;
  color: #fff;
}
.pic .quiet {
  color: #fff;
}
.card:hover .pic,
.new:hover .pic {
  border-color: var(--plum);
}
.card:focus-visible .pic {
  outline: 2px solid var(--plum);
  outline-offset: 2px;
}
.pic img {
  width: 100%;
  height: 100%;
  object-fit: cover;
}
.new .pic {
  background: none;
  border: 1.5px dashed var(--line-strong);
  color: var(--quiet);
}
.name {
  font-weight: 600;
}
.kept {
  color: var(--ochre);
  font-size: 12px;
}
.bin {
  position: absolute;
  right: 0;
  bottom: 6px;
  padding: 5px;
  line-height: 0;
  color: var(--quiet);
  opacity: 0;
}
article:hover .bin,
.bin:focus-visible {
  opacity: 1;
}
.message {
  display: grid;
  gap: 10px;
  justify-items: start;
  max-width: 520px;
}
</style>

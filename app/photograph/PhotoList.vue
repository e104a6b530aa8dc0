<script setup lang="ts">
// The project's photographs: which one is open, bringing in, renaming, taking out.
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { PHOTO_ENDINGS } from '#formats/photo'
import { useNotices } from '../stores/notices.ts'
import { useProject } from '../stores/project.ts'
import { useAdding } from './adding.ts'
import { useMatch } from './match.ts'

const project = useProject()
const notices = useNotices()
const router = useRouter()
const { photos, photo } = useMatch()
const { progress, begin, cancel } = useAdding()
const picker = ref<HTMLInputElement | null>(null)
const naming = ref<string | null>(null)
const ACCEPT = PHOTO_ENDINGS.map((e) => `.${e}`).join(',')

function picked(e: Event): void {
  const input = e.target as HTMLInputElement
  void begin([...(input.files ?? [])])
  input.value = ''
}
function rename(e: Event): void {
  if (!naming.value) return
  const name = (e.target as HTMLInputElement).value
  const photoId = naming.value
  naming.value = null
  project.run({ type: 'changePhoto', photoId, changes: { name } })
}
function remove(): void {
  const p = photo.value
  if (!p) return
  const doc = project.document!
  const uses = doc.viewpoints.filter((v) => v.parts['look.backdrop']?.photoId === p.id).map((v) => `“${v.name}”`)
  const isBehind = doc.working.look.backdrop.kind === 'photo' && doc.working.look.backdrop.photoId === p.id
  if (!project.run({ type: 'removePhoto', photoId: p.id })) return
  void router.push(`/project/${project.id}/photograph`)
  const where = [...(isBehind ? ['this framing'] : []), ...uses].slice(0, 3).join(', ')
  notices.say(`“${p.name}” is taken out, with its lines and points.${where ? ` It stood behind ${where}.` : ''}`, 'plain', { label: 'Undo', run: project.undoOfThis() }) // prettier-ignore
}
</script>

<template>
  <section aria-label="Photographs">
    <h2>Photographs</h2>
    <ul>
      <li v-for="p in photos" :key="p.id">
        <input
          v-if="naming === p.id"
          :value="p.name"
          aria-label="Name of the photograph"
          maxlength="200"
          autofocus
          @keydown.enter="rename"
          @keydown.esc="naming = null"
          @blur="rename"
        />
        <RouterLink
          v-else
          class="photo"
          :class="{ on: p.id === photo?.id }"
          :to="`/project/${project.id}/photograph/${p.id}`"
          :title="`${p.name}, ${p.widthPx} × ${p.heightPx}`"
          @dblclick="naming = p.id"
          @keydown.f2="naming = p.id"
          >{{ p.name }}</RouterLink
        >
      </li>
    </ul>
    <p v-if="photos.length === 0" class="text quiet">
      Drop a photograph of the site here. Its camera is found from edges of the building.
    </p>
    <input
      ref="picker"
      class="visually-hidden"
      type="file"
      multiple
      tabindex="-1"
      :accept="ACCEPT"
      aria-label="Photographs from the disk"
      @change="picked"
    />
    <div class="buttons">
      <button class="btn" :disabled="progress !== null" @click="picker?.click()">Bring in…</button>
      <button v-if="photo" class="btn" @click="naming = photo.id">Rename</button>
      <button v-if="photo" class="btn" @click="remove">Take out</button>
    </div>
    <p v-if="progress" class="text" role="status">
      {{ progress.what }}{{ progress.done === null ? '…' : ` ${Math.round(progress.done * 100)} %` }}
      <button class="btn" @click="cancel">Cancel</button>
    </p>
  </section>
</template>

<style scoped src="../controls/boxes.css"></style>
<style scoped>
.photo {
  display: block;
  padding: 3px 14px;
  color: inherit;
  text-decoration: none;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.photo.on {
  background: var(--plum-soft);
  box-shadow: inset 3px 0 var(--plum);
}
li input {
  margin: 2px 12px;
  width: calc(100% - 24px);
}
</style>

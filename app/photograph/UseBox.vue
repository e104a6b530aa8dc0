<script setup lang="ts">
// What the match is for: the model over the photograph, standing there, the shape of the mask, a straightened copy.
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import ChoiceRow from '../controls/ChoiceRow.vue'
import NumberField from '../controls/NumberField.vue'
import { setupFound, solvedOf } from '#model/photo'
import { useNotices } from '../stores/notices.ts'
import { useProject } from '../stores/project.ts'
import { useView } from '../stores/view.ts'
import { useDrawing } from './drawing.ts'
import { useMatch } from './match.ts'
import { useOpenedPhoto } from './opened.ts'
import { OVERLAYS, usePhotoTools } from './tools.ts'

const { photo, match, solved, put, change } = useMatch()
const { client } = useOpenedPhoto()
const { overlay, opacity, tool, chosen } = usePhotoTools()
const { endMask, outline } = useDrawing()
const project = useProject()
const notices = useNotices()
const view = useView()
const router = useRouter()
const busy = ref(false)
const canStand = computed(() => solved.value !== null)

/** Stand, lens and frame become the photograph's, and it lies behind: one step of the trail and one edit. */
async function standHere(): Promise<void> {
  const [p, m, s] = [photo.value, match.value, solved.value]
  const w = project.working
  if (!p || !m || !s || !w) return
  // what was found is kept with it, so that it is there again without solving
  if (!m.solved || JSON.stringify(m.solved) !== JSON.stringify(solvedOf(s.estimate))) put(m)
  const to = setupFound(p, solvedOf(s.estimate), w.frame)
  const moved = project.run({ type: 'moveCamera', changes: to, label: `Stood as in ${p.name}`.slice(0, 120) })
  const laid = project.run({ type: 'setPart', part: 'look.backdrop', value: { ...w.look.backdrop, kind: 'photo', photoId: p.id } }) // prettier-ignore
  if (!moved && !laid) return
  if (!s.tellsStation) notices.say('Lines alone tell no place: the station is at the origin. Set a scale, or points.', 'warning') // prettier-ignore
  await router.push(`/project/${project.id}`)
}
async function straightened(): Promise<void> {
  const [c, p, s] = [client.value, photo.value, solved.value]
  if (!c || !p || !s) return
  busy.value = true
  try {
    const blob = await c.straightened(s.estimate.lens)
    if (!blob) return
    const url = URL.createObjectURL(blob)
    Object.assign(document.createElement('a'), { href: url, download: `${p.name.replace(/\.[^.]+$/, '')} straightened.png` }).click() // prettier-ignore
    setTimeout(() => URL.revokeObjectURL(url), 10_000)
  } catch (e) {
    notices.fail(e)
  } finally {
    busy.value = false
  }
}
const mask = computed(() => (chosen.value?.kind === 'mask' ? (match.value?.masks?.find((m) => m.id === chosen.value!.id) ?? null) : null)) // prettier-ignore
function setSoft(softPx: number): void {
  change({ masks: match.value!.masks!.map((m) => (m.id === mask.value!.id ? { ...m, softPx } : m)) })
}
</script>

<template>
  <section aria-label="Use">
    <h2>Use</h2>
    <div class="buttons">
      <button class="btn main" :disabled="!canStand" @click="standHere">Stand here</button>
      <button
        class="btn"
        :disabled="!canStand || busy"
        title="A copy without the lens’s distortion, as PNG"
        @click="straightened"
      >
        {{ busy ? 'Straightening…' : 'Straightened copy' }}
      </button>
    </div>
    <ChoiceRow
      label="Over it"
      :options="OVERLAYS"
      :model-value="overlay"
      :disabled="!canStand && !match?.solved"
      @change="overlay = $event"
    />
    <p v-if="overlay === 'chosen' && view.selection.length === 0" class="text quiet">
      Nothing is chosen: take Choose (7) and click objects where the photograph shows them.
    </p>
    <label v-if="overlay === 'model' || overlay === 'chosen'" class="slide">
      <span class="quiet">Opacity</span>
      <input v-model.number="opacity" type="range" min="0" max="1" step="0.05" aria-label="Opacity of the model" />
      <span class="num">{{ Math.round(opacity * 100) }} %</span>
    </label>
    <NumberField
      v-if="mask"
      label="Soft edge"
      suffix="px"
      :digits="1"
      :model-value="mask.softPx"
      :min="0"
      :max="500"
      @change="setSoft"
    />
    <div v-if="tool === 'mask'" class="buttons">
      <button class="btn" :disabled="outline.length < 3" @click="endMask">Close the mask</button>
    </div>
  </section>
</template>

<style scoped src="../controls/boxes.css"></style>
<style scoped>
.main {
  background: var(--plum);
  color: var(--on-plum);
  border-color: var(--plum);
}
.main:disabled {
  background: none;
  color: var(--quiet);
  border-color: var(--line);
}
.slide {
  display: grid;
  grid-template-columns: 92px 1fr 44px;
  gap: 8px;
  align-items: center;
  padding: 3px 14px;
}
input[type='range'] {
  accent-color: var(--plum);
  min-width: 0;
}
</style>

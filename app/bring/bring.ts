// Bringing in a model: read in a worker, judged by the person, stored, then a new project, one more model, or a newer file.
// Model: nothing is stored and no document changes before the person says so; cancelling ends the worker or the upload.

import { defineStore } from 'pinia'
import { computed, shallowRef } from 'vue'
import { AT_ORIGIN, firstPlace, matchNodes, standingOn, UNIT_M } from '#core/placing'
import type { Box } from '#core/math'
import { lostAims, newModel, type ModelFile, type ModelRef } from '#model'
import { api } from '../api/client.ts'
import { useNotices } from '../stores/notices.ts'
import { newId, useProject } from '../stores/project.ts'
import { centreOf } from '../stores/centres.ts'
import { useStage } from '../stores/stage.ts'
import { useView } from '../stores/view.ts'
import { createProject } from './create.ts'
import { createReading, type Judged, type Reading } from './reading.ts'
import { freeSpot } from './spot.ts'

export type { BringProgress, Judged } from './reading.ts'
/** What a newer file of the same name changed. */
export interface ReplaceReport {
  readonly name: string
  readonly kept: number
  readonly elsewhere: readonly string[]
  readonly gone: readonly string[]
  readonly added: readonly string[]
}

/** Stores the file that was read; DOMException AbortError when the person cancels. */
async function stored(
  reading: Reading,
  file: Judged,
  signal: AbortSignal,
): Promise<{ sha256: string; sizeBytes: number }> {
  const sum = await reading.checksum()
  signal.throwIfAborted()
  const tell = (done: number): void => void (reading.progress.value = { what: 'Storing the model', done })
  const kept = await api.upload(file.glb, file.fileName, sum, tell, signal)
  signal.throwIfAborted()
  useStage().offer(kept.sha256, file.glb)
  return kept
}

/** Names of pictures that were not there, as many and as long as a project holds. */
const missingIn = ({ facts }: Judged): Pick<ModelFile, 'missingTextures'> =>
  facts.missingTextures.length > 0
    ? { missingTextures: facts.missingTextures.slice(0, 500).map((n) => n.slice(0, 300) || 'a picture') }
    : {}

export const useBring = defineStore('bring', () => {
  const project = useProject()
  const notices = useNotices()
  const view = useView()
  const reading = createReading()
  const { progress, judged, closedness, fronts, unit, up, boxM, busy, begin, next, end, cancel } = reading
  const { report, replace } = createReplacing()
  const into = computed(() => (project.document ? 'project' : 'new'))
  /** The model that a file of this name would take the place of. */
  const same = computed<ModelRef | null>(
    () => project.document?.models.find((m) => m.name === judged.value?.fileName) ?? null,
  )

  /** One more model in the project: it stands on the surface under the aim, and is selected. */
  async function addStanding(entry: Omit<Parameters<typeof newModel>[0], 'place'>, box: Box): Promise<void> {
    const taken = project.document!.models.map((m) => m.key)
    const model = newModel({ ...entry, place: standingOn(AT_ORIGIN, box, await freeSpot(box)) }, taken)
    if (project.run({ type: 'addModel', model })) view.selection = [model.key]
  }
  /** Takes the judged file in; resolves to the id of a new project, or null. `replacing` puts it in the place of an older file. */
  async function accept(replacing: boolean): Promise<string | null> {
    const file = judged.value
    if (!file) return null
    const old = replacing ? same.value : null
    const asRead = { fileBox: file.facts.box, unitM: UNIT_M[unit.value], up: up.value, ...missingIn(file) }
    const box = boxM.value!
    const first = firstPlace(box)
    if (!first.ok) {
      notices.say(first.message, 'warning')
      return null
    }
    const signal = reading.beginStoring()
    try {
      const { sha256, sizeBytes } = await stored(reading, file, signal)
      const entry = { id: newId(), name: file.fileName, sha256, sizeBytes, ...asRead }
      if (into.value === 'new') {
        const id = await createProject(newModel({ ...entry, place: first.value }), (p) => (progress.value = p), signal)
        end()
        return id
      }
      if (old) replace(old, file, { sha256, sizeBytes, name: file.fileName, ...asRead })
      else await addStanding(entry, box)
      end()
      await next()
    } catch (e) {
      const aborted = e instanceof DOMException && e.name === 'AbortError'
      if (!aborted) notices.fail(e)
      end()
    }
    return null
  }

  return { progress, judged, closedness, fronts, unit, up, report, busy, into, same, boxM, begin, accept, cancel }
})

/** A newer file in an older one's place, and what that changed. */
function createReplacing() {
  const project = useProject()
  const stage = useStage()
  const notices = useNotices()
  const report = shallowRef<ReplaceReport | null>(null)
  function replace(old: ModelRef, file: Judged, next: ModelFile): void {
    const under = `${old.key}/`
    const before = (stage.facts?.nodes ?? [])
      .filter((n) => n.id.startsWith(under))
      .map(({ id, name }) => ({ id: id.slice(under.length), name }))
    const match = matchNodes(before, file.facts.nodes)
    const renamed = Object.fromEntries([...match.moved].map(([a, b]) => [under + a, under + b]))
    const gone = new Set(match.gone.map((id) => under + id))
    const lost = project.document ? lostAims(project.document, (id) => gone.has(id), centreOf) : []
    if (!project.run({ type: 'replaceModel', modelId: old.id, file: next, renamed, lost })) {
      notices.say(`“${old.name}” is the same as before.`)
      return
    }
    report.value = {
      name: old.name,
      kept: match.kept,
      elsewhere: [...match.moved.values()],
      gone: match.gone,
      added: match.added,
    }
  }
  return { report, replace }
}

// Bringing in a model: read in a worker, judged by the person, stored, then a new project, one more model, or a newer file.
// Model: nothing is stored and no document changes before the person says so; cancelling ends the worker or the upload.

import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { AppError } from '#core/base'
import type { Box } from '#core/math'
import { AT_ORIGIN, boxInMetres, firstPlace, matchNodes, standingOn, UNIT_M, type FileUnit } from '#core/placing'
import { isModelName } from '#formats/kinds'
import type { Closedness, Elevation } from '#mesh'
import { newModel, type ModelRef } from '#model'
import { createImport, type ImportClient, type ReadFile } from '#workers'
import { api } from '../api/client.ts'
import { useNotices } from '../stores/notices.ts'
import { newId, useProject } from '../stores/project.ts'
import { useStage } from '../stores/stage.ts'
import { useView } from '../stores/view.ts'
import { createProject } from './create.ts'
import { freeSpot } from './spot.ts'

export interface BringProgress {
  readonly what: string
  readonly done: number | null
}
/** What a newer file of the same name changed. */
export interface ReplaceReport {
  readonly name: string
  readonly kept: number
  readonly elsewhere: readonly string[]
  readonly gone: readonly string[]
  readonly added: readonly string[]
}
export interface Judged extends ReadFile {
  readonly fileName: string
}
const LARGEST = 2 ** 31

export const useBring = defineStore('bring', () => {
  const project = useProject()
  const stage = useStage()
  const notices = useNotices()
  const view = useView()
  const progress = ref<BringProgress | null>(null)
  const judged = shallowRef<Judged | null>(null)
  const closedness = shallowRef<Closedness | null>(null)
  /** Seen from the front, by the axis that is up; each drawn when it is first looked at. */
  const fronts = shallowRef<Partial<Record<'y' | 'z', Elevation>>>({})
  const unit = ref<FileUnit>('m')
  const up = ref<'y' | 'z'>('y')
  const report = shallowRef<ReplaceReport | null>(null)
  let worker: ImportClient | null = null
  let abort: AbortController | null = null
  let waiting: { main: File; others: readonly File[] }[] = []

  const busy = computed(() => progress.value !== null || judged.value !== null)
  const into = computed(() => (project.document ? 'project' : 'new'))
  /** The model that a file of this name would take the place of. */
  const same = computed<ModelRef | null>(
    () => project.document?.models.find((m) => m.name === judged.value?.fileName) ?? null,
  )
  const boxM = computed<Box | null>(() =>
    judged.value ? boxInMetres(judged.value.facts.box, UNIT_M[unit.value], up.value) : null,
  )

  /** Begins with the files picked or dropped together; each model among them in turn, the rest are parts of them. */
  async function begin(files: readonly File[]): Promise<void> {
    if (files.length === 0) return
    if (busy.value) {
      notices.say('One model at a time: finish or cancel the one being brought in.', 'warning')
      return
    }
    const mains = files.filter((f) => isModelName(f.name))
    const others = files.filter((f) => !isModelName(f.name))
    if (mains.length === 0) {
      const names = files.map((f) => `“${f.name}”`).slice(0, 3)
      notices.fail(new AppError('model-unreadable', `${names.join(', ')}: no GLB, glTF, OBJ, STL or PLY among them.`))
      return
    }
    waiting = mains.map((main) => ({ main, others }))
    await next()
  }

  async function next(): Promise<void> {
    const job = waiting.shift()
    if (!job) return
    progress.value = { what: 'Looking at the file', done: null }
    try {
      const size = job.main.size + job.others.reduce((n, f) => n + f.size, 0)
      if (size > LARGEST) throw new AppError('upload-too-large', 'More than 2 GB cannot be read at once.')
      const client = createImport()
      worker = client
      const read = await client.read(job.main, job.others, (what, done) => {
        if (worker === client) progress.value = { what, done }
      })
      if (worker !== client) return
      unit.value = read.facts.guess.unit
      up.value = read.facts.guess.up
      closedness.value = null
      fronts.value = {}
      judged.value = { ...read, fileName: job.main.name.slice(0, 200) }
      progress.value = null
      await draw(client, up.value)
      closedness.value = await client.closedness()
      await draw(client, up.value === 'y' ? 'z' : 'y')
    } catch (e) {
      // ended by the person meanwhile
      if (worker === null) return
      notices.fail(e)
      end()
    }
  }
  async function draw(client: ImportClient, axis: 'y' | 'z'): Promise<void> {
    const drawn = worker === client ? await client.front(axis) : null
    if (drawn && worker === client) fronts.value = { ...fronts.value, [axis]: drawn }
  }

  function end(): void {
    worker?.dispose()
    worker = null
    abort = null
    judged.value = null
    closedness.value = null
    progress.value = null
  }
  function cancel(): void {
    waiting = []
    abort?.abort()
    const was = busy.value
    end()
    if (was) notices.say('Cancelled; nothing was brought in.')
  }

  async function stored(file: Judged, signal: AbortSignal): Promise<{ sha256: string; sizeBytes: number }> {
    const sum = await worker?.checksum()
    worker?.dispose()
    worker = null
    signal.throwIfAborted()
    return api.upload(
      file.glb,
      file.fileName,
      sum ?? null,
      (done) => (progress.value = { what: 'Storing the model', done }),
      signal,
    )
  }

  /** Takes the judged file in; resolves to the id of a new project, or null. `replacing` puts it in the place of an older file. */
  async function accept(replacing: boolean): Promise<string | null> {
    const file = judged.value
    if (!file) return null
    const old = replacing ? same.value : null
    const reading = { fileBox: file.facts.box, unitM: UNIT_M[unit.value], up: up.value }
    const box = boxM.value!
    const first = firstPlace(box)
    if (!first.ok) {
      notices.say(first.message, 'warning')
      return null
    }
    abort = new AbortController()
    const { signal } = abort
    judged.value = null
    progress.value = { what: 'Storing the model', done: 0 }
    try {
      const { sha256, sizeBytes } = await stored(file, signal)
      signal.throwIfAborted()
      stage.offer(sha256, file.glb)
      const entry = { id: newId(), name: file.fileName, sha256, sizeBytes, ...reading }
      if (into.value === 'new') {
        const id = await createProject(newModel({ ...entry, place: first.value }), (p) => (progress.value = p), signal)
        end()
        return id
      }
      if (old) replace(old, file, { sha256, sizeBytes, name: file.fileName, ...reading })
      else {
        const taken = project.document!.models.map((m) => m.key)
        const place = standingOn(AT_ORIGIN, box, await freeSpot(box))
        const model = newModel({ ...entry, place }, taken)
        if (project.run({ type: 'addModel', model })) view.selection = [model.key]
      }
      end()
      await next()
    } catch (e) {
      const aborted = e instanceof DOMException && e.name === 'AbortError'
      if (!aborted) notices.fail(e)
      end()
    }
    return null
  }

  function replace(
    old: ModelRef,
    file: Judged,
    next: Pick<ModelRef, 'sha256' | 'sizeBytes' | 'name' | 'fileBox' | 'unitM' | 'up'>,
  ): void {
    const under = `${old.key}/`
    const before = (stage.facts?.nodes ?? [])
      .filter((n) => n.id.startsWith(under))
      .map(({ id, name }) => ({ id: id.slice(under.length), name }))
    const match = matchNodes(before, file.facts.nodes)
    const renamed = Object.fromEntries([...match.moved].map(([a, b]) => [under + a, under + b]))
    if (!project.run({ type: 'replaceModel', modelId: old.id, file: next, renamed })) {
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
  return { progress, judged, closedness, fronts, unit, up, report, busy, into, same, boxM, begin, accept, cancel }
})

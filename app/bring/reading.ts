// Reading picked files in a worker, one after the other, and judging the one that was read.
import { computed, ref, shallowRef } from 'vue'
import { AppError } from '#core/base'
import type { Box } from '#core/math'
import { boxInMetres, UNIT_M, type FileUnit } from '#core/placing'
import { isModelName } from '#formats/kinds'
import type { Closedness, Elevation } from '#mesh'
import { createImport, type ImportClient, type ReadFile } from '#workers'
import { useNotices } from '../stores/notices.ts'

export interface BringProgress {
  readonly what: string
  readonly done: number | null
}
export interface Judged extends ReadFile {
  readonly fileName: string
}
const LARGEST = 2 ** 31

/** What is known of the file being brought in; cancelling ends the worker or the upload. */
function createJudging() {
  const judged = shallowRef<Judged | null>(null)
  const unit = ref<FileUnit>('m')
  const up = ref<'y' | 'z'>('y')
  return {
    progress: ref<BringProgress | null>(null),
    judged,
    closedness: shallowRef<Closedness | null>(null),
    /** Seen from the front, by the axis that is up; each drawn when it is first looked at. */
    fronts: shallowRef<Partial<Record<'y' | 'z', Elevation>>>({}),
    unit,
    up,
    boxM: computed<Box | null>(() =>
      judged.value ? boxInMetres(judged.value.facts.box, UNIT_M[unit.value], up.value) : null,
    ),
  }
}

/** The worker that reads one file; what a worker that was ended still answers is not taken. */
function createReader({ progress, judged, closedness, fronts, unit, up }: ReturnType<typeof createJudging>) {
  let worker: ImportClient | null = null

  async function draw(client: ImportClient, axis: 'y' | 'z'): Promise<void> {
    const drawn = worker === client ? await client.front(axis) : null
    if (drawn && worker === client) fronts.value = { ...fronts.value, [axis]: drawn }
  }
  /** AppError where the file cannot be read; one that was ended meanwhile is silent. */
  async function read(main: File, others: readonly File[]): Promise<void> {
    const size = main.size + others.reduce((n, f) => n + f.size, 0)
    if (size > LARGEST) throw new AppError('upload-too-large', 'More than 2 GB cannot be read at once.')
    const client = createImport()
    worker = client
    try {
      await readBy(client, main, others)
    } catch (e) {
      if (worker === client) throw e
    }
  }
  async function readBy(client: ImportClient, main: File, others: readonly File[]): Promise<void> {
    const file = await client.read(main, others, (what, done) => {
      if (worker === client) progress.value = { what, done }
    })
    if (worker !== client) return
    unit.value = file.facts.guess.unit
    up.value = file.facts.guess.up
    closedness.value = null
    fronts.value = {}
    judged.value = { ...file, fileName: main.name.slice(0, 200) }
    progress.value = null
    await draw(client, up.value)
    closedness.value = await client.closedness()
    await draw(client, up.value === 'y' ? 'z' : 'y')
  }
  function dispose(): void {
    worker?.dispose()
    worker = null
  }
  /** SHA-256 of what was read; the worker goes with its memory. */
  async function checksum(): Promise<string | null> {
    const sum = await worker?.checksum()
    dispose()
    return sum ?? null
  }
  return { read, dispose, checksum }
}

export function createReading() {
  const notices = useNotices()
  const state = createJudging()
  const { progress, judged, closedness } = state
  const reader = createReader(state)
  const busy = computed(() => progress.value !== null || judged.value !== null)
  let abort: AbortController | null = null
  let waiting: { main: File; others: readonly File[] }[] = []

  /** Begins with the files picked or dropped together; each model among them in turn, the rest are parts of them. */
  async function begin(files: readonly File[]): Promise<void> {
    if (files.length === 0) return
    if (busy.value) return notices.say('One model at a time: finish or cancel the one being brought in.', 'warning')
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
      await reader.read(job.main, job.others)
    } catch (e) {
      notices.fail(e)
      end()
    }
  }

  function end(): void {
    reader.dispose()
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
  /** What ends the storing when the person cancels. */
  function beginStoring(): AbortSignal {
    abort = new AbortController()
    judged.value = null
    progress.value = { what: 'Storing the model', done: 0 }
    return abort.signal
  }
  return { ...state, busy, begin, next, end, cancel, checksum: reader.checksum, beginStoring }
}
export type Reading = ReturnType<typeof createReading>

// Saving the open project: soon after every change, again until the server has it, and kept in this browser meanwhile.
// Model: a save is known by an id. One whose answer never came is named with the next (`unsure`), so that the server recognises
// its own; only another's revision in between is a conflict.

import { computed, ref, shallowRef, type Ref } from 'vue'
import { AppError, isPassing, type ErrorCode } from '#core/base'
import { fingerprint, readProjectDocument, sameJson, type ProjectDocument } from '#model'
import { api, type OpenedProject } from '../api/client.ts'
import { dropDraft, keepDraft, leftDrafts, TAB, type Draft } from './drafts.ts'
import { useNotices } from './notices.ts'

export type SaveState = 'saved' | 'waiting' | 'saving' | 'failed' | 'conflict'
const SAVE_AFTER_MS = 700
const RETRY_AFTER_MS = 4000

export function createSaving(id: Ref<string | null>, document: Ref<ProjectDocument | null>) {
  const notices = useNotices()
  const state = ref<SaveState>('saved')
  const savedAt = ref<string | null>(null)
  /** Why the last save failed. */
  const problem = ref<ErrorCode | null>(null)
  /** A conflict: the other version, or null where the project was deleted. */
  const theirs = shallowRef<ProjectDocument | null>(null)
  let revision = 0
  let saved: ProjectDocument | null = null
  let unsure: string[] = []
  let attempt: { readonly document: ProjectDocument; readonly saveId: string } | null = null
  let timer: ReturnType<typeof setTimeout> | null = null
  let running: Promise<void> | null = null

  const isOpenUnsaved = (): boolean => id.value !== null && document.value !== null && document.value !== saved
  const unsaved = computed(() => state.value !== 'saved')

  const kept = createKeeping(() => {
    if (!isOpenUnsaved()) return null
    const pending = attempt ? [...unsure, attempt.saveId] : unsure
    return { projectId: id.value!, baseRevision: revision, unsure: pending, document: document.value! }
  })

  function changed(): void {
    void kept.keep()
    if (state.value === 'conflict') return
    state.value = 'waiting'
    if (timer) clearTimeout(timer)
    timer = setTimeout(() => void save(), SAVE_AFTER_MS)
  }

  /** Saves until the newest document is on the server; failures are kept visible and tried again. */
  async function save(): Promise<void> {
    if (timer) clearTimeout(timer)
    timer = null
    if (running) return running
    running = (async () => {
      while (isOpenUnsaved() && state.value !== 'conflict') if (!(await once(id.value!, document.value!))) return
      if (state.value !== 'conflict') state.value = 'saved'
    })().finally(() => (running = null))
    return running
  }

  /** Sends one document; true when the server has it. */
  async function once(projectId: string, doc: ProjectDocument): Promise<boolean> {
    state.value = 'saving'
    if (attempt?.document !== doc) {
      if (attempt) unsure = [...unsure, attempt.saveId].slice(-32)
      attempt = { document: doc, saveId: crypto.randomUUID() }
      // before it is sent: a tab that crashes with the answer under way must know its own save again
      await kept.keep()
    }
    try {
      const r = await api.save(
        projectId,
        revision,
        doc,
        { saveId: attempt.saveId, unsure },
        unsure.length === 0 ? saved : null,
      )
      if (id.value !== projectId) return false
      revision = r.revision
      savedAt.value = r.savedAt
      saved = doc
      unsure = []
      attempt = null
      problem.value = null
      if (document.value === doc) await dropDraft(projectId)
      else void kept.keep()
      return true
    } catch (e) {
      if (id.value === projectId) await failed(e, projectId)
      return false
    }
  }
  async function failed(e: unknown, projectId: string): Promise<void> {
    const code = e instanceof AppError ? e.code : 'internal'
    if (code === 'revision-conflict' || code === 'project-missing') {
      state.value = 'conflict'
      theirs.value = null
      if (code === 'revision-conflict')
        theirs.value = await api.open(projectId).then((o) => o.document).catch(() => null) // prettier-ignore
      return
    }
    state.value = 'failed'
    // a server that is away is told in the header; a disk or a document that is refused is told at once
    if (code !== 'offline' && code !== 'internal' && code !== problem.value) notices.fail(e)
    problem.value = code
    // the same document would be refused again: only a change is tried anew
    if (isPassing(code)) timer = setTimeout(() => void save(), RETRY_AFTER_MS)
  }

  /** Begins with what the server has, or with later work that was kept here. Returns the document to go on with. */
  async function begin(o: OpenedProject): Promise<ProjectDocument> {
    revision = o.revision
    savedAt.value = o.savedAt
    saved = o.document
    unsure = []
    attempt = null
    problem.value = null
    state.value = 'saved'
    theirs.value = null
    const left = await leftWork(o)
    if (!left) return o.document
    // on an older base the server decides: its own forerunner, or a conflict to be asked about
    revision = left.baseRevision
    unsure = [...left.unsure]
    // what the server has at that base is not known here
    if (left.baseRevision !== o.revision || unsure.length > 0) saved = null
    const when = new Date(left.at).toLocaleTimeString([], { hour: '2-digit', minute: '2-digit' })
    notices.say(`Work from ${when} that had not reached the server is back.`)
    return left.document
  }

  /** Waits for what is not saved yet, as long as the server answers; what it did not take stays kept in this browser. */
  async function end(): Promise<void> {
    if (isOpenUnsaved() && state.value !== 'conflict') await save()
    if (timer) clearTimeout(timer)
    timer = null
    await kept.rest()
    if (isOpenUnsaved())
      notices.say(
        `“${document.value!.name}” is not saved yet. Its newest version is kept in this browser and is sent when you open it again.`,
        'warning',
      )
    saved = null
    theirs.value = null
    problem.value = null
    state.value = 'saved'
  }

  /** Lets the work here go: it was given up, or became a project of its own. */
  async function giveUp(): Promise<void> {
    if (timer) clearTimeout(timer)
    timer = null
    await kept.rest()
    if (id.value) await dropDraft(id.value)
    saved = document.value
    state.value = 'saved'
  }

  return { state, savedAt, problem, theirs, unsaved, changed, save, begin, end, giveUp }
}

/** Keeps the newest document in this browser; one write at a time, the newest last. */
function createKeeping(newest: () => Omit<Draft, 'tab' | 'at'> | null) {
  let keeping: Promise<void> | null = null
  /** Resolves when what is newest then is kept. */
  function keep(): Promise<void> {
    keeping ??= (async () => {
      for (let now = newest(), before: string | null = null; now; now = newest()) {
        const key = `${fingerprint(now.document)} ${now.baseRevision} ${now.unsure.join()}`
        if (key === before) break
        before = key
        await keepDraft({ ...now, at: new Date().toISOString() })
      }
    })().finally(() => (keeping = null))
    return keeping
  }
  return { keep, rest: () => keeping ?? Promise.resolve() }
}

/** Later work on a project that a tab that is gone has left, taken over by this one; what the server has already is let go. */
async function leftWork(o: OpenedProject): Promise<Draft | null> {
  for (const d of await leftDrafts(o.id)) {
    const read = readProjectDocument(d.document)
    if (!read.ok) continue
    if (sameJson(read.value, o.document)) {
      await dropDraft(o.id, d.tab)
      continue
    }
    const taken = { ...d, document: read.value }
    await keepDraft(taken)
    if (d.tab !== TAB) await dropDraft(o.id, d.tab)
    return taken
  }
  return null
}

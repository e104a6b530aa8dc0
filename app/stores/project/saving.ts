// Saving the open project: soon after every change, again until the server has it, and kept in this browser meanwhile.
import { computed, ref, shallowRef, type Ref } from 'vue'
import { AppError, isPassing, type ErrorCode } from '#core/base'
import type { ProjectDocument } from '#model'
import { api, type OpenedProject, type Told as Heard } from '../../api/client.ts'
import { dropDraft } from '../drafts.ts'
import { useNotices } from '../notices.ts'
import { createBase } from './base.ts'
import { createKeeping, leftWork } from './keeping.ts'

/** `behind`: another tab has saved, and nothing here is unsaved. */
export type SaveState = 'saved' | 'behind' | 'waiting' | 'saving' | 'failed' | 'conflict'
const SAVE_AFTER_MS = 700
const RETRY_AFTER_MS = 4000

export type Saving = ReturnType<typeof createSaving>
type Open = { readonly id: Ref<string | null>; readonly document: Ref<ProjectDocument | null> }
type Told = ReturnType<typeof createTold>

export function createSaving(id: Ref<string | null>, document: Ref<ProjectDocument | null>) {
  const told = createTold()
  const base = createBase()
  const isOpenUnsaved = (): boolean => id.value !== null && document.value !== null && !base.has(document.value)
  const kept = createKeeping(() =>
    isOpenUnsaved() ? { projectId: id.value!, ...base.marks(), document: document.value! } : null,
  )
  const sending = createSending({ id, document }, told, { base, keep: kept.keep })
  const { timer, save } = createTimes(async () => {
    while (isOpenUnsaved() && told.state.value !== 'conflict')
      if (!(await sending.once(id.value!, document.value!, again))) return
    if (told.state.value === 'conflict') return
    await letGo()
    if (isOpenUnsaved()) changed()
    else told.state.value = 'saved'
  })
  const again = (): void => timer.in(RETRY_AFTER_MS)
  for (const going of ['beforeunload', 'pagehide']) window.addEventListener(going, kept.keepAtOnce)

  /** What was kept may have been undone before it was sent: it must not come back. */
  async function letGo(): Promise<void> {
    await kept.rest()
    if (id.value && !isOpenUnsaved()) await dropDraft(id.value)
  }
  function changed(): void {
    void (isOpenUnsaved() ? kept.keep() : letGo())
    if (told.state.value === 'conflict') return
    told.state.value = 'waiting'
    timer.in(SAVE_AFTER_MS)
  }
  /** Waits for what is not saved yet, as long as the server answers; what it did not take stays kept in this browser. */
  async function end(): Promise<void> {
    if (isOpenUnsaved() && told.state.value !== 'conflict') await save()
    timer.stop()
    await kept.rest()
    if (isOpenUnsaved()) told.notSaved(document.value!.name)
    base.set(null)
    told.clear()
  }
  /** Lets the work here go: it was given up, or became a project of its own. */
  async function giveUp(): Promise<void> {
    timer.stop()
    await kept.rest()
    if (id.value) await dropDraft(id.value)
    base.set(document.value)
    told.state.value = 'saved'
  }
  const elsewhere = createElsewhere({ id, document }, told, { base, isOpenUnsaved })
  return { ...told, changed, save, begin: createBegin(told, base), end, giveUp, elsewhere }
}

/** What another tab, or another window, did to the project that is open here; null where it is this tab's own doing, or known. */
function createElsewhere(
  open: Open,
  told: Told,
  at: { base: ReturnType<typeof createBase>; isOpenUnsaved: () => boolean },
) {
  const { base, isOpenUnsaved } = at
  const conflict = (theirs: ProjectDocument | null): 'conflict' => {
    told.theirs.value = theirs
    told.state.value = 'conflict'
    return 'conflict'
  }
  return async (change: Heard): Promise<'behind' | 'conflict' | null> => {
    const id = open.id.value
    if (!id || !open.document.value || told.state.value === 'conflict') return null
    const now = change.kind === 'all' ? change.projects.find((p) => p.id === id) : change.id === id ? change : null
    const isGone = change.kind === 'all' ? !now : now !== null && change.kind === 'deleted'
    const isNewer = now !== undefined && now !== null && 'revision' in now && now.revision > base.revision()
    const isOwn = change.kind === 'saved' ? base.isOwn(change.saveId) : base.isUnderWay()
    if (!isGone && (!isNewer || isOwn)) return null
    // the list of all may have been read before the project was made
    const theirs = await api.open(id).catch((e: unknown) => e)
    if (open.id.value !== id || !open.document.value) return null
    if (theirs instanceof Error)
      return theirs instanceof AppError && theirs.code === 'project-missing' ? conflict(null) : null
    if (isGone || (theirs as OpenedProject).revision <= base.revision()) return null
    if (isOpenUnsaved()) return conflict((theirs as OpenedProject).document)
    told.state.value = 'behind'
    return 'behind'
  }
}

/** What the page says of saving. */
function createTold() {
  const notices = useNotices()
  const state = ref<SaveState>('saved')
  const savedAt = ref<string | null>(null)
  /** Why the last save failed. */
  const problem = ref<ErrorCode | null>(null)
  /** A conflict: the other version, or null where the project was deleted. */
  const theirs = shallowRef<ProjectDocument | null>(null)
  const unsaved = computed(() => state.value !== 'saved' && state.value !== 'behind')

  function clear(): void {
    theirs.value = null
    problem.value = null
    state.value = 'saved'
  }
  function notSaved(name: string): void {
    notices.say(
      `“${name}” is not saved yet. Its newest version is kept in this browser and is sent when you open it again.`,
      'warning',
    )
  }
  return { state, savedAt, problem, theirs, unsaved, clear, notSaved }
}

/** Begins with what the server has, or with later work that was kept here. Returns the document to go on with. */
function createBegin(told: Told, base: ReturnType<typeof createBase>) {
  const notices = useNotices()
  return async (o: OpenedProject): Promise<ProjectDocument> => {
    told.clear()
    told.savedAt.value = o.savedAt
    base.opened(o)
    const left = await leftWork(o)
    if (!left) return o.document
    base.kept(left)
    const when = new Date(left.at).toLocaleTimeString([], { hour: '2-digit', minute: '2-digit' })
    notices.say(`Work from ${when} that had not reached the server is back.`)
    return left.document
  }
}

/** When it is saved: after a while, or at once; never twice at the same time. */
function createTimes(all: () => Promise<void>) {
  let waiting: ReturnType<typeof setTimeout> | null = null
  let running: Promise<void> | null = null
  const timer = {
    stop(): void {
      if (waiting) clearTimeout(waiting)
      waiting = null
    },
    in(ms: number): void {
      timer.stop()
      waiting = setTimeout(() => void save(), ms)
    },
  }
  /** Saves until the newest document is on the server; failures are kept visible and tried again. */
  function save(): Promise<void> {
    timer.stop()
    running ??= all().finally(() => (running = null))
    return running
  }
  return { timer, save }
}

/** One document to the server, and what its refusal means. */
function createSending(open: Open, told: Told, at: { base: ReturnType<typeof createBase>; keep: () => Promise<void> }) {
  const notices = useNotices()
  const { base, keep } = at

  /** Sends one document; true when the server has it. `again` is called where it is worth another try. */
  async function once(projectId: string, doc: ProjectDocument, again: () => void): Promise<boolean> {
    told.state.value = 'saving'
    // kept before it is sent: a tab that crashes with the answer under way must know its own save again
    if (base.attempting(doc)) await keep()
    try {
      const r = await base.send(projectId)
      if (open.id.value !== projectId) return false
      base.acknowledged(doc, r.revision)
      told.savedAt.value = r.savedAt
      told.problem.value = null
      if (open.document.value === doc) await dropDraft(projectId)
      else void keep()
      return true
    } catch (e) {
      if (open.id.value === projectId) await failed(e, projectId, again)
      return false
    }
  }
  async function failed(e: unknown, projectId: string, again: () => void): Promise<void> {
    const code = e instanceof AppError ? e.code : 'internal'
    if (code === 'revision-conflict' || code === 'project-missing') {
      told.state.value = 'conflict'
      told.theirs.value = null
      if (code === 'revision-conflict')
        told.theirs.value = await api.open(projectId).then((o) => o.document).catch(() => null) // prettier-ignore
      return
    }
    told.state.value = 'failed'
    // a server that is away is told in the header; a disk or a document that is refused is told at once
    if (code !== 'offline' && code !== 'internal' && code !== told.problem.value) notices.fail(e)
    told.problem.value = code
    // the same document would be refused again: only a change is tried anew
    if (isPassing(code)) again()
  }
  return { once }
}

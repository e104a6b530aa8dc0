// A project opened and closed, and the ways out of a conflict with another's version of it.
import { EMPTY_HISTORY } from '#model'
import { api, type OpenedProject } from '../../api/client.ts'
import { useNotices } from '../notices.ts'
import { newId } from './commands.ts'
import { keepHistory, keptHistory } from './kept-history.ts'
import type { Saving } from './saving.ts'
import type { ProjectState } from './state.ts'

export function createOpening({ id, document, history, live, preview }: ProjectState, saving: Saving) {
  const notices = useNotices()
  /** The id of the copy that a conflict makes, the same at every try. */
  let copyId: string | null = null

  async function open(projectId: string): Promise<void> {
    await close()
    const o = await api.open(projectId)
    id.value = o.id
    history.value = EMPTY_HISTORY
    copyId = null
    const doc = await saving.begin(o)
    if (o.damaged) notices.say(damagedText(o), 'error')
    document.value = doc
    history.value = keptHistory(o.id, doc)
    if (doc !== o.document) saving.changed()
  }
  const remember = (): void => void (id.value && document.value && keepHistory(id.value, document.value, history.value))
  // a reload, or the tab put away
  window.addEventListener('pagehide', remember)

  /** Waits for what is not saved yet, then lets the project go. */
  async function close(): Promise<void> {
    remember()
    await saving.end()
    id.value = null
    document.value = null
    live.value = preview.value = null
    history.value = EMPTY_HISTORY
  }

  /** A conflict: go on with the other version; this one goes. */
  async function takeTheirs(): Promise<void> {
    const at = id.value
    if (!at) return
    await saving.giveUp()
    document.value = null
    await open(at)
  }
  /** A conflict: this version becomes a project of its own. Returns its id. */
  async function keepAsCopy(): Promise<string | null> {
    const doc = document.value
    if (!doc) return null
    const name = saving.theirs.value ? `${doc.name} (copy)` : doc.name
    copyId ??= newId()
    const made = await api.create({ ...doc, name: name.slice(0, 200) }, copyId)
    copyId = null
    await saving.giveUp()
    document.value = null
    return made.id
  }
  /** The project was deleted elsewhere and is not wanted back. */
  const letGoOfIt = (): Promise<void> => saving.giveUp()

  return { open, close, takeTheirs, keepAsCopy, letGoOfIt }
}

function damagedText({ damaged, savedAt }: OpenedProject): string {
  const at = new Date(savedAt).toLocaleString([], { day: 'numeric', month: 'long', hour: '2-digit', minute: '2-digit' })
  return `The newest version (${damaged!.newest}) of this project is damaged: ${damaged!.because} What you see is version ${damaged!.shown}, saved ${at}. Your next change is saved after both.`
}

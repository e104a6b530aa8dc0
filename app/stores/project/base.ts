// What the server is known to have of the open project, and what is under way to it.
// Model: a save is known by an id. One whose answer never came is named with the next (`unsure`), so that the server recognises
// its own; only another's revision in between is a conflict.

import type { ProjectDocument } from '#model'
import { api, type OpenedProject } from '../../api/client.ts'
import type { Draft } from '../drafts.ts'

/** How many saves without an answer are named with the next. */
const UNSURE = 32

export function createBase() {
  let revision = 0
  let saved: ProjectDocument | null = null
  let unsure: readonly string[] = []
  /** Saves of this tab, the newest last. */
  let own: readonly string[] = []
  let attempt: { readonly document: ProjectDocument; readonly saveId: string } | null = null

  /** Names the save of `doc`: a second try of the same document has the same name. True when it is a new one. */
  function attempting(doc: ProjectDocument): boolean {
    if (attempt?.document === doc) return false
    if (attempt) unsure = [...unsure, attempt.saveId].slice(-UNSURE)
    attempt = { document: doc, saveId: crypto.randomUUID() }
    own = [...own, attempt.saveId].slice(-UNSURE)
    return true
  }
  /** Sends the attempted document: as a change where the server's own is known, else whole. */
  const send = (projectId: string) =>
    api.save(
      projectId,
      revision,
      attempt!.document,
      { saveId: attempt!.saveId, unsure: [...unsure] },
      unsure.length === 0 ? saved : null,
    )
  function acknowledged(doc: ProjectDocument, at: number): void {
    revision = at
    saved = doc
    unsure = []
    attempt = null
  }
  function opened(o: OpenedProject): void {
    acknowledged(o.document, o.revision)
  }
  /** Goes on from work that was kept: on an older base the server decides, its own forerunner or a conflict to be asked about. */
  function kept(d: Draft): void {
    // what the server has at an older base, or after a save without an answer, is not known here
    if (d.baseRevision !== revision || d.unsure.length > 0) saved = null
    revision = d.baseRevision
    unsure = [...d.unsure]
  }
  return {
    has: (doc: ProjectDocument | null): boolean => doc === saved,
    /** What a draft must know to go on: the base, and the saves that may have arrived. */
    marks: () => ({ baseRevision: revision, unsure: attempt ? [...unsure, attempt.saveId] : [...unsure] }),
    set: (doc: ProjectDocument | null): void => void (saved = doc),
    revision: () => revision,
    isOwn: (saveId: string | null): boolean => saveId !== null && own.includes(saveId),
    /** A save whose answer has not come. */
    isUnderWay: (): boolean => attempt !== null || unsure.length > 0,
    attempting,
    send,
    acknowledged,
    opened,
    kept,
  }
}

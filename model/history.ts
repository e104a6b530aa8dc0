// How is an edit undone without moving the camera?
// Model: undo keeps old documents by reference. Undoing an edit puts back its edit side and leaves the present stand, lens,
// frame, trail and recall alone; if none of those moved since, the old document itself comes back. The left-behind list belongs
// to the camera side, save that entries an edit removed return with undo: nothing leaves that list unasked.

import { isSameStand } from './lost-aims.ts'
import { CAMERA_PARTS } from './parts.ts'
import { reversed, withRenamed, type Renames } from './renaming.ts'
import type { LeftBehind, ProjectDocument, Sources } from './schema.ts'

export interface Edit {
  readonly before: ProjectDocument
  readonly after: ProjectDocument
  /** Object ids that a newer file changed: what the camera aims at since is followed back and forth too. */
  readonly renamed?: Renames
}
export interface History {
  readonly past: readonly Edit[]
  readonly future: readonly Edit[]
}
export const EMPTY_HISTORY: History = { past: [], future: [] }
export const UNDO_LIMIT = 200

/** The history after an edit that turned `before` into `after`. */
export const remembered = (
  history: History,
  before: ProjectDocument,
  after: ProjectDocument,
  renamed?: Renames,
): History => ({
  past: [...history.past, { before, after, ...(renamed && { renamed }) }].slice(-UNDO_LIMIT),
  future: [],
})

/** The saved document's edit side with the present camera side and the given left-behind list. */
function withEditsOf(
  saved: ProjectDocument,
  present: ProjectDocument,
  leftBehind: readonly LeftBehind[],
): ProjectDocument {
  const { lens, frame } = present.working
  // an aim whose object went with the edit remembers where it was; both ways it is the same stand
  const stand = isSameStand(saved.working.stand, present.working.stand) ? saved.working.stand : present.working.stand
  const sameCamera = saved.working.stand === stand && saved.working.lens === lens && saved.working.frame === frame
  const { trail, recalledId } = present
  const sameLeft =
    leftBehind.length === saved.leftBehind.length && leftBehind.every((l, i) => l === saved.leftBehind[i])
  const sources = cameraSources(saved.sources, present.sources)
  const sameSources = sources === saved.sources
  if (sameCamera && sameLeft && sameSources && saved.trail === trail && saved.recalledId === recalledId) return saved
  return {
    ...saved,
    working: sameCamera ? saved.working : { ...saved.working, stand, lens, frame },
    trail,
    recalledId,
    sources,
    leftBehind: sameLeft ? saved.leftBehind : [...leftBehind],
  }
}

/** Where the parts come from: the camera's as now, the others' as saved. */
function cameraSources(saved: Sources, present: Sources): Sources {
  if (CAMERA_PARTS.every((p) => saved[p] === present[p])) return saved
  const next: Sources = { ...saved }
  for (const p of CAMERA_PARTS)
    if (present[p] === undefined) delete next[p]
    else next[p] = present[p]
  return next
}

/** Entries that the edit took off the left-behind list. */
const dropped = ({ before, after }: Edit): LeftBehind[] =>
  before.leftBehind.filter((l) => !after.leftBehind.includes(l))

export interface Step {
  readonly document: ProjectDocument
  readonly history: History
}

/** The document and history one edit back, or null at the beginning. */
export function undo(document: ProjectDocument, history: History): Step | null {
  const edit = history.past.at(-1)
  if (!edit) return null
  const back = dropped(edit).filter((l) => !document.leftBehind.some((p) => p.id === l.id))
  // in the order of the list before, newcomers first
  const rank = (l: LeftBehind): number => edit.before.leftBehind.indexOf(l)
  const left = [...document.leftBehind, ...back].sort((a, b) => rank(a) - rank(b))
  return {
    document: withEditsOf(edit.before, withRenamed(document, reversed(edit.renamed ?? {})), left),
    history: { past: history.past.slice(0, -1), future: [edit, ...history.future] },
  }
}

/** The document and history with the last undone edit done again, or null when there is none. */
export function redo(document: ProjectDocument, history: History): Step | null {
  const [edit, ...future] = history.future
  if (!edit) return null
  const gone = dropped(edit)
  const left = document.leftBehind.filter((l) => !gone.some((g) => g.id === l.id))
  return {
    document: withEditsOf(edit.after, withRenamed(document, edit.renamed ?? {}), left),
    history: { past: [...history.past, edit], future },
  }
}

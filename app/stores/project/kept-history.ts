// Undo's memory beside the page: written when it goes, read when the project opens again in this tab.
import { EMPTY_HISTORY, packHistory, unpackHistory, type History, type ProjectDocument } from '#model'

const EDITS = 60
/** What one project may take of the tab's store, characters. */
const MOST = 1_500_000
const keyOf = (projectId: string): string => `yoroi-undo/${projectId}`

export function keepHistory(projectId: string, doc: ProjectDocument, history: History): void {
  try {
    sessionStorage.removeItem(keyOf(projectId))
    if (history.past.length + history.future.length === 0) return
    for (let edits = EDITS; edits > 0; edits = Math.floor(edits / 3)) {
      const text = packHistory(doc, history, edits)
      if (text.length > MOST) continue
      sessionStorage.setItem(keyOf(projectId), text)
      return
    }
  } catch {
    // a tab without a store, or a full one, undoes only what it did itself
  }
}

export function keptHistory(projectId: string, doc: ProjectDocument): History {
  try {
    const text = sessionStorage.getItem(keyOf(projectId))
    return text === null ? EMPTY_HISTORY : unpackHistory(doc, text)
  } catch {
    return EMPTY_HISTORY
  }
}

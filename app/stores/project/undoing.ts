// Back and forth through the edits, and the undo of one edit that a message told of.
import { redo, remembered, undo, withoutEdit, type History, type ProjectDocument } from '#model'
import { useNotices } from '../notices.ts'
import type { ProjectState } from './state.ts'

export function createUndoing(state: ProjectState, set: (doc: ProjectDocument) => void) {
  const notices = useNotices()
  const { document, history, live, preview } = state

  function step(take: (d: ProjectDocument, h: History) => ReturnType<typeof undo>): void {
    if (!document.value) return
    live.value = preview.value = null
    const s = take(document.value, history.value)
    if (!s) return
    history.value = s.history
    set(s.document)
  }
  const undoEdit = (): void => step(undo)
  const redoEdit = (): void => step(redo)
  /** Takes back the edit that was just made, whatever is done until it is called: for the message that tells of it. */
  function undoOfThis(): () => void {
    const edit = history.value.past.at(-1)
    return () => {
      const doc = document.value
      if (!doc || !edit || !history.value.past.includes(edit)) return
      if (history.value.past.at(-1) === edit) return undoEdit()
      live.value = preview.value = null
      const r = withoutEdit(doc, edit)
      if (!r.ok) return notices.say(r.message, 'warning')
      history.value = remembered(history.value, doc, r.value)
      set(r.value)
    }
  }
  return { undoEdit, redoEdit, undoOfThis }
}

// The open project: its document, the two histories, what a drag shows before it is done, and saving.
// Model: documents are immutable values in shallow refs; every change goes through `run(command)`. A drag shows a `live` framing
// or an edit and becomes one command at its end; letting it go restores the start exactly.

import { defineStore } from 'pinia'
import type { ProjectDocument } from '#model'
import { createCommands } from './project/commands.ts'
import { createLive } from './project/live.ts'
import { createOpening } from './project/opening.ts'
import { createSaving } from './project/saving.ts'
import { createState } from './project/state.ts'
import { createUndoing } from './project/undoing.ts'
import { watchOthers } from './project/watching.ts'

export { newId, newStamp } from './project/commands.ts'

export const useProject = defineStore('project', () => {
  const state = createState()
  const saving = createSaving(state.id, state.document)
  function set(doc: ProjectDocument): void {
    state.document.value = doc
    saving.changed()
  }
  const commands = createCommands(state, set)
  const { beside, history: _, preview: __, ...visible } = state
  const trail = (by: -1 | 1): void => {
    const at = beside(by)
    if (at !== null) commands.run({ type: 'trailTo', at })
  }
  const opening = createOpening(state, saving)
  watchOthers(saving, opening.takeTheirs)
  return {
    ...visible,
    saveState: saving.state,
    savedAt: saving.savedAt,
    problem: saving.problem,
    theirs: saving.theirs,
    unsaved: saving.unsaved,
    save: saving.save,
    trail,
    ...commands,
    ...createLive(state, commands),
    ...createUndoing(state, set),
    ...opening,
  }
})

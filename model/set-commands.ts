// Commands on the named sets of objects. All are edits.
import { refused, type Result } from '#core/base'
import { edited, type Applied, type CommandReason } from './applied.ts'
import { mapped } from './renaming.ts'
import type { KeptParts, Setup } from './parts.ts'
import type { ObjectSet, ProjectDocument } from './schema.ts'
import { withoutSet } from './visible.ts'

export type SetCommand =
  | { type: 'addSet'; set: ObjectSet }
  | { type: 'changeSet'; setId: string; changes: Partial<Pick<ObjectSet, 'name' | 'objects'>> }
  | { type: 'deleteSet'; setId: string }

export function applySetCommand(doc: ProjectDocument, command: SetCommand): Result<Applied, CommandReason> {
  const sets = doc.objectSets ?? []
  if (command.type === 'addSet') {
    const name = command.set.name.trim()
    if (!name) return refused('empty-name', 'Give the set a name.')
    if (sets.some((s) => s.id === command.set.id)) return refused('order', 'There is a set of this id already.')
    return edited({ ...doc, objectSets: [...sets, { ...command.set, name }] })
  }
  const set = sets.find((s) => s.id === command.setId)
  if (!set) return refused('unknown-set', 'This set no longer exists.')
  if (command.type === 'changeSet') {
    const next = { ...set, ...command.changes }
    next.name = next.name.trim()
    if (!next.name) return refused('empty-name', 'Give the set a name.')
    return edited({ ...doc, objectSets: sets.map((s) => (s === set ? next : s)) })
  }
  return edited(dissolved(doc, set))
}

/** The document without a set; whatever it hid stays hidden, one by one, in every framing. */
function dissolved(doc: ProjectDocument, set: ObjectSet): ProjectDocument {
  const within = <T extends KeptParts | Setup>(parts: T): T => {
    const visible = parts.visible && withoutSet(parts.visible, set)
    return visible === parts.visible ? parts : { ...parts, visible }
  }
  const objectSets = (doc.objectSets ?? []).filter((s) => s !== set)
  return {
    ...doc,
    working: within(doc.working),
    settled: doc.settled && within(doc.settled),
    viewpoints: mapped(doc.viewpoints, (v) => {
      const parts = within(v.parts)
      return parts === v.parts ? v : { ...v, parts }
    }),
    leftBehind: mapped(doc.leftBehind, (l) => {
      const setup = within(l.setup)
      return setup === l.setup ? l : { ...l, setup }
    }),
    objectSets,
  }
}

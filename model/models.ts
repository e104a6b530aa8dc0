// How do the models of a project change?
// Model: objects are named by paths that begin with their model's key. A newer file keeps the key; ids of objects that lie
// elsewhere in it are changed wherever the document names them.

import { refused, type Result } from '#core/base'
import { edited, type Applied, type CommandReason } from './applied.ts'
import { sameJson, type KeptParts, type Setup } from './parts.ts'
import type { ModelRef, ProjectDocument } from './schema.ts'

export type ModelCommand =
  | { type: 'addModel'; model: ModelRef }
  | { type: 'removeModel'; modelId: string }
  | { type: 'placeModel'; modelId: string; changes: Partial<Pick<ModelRef, 'unitM' | 'up' | 'place'>> }
  | { type: 'moveObject'; modelId: string; move: ModelRef['moved'][number] }
  /** A newer file; `renamed` says which objects lie under another path now (old id -> new id). */
  | {
      type: 'replaceModel'
      modelId: string
      file: Pick<ModelRef, 'sha256' | 'sizeBytes' | 'name' | 'fileBox' | 'unitM' | 'up'>
      renamed: Readonly<Record<string, string>>
    }

const unknown = () => refused('unknown-model', 'This model is no longer in the project.')

export function applyModelCommand(doc: ProjectDocument, command: ModelCommand): Result<Applied, CommandReason> {
  if (command.type === 'addModel') {
    if (doc.models.some((m) => m.key === command.model.key || m.id === command.model.id))
      return refused('same-key', 'A model of this name is in the project already.')
    return edited({ ...doc, models: [...doc.models, command.model] })
  }
  const model = doc.models.find((m) => m.id === command.modelId)
  if (!model) return unknown()
  const put = (next: ModelRef): Result<Applied, CommandReason> =>
    sameJson(next, model)
      ? refused('nothing', 'The model is already so.')
      : edited({ ...doc, models: doc.models.map((m) => (m === model ? next : m)) })
  switch (command.type) {
    case 'removeModel':
      return edited({ ...doc, models: doc.models.filter((m) => m !== model) })
    case 'placeModel':
      return put({ ...model, ...command.changes })
    case 'moveObject': {
      const rest = model.moved.filter((o) => o.path !== command.move.path)
      const still = command.move.moveM.every((v) => v === 0) && command.move.turnDeg === 0
      return put({ ...model, moved: still ? rest : [...rest, command.move] })
    }
    case 'replaceModel': {
      const { renamed } = command
      const next: ModelRef = {
        ...model,
        ...command.file,
        moved: model.moved.map((o) => ({ ...o, path: renamed[o.path] ?? o.path })),
      }
      const models = doc.models.map((m) => (m === model ? next : m))
      return edited({ ...withRenamed(doc, renamed), models })
    }
  }
}

/** The setup (or kept parts) with object ids changed; what names none of them keeps its identity. */
function renamedIn<T extends KeptParts | Setup>(parts: T, renamed: Readonly<Record<string, string>>): T {
  let next = parts
  const { visible, stand, focus } = parts
  if (visible?.hidden.some((id) => renamed[id] !== undefined))
    next = { ...next, visible: { ...visible, hidden: [...new Set(visible.hidden.map((id) => renamed[id] ?? id))] } }
  if (stand?.aim.kind === 'object' && renamed[stand.aim.nodeId] !== undefined)
    next = { ...next, stand: { ...stand, aim: { ...stand.aim, nodeId: renamed[stand.aim.nodeId]! } } }
  if (focus?.mode.kind === 'object' && renamed[focus.mode.nodeId] !== undefined)
    next = { ...next, focus: { ...focus, mode: { ...focus.mode, nodeId: renamed[focus.mode.nodeId]! } } }
  return next
}

/** The list with `change` applied; the very same list when nothing in it changed. */
function mapped<T>(list: T[], change: (item: T) => T): T[] {
  const next = list.map(change)
  return next.every((item, i) => item === list[i]) ? list : next
}

function withRenamed(doc: ProjectDocument, renamed: Readonly<Record<string, string>>): ProjectDocument {
  if (Object.keys(renamed).length === 0) return doc
  const steps = mapped(doc.trail.steps, (s) => {
    if (s.stand.aim.kind !== 'object' || renamed[s.stand.aim.nodeId] === undefined) return s
    return { ...s, stand: { ...s.stand, aim: { ...s.stand.aim, nodeId: renamed[s.stand.aim.nodeId]! } } }
  })
  return {
    ...doc,
    working: renamedIn(doc.working, renamed),
    settled: doc.settled && renamedIn(doc.settled, renamed),
    viewpoints: mapped(doc.viewpoints, (v) => {
      const parts = renamedIn(v.parts, renamed)
      return parts === v.parts ? v : { ...v, parts }
    }),
    leftBehind: mapped(doc.leftBehind, (l) => {
      const setup = renamedIn(l.setup, renamed)
      return setup === l.setup ? l : { ...l, setup }
    }),
    trail: steps === doc.trail.steps ? doc.trail : { ...doc.trail, steps },
  }
}

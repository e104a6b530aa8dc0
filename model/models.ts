// How do the models of a project change?
// Model: objects are named by paths that begin with their model's key. A newer file keeps the key; ids of objects that lie
// elsewhere in it are changed wherever the document names them.

import { refused, type Result } from '#core/base'
import { edited, type Applied, type CommandReason } from './applied.ts'
import { withLost, type LostAim } from './lost-aims.ts'
import { sameJson } from './parts.ts'
import { withRenamed } from './renaming.ts'
import type { ModelRef, ProjectDocument } from './schema.ts'

/** What a model takes over from its file. */
export type ModelFile = Pick<ModelRef, 'sha256' | 'sizeBytes' | 'name' | 'fileBox' | 'unitM' | 'up' | 'missingTextures'>
export type ModelCommand =
  | { type: 'addModel'; model: ModelRef }
  | { type: 'removeModel'; modelId: string; lost?: readonly LostAim[] }
  | { type: 'placeModel'; modelId: string; changes: Partial<Pick<ModelRef, 'unitM' | 'up' | 'place'>> }
  | { type: 'moveObject'; modelId: string; move: ModelRef['moved'][number] }
  /** A newer file; `renamed` says which objects lie under another path now (old id -> new id). */
  | {
      type: 'replaceModel'
      modelId: string
      file: ModelFile
      renamed: Readonly<Record<string, string>>
      /** Where aims at objects that are not in the newer file pointed. */
      lost?: readonly LostAim[]
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
      return edited({ ...withLost(doc, command.lost ?? []), models: doc.models.filter((m) => m !== model) })
    case 'placeModel':
      return put({ ...model, ...command.changes })
    case 'moveObject': {
      const rest = model.moved.filter((o) => o.path !== command.move.path)
      const still = command.move.moveM.every((v) => v === 0) && command.move.turnDeg === 0
      return put({ ...model, moved: still ? rest : [...rest, command.move] })
    }
    case 'replaceModel': {
      const { renamed } = command
      const { missingTextures: _, ...kept } = model
      const next: ModelRef = {
        ...kept,
        ...command.file,
        moved: model.moved.map((o) => ({ ...o, path: renamed[o.path] ?? o.path })),
      }
      const models = doc.models.map((m) => (m === model ? next : m))
      return edited({ ...withLost(withRenamed(doc, renamed), command.lost ?? []), models }, renamed)
    }
  }
}

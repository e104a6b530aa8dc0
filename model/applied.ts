// What comes of a command?
import { ok, type Result } from '#core/base'
import type { PartName } from './parts.ts'
import type { Renames } from './renaming.ts'
import type { ProjectDocument } from './schema.ts'

export interface Applied {
  readonly document: ProjectDocument
  /** Whether undo should remember the document before. */
  readonly edit: boolean
  /** Parts that a lock kept as they were. */
  readonly held: readonly PartName[]
  /** Object ids that a newer file changed, old to new. */
  readonly renamed?: Renames
}
export type CommandReason =
  | 'unknown-model'
  | 'unknown-set'
  | 'unknown-photo'
  | 'unknown-shot'
  | 'unknown-reel'
  | 'unknown-state'
  | 'same-key'
  | 'unknown-viewpoint'
  | 'unknown-framing'
  | 'locked'
  | 'nothing'
  | 'empty-name'
  | 'order'
  | 'full'
  | 'out-of-range'

export const edited = (document: ProjectDocument, renamed?: Renames): Result<Applied, CommandReason> =>
  ok({ document, edit: true, held: [], ...(renamed && { renamed }) })

// How are revisions written and read back?
// Model: a revision holds the whole document or the patch that makes it from the one before; at most 50 patches follow a whole one.
// What was read or written last is kept in memory, valid and packed, so that a save costs as much as what changed.

import { LRUCache } from 'lru-cache'
import type { EntityManager } from 'typeorm'
import { AppError } from '#core/base'
import {
  applyPatch,
  fingerprint,
  packed,
  patchFault,
  readProjectDocument,
  unpackedAfter,
  type PackedDocument,
  type Patch,
  type ProjectDocument,
} from '#model'
import { RevisionEntity, type Revision } from './storage/entities.ts'

/** As many patches follow a whole document at most. */
export const MOST_PATCHES = 50
const KEPT_PROJECTS = 32

/** The document behind the door, or AppError `document-invalid` / `document-newer`. */
export function checkedDocument(value: unknown): ProjectDocument {
  const r = readProjectDocument(value)
  if (r.ok) return r.value
  throw new AppError(r.reason === 'newer-version' ? 'document-newer' : 'document-invalid', r.message)
}

/** What a save sends: all of it, or what changed and what should come of it. */
export type Incoming = { readonly document: ProjectDocument } | { readonly patch: Patch; readonly fingerprint: string }

export interface Held {
  readonly revision: number
  readonly document: ProjectDocument
  readonly packed: PackedDocument
  /** Patches since the last whole document. */
  readonly patches: number
}
export type Read = { readonly ok: true; readonly held: Held } | { readonly ok: false; readonly error: AppError }

export class Revisions {
  private readonly held = new LRUCache<string, Held>({ max: KEPT_PROJECTS })

  /** A revision as a document of today, or why it cannot be read. Reads at most one whole document and 50 patches. */
  async read(m: EntityManager, projectId: string, number: number): Promise<Read> {
    const known = this.held.get(projectId)
    if (known?.revision === number) return { ok: true, held: known }
    try {
      const { value, patches } = await this.replayed(m, projectId, number)
      const document = checkedDocument(value)
      return { ok: true, held: { revision: number, document, packed: packed(document), patches } }
    } catch (e) {
      if (e instanceof AppError) return { ok: false, error: e }
      if (e instanceof SyntaxError)
        return { ok: false, error: new AppError('document-invalid', 'Its text is cut off or garbled.') }
      throw e
    }
  }

  private async replayed(
    m: EntityManager,
    projectId: string,
    number: number,
  ): Promise<{ value: object; patches: number }> {
    const chain: Revision[] = []
    for (let n = number; ; n--) {
      const rev = await m.findOneBy(RevisionEntity, { projectId, number: n })
      if (!rev) {
        if (n === number) throw new AppError('revision-missing')
        throw new AppError('document-invalid', `Version ${n}, which it is made from, is not there any more.`)
      }
      chain.push(rev)
      if (!rev.isPatch) break
    }
    let value = JSON.parse(chain.pop()!.document) as object
    const patches = chain.length
    for (const rev of chain.reverse()) {
      const next = applyPatch(value, JSON.parse(rev.document) as Patch)
      if (!next.ok)
        throw new AppError('document-invalid', `The change of version ${rev.number} does not fit the one before.`)
      value = next.value
    }
    return { value, patches }
  }

  /** What is to be stored for a save after `base`. AppError `patch-mismatch` where the patch does not make what the sender has. */
  async next(m: EntityManager, projectId: string, base: number, incoming: Incoming): Promise<Next> {
    if ('document' in incoming) return whole(incoming.document)
    const before = await this.read(m, projectId, base)
    if (!before.ok) throw new AppError('patch-mismatch')
    const made = applyPatch(before.held.packed, incoming.patch)
    if (!made.ok || fingerprint(made.value) !== incoming.fingerprint) throw new AppError('patch-mismatch')
    const document = this.unpackedSound(before.held, made.value)
    if (before.held.patches >= MOST_PATCHES) return { ...whole(document), packed: made.value }
    return {
      document,
      packed: made.value,
      text: JSON.stringify(incoming.patch),
      isPatch: true,
      patches: before.held.patches + 1,
    }
  }

  /** The patched document, looked at where it is not what was valid before. */
  private unpackedSound(before: Held, made: PackedDocument): ProjectDocument {
    const document = unpackedAfter(before, made)
    if (!document) return checkedDocument(made)
    const fault = patchFault(before.document, document)
    if (fault !== null) throw new AppError('document-invalid', fault)
    return document
  }

  /** Remembers what is on disk now. */
  keep(
    projectId: string,
    revision: number,
    { document, packed, patches }: Pick<Held, 'document' | 'packed' | 'patches'>,
  ): void {
    this.held.set(projectId, { revision, document, packed, patches })
  }
  forget(projectId: string): void {
    this.held.delete(projectId)
  }
}

export interface Next {
  readonly document: ProjectDocument
  readonly packed: PackedDocument
  readonly text: string
  readonly isPatch: boolean
  readonly patches: number
}
function whole(document: ProjectDocument): Next {
  const small = packed(document)
  return { document, packed: small, text: JSON.stringify(small), isPatch: false, patches: 0 }
}

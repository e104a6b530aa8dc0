// The memory of undo as text, so that it outlives a reload.
// Model: from the present document backwards (and forwards for what was undone), each edit as two patches: to the document after it
// and to the one before, beside the objects that a newer file renamed. It is taken over only for the document it was written beside.

import { z } from 'zod'
import { fingerprint } from './fingerprint.ts'
import { EMPTY_HISTORY, type Edit, type History } from './history.ts'
import { applyPatch, patchBetween, type Patch } from './patch.ts'
import type { Renames } from './renaming.ts'
import type { ProjectDocument } from './schema.ts'

const patchSchema = z.array(
  z.union([
    z.object({ op: z.enum(['add', 'replace']), path: z.string(), value: z.unknown() }),
    z.object({ op: z.literal('remove'), path: z.string() }),
  ]),
)
const renamesSchema = z.record(z.string(), z.string())
const editSchema = z.tuple([patchSchema, patchSchema, renamesSchema])
const packedSchema = z.object({ of: z.string(), past: z.array(editSchema), future: z.array(editSchema) })

/** The newest edits of a history beside its document, at most `edits` each way. */
export function packHistory(doc: ProjectDocument, history: History, edits: number): string {
  const chain = (list: readonly Edit[], back: boolean): [Patch, Patch, Renames][] => {
    let at: ProjectDocument = doc
    return list.slice(0, edits).map(({ before, after, renamed = {} }) => {
      const [near, far] = back ? [after, before] : [before, after]
      const packed: [Patch, Patch, Renames] = [patchBetween(at, near), patchBetween(near, far), renamed]
      at = far
      return packed
    })
  }
  const { past, future } = history
  return JSON.stringify({ of: fingerprint(doc), past: chain([...past].reverse(), true), future: chain(future, false) })
}

/** The history that was packed beside exactly this document; the empty one where it does not belong or cannot be read. */
export function unpackHistory(doc: ProjectDocument, text: string): History {
  try {
    const read = packedSchema.safeParse(JSON.parse(text))
    if (!read.success || read.data.of !== fingerprint(doc)) return EMPTY_HISTORY
    const chain = (pairs: z.infer<typeof packedSchema>['past'], back: boolean): Edit[] => {
      let at: ProjectDocument = doc
      return pairs.map(([toNear, toFar, renamed]) => {
        const near = patched(at, toNear as Patch)
        const far = patched(near, toFar as Patch)
        at = far
        const ends = back ? { before: far, after: near } : { before: near, after: far }
        return Object.keys(renamed).length > 0 ? { ...ends, renamed } : ends
      })
    }
    return { past: chain(read.data.past, true).reverse(), future: chain(read.data.future, false) }
  } catch {
    return EMPTY_HISTORY
  }
}
function patched(doc: ProjectDocument, patch: Patch): ProjectDocument {
  if (patch.length === 0) return doc
  const r = applyPatch(doc, patch)
  if (!r.ok) throw new RangeError(r.message)
  return r.value
}

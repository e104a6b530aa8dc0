// Can this stored value be read as a project today?
// Model: each schema version has one step to the next; a version from the future is refused, never guessed at.

import { ok, refused, type Result } from '#core/base'
import { AT_ORIGIN, modelKey } from '#core/placing'
import { projectSchema, SCHEMA_VERSION, type ProjectDocument } from './schema.ts'

export type DocumentReason = 'not-a-project' | 'newer-version' | 'wrong-shape'

type Json = Record<string, unknown>

/** Steps from version n to n + 1, by n. Version 1 is the first. */
const STEPS: Readonly<Record<number, (old: Json) => Json>> = {
  /** Several models, each with a key that its objects' ids begin with. Version 1 showed the first model only. */
  1: (old) => {
    const taken: string[] = []
    const models = (Array.isArray(old['models']) ? (old['models'] as Json[]) : []).slice(0, 1).map((m) => {
      const key = modelKey(String(m['name'] ?? ''), taken)
      taken.push(key)
      return { ...m, key, fileBox: null, unitM: 1, up: 'y', place: AT_ORIGIN, moved: [] }
    })
    const prefix = taken[0] ?? 'Model'
    const walk = (value: unknown): unknown => {
      if (Array.isArray(value)) return value.map(walk)
      if (typeof value !== 'object' || value === null) return value
      return Object.fromEntries(
        Object.entries(value).map(([k, v]) => {
          if (k === 'nodeId' && typeof v === 'string') return [k, `${prefix}/${v}`]
          if (k === 'hidden' && Array.isArray(v)) return [k, v.map((id) => `${prefix}/${String(id)}`)]
          return [k, walk(v)]
        }),
      )
    }
    return { ...(walk(old) as Json), models, schemaVersion: 2 }
  },
}

/** The valid document, or why it is not one; `message` names the first field that is wrong. */
export function readProjectDocument(value: unknown): Result<ProjectDocument, DocumentReason> {
  if (typeof value !== 'object' || value === null || Array.isArray(value) || !('schemaVersion' in value))
    return refused('not-a-project', 'This is not a Yoroi project: it has no schemaVersion.')
  let doc = value as Record<string, unknown>
  const version = doc['schemaVersion']
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 1)
    return refused('wrong-shape', 'The project’s schemaVersion is not a version number.')
  if (version > SCHEMA_VERSION)
    return refused(
      'newer-version',
      `The project was made by a newer Yoroi (document version ${version}, this one reads up to ${SCHEMA_VERSION}). Update Yoroi to open it.`,
    )
  for (let v = version; v < SCHEMA_VERSION; v++) {
    const step = STEPS[v]
    if (!step) return refused('wrong-shape', `No way is known to read document version ${v}.`)
    doc = step(doc)
  }
  const parsed = projectSchema.safeParse(doc)
  if (parsed.success) return ok(parsed.data)
  const issue = parsed.error.issues[0]
  return refused(
    'wrong-shape',
    `The project is damaged at “${issue?.path.join('.') || 'its root'}”: ${issue?.message ?? 'unknown'}.`,
  )
}

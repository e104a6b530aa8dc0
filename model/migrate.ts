// Can this stored value be read as a project today?
// Model: each schema version has one step to the next; a version from the future is refused, never guessed at.

import { ok, refused, type Result } from '#core/base'
import { AT_ORIGIN, modelKey } from '#core/placing'
import { projectSchema, SCHEMA_VERSION, type ProjectDocument } from './schema.ts'

export type DocumentReason = 'not-a-project' | 'newer-version' | 'wrong-shape'

type Json = Record<string, unknown>

/** Documents are a dozen levels deep; anything far beyond is not one. */
const MOST_LEVELS = 60
class TooDeep extends Error {}
const isObject = (v: unknown): v is Json => typeof v === 'object' && v !== null && !Array.isArray(v)

/** Steps from version n to n + 1, by n. Version 1 is the first. What is not as expected stays as it is: the schema will name it. */
const STEPS: Readonly<Record<number, (old: Json) => Json>> = {
  /** Several models, each with a key that its objects' ids begin with. Version 1 showed the first model only. */
  1: (old) => {
    const listed = Array.isArray(old['models']) ? old['models'].slice(0, 1) : old['models']
    const name = Array.isArray(listed) && isObject(listed[0]) ? listed[0]['name'] : null
    const key = modelKey(typeof name === 'string' ? name : '', [])
    const models = Array.isArray(listed)
      ? listed.map((m) =>
          isObject(m) ? { ...m, key, fileBox: null, unitM: 1, up: 'y', place: AT_ORIGIN, moved: [] } : m,
        )
      : listed
    const prefix = models === undefined || (Array.isArray(models) && models.length === 0) ? 'Model' : key
    const walk = (value: unknown, level: number): unknown => {
      if (level > MOST_LEVELS) throw new TooDeep()
      if (Array.isArray(value)) return value.map((v) => walk(v, level + 1))
      if (!isObject(value)) return value
      return Object.fromEntries(
        Object.entries(value).map(([k, v]) => {
          if (k === 'nodeId' && typeof v === 'string') return [k, `${prefix}/${v}`]
          if (k === 'hidden' && Array.isArray(v))
            return [k, v.map((id) => (typeof id === 'string' ? `${prefix}/${id}` : id))]
          return [k, walk(v, level + 1)]
        }),
      )
    }
    const { models: _, ...rest } = old
    return { ...(walk(rest, 0) as Json), models, schemaVersion: 2 }
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
    try {
      doc = step(doc)
    } catch (e) {
      if (!(e instanceof TooDeep)) throw e
      return refused('wrong-shape', 'The project is damaged: its parts are nested without end.')
    }
  }
  const parsed = projectSchema.safeParse(doc)
  if (parsed.success) return ok(parsed.data)
  const issue = parsed.error.issues[0]
  return refused(
    'wrong-shape',
    `The project is damaged at “${issue?.path.join('.') || 'its root'}”: ${issue?.message ?? 'unknown'}.`,
  )
}

// Can this stored value be read as a project today?
// Model: each schema version has one step to the next; a version from the future is refused, never guessed at.

import { ok, refused, type Result } from '#core/base'
import { AT_ORIGIN, modelKey } from '#core/placing'
import { unpacked } from './packing.ts'
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
  /**
   * One list of cuts of several kinds; recall remembered part by part. What version 2 recalled set every part that its viewpoint
   * keeps, which is what it compared with.
   */
  2: (old) => {
    const viewpoints = items(old['viewpoints'])
    const keptBy = (id: unknown): Json => {
      const parts = viewpoints.find((v) => v['id'] === id)?.['parts']
      return isObject(parts) ? parts : {}
    }
    const sourcesOf = (id: unknown, among: readonly string[] | null): Json =>
      typeof id === 'string'
        ? Object.fromEntries(Object.keys(keptBy(id)).flatMap((p) => (!among || among.includes(p) ? [[p, id]] : [])))
        : {}
    const { recalledId } = old
    const working = withCut(old['working'])
    const trail = isObject(old['trail']) ? old['trail'] : null
    return {
      ...old,
      working,
      viewpoints: mapItems(old['viewpoints'], (v) => ({ ...v, parts: withCut(v['parts']) })),
      leftBehind: mapItems(old['leftBehind'], (l) => ({ ...l, setup: withCut(l['setup']) })),
      trail: trail && {
        ...trail,
        steps: mapItems(trail['steps'], (s) => ({
          ...s,
          sources: sourcesOf(s['recalledId'], ['stand', 'lens', 'frame']),
        })),
      },
      sources: sourcesOf(recalledId, null),
      settled: typeof recalledId === 'string' ? working : null,
      schemaVersion: 3,
    }
  },
  /** Several guides at once, each with a colour and a strength. */
  3: (old) => ({ ...(withGuideLists(old, 0) as Json), schemaVersion: 4 }),
}
/** Everything with its frames' guides as lists. */
function withGuideLists(value: unknown, level: number): unknown {
  if (level > MOST_LEVELS) throw new TooDeep()
  if (Array.isArray(value)) return value.map((v) => withGuideLists(v, level + 1))
  if (!isObject(value)) return value
  return Object.fromEntries(
    Object.entries(value).map(([k, v]) =>
      k === 'guides' && typeof v === 'string'
        ? [k, v === 'none' ? [] : [{ kind: v, colour: 'white', strength: 0.4 }]]
        : [k, withGuideLists(v, level + 1)],
    ),
  )
}

const items = (v: unknown): Json[] => (Array.isArray(v) ? v.filter(isObject) : [])
/** A list with its objects changed; whatever else it is stays for the schema to name. */
const mapItems = (v: unknown, change: (item: Json) => Json): unknown =>
  Array.isArray(v) ? v.map((item: unknown) => (isObject(item) ? change(item) : item)) : v

/** A setup, or kept parts, of version 2 with its cut planes and box in one list. */
function withCut(parts: unknown): unknown {
  if (!isObject(parts) || !isObject(parts['cut'])) return parts
  const { planes, box, ...cut } = parts['cut']
  const fromPlane = ({ thicknessM, ...p }: Json): Json =>
    thicknessM === undefined
      ? { ...p, reversed: false, kind: 'free', normal: unitOf(p['normal']) }
      : { ...p, reversed: false, kind: 'slice', normal: unitOf(p['normal']), thicknessM }
  const cuts = [...items(planes).map(fromPlane), ...(isObject(box) ? [fromBox(box)] : [])]
  return { ...parts, cut: { ...cut, cuts } }
}
function fromBox(box: Json): Json {
  const at = (key: string, k: number): number => (Array.isArray(box[key]) ? Number(box[key][k]) : NaN)
  const each = (value: (k: number) => number): number[] => [0, 1, 2].map(value)
  return {
    id: 'box',
    name: 'Box',
    on: box['on'],
    reversed: false,
    kind: 'box',
    centre: each((k) => (at('min', k) + at('max', k)) / 2),
    sizeM: each((k) => Math.max(1e-3, Math.abs(at('max', k) - at('min', k)))),
    turnDeg: 0,
  }
}
function unitOf(v: unknown): unknown {
  if (!Array.isArray(v)) return v
  const n = v.map(Number)
  const l = Math.hypot(...n)
  return l > 0 ? n.map((x) => x / l) : [0, 0, 1]
}

/** The valid document, or why it is not one; `message` names the first field that is wrong. */
export function readProjectDocument(value: unknown): Result<ProjectDocument, DocumentReason> {
  if (typeof value !== 'object' || value === null || Array.isArray(value) || !('schemaVersion' in value))
    return refused('not-a-project', 'This is not a Yoroi project: it has no schemaVersion.')
  let doc = unpacked(value as Json)
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

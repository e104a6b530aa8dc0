// How is one edit taken out of the middle, what came after it being left?
// Model: three ways. What the edit changed and nothing changed since goes back to what it was; lists are matched by id, a thing
// taken away returns to its place among its neighbours. Where something later changed the same value, that is said and nothing is done. The
// camera's side stays, as in undo.

import { ok, refused, type Result } from '#core/base'
import type { Edit } from './history.ts'
import { CAMERA_PARTS, mergeParts, sameJson } from './parts.ts'
import type { ProjectDocument } from './schema.ts'
import { reversed, withRenamed } from './renaming.ts'
import { firstFault } from './validate.ts'

type Json = Record<string, unknown>
const isObject = (v: unknown): v is Json => typeof v === 'object' && v !== null && !Array.isArray(v)
const keyOf = (v: unknown): string | null =>
  typeof v === 'string' ? v : isObject(v) && typeof v['id'] === 'string' ? v['id'] : null
const areKeyed = (...lists: readonly (readonly unknown[])[]): boolean =>
  lists.every((l) => l.every((v) => keyOf(v) !== null))

/** Thrown inside only: something later changed what the edit had changed. */
class Later extends Error {}

/** The present document without one edit that was made to it. Refused where a later change stands on the edit's. */
export function withoutEdit(
  present: ProjectDocument,
  { before, after, renamed = {} }: Edit,
): Result<ProjectDocument, 'later' | 'fault'> {
  try {
    const now = withRenamed(present, reversed(renamed))
    // the camera's side is the present one throughout, so that no move since stands in the way
    const document = back(withCameraOf(before, now), withCameraOf(after, now), now) as ProjectDocument
    const fault = firstFault(now, document)
    return fault === null ? ok(document) : refused('fault', fault)
  } catch (e) {
    if (!(e instanceof Later)) throw e
    return refused('later', 'It was changed again since. Undo the later edits first.')
  }
}

function withCameraOf(doc: ProjectDocument, { working, sources, trail, recalledId }: ProjectDocument): ProjectDocument {
  const own = { ...doc.sources }
  for (const p of CAMERA_PARTS)
    if (sources[p] === undefined) delete own[p]
    else own[p] = sources[p]
  return { ...doc, working: mergeParts(doc.working, working, CAMERA_PARTS), sources: own, trail, recalledId }
}

function back(before: unknown, after: unknown, now: unknown): unknown {
  if (before === after || sameJson(before, after)) return now
  if (now === after || sameJson(now, after)) return before
  if (isObject(before) && isObject(after) && isObject(now)) return backObject(before, after, now)
  if (Array.isArray(before) && Array.isArray(after) && Array.isArray(now) && areKeyed(before, after, now))
    return backList(before, after, now)
  throw new Later()
}

function backObject(before: Json, after: Json, now: Json): Json {
  const next: Json = {}
  for (const k of new Set([...Object.keys(now), ...Object.keys(before)])) {
    const v = back(before[k], after[k], now[k])
    if (v !== undefined) next[k] = v
  }
  return next
}

function backList(before: readonly unknown[], after: readonly unknown[], now: readonly unknown[]): unknown[] {
  const byKey = (l: readonly unknown[]): Map<string, unknown> => new Map(l.map((v) => [keyOf(v)!, v]))
  const [was, made] = [byKey(before), byKey(after)]
  const next: unknown[] = []
  for (const v of now) {
    const key = keyOf(v)!
    if (!made.has(key)) next.push(v)
    else if (was.has(key)) next.push(back(was.get(key), made.get(key), v))
    else if (!sameJson(v, made.get(key))) throw new Later()
  }
  const present = new Set(next.map((v) => keyOf(v)!))
  before.forEach((v, i) => {
    const key = keyOf(v)!
    if (made.has(key) || present.has(key)) return
    // before what followed it, where that is still there, else after what it followed
    const at = (p: unknown): number => next.findIndex((n) => keyOf(n) === keyOf(p))
    const follower = before.slice(i + 1).find((p) => present.has(keyOf(p)!))
    const leader = before.slice(0, i).findLast((p) => present.has(keyOf(p)!))
    next.splice(follower !== undefined ? at(follower) : leader !== undefined ? at(leader) + 1 : 0, 0, v)
    present.add(key)
  })
  return next
}

// Would what changed be refused when it is saved?
// Model: only what is no longer the same value is looked at, by the schema of its own place; the cross-list rules always. Linear in
// the lengths of the lists, not in what stands in them.

import { z } from 'zod'
import { CELLS, getPart, PART_TABLE, partLabel, PARTS } from './parts.ts'
import { matchFault, photoSchema } from './photo-schemas.ts'
import { objectStateSchema, reelFault, reelSchema, shotSchema } from './reel-schemas.ts'
import {
  documentFields,
  leftBehindSchema,
  LIST_LIMITS,
  modelSchema,
  objectSetSchema,
  trailStepSchema,
  viewpointSchema,
  type ProjectDocument,
} from './schema.ts'

/** A sentence about the first thing that the schema refuses; null when all that changed is sound. */
export function firstFault(before: ProjectDocument, after: ProjectDocument): string | null {
  return (
    partFault(before, after) ??
    itemFault('viewpoints', 'Viewpoint', viewpointSchema, before.viewpoints, after.viewpoints) ??
    itemFault('leftBehind', 'Left behind', leftBehindSchema, before.leftBehind, after.leftBehind) ??
    itemFault('steps', 'Trail', trailStepSchema, before.trail.steps, after.trail.steps) ??
    itemFault('models', 'Model', modelSchema, before.models, after.models) ??
    itemFault('objectSets', 'Set', objectSetSchema, before.objectSets ?? [], after.objectSets ?? []) ??
    itemFault('photos', 'Photograph', photoSchema, before.photos ?? [], after.photos ?? []) ??
    itemFault('shots', 'Shot', shotSchema, before.shots ?? [], after.shots ?? []) ??
    itemFault('reels', 'Reel', reelSchema, before.reels ?? [], after.reels ?? []) ??
    itemFault('objectStates', 'State', objectStateSchema, before.objectStates ?? [], after.objectStates ?? []) ??
    fieldFault(before, after) ??
    crossFault(after)
  )
}

function sentence(label: string, error: z.ZodError): string {
  const issue = error.issues[0]
  const path = (issue?.path ?? []).filter((p) => typeof p !== 'number').join(' ')
  return `${label}${path ? `, ${path}` : ''}: ${plain(issue?.message ?? 'not possible')}.`
}
const plain = (message: string): string =>
  message.replace(/^(Invalid input: |Too (big|small): )/, '').replace(/^e/, 'E')

function partFault(before: ProjectDocument, after: ProjectDocument): string | null {
  if (before.working === after.working) return null
  for (const p of PARTS) {
    const value = getPart(after.working, p)
    if (value === getPart(before.working, p)) continue
    const r = PART_TABLE[p].schema.safeParse(value)
    if (!r.success) return sentence(partLabel(p), r.error)
  }
  return null
}

function itemFault(
  list: keyof typeof LIST_LIMITS,
  label: string,
  schema: z.ZodType,
  before: readonly unknown[],
  after: readonly unknown[],
): string | null {
  if (before === after) return null
  if (after.length > LIST_LIMITS[list]) return `${label}: there is room for ${LIST_LIMITS[list]}.`
  const known = new Set(before)
  for (const item of after) {
    if (known.has(item)) continue
    const r = schema.safeParse(item)
    if (!r.success) return sentence(label, r.error)
  }
  return null
}

const PLAIN_FIELDS = [
  'name',
  'unit',
  'subject',
  'eyeHeightM',
  'planCutM',
  'checkLimits',
  'comfortLimits',
  'people',
  'locked',
  'recalledId',
  'sources',
  'settled',
  'materialClasses',
  'tables',
] as const

function fieldFault(before: ProjectDocument, after: ProjectDocument): string | null {
  for (const key of PLAIN_FIELDS) {
    if (before[key] === after[key]) continue
    const r = documentFields[key].safeParse(after[key])
    if (!r.success) return sentence('Project', r.error)
  }
  return null
}

/** As `firstFault`, for a document that a patch has made of a valid one: whatever it does not share is looked at. */
export function patchFault(before: ProjectDocument, after: ProjectDocument): string | null {
  const odd = Object.keys(after).find((k) => !(k in documentFields))
  if (odd !== undefined) return `Project: it has no “${odd.slice(0, 40)}”.`
  if (after.schemaVersion !== before.schemaVersion) return 'Project: its version cannot be changed.'
  const lists = [
    after.viewpoints,
    after.leftBehind,
    after.trail?.steps,
    after.models,
    after.objectSets ?? [],
    after.photos ?? [],
    after.shots ?? [],
    after.reels ?? [],
    after.objectStates ?? [],
  ]
  if (!lists.every(Array.isArray) || typeof after.working !== 'object' || after.working === null)
    return 'Project: a list is missing.'
  if (!setupShape.safeParse(after.working).success) return 'Setup: a part is missing.'
  return firstFault(before, after)
}
const setupShape = z.object(Object.fromEntries(CELLS.map((c) => [c, z.looseObject({})])))

/** What holds between the items of lists. */
export function crossFault(doc: ProjectDocument): string | null {
  const { steps, at } = doc.trail
  if (!(Number.isInteger(at) && at >= 0 && at < steps.length)) return 'Trail: it points past its end.'
  if (new Set(doc.viewpoints.map((v) => v.id)).size !== doc.viewpoints.length)
    return 'Viewpoints: two have the same id.'
  if (new Set(doc.models.map((m) => m.key)).size !== doc.models.length) return 'Models: two have the same key.'
  return matchFault(doc.photos ?? []) ?? reelFault(doc.shots ?? [], doc.reels ?? [])
}

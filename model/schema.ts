// What does a project hold, and what is a valid one?
// Model: one immutable JSON value. The same schema guards the browser, the wire, the database and project files.
// Units are in the names; angles in degrees, world lengths in metres, sensor lengths in millimetres.

import { LIMITS, type LimitName } from '#core/checks'
import { COMFORT_LIMITS, type ComfortLimits } from '#core/reel'
import { z } from 'zod'
import type { PlacedModel } from '#core/placing'
import { TABLE_SIDE } from '#core/optics'
import { MATERIAL_CLASSES } from '#core/section'
import { list, names } from './lists.ts'
import { angle, ownVec3, finite, frameSchema, id, lensSchema, name, onOff, standSchema, vec3 } from './part-schemas.ts'
import { matchFault, photoSchema } from './photo-schemas.ts'
import { objectStateSchema, REEL_LIMITS, reelFault, reelSchema, shotSchema } from './reel-schemas.ts'
import { keptPartsSchema, partNameSchema, setupSchema } from './parts.ts'

export const viewpointSchema = z.object({ id, name, parts: keptPartsSchema, locked: onOff })
export type Viewpoint = z.infer<typeof viewpointSchema>

const sourcesSchema = z.partialRecord(partNameSchema, id)
/** By part, the viewpoint that set it last. */
export type Sources = z.infer<typeof sourcesSchema>

/** Longest name of anything. */
export const NAME_LIMIT = 200
/** Most items of the lists. */
export const LIST_LIMITS = {
  models: 100,
  viewpoints: 2000,
  steps: 500,
  leftBehind: 200,
  objectSets: 200,
  tables: 8,
  people: 10_000,
  photos: 100,
  shots: REEL_LIMITS.shots,
  reels: REEL_LIMITS.reels,
  objectStates: 500,
} as const
/** Longest label of a step of the trail. */
export const LABEL_LIMIT = 120
export const trailStepSchema = z.object({
  stand: standSchema,
  lens: lensSchema,
  frame: frameSchema,
  recalledId: id.nullable(),
  sources: sourcesSchema,
  label: z.string().max(LABEL_LIMIT),
  /** Looked at for a while; made by a command with a name; off the line that back and forward follow. */
  looked: z.literal(true).optional(),
  named: z.literal(true).optional(),
  branch: z.literal(true).optional(),
})
export type TrailStep = z.infer<typeof trailStepSchema>

export const leftBehindSchema = z.object({
  id,
  setup: setupSchema,
  fromName: z.string().max(200).nullable(),
  fromId: id.nullable(),
  at: z.string().max(40),
})
export type LeftBehind = z.infer<typeof leftBehindSchema>

/** First step of the path of each of a model's nodes; never changes, so that ids outlive a newer file. */
export const modelKeySchema = z.string().regex(/^[^/#]{1,80}$/u)
const nodePath = z.string().min(1).max(2000)
export const modelSchema = z.object({
  id,
  key: modelKeySchema,
  /** Name of the file it came from. */
  name,
  sha256: z.string().regex(/^[0-9a-f]{64}$/),
  sizeBytes: z.number().int().nonnegative(),
  /** Bounds in the file's own units and axes; null where they were never measured. */
  fileBox: z.object({ min: ownVec3, max: ownVec3 }).nullable(),
  unitM: finite.min(1e-6).max(1e6),
  up: z.enum(['y', 'z']),
  place: z.object({ position: ownVec3, turnDeg: angle, scale: finite.min(1e-6).max(1e6) }),
  /** Pictures that its file names and that were not brought in with it. */
  missingTextures: names(300, 500).optional(),
  moved: list(z.object({ path: nodePath, moveM: vec3, turnDeg: angle }), 10_000),
}) satisfies z.ZodType<PlacedModel>
export type ModelRef = z.infer<typeof modelSchema>

/** Objects under a name, to be hidden together. */
export const objectSetSchema = z.object({ id, name, objects: names(2000, 100_000) })
export type ObjectSet = z.infer<typeof objectSetSchema>

/** A colour table that finishes can name: 16 bits a channel in base64, red fastest. */
export const tableSchema = z
  .object({
    id,
    name,
    size: z.number().int().min(TABLE_SIDE.least).max(TABLE_SIDE.most),
    data: z.string().max(300_000),
  })
  .refine((t) => t.data.length === Math.ceil((t.size ** 3 * 6) / 3) * 4, {
    path: ['data'],
    message: 'is not of its size',
  })
export type TableRef = z.infer<typeof tableSchema>

export const SCHEMA_VERSION = 4

export const documentFields = {
  schemaVersion: z.literal(SCHEMA_VERSION),
  name,
  unit: z.enum(['mm', 'cm', 'm', 'ft-in']),
  subject: z.enum(['room', 'product']),
  eyeHeightM: finite.min(0.01).max(100),
  planCutM: finite.min(0.01).max(1000),
  /** Limits of the frame check that are the project's own. */
  checkLimits: z
    .partialRecord(z.enum(Object.keys(LIMITS) as [LimitName, ...LimitName[]]), finite.min(0).max(1000))
    .optional(),
  /** Objects marked as people: what lies below one belongs to it. Left out as long as there was none. */
  people: names(2000, LIST_LIMITS.people).optional(),
  models: list(modelSchema, LIST_LIMITS.models),
  working: setupSchema,
  locked: list(partNameSchema, 64),
  recalledId: id.nullable(),
  /** Which viewpoint set each part last. */
  sources: sourcesSchema,
  /** What the parts that no viewpoint set are compared with; null before the first recall. */
  settled: setupSchema.nullable(),
  viewpoints: list(viewpointSchema, LIST_LIMITS.viewpoints),
  trail: z.object({ steps: list(trailStepSchema, LIST_LIMITS.steps, 1), at: z.number().int().nonnegative() }),
  leftBehind: list(leftBehindSchema, LIST_LIMITS.leftBehind),
  /** Left out as long as there was none. */
  objectSets: list(objectSetSchema, LIST_LIMITS.objectSets).optional(),
  /** Colour tables brought in. Left out as long as there was none. */
  tables: list(tableSchema, LIST_LIMITS.tables).optional(),
  /** Photographs and what is known of their cameras. Left out as long as there was none. */
  photos: list(photoSchema, LIST_LIMITS.photos).optional(),
  /** Shots, and reels of them. Left out as long as there was none. */
  shots: list(shotSchema, LIST_LIMITS.shots).optional(),
  reels: list(reelSchema, LIST_LIMITS.reels).optional(),
  /** Limits of the comfort check that are the project's own. */
  comfortLimits: z
    .partialRecord(
      z.enum(Object.keys(COMFORT_LIMITS) as [keyof ComfortLimits, ...(keyof ComfortLimits)[]]),
      finite.min(0).max(1000),
    )
    .optional(),
  /** Other placements of objects. Left out as long as there was none. */
  objectStates: list(objectStateSchema, LIST_LIMITS.objectStates).optional(),
  /** Classes of materials set by hand, by name: how their cut faces are hatched. Left out as long as there was none. */
  materialClasses: z
    .record(z.string().min(1).max(500), z.enum(MATERIAL_CLASSES))
    .refine((r) => Object.keys(r).length <= 2000, { message: 'more than 2000 materials' })
    .optional(),
}
export const projectSchema = z
  .object(documentFields)
  .refine((d) => d.trail.at < d.trail.steps.length, { path: ['trail', 'at'], message: 'points past the trail’s end' })
  .refine((d) => new Set(d.viewpoints.map((v) => v.id)).size === d.viewpoints.length, {
    path: ['viewpoints'],
    message: 'two viewpoints have the same id',
  })
  .refine((d) => new Set(d.models.map((m) => m.key)).size === d.models.length, {
    path: ['models'],
    message: 'two models have the same key',
  })
  .refine((d) => matchFault(d.photos ?? []) === null, { path: ['photos'], message: 'do not hold together' })
  .refine((d) => reelFault(d.shots ?? [], d.reels ?? []) === null, { path: ['reels'], message: 'do not hold together' })
export type ProjectDocument = z.infer<typeof projectSchema>

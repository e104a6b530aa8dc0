// What does a project know of its photographs?
// Model: a photograph is a file of its own (an asset) and a match: what is drawn on it, what is held, and the camera last found.
// Space: picture pixels of the upright photograph from its top left corner, y down, the first pixel's middle at (0.5, 0.5).

import { z } from 'zod'
import { LENS_UNKNOWNS, POSE_UNKNOWNS } from '#core/match'
import { list } from './lists.ts'
import { angle, COEFFICIENT_LIMIT, finite, id, name, vec3 } from './part-schemas.ts'

/** Longest side of a photograph, pixels; a hundred megapixels are far within. */
export const PHOTO_LIMIT_PX = 65_535
const side = z.number().int().min(1).max(PHOTO_LIMIT_PX)
const coordinatePx = finite.min(-10 * PHOTO_LIMIT_PX).max(10 * PHOTO_LIMIT_PX)
const place = z.tuple([coordinatePx, coordinatePx]).readonly()
const coefficient = finite.min(-COEFFICIENT_LIMIT).max(COEFFICIENT_LIMIT)
const lengthM = finite.min(1e-4).max(1e5)

export const bundleSchema = z.object({ id, name, bearingDeg: angle, tiltDeg: finite.min(-90).max(90) })
/** Most of each, and most places of a line. */
export const MATCH_LIMITS = { bundles: 8, lines: 500, pairs: 200, measures: 50, masks: 50, places: 32 } as const
const lineSchema = z.object({ id, bundleId: id, points: list(place, MATCH_LIMITS.places, 2).readonly() })
const pairSchema = z.object({ id, world: vec3, image: place })
const treatment = z.union([z.enum(['fixed', 'free']), z.object({ sd: finite.positive().max(1e6) })])
const photoLens = {
  focalPx: finite.positive().max(1e7),
  principal: place,
  distortion: z.object({ k1: coefficient, k2: coefficient, k3: coefficient, p1: coefficient, p2: coefficient }),
}
const photoPose = { station: vec3, bearingDeg: angle, tiltDeg: finite.min(-90).max(90), rollDeg: angle }
const scaleSchema = z.discriminatedUnion('kind', [
  /** So far along a bundle from one place of the photograph to another; the first is at a place of the world. */
  z.object({ kind: z.literal('length'), from: place, to: place, bundleId: id, lengthM, at: vec3 }),
  /** The camera so high over a place on the ground. */
  z.object({ kind: z.literal('eye'), foot: place, heightM: lengthM, at: vec3 }),
])
/** A length along a bundle; it begins on the ground, or on a surface of the model. */
const measureSchema = z.object({
  ...{ id, bundleId: id, from: place, to: place },
  on: z.object({ point: vec3, normal: vec3 }).optional(),
})
export const matchSchema = z.object({
  bundles: list(bundleSchema, MATCH_LIMITS.bundles).readonly(),
  lines: list(lineSchema, MATCH_LIMITS.lines).readonly(),
  pairs: list(pairSchema, MATCH_LIMITS.pairs).readonly(),
  /** What is not named: the lens is held, the pose is solved. */
  treatments: z.partialRecord(z.enum([...LENS_UNKNOWNS, ...POSE_UNKNOWNS]), treatment),
  /** Where unknowns start, and what they are where they are held. */
  start: z.object({ ...photoLens, pose: z.object(photoPose).optional() }),
  scale: scaleSchema.optional(),
  /** Wrong pairs are set aside. */
  robust: z.literal(true).optional(),
  measures: list(measureSchema, MATCH_LIMITS.measures).readonly().optional(),
  /** What stands before the model: polygons, their edges so soft. */
  masks: list(z.object({ id, points: list(place, 500, 3).readonly(), softPx: finite.min(0).max(500) }), MATCH_LIMITS.masks).readonly().optional(), // prettier-ignore
  /** The camera found last. */
  solved: z.object({ ...photoLens, ...photoPose }).optional(),
})
export type PhotoMatchPart = z.infer<typeof matchSchema>
export type Bundle = z.infer<typeof bundleSchema>
export type MatchScale = z.infer<typeof scaleSchema>

export const photoSchema = z.object({
  id,
  name,
  sha256: z.string().regex(/^[0-9a-f]{64}$/),
  sizeBytes: z.number().int().nonnegative(),
  /** Of the upright photograph. */
  widthPx: side,
  heightPx: side,
  /** What its tags said, as a sentence for the person. */
  told: z.string().max(400).optional(),
  match: matchSchema,
})
export type Photo = z.infer<typeof photoSchema>

/** What does not hold within a match: lines of bundles that are not there; null where all is well. */
export function matchFault(photos: readonly Photo[]): string | null {
  if (new Set(photos.map((p) => p.id)).size !== photos.length) return 'Photographs: two have the same id.'
  for (const { match: m } of photos) {
    const bundles = new Set(m.bundles.map((b) => b.id))
    if (bundles.size !== m.bundles.length) return 'Photograph: two bundles have the same id.'
    const named = [...m.lines, ...(m.measures ?? []), ...(m.scale?.kind === 'length' ? [m.scale] : [])]
    if (named.some((x) => !bundles.has(x.bundleId))) return 'Photograph: a line belongs to a bundle that is not there.'
  }
  return null
}

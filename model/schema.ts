// What does a project hold, and what is a valid one?
// Model: one immutable JSON value. The same schema guards the browser, the wire, the database and project files.
// Units are in the names; angles in degrees, world lengths in metres, sensor lengths in millimetres.

import { z } from 'zod'
import type { Aim, Frame, Lens, Projection, Stand } from '#core/camera'
import { FILE_LIMIT, WORLD_LIMIT_M, type PlacedModel } from '#core/placing'
import { list, names } from './lists.ts'
import { CAMERA_PARTS, EDIT_PARTS, type PartName } from './parts.ts'

const finite = z.number()
/** World metres. Sites in surveyed coordinates lie thousands of kilometres from the origin. */
const coordinate = finite.min(-WORLD_LIMIT_M).max(WORLD_LIMIT_M)
const vec3 = z.tuple([coordinate, coordinate, coordinate]).readonly()
const fileCoordinate = finite.min(-FILE_LIMIT).max(FILE_LIMIT)
const fileVec3 = z.tuple([fileCoordinate, fileCoordinate, fileCoordinate]).readonly()
const angle = finite.min(-720).max(720)
const id = z.string().min(1).max(64)
const name = z.string().min(1).max(200)
const onOff = z.boolean()

const aim = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('direction'), bearingDeg: angle, tiltDeg: finite.min(-90).max(90) }),
  z.object({ kind: z.literal('point'), point: vec3, topBearingDeg: angle }),
  z.object({ kind: z.literal('object'), nodeId: z.string().min(1).max(2000), offset: vec3, topBearingDeg: angle }),
]) satisfies z.ZodType<Aim>

export const standSchema = z.object({ station: vec3, aim, rollDeg: angle }) satisfies z.ZodType<Stand>

const widthM = finite.min(1e-4).max(1e8)
const projection = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('perspective') }),
  z.object({ kind: z.literal('parallel'), widthM }),
  z.object({ kind: z.literal('oblique'), widthM, angleDeg: angle, receding: finite.min(0).max(2) }),
  z.object({ kind: z.literal('equirectangular') }),
  z.object({ kind: z.literal('cylindrical'), horizontalDeg: finite.min(1).max(360) }),
  z.object({
    kind: z.literal('fisheye'),
    mapping: z.enum(['equidistant', 'equisolid', 'stereographic']),
    coverageDeg: finite.min(1).max(359),
  }),
]) satisfies z.ZodType<Projection>

export const lensSchema = z.object({
  projection,
  focalMm: finite.min(1).max(10_000),
  sensorMm: z.object({ width: finite.min(1).max(1000), height: finite.min(1).max(1000) }),
  sensorUse: z.enum(['acrossWidth', 'acrossHeight', 'covers', 'inside']),
  riseMm: finite.min(-10_000).max(10_000),
  crossMm: finite.min(-10_000).max(10_000),
  distortion: z.null(),
}) satisfies z.ZodType<Lens>

export const FRAME_LIMIT_PX = 16_384
const pixels = z.number().int().min(16).max(FRAME_LIMIT_PX)
export const frameSchema = z.object({
  widthPx: pixels,
  heightPx: pixels,
  densityPpi: finite.min(1).max(10_000),
  guides: z.enum(['none', 'thirds', 'centre', 'diagonals']),
}) satisfies z.ZodType<Frame>

const onDistance = z.object({ on: onOff, distanceM: coordinate })
const cutSchema = z.object({
  near: onDistance,
  far: onDistance,
  planes: list(
    z.object({ id, name, on: onOff, point: vec3, normal: vec3, thicknessM: finite.positive().optional() }),
    64,
  ),
  box: z.object({ on: onOff, min: vec3, max: vec3 }).nullable(),
  face: z.enum(['open', 'filled', 'hatched', 'solid']),
})

const focusSchema = z.object({
  on: onOff,
  fNumber: finite.min(0.5).max(256),
  mode: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('distance'), distanceM: finite.positive().max(WORLD_LIMIT_M) }),
    z.object({ kind: z.literal('aim') }),
    z.object({ kind: z.literal('point'), point: vec3 }),
    z.object({
      kind: z.literal('object'),
      nodeId: z.string().min(1),
      at: z.enum(['surface', 'centre']),
      offsetM: coordinate,
    }),
    z.object({ kind: z.literal('nearest'), field: finite.min(0).max(1) }),
  ]),
  aperture: z.object({ blades: z.number().int().min(0).max(11), rotationDeg: angle, roundness: finite.min(0).max(1) }),
  criterion: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('circle'), cocMm: finite.positive().max(1) }),
    z.object({ kind: z.literal('pixel') }),
  ]),
})

const exposureSchema = z.object({
  mode: z.enum(['direct', 'photographic']),
  ev100: finite.min(-20).max(30),
  compensationEv: finite.min(-20).max(20),
  iso: finite.positive().max(1e7),
  shutterS: finite.positive().max(1e5),
  whiteBalance: z.object({ kelvin: finite.min(1667).max(25_000), tint: finite.min(-150).max(150) }),
  vignetting: onOff,
  tone: z.enum(['linear', 'neutral']),
})

const visibleSchema = z.object({ hidden: names(2000, 100_000) })

const channel = finite.min(0).max(1)
const colour = z.tuple([channel, channel, channel]).readonly()
const styleSchema = z.object({ kind: z.enum(['finished', 'clay', 'lines']) })
const sunSchema = z.object({ on: onOff, bearingDeg: angle, elevationDeg: finite.min(-90).max(90), shadow: onOff })
const hazeSchema = z.object({ on: onOff, visibilityM: finite.positive().max(1e6) })
const backdropSchema = z.object({ kind: z.enum(['colour', 'sky']), colour })
const lookSchema = z.object({ style: styleSchema, sun: sunSchema, haze: hazeSchema, backdrop: backdropSchema })

export const setupSchema = z.object({
  stand: standSchema,
  lens: lensSchema,
  frame: frameSchema,
  cut: cutSchema,
  focus: focusSchema,
  exposure: exposureSchema,
  visible: visibleSchema,
  look: lookSchema,
})
export type Setup = z.infer<typeof setupSchema>

/** A viewpoint keeps only the parts that stand here. */
const keptPartsSchema = z.object({
  stand: standSchema.optional(),
  lens: lensSchema.optional(),
  frame: frameSchema.optional(),
  cut: cutSchema.optional(),
  focus: focusSchema.optional(),
  exposure: exposureSchema.optional(),
  visible: visibleSchema.optional(),
  'look.style': styleSchema.optional(),
  'look.sun': sunSchema.optional(),
  'look.haze': hazeSchema.optional(),
  'look.backdrop': backdropSchema.optional(),
})
export type KeptParts = z.infer<typeof keptPartsSchema>

export const viewpointSchema = z.object({ id, name, parts: keptPartsSchema, locked: onOff })
export type Viewpoint = z.infer<typeof viewpointSchema>

const trailStepSchema = z.object({
  stand: standSchema,
  lens: lensSchema,
  frame: frameSchema,
  recalledId: id.nullable(),
  label: z.string().max(120),
})
export type TrailStep = z.infer<typeof trailStepSchema>

const leftBehindSchema = z.object({
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
const modelSchema = z.object({
  id,
  key: modelKeySchema,
  /** Name of the file it came from. */
  name,
  sha256: z.string().regex(/^[0-9a-f]{64}$/),
  sizeBytes: z.number().int().nonnegative(),
  /** Bounds in the file's own units and axes; null where they were never measured. */
  fileBox: z.object({ min: fileVec3, max: fileVec3 }).nullable(),
  unitM: finite.min(1e-6).max(1e6),
  up: z.enum(['y', 'z']),
  place: z.object({ position: fileVec3, turnDeg: angle, scale: finite.min(1e-6).max(1e6) }),
  moved: list(z.object({ path: nodePath, moveM: vec3, turnDeg: angle }), 10_000),
}) satisfies z.ZodType<PlacedModel>
export type ModelRef = z.infer<typeof modelSchema>

export const SCHEMA_VERSION = 2
const partName = z.enum([...CAMERA_PARTS, ...EDIT_PARTS]) satisfies z.ZodType<PartName>

export const projectSchema = z
  .object({
    schemaVersion: z.literal(SCHEMA_VERSION),
    name,
    unit: z.enum(['mm', 'cm', 'm', 'ft-in']),
    subject: z.enum(['room', 'product']),
    eyeHeightM: finite.min(0.01).max(100),
    planCutM: finite.min(0.01).max(1000),
    models: list(modelSchema, 100),
    working: setupSchema,
    locked: list(partName, 64),
    recalledId: id.nullable(),
    viewpoints: list(viewpointSchema, 2000),
    trail: z.object({ steps: list(trailStepSchema, 500, 1), at: z.number().int().nonnegative() }),
    leftBehind: list(leftBehindSchema, 200),
  })
  .refine((d) => d.trail.at < d.trail.steps.length, { path: ['trail', 'at'], message: 'points past the trail’s end' })
  .refine((d) => new Set(d.viewpoints.map((v) => v.id)).size === d.viewpoints.length, {
    path: ['viewpoints'],
    message: 'two viewpoints have the same id',
  })
  .refine((d) => new Set(d.models.map((m) => m.key)).size === d.models.length, {
    path: ['models'],
    message: 'two models have the same key',
  })
export type ProjectDocument = z.infer<typeof projectSchema>

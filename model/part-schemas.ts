// What may stand in each part of a Setup?
// Units are in the names; angles in degrees, world lengths in metres, sensor lengths in millimetres.

import { z } from 'zod'
import type { Aim, Frame, Guide, GuideColour, GuideKind, Lens, Projection, Stand } from '#core/camera'
import { aperturePicture, MOST_LUX } from '#core/optics'
import { OWN_UNITS_LIMIT, WORLD_LIMIT_M } from '#core/placing'
import type { Cut } from '#core/section'
import { list, names } from './lists.ts'

export const finite = z.number()
/** World metres. Sites in surveyed coordinates lie thousands of kilometres from the origin. */
export const coordinate = finite.min(-WORLD_LIMIT_M).max(WORLD_LIMIT_M)
export const vec3 = z.tuple([coordinate, coordinate, coordinate]).readonly()
const ownCoordinate = finite.min(-OWN_UNITS_LIMIT).max(OWN_UNITS_LIMIT)
export const ownVec3 = z.tuple([ownCoordinate, ownCoordinate, ownCoordinate]).readonly()
export const angle = finite.min(-720).max(720)
export const id = z.string().min(1).max(64)
export const name = z.string().min(1).max(200)
export const onOff = z.boolean()

const aim = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('direction'), bearingDeg: angle, tiltDeg: finite.min(-90).max(90) }),
  z.object({ kind: z.literal('point'), point: vec3, topBearingDeg: angle }),
  z.object({
    kind: z.literal('object'),
    nodeId: z.string().min(1).max(2000),
    offset: vec3,
    topBearingDeg: angle,
    lastPoint: vec3.optional(),
  }),
]) satisfies z.ZodType<Aim>

export const standSchema = z.object({ station: vec3, aim, rollDeg: angle }) satisfies z.ZodType<Stand>

export const WIDTH_LIMITS_M = [1e-4, 1e8] as const
export const FOCAL_LIMITS_MM = [1, 10_000] as const
export const SHIFT_LIMIT_MM = 10_000
const widthM = finite.min(WIDTH_LIMITS_M[0]).max(WIDTH_LIMITS_M[1])
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

/** A distortion's coefficients lie far below this; what is more is none of a lens. */
export const COEFFICIENT_LIMIT = 100
const coefficient = finite.min(-COEFFICIENT_LIMIT).max(COEFFICIENT_LIMIT)

export const lensSchema = z.object({
  projection,
  focalMm: finite.min(FOCAL_LIMITS_MM[0]).max(FOCAL_LIMITS_MM[1]),
  sensorMm: z.object({ width: finite.min(1).max(1000), height: finite.min(1).max(1000) }),
  sensorUse: z.enum(['acrossWidth', 'acrossHeight', 'covers', 'inside']),
  riseMm: finite.min(-SHIFT_LIMIT_MM).max(SHIFT_LIMIT_MM),
  crossMm: finite.min(-SHIFT_LIMIT_MM).max(SHIFT_LIMIT_MM),
  distortion: z
    .object({
      kind: z.literal('brown'),
      ...{ k1: coefficient, k2: coefficient, k3: coefficient },
      ...{ p1: coefficient, p2: coefficient },
    })
    .nullable(),
}) satisfies z.ZodType<Lens>

export const FRAME_LIMIT_PX = 16_384
export const GUIDE_KINDS = ['thirds', 'golden', 'diagonals', 'triangles', 'centre', 'action', 'title', 'fields', 'metres'] as const satisfies readonly GuideKind[] // prettier-ignore
export const GUIDE_COLOURS = ['white', 'black', 'yellow', 'red', 'blue'] as const satisfies readonly GuideColour[]
const fields = z.number().int().min(1).max(24)
const guide = z.object({
  kind: z.enum(GUIDE_KINDS),
  colour: z.enum(GUIDE_COLOURS),
  strength: finite.min(0.05).max(1),
  across: fields.optional(),
  down: fields.optional(),
  plane: z.object({ point: vec3, normal: vec3.refine((n) => Math.hypot(...n) > 1e-9) }).optional(),
  stepM: finite.min(0.001).max(1000).optional(),
}) satisfies z.ZodType<Guide>
const edge = finite.min(0).max(0.49)
const ratio = finite.min(0.01).max(1000)
const crop = z
  .object({
    id: z.string().min(1).max(40),
    width: ratio,
    height: ratio,
    x: finite.min(-1).max(1),
    y: finite.min(-1).max(1),
  })
  .refine((c) => c.width / c.height <= 20 && c.height / c.width <= 20)
const pixels = z.number().int().min(16).max(FRAME_LIMIT_PX)
export const frameSchema = z.object({
  widthPx: pixels,
  heightPx: pixels,
  densityPpi: finite.min(1).max(10_000),
  guides: list(guide, GUIDE_KINDS.length).readonly(),
  guidesInPicture: z.boolean().optional(),
  mask: z.object({ left: edge, right: edge, top: edge, bottom: edge, fold: finite.min(0).max(0.5) }).optional(),
  crops: list(crop, 12).readonly().optional(),
}) satisfies z.ZodType<Frame>

/** Where a near or far cut is held: so far beyond the aim, or beyond a place; else at its distance from the station. */
const tied = z.discriminatedUnion('to', [
  z.object({ to: z.literal('aim'), offsetM: coordinate }),
  z.object({ to: z.literal('place'), point: vec3, offsetM: coordinate }),
])
const onDistance = z.object({ on: onOff, distanceM: coordinate, tied: tied.optional() })
const cutBase = {
  id,
  name,
  on: onOff,
  reversed: onOff,
  /** Not moved by drags, nor changed by numbers. */
  locked: z.literal(true).optional(),
}
const direction = z
  .tuple([finite.min(-1).max(1), finite.min(-1).max(1), finite.min(-1).max(1)])
  .readonly()
  .refine((n) => Math.hypot(...n) > 1e-6, { message: 'a direction of no length' })
const extent = finite.min(1e-6).max(1e7)
/** What is taken away: above a level, before an upright or free plane, outside a slice or a box, before a stepped line. */
const cutItem = z.discriminatedUnion('kind', [
  z.object({ ...cutBase, kind: z.literal('level'), heightM: coordinate }),
  z.object({ ...cutBase, kind: z.literal('upright'), point: vec3, bearingDeg: angle }),
  z.object({ ...cutBase, kind: z.literal('free'), point: vec3, normal: direction }),
  z.object({ ...cutBase, kind: z.literal('slice'), point: vec3, normal: direction, thicknessM: extent }),
  z.object({
    ...cutBase,
    kind: z.literal('box'),
    centre: vec3,
    sizeM: z.tuple([extent, extent, extent]).readonly(),
    turnDeg: angle,
  }),
  z.object({
    ...cutBase,
    kind: z.literal('stepped'),
    points: list(z.tuple([coordinate, coordinate]).readonly(), 32, 2)
      .readonly()
      .refine((l) => l.some((p) => Math.hypot(p[0] - l[0]![0], p[1] - l[0]![1]) > 1e-6), {
        message: 'a line of no length',
      }),
  }),
]) satisfies z.ZodType<Cut>
export const cutSchema = z.object({
  near: onDistance.extend({
    /** Set by standing back through a wall: it belongs to that framing. */
    madeBy: z.literal('standBack').optional(),
  }),
  far: onDistance,
  cuts: list(cutItem, 64),
  face: z.enum(['open', 'filled', 'hatched', 'solid']),
  /** Objects left whole, with all below them. */
  whole: names(2000, 10_000).optional(),
  /** All cuts are switched off together; which are on is remembered. */
  allOff: z.literal(true).optional(),
  /** Gaps of open surfaces up to this are closed where they are cut, metres; by the size of the model where it is left out. */
  closeM: finite.min(0).max(1).optional(),
  /** What is cut away casts no shadow. */
  lightIn: z.literal(true).optional(),
  /** Distance of hatching lines: on paper in millimetres, or on the model in metres. */
  hatch: z
    .union([z.object({ paperMm: finite.min(0.1).max(100) }), z.object({ modelM: finite.min(1e-6).max(1000) })])
    .optional(),
  /** Width of the outlines of cut faces. */
  outline: z.object({ screenPx: finite.min(0).max(20), printMm: finite.min(0).max(5) }).optional(),
  /** What is cut away is drawn as faint lines. */
  ghost: z.literal(true).optional(),
})

export const focusSchema = z.object({
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
      /** How far it was when it was chosen: kept where it is gone, metres. */
      lastM: finite.positive().max(WORLD_LIMIT_M).optional(),
    }),
    z.object({ kind: z.literal('nearest'), field: finite.min(0).max(1) }),
  ]),
  aperture: z.object({
    blades: z.number().int().min(0).max(11),
    rotationDeg: angle,
    roundness: finite.min(0).max(1),
    /** A grey picture in their place: cells by rows, bytes in base64. */
    picture: z
      .string()
      .max(6000)
      .refine((p) => aperturePicture({ picture: p }) !== null, { message: 'is no grey picture' })
      .optional(),
    /** How far the barrel cuts the disc off at the corners, radii. */
    catsEye: finite.min(0).max(1.5).optional(),
  }),
  /** Brightness of bright points, times what they have. */
  highlights: finite.min(0).max(50).optional(),
  criterion: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('circle'), cocMm: finite.positive().max(1) }),
    z.object({ kind: z.literal('pixel') }),
  ]),
})

export const exposureSchema = z.object({
  mode: z.enum(['direct', 'photographic']),
  ev100: finite.min(-20).max(30),
  compensationEv: finite.min(-20).max(20),
  /** Out of doors and in measured views of a building: their own EV; left out, each is metered by itself. */
  outsideEv100: finite.min(-20).max(30).optional(),
  iso: finite.positive().max(1e7),
  shutterS: finite.positive().max(1e5),
  whiteBalance: z.object({ kelvin: finite.min(1667).max(25_000), tint: finite.min(-150).max(150) }),
  vignetting: onOff,
  /** Of cos^4: 1 is the lens's own, left out. */
  vignettingStrength: finite.min(0).max(3).optional(),
  /** An f-number of its own; left out, the focus part's. */
  fNumber: finite.min(0.5).max(256).optional(),
  /** Development after the tone curve: 1 changes nothing. */
  finish: z
    .object({
      contrast: finite.min(0.2).max(3),
      saturation: finite.min(0).max(3),
      /** How far bright parts are pressed together: 0.5 as the tone curve has it. */
      shoulder: finite.min(0).max(1).optional(),
      /** A colour table of the project, and how much of it. */
      table: z.object({ id, strength: finite.min(0).max(1) }).optional(),
      /** Levels of 255 that the grain strays by at mid-grey. */
      grain: finite.min(0).max(60).optional(),
      /** Share of the light that is spread over the picture. */
      glare: finite.min(0).max(0.5).optional(),
      /** Red and blue apart at the corners, pixels of the frame. */
      lateralPx: finite.min(-20).max(20).optional(),
    })
    .optional(),
  /** Frames a second: the shutter is then told as an angle. */
  fps: finite.min(1).max(1000).optional(),
  tone: z.enum(['linear', 'neutral']),
})

export const visibleSchema = z.object({
  /** Hidden one by one. */
  hidden: names(2000, 100_000),
  /** Named sets of the project that are hidden as a whole, by id. */
  sets: names(64, 200).optional(),
  /** States of objects that hold, by id; of two of one object the later one. */
  states: names(64, 500).optional(),
  /** Whether what is hidden goes on casting the sun's shadow. */
  shadows: z.literal('kept').optional(),
})

const channel = finite.min(0).max(1)
const colour = z.tuple([channel, channel, channel]).readonly()
export const styleSchema = z.object({ kind: z.enum(['finished', 'clay', 'lines']) })
export const sunSchema = z.object({
  on: onOff,
  bearingDeg: angle,
  elevationDeg: finite.min(-90).max(90),
  shadow: onOff,
  /** Illuminance of what faces the sun, and by the sky alone of open level ground, lx; without them as by day. */
  sunLux: finite.min(0).max(MOST_LUX.sunLux).optional(),
  skyLux: finite.min(0).max(MOST_LUX.skyLux).optional(),
})
export const hazeSchema = z.object({ on: onOff, visibilityM: finite.positive().max(1e6) })
/** Behind the model: a colour, the sky, or a photograph of the project. */
export const backdropSchema = z.object({
  kind: z.enum(['colour', 'sky', 'photo']),
  colour,
  /** The photograph, by its id; what its masks take in stands before the model. */
  photoId: id.optional(),
  /** Height of a ground before the photograph that takes the model's shadow, metres. */
  groundM: coordinate.optional(),
  /** A picture of the project that lies over the frame for comparing: a sketch, an older picture. Never in what is finished. */
  over: z.object({ photoId: id, opacity: finite.min(0).max(1) }).optional(),
})

// What does a project know of its moving pictures?
// Model: shots name viewpoints and hold what moves; a reel puts shots in order, the same one as often as wanted. What a viewpoint does not
// keep is the working one's. Units are in the names; metres, degrees, seconds.

import { z } from 'zod'
import { KEY_CURVES, RATES, type KeyCurve } from '#core/reel'
import { list } from './lists.ts'
import { angle, finite, id, name, vec3 } from './part-schemas.ts'

/** Longest shot, and most of each. */
export const REEL_LIMITS = {
  secondsMost: 3600,
  shots: 500,
  reels: 50,
  cuts: 1000,
  stops: 200,
  keys: 50,
  via: 500,
  plays: 50,
} as const
const seconds = finite.positive().max(REEL_LIMITS.secondsMost)
/** Moments of a shot: a slow walk may last longer than what is typed. */
const moment = finite.min(0).max(1e7)
const rest = finite.min(0).max(REEL_LIMITS.secondsMost)
const tilt = finite.min(-90).max(90)
const keys = (value: z.ZodType<number>) => list(z.object({ at: finite.min(0).max(1), value }), REEL_LIMITS.keys).readonly() // prettier-ignore
const factor = finite.min(0.01).max(100)

/** Curves over a shot's time. */
const shotKeys = z.object(
  Object.fromEntries(
    Object.entries(KEY_CURVES).map(([name, { least, most }]) => [name, keys(finite.min(least).max(most)).optional()]),
  ) as { readonly [C in KeyCurve]: z.ZodOptional<ReturnType<typeof keys>> },
)
const share = finite.min(0).max(1)
/** An object's state comes to hold, or ceases to, in a part of the shot's time. */
const motion = z
  .object({ id, stateId: id, opens: z.boolean(), fromShare: share, toShare: share })
  .refine((m) => m.toShare >= m.fromShare, { message: 'ends before it begins' })
const base = { id, name }
/** Where a shot looks at moments of its time, in order; no two at one moment. */
const aimKeys = list(z.object({ at: share, point: vec3 }), REEL_LIMITS.keys)
  .readonly()
  .refine((k) => k.every((a, i) => i === 0 || a.at > k[i - 1]!.at), { message: 'aims that are not in order' })
/** `watchId`: the object that it keeps looking at; `aim` comes before it. */
const shotBase = {
  ...base,
  watchId: z.string().min(1).max(2000).optional(),
  keys: shotKeys.optional(),
  aim: aimKeys.optional(),
  motions: list(motion, REEL_LIMITS.keys).readonly().optional(),
}
const stopSchema = z.object({
  ...{ id, station: vec3, holdS: rest },
  look: z.object({ bearingDeg: angle, tiltDeg: tilt }).nullable(),
  /** Wanted on the leg from here on. */
  speedMps: finite.min(0.01).max(100),
  /** Where the way leads on from the stop, and as far back where it comes from, metres. */
  tangentM: vec3.optional(),
  /** Passed on that leg: it follows the floor. */
  via: list(vec3, REEL_LIMITS.via).readonly().optional(),
})
const gazeSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('along'), aheadM: finite.min(0.01).max(1000), tiltDeg: tilt }),
  z.object({ kind: z.literal('point'), point: vec3 }),
  z.object({ kind: z.literal('object'), objectId: z.string().min(1).max(2000) }),
  z.object({ kind: z.literal('stops') }),
])
export const shotSchema = z.discriminatedUnion('kind', [
  z.object({
    ...shotBase,
    kind: z.literal('hold'),
    viewpointId: id,
    durationS: seconds,
    creep: finite.min(-0.5).max(0.5),
  }),
  z.object({
    ...shotBase,
    ...{ kind: z.literal('push'), fromId: id, toId: id, durationS: seconds },
    ...{ ease: z.enum(['soft', 'even']), holdsSize: z.boolean() },
    /** When what does not blend changes: what is hidden, the look, cuts of one viewpoint alone; left out: in the middle. */
    changes: z.enum(['start', 'middle', 'end']).optional(),
    /** Fades for so long about that moment, within the push. */
    fadeS: rest.optional(),
  }),
  z.object({
    ...shotBase,
    ...{ kind: z.literal('travel'), viewpointId: id, isClosed: z.boolean(), gaze: gazeSchema },
    ...{
      isReversed: z.boolean().optional(),
      startShare: share.optional(),
      cornerM: finite.min(0).max(1000).optional(),
    },
    /** Heights follow the floor at eye height, or stay as they were set. */
    heights: z.enum(['floor', 'free']).optional(),
    stops: list(stopSchema, REEL_LIMITS.stops).readonly(),
  }),
  z.object({
    ...shotBase,
    ...{ kind: z.literal('turntable'), viewpointId: id, pivot: vec3, turns: finite.positive().max(1000) },
    /** Begins here, looking at the pivot; left out: as the viewpoint is framed. */
    from: vec3.optional(),
    /** These turn about the pivot while the camera stands. */
    spins: list(z.string().min(1).max(2000), REEL_LIMITS.stops).readonly().optional(),
    ...{
      direction: z.union([z.literal(1), z.literal(-1)]),
      durationS: seconds,
      pace: z.enum(['loop', 'soft', 'swing']),
    },
    ...{ distance: keys(factor), focal: keys(factor), heightM: keys(finite.min(-1e4).max(1e4)) },
  }),
])
export type ShotPart = z.infer<typeof shotSchema>
export type WalkStop = z.infer<typeof stopSchema>

/** Another placement of an object, under a name: moved, and turned about an upright line through a place of the world. */
export const objectStateSchema = z.object({
  ...{ id, name, objectId: z.string().min(1).max(2000), moveM: vec3, turnDeg: angle, hinge: vec3 },
})
export type ObjectState = z.infer<typeof objectStateSchema>

/** A clip of a model's own animation, on the reel's time. */
const playSchema = z.object({
  ...{ id, modelKey: name, clip: name, fromS: moment, speed: finite.min(0.01).max(100) },
  /** After its end it stays, begins again, or goes back and forth. */
  repeat: z.enum(['once', 'again', 'back']),
})
export type PlayPart = z.infer<typeof playSchema>

export const reelSchema = z.object({
  ...base,
  rate: z.enum(Object.keys(RATES) as [keyof typeof RATES, ...(keyof typeof RATES)[]]),
  /** How long the shutter is open in each frame, as an angle: 360 is the whole of it; left out or 0, what moves is sharp. */
  shutterDeg: finite.min(0).max(360).optional(),
  plays: list(playSchema, REEL_LIMITS.plays).readonly().optional(),
  cuts: list(
    z.object({ ...{ id, shotId: id, dissolveS: rest }, fromS: moment.optional(), toS: moment.optional() }),
    REEL_LIMITS.cuts,
  ).readonly(),
})
export type ReelPart = z.infer<typeof reelSchema>

/** What does not hold among shots and reels: the same id twice, cuts of shots that are not there; null where all is well. */
export function reelFault(shots: readonly ShotPart[], reels: readonly ReelPart[]): string | null {
  const known = new Set(shots.map((s) => s.id))
  if (known.size !== shots.length) return 'Shots: two have the same id.'
  if (new Set(reels.map((r) => r.id)).size !== reels.length) return 'Reels: two have the same id.'
  for (const r of reels) {
    if (new Set(r.cuts.map((c) => c.id)).size !== r.cuts.length) return 'Reel: two cuts have the same id.'
    if (new Set(r.plays?.map((p) => p.id)).size !== (r.plays ?? []).length) return 'Reel: two clips have the same id.'
    if (r.cuts.some((c) => !known.has(c.shotId))) return 'Reel: a cut is of a shot that is not there.'
  }
  return null
}

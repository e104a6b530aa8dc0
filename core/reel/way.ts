// Which way does a walk go?
// Model: the stops in order, with the places between them that follow the floor, and corners rounded by arcs where that is asked: the
// spline then goes through places on the arc and on the straight before and after it instead of through the corner. Ends and stops that are
// rested at are passed exactly. A tangent is two more places, before and after its stop: the bend stays continuous. Space: world metres.
import { addScaled, cross, distance, dot, length, normalize, scale, sub, type Vec3 } from '../math/index.ts'
import { ok, type Result } from '../base/index.ts'
import { routeThrough, type Route, type RouteReason } from '../route/index.ts'
import type { TravelShot, TravelStop } from './types.ts'

export interface Way {
  readonly route: Route
  /** In the order they are passed. */
  readonly stops: readonly TravelStop[]
  readonly speedsMps: readonly number[]
  /** How far along each stop lies; the last of a closed way is its length. */
  readonly stopsM: readonly number[]
}
/** An arc takes no more than this share of a leg. */
const MOST_OF_LEG = 0.45
/** Turns smaller than this need no arc, radians. */
const STRAIGHT_RAD = 0.05
/** Smaller ones are corners, metres. */
const LEAST_PART_M = 5e-3
/** Turning more than this, one who rests there turns on the spot, radians. */
const SHARP_RAD = 0.9
/** Places on an arc, and how far before and after it the straight is held, as a share of the arc's part of the leg. */
const ON_ARC = [0.25, 0.5, 0.75] as const
const HELD = 0.5

export type WayAsked = Pick<TravelShot, 'stops' | 'speedsMps' | 'isClosed' | 'isReversed' | 'cornerM'>
/** The way of a walk as it is gone: turned round where it is reversed. */
export function wayOf(shot: WayAsked): Result<Way, RouteReason> {
  const { stops, speedsMps } = shot.isReversed ? turnedRound(shot) : shot
  if (stops.length < 2) return routeThrough(stops.map((p) => p.station)) as Result<never, RouteReason>
  const places: Vec3[] = []
  const at: number[] = []
  const corners = new Set<number>()
  const n = stops.length
  stops.forEach((s, i) => {
    const isLast = !shot.isClosed && i === n - 1
    const isEnd = !shot.isClosed && (i === 0 || i === n - 1)
    const before = lastOn(stops, i, shot.isClosed)
    const after = nextOn(stops, i, shot.isClosed)
    const lead = leadOf(s, before, isLast ? null : after)
    const isFree = !isEnd && before !== null && after !== null && !s.tangentM
    const round = isFree && s.holdS === 0 ? corner(before, s.station, after, shot.cornerM ?? 0) : null
    if (round) places.push(...round.slice(0, round.length >> 1))
    // one that is rested at turns on the spot where the way leads elsewhere
    if (isFree && s.holdS > 0 && turnAt(before, s.station, after) > SHARP_RAD) corners.add(places.length)
    // the leg before has places of its own where it follows the floor, and so has the one after
    if (lead.before && !(stops[i - 1] ?? stops.at(-1)!).via?.length) places.push(lead.before)
    at.push(places.length)
    places.push(...(round ? round.slice(round.length >> 1) : [s.station]), ...(lead.after && !s.via?.length ? [lead.after] : [])) // prettier-ignore
    if (!isLast) places.push(...(s.via ?? []))
  })
  // a corner that the way begins in: its part before the stop comes last
  const lead = at[0] ?? 0
  const ordered = [...places.slice(lead), ...places.slice(0, lead)]
  const found = routeThrough(ordered, {
    isClosed: shot.isClosed,
    corners: new Set([...corners].map((i) => (i - lead + places.length) % places.length)),
  })
  if (!found.ok) return found
  const route = found.value
  const stopsM = at.map((i) => route.stopsM[i - lead]!)
  return ok({ route, stops, speedsMps, stopsM: shot.isClosed ? [...stopsM, route.lengthM] : stopsM })
}
/** Shorter tangents say nothing, metres; none reaches farther than this share of its leg. */
const LEAST_TANGENT_M = 0.02
const MOST_OF_TANGENT = 0.45
/** Where the way comes from and leads on by a stop's tangent; null where that is open. */
function leadOf(
  { station, tangentM }: TravelStop,
  before: Vec3 | null,
  after: Vec3 | null,
): { readonly before: Vec3 | null; readonly after: Vec3 | null } {
  // prettier-ignore
  const m = tangentM ? length(tangentM) : 0
  const place = (other: Vec3 | null, sign: 1 | -1): Vec3 | null => {
    const by = other ? Math.min(m, MOST_OF_TANGENT * distance(station, other)) : 0
    return by < LEAST_TANGENT_M ? null : addScaled(station, tangentM!, (sign * by) / m)
  }
  return { before: place(before, -1), after: place(after, 1) }
}
const lastOn = (stops: readonly TravelStop[], i: number, isClosed: boolean): Vec3 | null => {
  const s = stops[i - 1] ?? (isClosed ? stops.at(-1)! : null)
  return s && (s.via?.at(-1) ?? s.station)
}
const nextOn = (stops: readonly TravelStop[], i: number, isClosed: boolean): Vec3 | null =>
  stops[i]!.via?.[0] ?? (stops[i + 1] ?? (isClosed ? stops[0]! : null))?.station ?? null

/** The same stops the other way: legs keep their speeds and what lies on them. A closed way begins where it did. */
function turnedRound({ stops, speedsMps, isClosed }: WayAsked): Pick<TravelShot, 'stops' | 'speedsMps'> {
  const n = stops.length
  const legs = isClosed ? n : n - 1
  const order = stops.map((_, i) => (isClosed ? (n - i) % n : n - 1 - i))
  // the leg that now leads on from a stop led to it before
  const legFrom = (old: number): number => (isClosed ? (old - 1 + n) % n : old - 1)
  return {
    stops: order.map((old, i) => ({ ...stops[old]!, ...turnedTangent(stops[old]!), via: i < legs ? [...(stops[legFrom(old)]!.via ?? [])].reverse() : [] })),
    speedsMps: order.map((old, i) => speedsMps[i < legs ? legFrom(old) : old] ?? speedsMps.at(-1)!),
  } // prettier-ignore
}

const turnedTangent = ({ tangentM }: TravelStop): Pick<TravelStop, 'tangentM'> =>
  tangentM ? { tangentM: scale(tangentM, -1) } : {}

/** How far a way turns at a place, radians. */
export function turnAt(a: Vec3, b: Vec3, c: Vec3): number {
  const [p, q] = [sub(b, a), sub(c, b)]
  return Math.atan2(length(cross(p, q)), dot(p, q))
}
/** Places of a rounded corner, an odd number with the middle of the arc in their middle; null where it needs none. */
function corner(a: Vec3, b: Vec3, c: Vec3, radiusM: number): Vec3[] | null {
  const [p, q] = [sub(b, a), sub(c, b)]
  const [m, n] = [length(p), length(q)]
  if (!(radiusM > 0) || m < 1e-6 || n < 1e-6) return null
  const [u, v] = [scale(p, 1 / m), scale(q, 1 / n)]
  const turn = turnAt(a, b, c)
  // straight on, or straight back
  if (turn < STRAIGHT_RAD || turn > Math.PI - STRAIGHT_RAD) return null
  const part = Math.min(radiusM * Math.tan(turn / 2), MOST_OF_LEG * m, MOST_OF_LEG * n)
  if (part < LEAST_PART_M) return null
  const r = part / Math.tan(turn / 2)
  const [from, to] = [addScaled(b, u, -part), addScaled(b, v, part)]
  const centre = addScaled(b, normalize(sub(v, u)), r / Math.cos(turn / 2))
  const side = normalize(sub(from, centre))
  const onArc = ON_ARC.map((x) => addScaled(addScaled(centre, side, r * Math.cos(turn * x)), u, r * Math.sin(turn * x)))
  const held = (place: Vec3, way: Vec3, legM: number): Vec3[] => {
    const by = Math.min(HELD * part, (legM / 2 - part) * 0.9)
    return by > 1e-3 ? [addScaled(place, way, by)] : []
  }
  const before = [...held(from, scale(u, -1), m), from]
  const after = [to, ...held(to, v, n)]
  // as many on both sides, so that the middle is the arc's
  while (before.length > after.length) before.shift()
  while (after.length > before.length) after.pop()
  return [...before, ...onArc, ...after]
}
/** How far a corner rounded so leaves its stop, metres. */
export const leftByCorner = (a: Vec3, b: Vec3, c: Vec3, radiusM: number): number => {
  const round = corner(a, b, c, radiusM)
  return round ? distance(round[round.length >> 1]!, b) : 0
}

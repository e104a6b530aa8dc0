// Where is the eye of a walk at a moment, and where does it look?
// Model: the stops' spline by its pace; the gaze is told by the place along the way, so that it stands still where one rests. Between the
// stops' own looks it turns the shorter way round, without overshoot. Space: world metres, degrees, seconds. Source: handbook-10.
import { ok, type Result } from '../base/index.ts'
import { anglesOf, type Pose } from '../camera/index.ts'
import { addScaled, sub, type Vec3 } from '../math/index.ts'
import { paceOf, type LegAsked, type Pace, type Route, type RouteReason } from '../route/index.ts'
import { leastJerk, throughKeys, unwound } from './ease.ts'
import type { Take, TravelShot } from './types.ts'
import { wayOf, type Way } from './way.ts'

export type TravelReason = RouteReason
export interface Travelled {
  readonly durationS: number
  readonly route: Route
  readonly pace: Pace
  /** How far along each stop lies, from the first one; a closed way ends where it began. */
  readonly stopsM: readonly number[]
  /** Where on the way it begins, metres from the first stop. */
  readonly offsetM: number
  at(timeS: number): Take
}
/** Of a walk on foot: getting going takes a second or two (practice). */
export const WALK_LIMITS = { accelMps2: 0.6, jerkMps3: 1.5 } as const

export function travelled(shot: TravelShot): Result<Travelled, TravelReason> {
  const found = wayOf(shot)
  if (!found.ok) return found
  const way = found.value
  const { route } = way
  const { legs, holdsS, offsetM } = timed(shot, way)
  const pace = paceOf({ legs, holdsS, ...WALK_LIMITS })
  const round = (m: number): number => (shot.isClosed && m > route.lengthM ? m - route.lengthM : m)
  // where one rests between the ends, and for how long
  let goneM = offsetM
  const rests = legs.slice(0, -1).flatMap((leg, i): Rest[] => {
    goneM += leg.lengthM
    const { reachedS, leftS } = pace.stops[i + 1]!
    return leftS > reachedS ? [{ alongM: round(goneM), reachedS, leftS }] : []
  })
  const look = gazeOf(shot, way, rests)
  const at = (timeS: number): Take => {
    const alongM = round(pace.at(timeS).alongM + offsetM)
    const { point } = route.at(alongM)
    return { ...shot.view, pose: { station: point, rollDeg: 0, ...look(alongM, point, timeS) } }
  }
  return ok({ durationS: pace.durationS, route, pace, stopsM: way.stopsM, offsetM, at })
}
const AT_STOP_M = 1e-3
/** A piece of a leg shorter than this has no pace of its own: about what a walker needs to change it, metres (practice). */
const SHORT_M = 0.8
/** Legs and rests in the order of time; a closed way may begin between two stops. */
function timed({ isClosed, startShare = 0 }: TravelShot, { route, stops, stopsM, speedsMps }: Way) {
  const legs = stopsM.slice(1).map((to, i) => ({ lengthM: to - stopsM[i]!, speedMps: speedsMps[i] ?? speedsMps.at(-1)! })) // prettier-ignore
  const holdsS = [...stops.map((s) => s.holdS), ...(isClosed ? [0] : [])]
  const offsetM = isClosed ? (startShare % 1) * route.lengthM : 0
  // at a stop, to the millimetre, it is that stop: a leg shorter than that would be crept along
  const k = stopsM.findLastIndex((m) => m <= offsetM + AT_STOP_M)
  const into = offsetM - stopsM[k]!
  if (!isClosed || k >= legs.length || (k === 0 && into < AT_STOP_M)) return { legs, holdsS, offsetM: 0 }
  const own = legs[k]!
  if (into < AT_STOP_M) {
    const turned = [...legs.slice(k), ...legs.slice(0, k)]
    return { legs: turned, holdsS: [...holdsS.slice(k, -1), ...holdsS.slice(0, k), 0], offsetM: stopsM[k]! }
  }
  const n = legs.length
  /** A piece of the leg; a short one goes at the speed of the leg that it meets, which else would creep for its sake. */
  const piece = (lengthM: number, other: number, stop: number): LegAsked =>
    ({ lengthM, speedMps: lengthM < SHORT_M && !(holdsS[stop]! > 0) ? legs[(other + n) % n]!.speedMps : own.speedMps }) // prettier-ignore
  const [first, last] = [piece(own.lengthM - into, k + 1, (k + 1) % n), piece(into, k - 1, k)]
  return { legs: [first, ...legs.slice(k + 1), ...legs.slice(0, k), last], holdsS: [0, ...holdsS.slice(k + 1, -1), ...holdsS.slice(0, k + 1), 0], offsetM } // prettier-ignore
}

interface Rest {
  readonly alongM: number
  readonly reachedS: number
  readonly leftS: number
}
type Look = Pick<Pose, 'bearingDeg' | 'tiltDeg'>
/** Ways are told this far before a place that they turn sharply at, metres. */
const NEAR_M = 1e-3
/** A turn in one go is no wider, degrees; one that is wider rests in its course, for this share of each part. */
const AT_ONCE_DEG = 95
const PAUSE = 0.35
/** Turned so far of a turn at a share of its time, from rest to rest. */
function turnedBy(deg: number, share: number): number {
  const parts = Math.max(1, Math.ceil(Math.abs(deg) / AT_ONCE_DEG))
  const at = Math.min(parts - 1e-9, Math.max(0, share) * parts)
  const within = at - Math.floor(at)
  const pause = parts > 1 ? PAUSE : 0
  return (deg / parts) * (Math.floor(at) + leastJerk((within - pause / 2) / (1 - pause)))
}
function gazeOf(
  { gaze, isClosed }: TravelShot,
  { route, stops, stopsM }: Way,
  rests: readonly Rest[],
): (alongM: number, point: Vec3, timeS: number) => Look {
  const bearingOf = (to: Vec3, way: Vec3): number =>
    (anglesOf([to[0], to[1], 0], 0) ?? anglesOf([way[0], way[1], 0], 0))?.bearingDeg ?? 0
  /** One does not look past a place where one rests: the way goes on from there another way, perhaps. */
  const onward = (alongM: number, point: Vec3, aheadM: number, timeS: number): number => {
    const next = rests.find((r) => timeS < r.reachedS)
    const rest = next && next.alongM < alongM + aheadM && next.alongM > alongM - NEAR_M ? next : undefined
    const there = route.at(rest ? rest.alongM - NEAR_M : alongM + aheadM)
    const past = rest ? addScaled(there.point, there.way, alongM + aheadM - rest.alongM) : there.point
    return bearingOf(sub(past, point), there.way)
  }
  if (gaze.kind === 'along') {
    const { aheadM, tiltDeg } = gaze
    // at a rest one turns from the way that came there to the way that leads on
    const turns = rests.map((r) => {
      const before = onward(r.alongM - NEAR_M, route.at(r.alongM - NEAR_M).point, aheadM, r.reachedS - 1e-9)
      const [, after] = unwound([before, onward(r.alongM, route.at(r.alongM).point, aheadM, r.leftS)])
      return { ...r, before, deg: after! - before }
    })
    return (alongM, point, timeS) => {
      const turn = turns.find((t) => timeS >= t.reachedS && timeS <= t.leftS)
      const bearingDeg = turn
        ? turn.before + turnedBy(turn.deg, (timeS - turn.reachedS) / (turn.leftS - turn.reachedS))
        : onward(alongM, point, aheadM, timeS)
      return { bearingDeg: ((bearingDeg % 360) + 360) % 360, tiltDeg }
    }
  }
  if (gaze.kind === 'point') return (_, point) => anglesOf(sub(gaze.point, point), 0) ?? { bearingDeg: 0, tiltDeg: 0 }
  const looks = stops.map((s, i): Look => s.look ?? { bearingDeg: onward(stopsM[i]!, s.station, 0.5, Infinity), tiltDeg: 0 }) // prettier-ignore
  const round = isClosed ? [...looks, looks[0]!] : looks
  const bearings = unwound(round.map((l) => l.bearingDeg))
  const keys = (values: readonly number[]) => values.map((value, i) => ({ at: stopsM[i]!, value }))
  const [turns, tilts] = [keys(bearings), keys(round.map((l) => l.tiltDeg))]
  return (alongM) => ({
    bearingDeg: ((throughKeys(turns, alongM) % 360) + 360) % 360,
    tiltDeg: throughKeys(tilts, alongM),
  })
}

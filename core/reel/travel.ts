// Where is the eye of a walk at a moment, and where does it look?
// Model: the stops' spline by its pace; the gaze is told by the place along the way, so that it stands still where one rests. Between the
// stops' own looks it turns the shorter way round, without overshoot. Space: world metres, degrees, seconds. Source: handbook-10.
import { ok, type Result } from '../base/index.ts'
import { anglesOf, type Pose } from '../camera/index.ts'
import { sub, type Vec3 } from '../math/index.ts'
import { paceOf, type Pace, type Route, type RouteReason } from '../route/index.ts'
import { throughKeys, unwound } from './ease.ts'
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
  const look = gazeOf(shot, way)
  const at = (timeS: number): Take => {
    const along = pace.at(timeS).alongM + offsetM
    const alongM = shot.isClosed && along > route.lengthM ? along - route.lengthM : along
    const { point } = route.at(alongM)
    return { ...shot.view, pose: { station: point, rollDeg: 0, ...look(alongM, point) } }
  }
  return ok({ durationS: pace.durationS, route, pace, stopsM: way.stopsM, offsetM, at })
}
/** Legs and rests in the order of time; a closed way may begin between two stops. */
function timed({ isClosed, startShare = 0 }: TravelShot, { route, stops, stopsM, speedsMps }: Way) {
  const legs = stopsM.slice(1).map((to, i) => ({ lengthM: to - stopsM[i]!, speedMps: speedsMps[i] ?? speedsMps.at(-1)! })) // prettier-ignore
  const holdsS = [...stops.map((s) => s.holdS), ...(isClosed ? [0] : [])]
  const offsetM = isClosed ? (startShare % 1) * route.lengthM : 0
  const k = stopsM.findLastIndex((m) => m <= offsetM)
  const into = offsetM - stopsM[k]!
  // at a stop, to the millimetre, it is that stop
  if (!isClosed || k >= legs.length || (k === 0 && into < 1e-3)) return { legs, holdsS, offsetM: 0 }
  const own = legs[k]!
  if (into < 1e-3) {
    const turned = [...legs.slice(k), ...legs.slice(0, k)]
    return { legs: turned, holdsS: [...holdsS.slice(k, -1), ...holdsS.slice(0, k), 0], offsetM: stopsM[k]! }
  }
  const [first, last] = [
    { ...own, lengthM: own.lengthM - into },
    { ...own, lengthM: into },
  ]
  return { legs: [first, ...legs.slice(k + 1), ...legs.slice(0, k), last], holdsS: [0, ...holdsS.slice(k + 1, -1), ...holdsS.slice(0, k + 1), 0], offsetM } // prettier-ignore
}

type Look = Pick<Pose, 'bearingDeg' | 'tiltDeg'>
function gazeOf({ gaze, isClosed }: TravelShot, { route, stops, stopsM }: Way): (alongM: number, point: Vec3) => Look {
  const onward = (alongM: number, point: Vec3, aheadM: number): number => {
    const there = route.at(alongM + aheadM)
    const to = sub(there.point, point)
    return (anglesOf([to[0], to[1], 0], 0) ?? anglesOf([there.way[0], there.way[1], 0], 0))?.bearingDeg ?? 0
  }
  if (gaze.kind === 'along') return (alongM, point) => ({ bearingDeg: onward(alongM, point, gaze.aheadM), tiltDeg: gaze.tiltDeg }) // prettier-ignore
  if (gaze.kind === 'point') return (_, point) => anglesOf(sub(gaze.point, point), 0) ?? { bearingDeg: 0, tiltDeg: 0 }
  const looks = stops.map((s, i): Look => s.look ?? { bearingDeg: onward(stopsM[i]!, s.station, 0.5), tiltDeg: 0 }) // prettier-ignore
  const round = isClosed ? [...looks, looks[0]!] : looks
  const bearings = unwound(round.map((l) => l.bearingDeg))
  const keys = (values: readonly number[]) => values.map((value, i) => ({ at: stopsM[i]!, value }))
  const [turns, tilts] = [keys(bearings), keys(round.map((l) => l.tiltDeg))]
  return (alongM) => ({
    bearingDeg: ((throughKeys(turns, alongM) % 360) + 360) % 360,
    tiltDeg: throughKeys(tilts, alongM),
  })
}

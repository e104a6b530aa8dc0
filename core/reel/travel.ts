// Where is the eye of a walk at a moment, and where does it look?
// Model: the stops' spline by its pace; the gaze is told by the place along the way, so that it stands still where one rests. Between the
// stops' own looks it turns the shorter way round, without overshoot. Space: world metres, degrees, seconds. Source: handbook-10.
import { ok, type Result } from '../base/index.ts'
import { anglesOf, type Pose } from '../camera/index.ts'
import { sub, type Vec3 } from '../math/index.ts'
import { paceOf, routeThrough, type Pace, type Route, type RouteReason } from '../route/index.ts'
import { throughKeys, unwound } from './ease.ts'
import type { Take, TravelShot } from './types.ts'

export type TravelReason = RouteReason
export interface Travelled {
  readonly durationS: number
  readonly route: Route
  readonly pace: Pace
  at(timeS: number): Take
}
/** Of a walk on foot: getting going takes a second or two (practice). */
export const WALK_LIMITS = { accelMps2: 0.6, jerkMps3: 1.5 } as const

export function travelled(shot: TravelShot): Result<Travelled, TravelReason> {
  const { stops, isClosed, view } = shot
  const found = routeThrough(stops.map((s) => s.station), { isClosed }) // prettier-ignore
  if (!found.ok) return found
  const route = found.value
  const legs = route.stopsM.slice(1).map((to, i) => ({ lengthM: to - route.stopsM[i]!, speedMps: shot.speedsMps[i] ?? shot.speedsMps.at(-1)! })) // prettier-ignore
  const holdsS = [...stops.map((s) => s.holdS), ...(isClosed ? [0] : [])]
  const pace = paceOf({ legs, holdsS, ...WALK_LIMITS })
  const look = gazeOf(shot, route)
  const at = (timeS: number): Take => {
    const { alongM } = pace.at(timeS)
    const { point } = route.at(alongM)
    return { ...view, pose: { station: point, rollDeg: 0, ...look(alongM, point) } }
  }
  return ok({ durationS: pace.durationS, route, pace, at })
}

type Look = Pick<Pose, 'bearingDeg' | 'tiltDeg'>
function gazeOf({ gaze, stops, isClosed }: TravelShot, route: Route): (alongM: number, point: Vec3) => Look {
  const onward = (alongM: number, point: Vec3, aheadM: number): number => {
    const there = route.at(alongM + aheadM)
    const to = sub(there.point, point)
    return (anglesOf([to[0], to[1], 0], 0) ?? anglesOf([there.way[0], there.way[1], 0], 0))?.bearingDeg ?? 0
  }
  if (gaze.kind === 'along') return (alongM, point) => ({ bearingDeg: onward(alongM, point, gaze.aheadM), tiltDeg: gaze.tiltDeg }) // prettier-ignore
  if (gaze.kind === 'point') return (_, point) => anglesOf(sub(gaze.point, point), 0) ?? { bearingDeg: 0, tiltDeg: 0 }
  const looks = stops.map((s, i): Look => s.look ?? { bearingDeg: onward(route.stopsM[i]!, s.station, 0.5), tiltDeg: 0 }) // prettier-ignore
  const round = isClosed ? [...looks, looks[0]!] : looks
  const bearings = unwound(round.map((l) => l.bearingDeg))
  const keys = (values: readonly number[]) => values.map((value, i) => ({ at: route.stopsM[i]!, value }))
  const [turns, tilts] = [keys(bearings), keys(round.map((l) => l.tiltDeg))]
  return (alongM) => ({
    bearingDeg: ((throughKeys(turns, alongM) % 360) + 360) % 360,
    tiltDeg: throughKeys(tilts, alongM),
  })
}

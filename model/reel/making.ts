// New shots and reels, as a person begins them: a reel of all viewpoints in one go, a walk through some, a turntable about what is looked at.
import { isPerspective, poseOfStand } from '#core/camera'
import { distance, type Vec3 } from '#core/math'
import type { Viewpoint } from '../schema.ts'
import type { ReelPart, ShotPart, WalkStop } from '../reel-schemas.ts'
import type { SetupReading } from './resolved.ts'

/** Held one after the other; pushed from one to the next, resting at each. */
export type ReelStyle = 'hold' | 'push'
/** Seconds, usual in practice: a still look, and a push by what it covers. */
const HOLD_S = 3
const PUSH_LEAST_S = 4
const PUSH_MPS = 0.6
const WALK_MPS = 1
const REST_S = 1.5
const AHEAD_M = 1.5
const ONCE_ROUND_S = 10
const WALK_APART_M = 0.05

const stationOf = (v: Viewpoint, { centreOf }: SetupReading): Vec3 => poseOfStand(v.parts.stand!, centreOf).station
/** Viewpoints that a camera can move between: those with a stand of their own, through a lens. */
const moving = (viewpoints: readonly Viewpoint[]): Viewpoint[] =>
  viewpoints.filter((v) => v.parts.stand !== undefined && (v.parts.lens === undefined || isPerspective(v.parts.lens)))

/** A reel of viewpoints in their order, and its shots; `loops`: pushes lead back to the first one. Null where none can be shown. */
export function reelOfViewpoints(
  viewpoints: readonly Viewpoint[],
  { name, style, loops = false, newId, reading }: { readonly name: string; readonly style: ReelStyle; readonly loops?: boolean; readonly newId: () => string; readonly reading: SetupReading }, // prettier-ignore
): { readonly reel: ReelPart; readonly shots: readonly ShotPart[] } | null {
  const list = moving(viewpoints)
  if (list.length === 0) return null
  const shots: ShotPart[] = []
  list.forEach((v, i) => {
    shots.push({ id: newId(), name: v.name, kind: 'hold', viewpointId: v.id, durationS: HOLD_S, creep: style === 'hold' ? 0.03 : 0 }) // prettier-ignore
    const next = list[i + 1] ?? (loops && list.length > 1 ? list[0] : undefined)
    if (style !== 'push' || !next) return
    const wayM = distance(stationOf(v, reading), stationOf(next, reading))
    shots.push({ id: newId(), name: `${v.name} to ${next.name}`.slice(0, 200), kind: 'push', fromId: v.id, toId: next.id, durationS: Math.max(PUSH_LEAST_S, Math.round(wayM / PUSH_MPS)), ease: 'soft', holdsSize: false }) // prettier-ignore
  })
  const cuts = shots.map((s) => ({ id: newId(), shotId: s.id, dissolveS: 0 }))
  // led back, it rests at the first one half at its beginning and half at its end: played round, that is one rest
  if (shots.at(-1)!.kind === 'push') {
    const [first, half] = [cuts[0]!, HOLD_S / 2]
    cuts[0] = { ...first, toS: half } as typeof first
    cuts.push({ ...first, id: newId(), fromS: half } as typeof first)
  }
  return { shots, reel: { id: newId(), name, rate: '25', cuts } }
}

/** A walk through viewpoints: their stations are stops, their looks the gaze there; `loops`: it leads back to the first. Null with fewer than two apart. */
export function newWalk(
  viewpoints: readonly Viewpoint[],
  { name, loops = false, newId, reading }: { readonly name: string; readonly loops?: boolean; readonly newId: () => string; readonly reading: SetupReading }, // prettier-ignore
): ShotPart | null {
  const list = moving(viewpoints)
  const stops: WalkStop[] = []
  list.forEach((v, i) => {
    const { stand, visible } = v.parts
    const centreOf = (visible && reading.centresIn?.({ visible })) ?? reading.centreOf
    const { station, bearingDeg, tiltDeg } = poseOfStand(stand!, centreOf)
    const last = stops.at(-1)
    if (last && distance(last.station, station) < WALK_APART_M) return
    const isEnd = i === 0 || i === list.length - 1
    stops.push({ id: newId(), station, holdS: isEnd ? REST_S : 0, look: { bearingDeg, tiltDeg }, speedMps: WALK_MPS })
  })
  if (stops.length < 2) return null
  const ends = stops.map((s, i) => (i === stops.length - 1 ? { ...s, holdS: REST_S } : s))
  return { id: newId(), name, kind: 'travel', viewpointId: list[0]!.id, isClosed: loops && ends.length > 2, gaze: { kind: 'along', aheadM: AHEAD_M, tiltDeg: 0 }, stops: ends } // prettier-ignore
}

/** Once round a place, from a viewpoint's own framing. */
export const newTurntable = (v: Viewpoint, pivot: Vec3, id: string): ShotPart => ({
  ...{ id, name: `Round ${v.name}`.slice(0, 200), kind: 'turntable', viewpointId: v.id, pivot, turns: 1, direction: 1 },
  ...{ durationS: ONCE_ROUND_S, pace: 'loop', distance: [], focal: [], heightM: [] },
})

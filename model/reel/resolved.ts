// From a reel of the document to shots that can be filmed: viewpoints become cameras, what a viewpoint does not keep is the working one's.
import { halton } from '#core/base'
import { aimPointOf, anglesOf, poseOfStand, type AimCentre } from '#core/camera'
import { distance, sub, type Vec3 } from '#core/math'
import { throughKeys } from '#core/reel'
import type {
  Beside,
  ClipPlay,
  Gaze,
  ModelClip,
  ObjectMotion,
  Reel,
  ReelCut,
  Shot,
  ShotKeys,
  Take,
  View,
} from '#core/reel'
import { mergeParts, type Setup } from '../parts.ts'
import { pushedLayers, type PushEnd, type PushLayer } from './pushed.ts'
import { placeOf, placesOf, withPlaces } from '../object-states.ts'
import type { ReelPart, ShotPart } from '../reel-schemas.ts'
import type { ProjectDocument } from '../schema.ts'

/** What is known of a Setup besides its numbers: where objects lie, how far what is focused on is away (null: all is sharp). */
export interface SetupReading {
  /** As models have them. */
  readonly centreOf: AimCentre
  /** As a Setup has them, with its states. */
  readonly centresIn?: (setup: Pick<Setup, 'visible'>) => AimCentre
  readonly focusM: (setup: Setup) => number | null
  /** A clip of a model's own animation; null while its model is not there, or has none of this name. */
  readonly clipOf?: (modelKey: string, name: string) => ModelClip | null
}
export interface CutFault {
  /** Place in the reel's list. */
  readonly cut: number
  readonly message: string
}
export interface ReelCuts {
  readonly cuts: readonly ReelCut[]
  /** By its place among `cuts`, the place in the reel's list, and the Setup that it is shown with. */
  readonly places: readonly number[]
  readonly setups: readonly Setup[]
  /** Where pushes end; null of other shots. */
  readonly ends: readonly (PushEnd | null)[]
  readonly faults: readonly CutFault[]
  readonly plays: readonly ClipPlay[]
}
/** What is looked at lies so far away where nothing tells it, metres. */
const AWAY_M = 3

export function viewOfSetup(s: Setup, { centreOf: inFile, centresIn, focusM }: SetupReading): View {
  const centreOf = centresIn?.(s) ?? inFile
  const pose = poseOfStand(s.stand, centreOf)
  const aim = aimPointOf(s.stand.aim, centreOf)
  const { fNumber } = s.focus
  return {
    ...{ pose, lens: s.lens, focusM: focusM(s), fNumber },
    ev: s.exposure.ev100 - s.exposure.compensationEv,
    awayM: aim ? Math.max(0.01, distance(aim, pose.station)) : AWAY_M,
  }
}

/** Whether a shot has a place of its own and takes only lens, light and look from its viewpoint. */
const standsByItself = (part: ShotPart): boolean =>
  part.kind === 'travel' || (part.kind === 'turntable' && part.from !== undefined)

/** Cuts whose viewpoints are gone are named: those that can be filmed as the frame is are, the others are left out; the rest stays. */
export function cutsOf(doc: ProjectDocument, reel: ReelPart, reading: SetupReading): ReelCuts {
  const out = {
    cuts: [] as ReelCut[],
    places: [] as number[],
    setups: [] as Setup[],
    ends: [] as (PushEnd | null)[],
    faults: [] as CutFault[],
    plays: (reel.plays ?? []).flatMap(({ modelKey, clip: name, fromS, speed, repeat }): ClipPlay[] => {
      const clip = reading.clipOf?.(modelKey, name)
      return clip ? [{ clip, fromS, speed, repeat }] : []
    }),
  }
  const shots = new Map(doc.shots?.map((s) => [s.id, s]))
  reel.cuts.forEach((c, i) => {
    const part = shots.get(c.shotId)!
    const found = shotOf(doc, part, reading)
    if (!found) {
      out.faults.push({ cut: i, message: `“${part.name}” needs a viewpoint that is no longer there.` })
      return
    }
    if (found.isAsFramed) out.faults.push({ cut: i, message: `“${part.name}” is seen as the frame is: its viewpoint is no longer there.` }) // prettier-ignore
    out.cuts.push({
      ...{ shot: found.shot, dissolveS: c.dissolveS },
      ...(c.fromS !== undefined && { fromS: c.fromS }),
      ...(c.toS !== undefined && { toS: c.toS }),
    })
    out.places.push(i)
    out.setups.push(found.setup)
    out.ends.push(found.end)
  })
  return out
}

/**
 * A shot that can be filmed, and the Setup that it is shown with; null where a viewpoint is gone that it stands in. Where one is gone that
 * it has only lens, light and look from, those are the working ones (`isAsFramed`).
 */
export function shotOf(
  doc: ProjectDocument,
  part: ShotPart,
  reading: SetupReading,
): { shot: Shot; setup: Setup; end: PushEnd | null; isAsFramed: boolean } | null {
  const setupOf = (viewpointId: string): Setup | null => {
    const vp = doc.viewpoints.find((v) => v.id === viewpointId)
    return vp ? mergeParts(doc.working, vp.parts) : null
  }
  const kept = setupOf(part.kind === 'push' ? part.fromId : part.viewpointId)
  const setup = kept ?? (standsByItself(part) ? doc.working : null)
  const to = part.kind === 'push' ? setupOf(part.toId) : setup
  if (!setup || !to) return null
  const plain = plainShot(part, setup, to, reading)
  const end = part.kind === 'push' ? endOf(part, to) : null
  return plain && { setup, end, isAsFramed: !kept, shot: { ...plain, ...besideOf(doc, part, { setup, to, reading }) } }
}
const endOf = ({ ease, changes = 'middle', fadeS = 0, durationS }: Extract<ShotPart, { kind: 'push' }>, setup: Setup): PushEnd =>
  ({ setup, ease, changes, fadeShare: Math.min(1, fadeS / durationS) }) // prettier-ignore
function plainShot(part: ShotPart, setup: Setup, end: Setup, reading: SetupReading): Shot | null {
  const view = viewOfSetup(setup, reading)
  switch (part.kind) {
    case 'hold':
      return { kind: 'hold', view, durationS: part.durationS, creep: part.creep }
    case 'push': {
      const { durationS, ease, holdsSize } = part
      return { kind: 'push', from: view, to: viewOfSetup(end, reading), durationS, ease, holdsSize }
    }
    case 'travel': {
      const { stops, isClosed, isReversed, startShare, cornerM } = part
      const rest = { ...(isReversed && { isReversed }), ...(startShare && { startShare }), ...(cornerM && { cornerM }) }
      return { kind: 'travel', view, stops, isClosed, gaze: gazeOf(part.gaze, reading), speedsMps: stops.map((s) => s.speedMps), ...rest } // prettier-ignore
    }
    case 'turntable': {
      const { pivot, turns, direction, durationS, pace, distance: near, focal, heightM, spins } = part
      const begins = part.from ? viewFrom(view, part.from, pivot) : view
      return {
        kind: 'turntable',
        view: begins,
        pivot,
        turns,
        direction,
        durationS,
        pace,
        distance: near,
        focal,
        heightM,
        ...(spins && { spins }),
      }
    }
  }
}
/** The same from another place, looking at a point. */
function viewFrom(view: View, station: Vec3, at: Vec3): View {
  const angles = anglesOf(sub(at, station), view.pose.bearingDeg)
  const awayM = Math.max(0.01, distance(at, station))
  return {
    ...view,
    pose: { ...view.pose, station, rollDeg: 0, ...angles },
    focusM: view.focusM === null ? null : awayM,
    awayM,
  }
}
type TravelPart = Extract<ShotPart, { kind: 'travel' }>
/** At an object: at its middle; along the way where it is gone. */
function gazeOf(gaze: TravelPart['gaze'], { centreOf }: SetupReading): Gaze {
  if (gaze.kind !== 'object') return gaze
  const point = centreOf(gaze.objectId, [0, 0, 0])
  return point ? { kind: 'point', point } : { kind: 'along', aheadM: AHEAD_M, tiltDeg: 0 }
}
/** Looks so far ahead along the way where nothing else is said, metres. */
const AHEAD_M = 1.5

/** Keys, things that move or stand elsewhere, and what is watched. */
function besideOf(
  { objectStates = [] }: ProjectDocument,
  part: ShotPart,
  { setup, to, reading }: { readonly setup: Setup; readonly to: Setup; readonly reading: SetupReading },
): Beside {
  const states = new Map(objectStates.map((s) => [s.id, s]))
  const [a, b] = [placesOf(setup.visible.states, objectStates), placesOf(to.visible.states, objectStates)]
  const moving = (part.motions ?? []).flatMap((m): ObjectMotion[] => {
    const place = placeOf(states.get(m.stateId))
    if (!place) return []
    const rest = a.find((p) => p.objectId === place.objectId) ?? null
    const other =
      rest && rest.moveM.every((v, i) => v === place.moveM[i]) && rest.turnDeg === place.turnDeg ? null : rest
    const { fromShare, toShare } = m
    return [{ from: m.opens ? other : place, to: m.opens ? place : other, fromShare, toShare }]
  })
  const own = new Set(moving.map((m) => (m.from ?? m.to)!.objectId))
  // what a push begins with and ends with, over all of it
  const blended = [...new Set([...a, ...b].map((p) => p.objectId))]
    .filter((o) => !own.has(o))
    .map((o) => ({ from: a.find((p) => p.objectId === o) ?? null, to: b.find((p) => p.objectId === o) ?? null, fromShare: 0, toShare: 1 })) // prettier-ignore
  const [stays, goes] = [blended.filter((m) => m.from === m.to), blended.filter((m) => m.from !== m.to)]
  const objects = [...moving, ...goes]
  const watchId =
    part.watchId ?? (part.kind === 'travel' && part.gaze.kind === 'object' ? part.gaze.objectId : undefined)
  const centre = watchId === undefined ? null : reading.centreOf(watchId, [0, 0, 0])
  return {
    ...(part.keys && { keys: part.keys as ShotKeys }),
    ...(part.aim?.length && { aim: part.aim }),
    ...(objects.length > 0 && { objects }),
    ...(stays.length > 0 && { placed: stays.map((m) => m.from!) }),
    ...(centre && { watch: { objectId: watchId!, centre } }),
  }
}

/** The Setups that a cut shows at a share of its shot's time, without its camera: one, or two that fade. */
export function settingsAt({ cuts, setups, ends }: ReelCuts, cut: number, share: number): readonly PushLayer[] {
  const [setup, end] = [setups[cut]!, ends[cut]]
  if (!end) return [{ setup, weight: 1 }]
  // a curve of how far it has come is that of all that goes
  const progress = cuts[cut]!.shot.keys?.progress
  return pushedLayers(setup, end, progress?.length ? throughKeys(progress, share) : share)
}
/** One of the pictures that are laid over each other at a moment. */
export interface ReelLayer {
  readonly take: Take
  readonly setup: Setup
  readonly weight: number
  /** Place in the reel's list. */
  readonly cut: number
}
/** A cheap frame is drawn of so many. */
const MOST_LAYERS = 2
/**
 * What a reel shows at a moment, what goes before what comes: one picture, or two of a dissolve or of a fade, whose weights add up to 1.
 * Where both fall together, the two strongest.
 */
export function layersAt(r: ReelCuts, reel: Reel, timeS: number): readonly ReelLayer[] {
  const all = reel.at(timeS).flatMap(({ take, weight, cut }) => {
    const c = reel.cuts.find((q) => q.index === cut)!
    const share = Math.min(1, Math.max(0, (c.fromS + timeS - c.startS) / c.filmed.durationS))
    return settingsAt(r, cut, share).map((l): ReelLayer => ({ take, setup: setupAt(l.setup, take), weight: weight * l.weight, cut: r.places[cut]! })) // prettier-ignore
  })
  const least = all.map((l) => l.weight).sort((a, b) => b - a)[MOST_LAYERS - 1] ?? 0
  const shown = all.filter((l) => l.weight > 1e-3 && l.weight >= least).slice(0, MOST_LAYERS)
  const sum = shown.reduce((s, l) => s + l.weight, 0)
  return shown.map((l) => ({ ...l, weight: l.weight / sum }))
}
/** The Setup that shows a take: everything else as its viewpoint has it. */
export function setupAt(setup: Setup, { pose, lens, focusM, fNumber, ev, moved = [] }: Take): Setup {
  const { station, bearingDeg, tiltDeg, rollDeg } = pose
  const ev100 = ev + setup.exposure.compensationEv
  const { outsideEv100 } = setup.exposure
  return {
    ...setup,
    visible: withPlaces(setup.visible, moved),
    stand: { station, aim: { kind: 'direction', bearingDeg, tiltDeg }, rollDeg },
    lens,
    focus: focusM === null ? { ...setup.focus, on: false } : { ...setup.focus, on: true, fNumber, mode: { kind: 'distance', distanceM: focusM } }, // prettier-ignore
    exposure: { ...setup.exposure, ev100, ...(outsideEv100 !== undefined && { outsideEv100: outsideEv100 + ev100 - setup.exposure.ev100 }) }, // prettier-ignore
  }
}

/**
 * `n` takes of one of a moment's pictures while the shutter is open for `openS` seconds about it, the middle one first and the rest spread
 * evenly however many are used (van der Corput's order); null where nothing moves. Cost: that of n looks at a shot.
 */
export function openTakes(
  reel: Reel,
  r: ReelCuts,
  { cut, take }: ReelLayer,
  at: { readonly timeS: number; readonly openS: number; readonly n: number },
): readonly Take[] | null {
  // prettier-ignore
  const placed = reel.cuts.find((c) => r.places[c.index] === cut)
  if (!placed || !(at.openS > 0) || at.n < 2) return null
  const within = placed.fromS + at.timeS - placed.startS
  const takes = Array.from({ length: at.n }, (_, i) => placed.filmed.at(within + at.openS * (halton(i + 1, 2) - 0.5)))
  return takes.every((t) => isSameTake(t, take)) ? null : takes
}
const isSameTake = (a: Take, b: Take): boolean => JSON.stringify([a.pose, a.lens, a.moved]) === JSON.stringify([b.pose, b.lens, b.moved]) // prettier-ignore

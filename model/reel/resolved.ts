// From a reel of the document to shots that can be filmed: viewpoints become cameras, what a viewpoint does not keep is the working one's.
import { aimPointOf, poseOfStand, type AimCentre } from '#core/camera'
import { distance } from '#core/math'
import type { ReelCut, Shot, Take, View } from '#core/reel'
import { mergeParts, type Setup } from '../parts.ts'
import type { ReelPart, ShotPart } from '../reel-schemas.ts'
import type { ProjectDocument } from '../schema.ts'

/** What is known of a Setup besides its numbers: where objects lie, how far what is focused on is away (null: all is sharp). */
export interface SetupReading {
  readonly centreOf: AimCentre
  readonly focusM: (setup: Setup) => number | null
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
  readonly faults: readonly CutFault[]
}
/** What is looked at lies so far away where nothing tells it, metres. */
const AWAY_M = 3

export function viewOfSetup(s: Setup, { centreOf, focusM }: SetupReading): View {
  const pose = poseOfStand(s.stand, centreOf)
  const aim = aimPointOf(s.stand.aim, centreOf)
  const { fNumber } = s.focus
  return {
    ...{ pose, lens: s.lens, focusM: focusM(s), fNumber },
    ev: s.exposure.ev100 - s.exposure.compensationEv,
    awayM: aim ? Math.max(0.01, distance(aim, pose.station)) : AWAY_M,
  }
}

/** Cuts whose viewpoints are gone are left out and named; the rest stays. */
export function cutsOf(doc: ProjectDocument, reel: ReelPart, reading: SetupReading): ReelCuts {
  const out = { cuts: [] as ReelCut[], places: [] as number[], setups: [] as Setup[], faults: [] as CutFault[] }
  const shots = new Map(doc.shots?.map((s) => [s.id, s]))
  reel.cuts.forEach((c, i) => {
    const part = shots.get(c.shotId)!
    const found = shotOf(doc, part, reading)
    if (!found) {
      out.faults.push({ cut: i, message: `“${part.name}” needs a viewpoint that is no longer there.` })
      return
    }
    out.cuts.push({
      ...{ shot: found.shot, dissolveS: c.dissolveS },
      ...(c.fromS !== undefined && { fromS: c.fromS }),
      ...(c.toS !== undefined && { toS: c.toS }),
    })
    out.places.push(i)
    out.setups.push(found.setup)
  })
  return out
}

function shotOf(doc: ProjectDocument, part: ShotPart, reading: SetupReading): { shot: Shot; setup: Setup } | null {
  const setupOf = (viewpointId: string): Setup | null => {
    const vp = doc.viewpoints.find((v) => v.id === viewpointId)
    return vp ? mergeParts(doc.working, vp.parts) : null
  }
  const setup = setupOf(part.kind === 'push' ? part.fromId : part.viewpointId)
  if (!setup) return null
  const view = viewOfSetup(setup, reading)
  switch (part.kind) {
    case 'hold':
      return { setup, shot: { kind: 'hold', view, durationS: part.durationS, creep: part.creep } }
    case 'push': {
      const to = setupOf(part.toId)
      if (!to) return null
      const { durationS, ease, holdsSize } = part
      return { setup, shot: { kind: 'push', from: view, to: viewOfSetup(to, reading), durationS, ease, holdsSize } }
    }
    case 'travel': {
      const { stops, isClosed, gaze } = part
      const speedsMps = stops.map((s) => s.speedMps)
      return { setup, shot: { kind: 'travel', view, stops, isClosed, gaze, speedsMps } }
    }
    case 'turntable': {
      const { pivot, turns, direction, durationS, pace, distance: near, focal, heightM } = part
      return { setup, shot: { kind: 'turntable', view, pivot, turns, direction, durationS, pace, distance: near, focal, heightM } } // prettier-ignore
    }
  }
}

/** The Setup that shows a take: everything else as its viewpoint has it. */
export function setupAt(setup: Setup, { pose, lens, focusM, fNumber, ev }: Take): Setup {
  const { station, bearingDeg, tiltDeg, rollDeg } = pose
  const ev100 = ev + setup.exposure.compensationEv
  const { outsideEv100 } = setup.exposure
  return {
    ...setup,
    stand: { station, aim: { kind: 'direction', bearingDeg, tiltDeg }, rollDeg },
    lens,
    focus: focusM === null ? { ...setup.focus, on: false } : { ...setup.focus, on: true, fNumber, mode: { kind: 'distance', distanceM: focusM } }, // prettier-ignore
    exposure: { ...setup.exposure, ev100, ...(outsideEv100 !== undefined && { outsideEv100: outsideEv100 + ev100 - setup.exposure.ev100 }) }, // prettier-ignore
  }
}

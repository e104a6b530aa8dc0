// The demo's moving pictures: a minute of the hall, as first drawn and as eased to fit; the lamp turning once round before a still camera.
import { COMFORT_LIMITS, fitStep, FLOOR_STEP_M, onFloor, wayOf, type FitAsked, type FitReel } from '#core/reel'
import { fieldOfView } from '#core/camera'
import type { ObjectState, ProjectDocument, ReelPart, ShotPart, WalkStop } from '#model'
import { cutsOf, lastingReel, type SetupReading } from '#model/reel'
import { GALLERY } from './hall/timber.ts'

const EYE = 1.58
const MINUTE_S = 60
const MOST_STEPS = 200
/** Nothing is aimed at by name here; what is sharp is a distance. */
const READING: SetupReading = { centreOf: () => null, focusM: ({ focus }) => (focus.on && focus.mode.kind === 'distance' ? focus.mode.distanceM : null) } // prettier-ignore
export const DRAWER = 'saltmarsh-seed-library/Saltmarsh Seed Library/Furniture/Marigold drawer'
const FPS = 25

/** The stair's treads, as `hall/timber.ts` builds them: 16 over four metres, and the gallery. */
const ground = (x: number): number => (x < GALLERY.x0 - 4 ? 0 : x >= GALLERY.x0 ? GALLERY.top : (GALLERY.top / 17) * (Math.floor((x - GALLERY.x0 + 4) / 0.25) + 1)) // prettier-ignore
/** Up the stair, to its open side where the roof comes down, and along the gallery's rail; its heights over the treads. */
function upTheStair(): WalkStop[] {
  const speedMps = 1.7
  const up = GALLERY.top + EYE
  const plain: WalkStop[] = [
    { id: 'foot', station: [0.5, 8.1, EYE], holdS: 0.4, look: { bearingDeg: 90, tiltDeg: 6 }, speedMps },
    { id: 'stair', station: [4.2, 8.02, EYE], holdS: 0, look: { bearingDeg: 92, tiltDeg: 0 }, speedMps },
    { id: 'gallery', station: [6.2, 7.15, up], holdS: 0, look: { bearingDeg: 96, tiltDeg: -2 }, speedMps },
    { id: 'rail', station: [10.2, 7.1, up], holdS: 0.5, look: { bearingDeg: 128, tiltDeg: -9 }, speedMps },
  ]
  const way = wayOf({ stops: plain, isClosed: false, speedsMps: [1] })
  if (!way.ok) throw new RangeError(way.message)
  const { route, stopsM } = way.value
  const places = Array.from({ length: Math.floor(route.lengthM / FLOOR_STEP_M) + 1 }, (_, i) => route.at(i * FLOOR_STEP_M).point) // prettier-ignore
  return onFloor({ stops: plain, places, heightsM: places.map((p) => ground(p[0]) + EYE), stopsM })
}

/** The reel as a person draws it at first: too fast, and without rests. */
function firstDrawn(
  prefix: string,
  of: (name: string) => string,
): { readonly reel: ReelPart; readonly shots: readonly ShotPart[] } {
  const shots: ShotPart[] = [
    { id: `${prefix}-hall`, name: 'The hall', kind: 'hold', viewpointId: of('Hall, east'), durationS: 4, creep: 0.04 },
    { id: `${prefix}-stair`, name: 'Up the stair', kind: 'travel', viewpointId: of('Hall, east'), isClosed: false, gaze: { kind: 'stops' }, stops: upTheStair(), heights: 'floor' }, // prettier-ignore
    {
      ...{ id: `${prefix}-drawers`, name: 'To the drawers', kind: 'push', fromId: of('Drawer wall, square'), toId: of('A seed drawer') },
      ...{ durationS: 5, ease: 'soft', holdsSize: false },
      keys: { focusM: [{ at: 0, value: 7.6 }, { at: 0.6, value: 4 }, { at: 1, value: 1.69 }] },
      motions: [{ id: `${prefix}-opens`, stateId: 'drawer-open', opens: true, fromShare: 0.55, toShare: 0.95 }],
    },
    { id: `${prefix}-end`, name: 'Marigolds', kind: 'hold', viewpointId: of('A seed drawer'), durationS: 0.6, creep: 0, motions: [{ id: `${prefix}-stays`, stateId: 'drawer-open', opens: true, fromShare: 0, toShare: 0 }] }, // prettier-ignore
  ] // prettier-ignore
  return { shots, reel: { id: `${prefix}-reel`, name: 'As first drawn', rate: '25', cuts: shots.map((s) => ({ id: `${s.id}-cut`, shotId: s.id, dissolveS: 0 })) } } // prettier-ignore
}

/** The same eased to the limits, then made to last a minute. */
function eased(doc: ProjectDocument, { reel, shots }: ReturnType<typeof firstDrawn>): ReturnType<typeof firstDrawn> {
  const { cuts, setups } = cutsOf({ ...doc, shots: [...shots] }, reel, READING)
  let now: FitReel = { shots: cuts.map((c) => c.shot), cuts: cuts.map(({ shot: _, ...c }, shot) => ({ ...c, shot })) }
  const asked: FitAsked = { fps: FPS, limits: COMFORT_LIMITS, acrossDeg: (i, focalMm) => fieldOfView({ ...setups[i]!.lens, focalMm }, setups[i]!.frame)!.horizontalDeg } // prettier-ignore
  for (let i = 0; i < MOST_STEPS; i++) {
    const next = fitStep(now, asked)
    if (!next) break
    now = next
  }
  const fitted = shots.map((part, i): ShotPart => {
    const s = now.shots[i]!
    const keys = s.keys?.progress ? { keys: { ...part.keys, progress: [...s.keys.progress] } } : {}
    if (part.kind === 'travel' && s.kind === 'travel') return { ...part, ...keys, stops: s.stops.map((q, k) => ({ ...part.stops[Math.min(k, part.stops.length - 1)]!, ...q, id: `${part.id}-${k}`, speedMps: s.speedsMps[k]! })) } // prettier-ignore
    return part.kind !== 'travel' && s.kind !== 'travel' ? { ...part, ...keys, durationS: s.durationS } : part
  })
  return lastingReel({ ...doc, shots: fitted }, { ...reel, name: 'A minute of the hall' }, MINUTE_S, READING)!
}

const opened: ObjectState = { id: 'drawer-open', name: 'open', objectId: DRAWER, moveM: [0, -0.3, 0], turnDeg: 0, hinge: [0, 0, 0] } // prettier-ignore
export function withHallReels(doc: ProjectDocument): ProjectDocument {
  const of = (name: string): string => doc.viewpoints.find((v) => v.name === name)!.id
  const withState = { ...doc, objectStates: [opened] }
  const first = firstDrawn('first', of)
  const fit = eased(withState, firstDrawn('minute', of))
  return { ...withState, shots: [...fit.shots, ...first.shots], reels: [fit.reel, first.reel] }
}

/** All of the lamp but what it stands on and before. */
const PARTS = ['Lamp foot', 'Lamp dome', 'Lamp ring, dial and bed']
export function withLampTurntable(doc: ProjectDocument): ProjectDocument {
  const spins = PARTS.map((n) => `germination-lamp/Germination lamp/${n}`)
  const shot: ShotPart = {
    ...{ id: 'turn', name: 'Once round', kind: 'turntable', viewpointId: doc.viewpoints[0]!.id, pivot: [0, 0, 0.14], turns: 1, direction: 1 },
    ...{ durationS: 10, pace: 'loop', distance: [], focal: [], heightM: [], spins },
  } // prettier-ignore
  return { ...doc, shots: [shot], reels: [{ id: 'turn-reel', name: 'The lamp turning', rate: '25', shutterDeg: 180, cuts: [{ id: 'turn-cut', shotId: 'turn', dissolveS: 0 }] }] } // prettier-ignore
}

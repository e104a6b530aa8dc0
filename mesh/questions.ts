// What may be asked of the model from afar, as one list: the worker answers it, the page asks it, nothing is listed twice.
// Model: the scene lies about an origin near it, so that 32-bit numbers hold its millimetres; what is asked and answered is in world
// coordinates. Each question says how it goes there and back.

import type { Camera, Ray } from '#core/camera'
import { length, scale, sub, type Vec3 } from '#core/math'
import { reportOf, type BesideWay, type ReelReport, type ReportAsked, type StillRun, type Through } from '#core/reel'
import { shiftedCamera, shiftedPoint } from '#core/placing'
import { ALL_SHOWN, shiftedShown, type Shown, type Sight } from '#core/section'
import { nodesInBand, type Band } from './band.ts'
import type { CutFace } from './cut-faces.ts'
import { clearAt, type ClearAt } from './clear.ts'
import { clearances } from './clearance.ts'
import { cutFacts, type PlaneFacts } from './cut-facts.ts'
import { enclosed, underSky } from './enclosure.ts'
import { pickFeature, type FeatureHit } from './features.ts'
import { roomAt, type RoomBox } from './room.ts'
import type { MeshScene } from './scene.ts'
import type { Hit } from './shifted.ts'
import { eyeHeights, freeWay, walkStep, type Walked } from './walk.ts'

/** A scene and where its own origin lies in the world. */
export interface Placed {
  readonly scene: MeshScene
  readonly origin: Vec3
}
const away = (o: Vec3): Vec3 => [-o[0], -o[1], -o[2]]
const here = <R extends Ray>(ray: R, { origin }: Placed): R => ({
  ...ray,
  origin: shiftedPoint(ray.origin, away(origin)),
})
const shownHere = (shown: Shown, { origin }: Placed): Shown => shiftedShown(shown, away(origin))
const there = <H extends Hit>(hit: H | null, { origin }: Placed): H | null =>
  hit && { ...hit, point: shiftedPoint(hit.point, origin) }

export const QUESTIONS = {
  /** What a sight line meets first. */
  pick: (at: Placed, sight: Ray | Sight, shown: Shown): Hit | null =>
    there(at.scene.pick(here(sight, at), shownHere(shown, at)), at),
  /** The first floor along a sight line. */
  pickFloor: (at: Placed, sight: Ray | Sight, shown: Shown): Hit | null =>
    there(at.scene.pickFloor(here(sight, at), shownHere(shown, at)), at),
  /** The first surface that can be stood on along a sight line, furniture included. */
  pickLevel: (at: Placed, sight: Ray | Sight, shown: Shown): Hit | null =>
    there(at.scene.pickLevel(here(sight, at), shownHere(shown, at)), at),
  /** The floor straight below a point. */
  floorBelow: (at: Placed, point: Vec3, shown: Shown): Hit | null =>
    there(at.scene.floorBelow(shiftedPoint(point, away(at.origin)), shownHere(shown, at)), at),
  /** The first face of a wall along a ray within `farM`; what else stands there is passed through. */
  wallAlong: (at: Placed, ray: Ray, farM: number, shown: Shown): Hit | null =>
    there(at.scene.wallAlong(here(ray, at), farM, shownHere(shown, at)), at),
  /** What is under a picture point, drawn to a corner or an edge within reach. */
  pickFeature: (
    at: Placed,
    camera: Camera,
    place: readonly [number, number],
    reachPx: number,
    shown: Shown,
  ): FeatureHit | null => {
    const hit = there(pickFeature(at.scene, shiftedCamera(camera, away(at.origin)), place, reachPx, shownHere(shown, at)), at) // prettier-ignore
    const [a, b] = hit?.edge ?? []
    return hit && a && b ? { ...hit, edge: [shiftedPoint(a, at.origin), shiftedPoint(b, at.origin)] } : hit
  },
  /** Objects taken in by a rectangle of the picture. */
  inBand: (at: Placed, camera: Camera, band: Band, shown: Shown): readonly string[] =>
    nodesInBand(at.scene, shiftedCamera(camera, away(at.origin)), band, shownHere(shown, at)),
  /** Whether a point lies out of doors: most ways up from it meet nothing. */
  underSky: (at: Placed, point: Vec3, shown: Shown): boolean =>
    underSky(at.scene, shiftedPoint(point, away(at.origin)), shownHere(shown, at)),
  /** Whether a building stands round a point: walls on three sides, or a roof above. */
  enclosed: (at: Placed, point: Vec3, shown: Shown): boolean =>
    enclosed(at.scene, shiftedPoint(point, away(at.origin)), shownHere(shown, at)),
  /** A level step on foot. */
  walk: (at: Placed, from: Vec3, step: readonly [number, number], eyeHeightM: number, shown: Shown): Walked => {
    const w = walkStep(at.scene, shiftedPoint(from, away(at.origin)), step, { eyeHeightM, shown: shownHere(shown, at) })
    return {
      ...w,
      station: shiftedPoint(w.station, at.origin),
      groundM: w.groundM === null ? null : w.groundM + at.origin[2],
    }
  },
  /** Heights of the eye along a way, over the floor of each place; null over nothing. */
  eyeHeights: (at: Placed, places: readonly Vec3[], eyeHeightM: number, shown: Shown): readonly (number | null)[] =>
    eyeHeights(at.scene, places.map((p) => shiftedPoint(p, away(at.origin))), { eyeHeightM, shown: shownHere(shown, at) }).map((h) => (h === null ? null : h + at.origin[2])), // prettier-ignore
  /** Metres from each place to the nearest thing, at most `farM`. */
  clearances: (at: Placed, places: Float64Array, farM: number, shown: Shown): Float32Array =>
    clearances(at.scene, places, at.origin, farM, shownHere(shown, at)),
  /** Rates and findings of a reel; with `farM` also what stands beside its way, up to so many metres. `shown`: by cut. */
  reelReport: (at: Placed, asked: ReportAsked, farM: number | null, shown: readonly Shown[]): ReelReport =>
    farM === null
      ? reportOf(asked)
      : reportOf(asked, (stations, places, runs) => besideWay(at, { stations, places, runs }, farM, shown)),
  /** What the cuts lay open, as polygons by object. */
  cutFaces: (at: Placed, shown: Shown): readonly CutFace[] =>
    at.scene.faces(shownHere(shown, at)).map((f) => ({
      ...f,
      axes: { ...f.axes, origin: shiftedPoint(f.axes.origin, at.origin) },
    })),
  /** The same in numbers. */
  cutFacts: (at: Placed, shown: Shown): readonly PlaneFacts[] =>
    cutFacts(at.scene.faces(shownHere(shown, at)).filter((f) => at.scene.node(f.nodeId)?.kind !== 'surroundings')),
  /** The room in the section that a sight line passes first; null where it passes none. */
  clearAt: (at: Placed, sight: Sight, shown: Shown): ClearAt | null => {
    const mine = shownHere(shown, at)
    return clearAt(at.scene.knownFaces(mine), mine, here(sight, at))
  },
  /** The room that a place lies in, along the building's direction; null where a side of it is open. */
  roomAt: (at: Placed, point: Vec3, directionDeg: number, shown: Shown): RoomBox | null => {
    const room = roomAt(at.scene, shiftedPoint(point, away(at.origin)), directionDeg, shownHere(shown, at))
    return room && { ...room, centre: shiftedPoint(room.centre, at.origin) }
  },
  /** Metres that a way is free. */
  freeWay: (at: Placed, from: Vec3, direction: Vec3, farM: number, shown: Shown): number =>
    freeWay(at.scene, shiftedPoint(from, away(at.origin)), direction, farM, shownHere(shown, at)),
} as const

interface WayFrames {
  readonly stations: Float64Array
  readonly places: readonly Vec3[]
  readonly runs: readonly StillRun[]
}
/** Of each frame by what its cut shows, with everything where it stands in that frame. */
function besideWay(
  at: Placed,
  { stations, places, runs }: WayFrames,
  farM: number,
  shown: readonly Shown[],
): BesideWay {
  const clearanceM = new Float32Array(places.length)
  const heightM = new Float64Array(places.length)
  const through: Through[] = []
  for (const { cut, from, to, moved } of runs) {
    const { moved: _, ...own } = shown[cut] ?? ALL_SHOWN
    const now: Shown = moved.length > 0 ? { ...own, moved } : own
    clearanceM.set(QUESTIONS.clearances(at, stations.subarray(3 * from, 3 * to), farM, now), from)
    through.push(...passedBetween(at, places, [from, to, runs.findLast((r) => r.cut === cut)!.to], now))
    // floors do not move: a cut's are followed from its beginning on
    if (runs.find((r) => r.cut === cut)!.from !== from) continue
    const end = runs.findLast((r) => r.cut === cut)!.to
    const mine = places.slice(from, end)
    QUESTIONS.eyeHeights(at, mine, 0, now).forEach((f, k) => (heightM[from + k] = mine[k]![2] - (f ?? NaN)))
  }
  return { clearanceM, heightM, through }
}
/** What lies between each frame of a run and the next one of its cut, glass included. */
function passedBetween(
  at: Placed,
  places: readonly Vec3[],
  [from, to, end]: readonly [number, number, number],
  shown: Shown,
): Through[] {
  const mine = shownHere(shown, at)
  const out: Through[] = []
  for (let k = from; k < Math.min(to, end - 1); k++) {
    const way = sub(places[k + 1]!, places[k]!)
    const farM = length(way)
    if (farM < 1e-6) continue
    const sight = here({ origin: places[k]!, direction: scale(way, 1 / farM), farM }, at)
    const met = at.scene.passing(sight, { shown: mine, clearToo: true })
    if (met) out.push({ frame: k, name: at.scene.nodeAt(met.hit.vertex).name })
  }
  return out
}

type Asked = typeof QUESTIONS
export type QuestionName = keyof Asked
/** What is asked, without the scene. */
export type Asking<K extends QuestionName> = Asked[K] extends (at: Placed, ...args: infer A) => unknown ? A : never
export type Answer<K extends QuestionName> = ReturnType<Asked[K]>
/** The questions as the page asks them: null as long as there is no scene. */
export type Questions = { readonly [K in QuestionName]: (...args: Asking<K>) => Promise<Answer<K> | null> }

export function ask<K extends QuestionName>(at: Placed, name: K, args: Asking<K>): Answer<K> {
  return (QUESTIONS[name] as (at: Placed, ...args: unknown[]) => Answer<K>)(at, ...args)
}

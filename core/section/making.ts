// A first cut of each kind, through what one works on; and cuts moved by one of their planes.
// Model: a plane is moved along its own normal, which points to the removed side; the others stay. Space: world metres.

import { bearingDifferenceDeg, cosDeg, sinDeg, wrapBearingDeg } from '../base/index.ts'
import { addScaled, boxCentre, boxSize, scale, type Box, type Vec3 } from '../math/index.ts'
import type { Cut } from './cuts.ts'
import { planesOf } from './exposed.ts'

export type CutKind = Cut['kind']
export const CUT_KINDS = ['level', 'upright', 'free', 'slice', 'box', 'stepped'] as const satisfies readonly CutKind[]

/** What a new cut goes by. */
export interface CutPlace {
  /** The subject: the cut goes through it. */
  readonly point: Vec3
  /** The way one looks: what lies before the cut goes, so that one sees into what stays. */
  readonly bearingDeg: number
  /** The building's direction, degrees off north; an upright cut lies square to it. */
  readonly mainBearingDeg: number
  readonly model: Box
  /** What a box goes round; null for a part of the model about the subject. */
  readonly round: Box | null
  /** Height of a level cut. */
  readonly heightM: number
}
/** A box goes round things at this part of their size, and at least so many metres off. */
const ROUND = 0.02
const LEAST_OFF_M = 0.01
/** Boxes and slices are never thinner, metres. */
export const THINNEST_M = 1e-4

/** Of the building's four directions the one nearest to the bearing, degrees. */
export function nearestDirection(bearingDeg: number, mainBearingDeg: number): number {
  const quarters = Math.round(bearingDifferenceDeg(mainBearingDeg, bearingDeg) / 90)
  return wrapBearingDeg(mainBearingDeg + 90 * quarters)
}

/** A cut of a kind that goes through the subject, on and not reversed. */
export function newCut(kind: CutKind, id: string, name: string, place: CutPlace): Cut {
  const base = { id, name, on: true, reversed: false }
  const bearingDeg = nearestDirection(place.bearingDeg, place.mainBearingDeg)
  const ahead: Vec3 = [sinDeg(bearingDeg), cosDeg(bearingDeg), 0]
  const towards = scale(ahead, -1)
  const size = boxSize(place.model)
  const { point } = place
  switch (kind) {
    case 'level':
      return { ...base, kind, heightM: place.heightM }
    case 'upright':
      return { ...base, kind, point, bearingDeg }
    case 'free':
      return { ...base, kind, point, normal: towards }
    case 'slice': {
      const thicknessM = Math.max(THINNEST_M, Math.min(1, 0.1 * Math.max(...size)))
      return { ...base, kind, point: addScaled(point, towards, thicknessM / 2), normal: towards, thicknessM }
    }
    case 'box': {
      const round = place.round ?? partOf(place.model, point)
      const own = boxSize(round)
      const off = Math.max(LEAST_OFF_M * Math.min(1, Math.max(...own)), ROUND * Math.max(...own))
      const sizeM: Vec3 = [own[0] + 2 * off, own[1] + 2 * off, own[2] + 2 * off]
      return { ...base, kind, centre: boxCentre(round), sizeM, turnDeg: 0 }
    }
    case 'stepped':
      return { ...base, kind, points: steppedLine(place, ahead) }
  }
}
/** Half of the model's extent, about the subject. */
function partOf(model: Box, point: Vec3): Box {
  const half = boxSize(model).map((v) => v / 4)
  const held = [0, 1, 2].map((k) => Math.min(model.max[k]! - half[k]!, Math.max(model.min[k]! + half[k]!, point[k]!)))
  return {
    min: [held[0]! - half[0]!, held[1]! - half[1]!, held[2]! - half[2]!],
    max: [held[0]! + half[0]!, held[1]! + half[1]!, held[2]! + half[2]!],
  }
}
/** Across the model through the subject, with one jog: the line's left, which goes, lies towards the eye. */
function steppedLine({ point, model }: CutPlace, ahead: Vec3): readonly (readonly [number, number])[] {
  const half = Math.hypot(...boxSize(model)) / 2
  const jog = Math.min(1, half / 8)
  // to the left, seen along the way one looks
  const left: readonly [number, number] = [-ahead[1], ahead[0]]
  const at = (along: number, before: number): readonly [number, number] => [
    point[0] + left[0] * along - ahead[0] * before,
    point[1] + left[1] * along - ahead[1] * before,
  ]
  // what lies to the left of the way goes: the way runs so that the eye is on that side
  return [at(half, 0), at(-jog, 0), at(-jog, -jog), at(-half, -jog)].reverse()
}

/** The cut with one of its planes (`planesOf`) moved along its normal, metres; boxes and slices keep a least thickness. */
export function movePlane(cut: Cut, plane: number, byM: number): Cut {
  const n = planesOf(cut)[plane]?.normal
  if (!n) throw new RangeError(`movePlane: the cut has no plane ${plane}`)
  switch (cut.kind) {
    case 'level':
      return { ...cut, heightM: cut.heightM + byM * n[2] }
    case 'upright':
    case 'free':
      return { ...cut, point: addScaled(cut.point, n, byM) }
    case 'slice': {
      // outwards is away from the layer, whichever way round the cut is
      const out = cut.reversed ? -byM : byM
      const grown = Math.max(THINNEST_M, cut.thicknessM + out)
      const by = grown - cut.thicknessM
      const along = scale(cut.normal, 1 / Math.hypot(...cut.normal))
      return { ...cut, thicknessM: grown, point: plane === 0 ? addScaled(cut.point, along, by) : cut.point }
    }
    case 'box': {
      const out = cut.reversed ? -byM : byM
      const axis = Math.floor(plane / 2)
      const grown = Math.max(THINNEST_M, cut.sizeM[axis]! + out)
      const by = grown - cut.sizeM[axis]!
      const sizeM = cut.sizeM.map((v, k) => (k === axis ? grown : v)) as unknown as Vec3
      const outward = cut.reversed ? scale(n, -1) : n
      return { ...cut, sizeM, centre: addScaled(cut.centre, outward, by / 2) }
    }
    case 'stepped': {
      const leg = legOf(cut.points, plane)
      const moved = (i: number): boolean => i === leg || i === leg + 1
      const points = cut.points.map(([x, y], i) =>
        moved(i) ? ([x + n[0] * byM, y + n[1] * byM] as const) : ([x, y] as const),
      )
      return { ...cut, points }
    }
  }
}
/** Legs of no length have no plane. */
function legOf(points: readonly (readonly [number, number])[], plane: number): number {
  let left = plane
  for (let i = 0; i + 1 < points.length; i++) {
    const [a, b] = [points[i]!, points[i + 1]!]
    if ((a[0] !== b[0] || a[1] !== b[1]) && left-- === 0) return i
  }
  return 0
}
/** The cut moved as a whole. */
export function moveCut(cut: Cut, by: Vec3): Cut {
  switch (cut.kind) {
    case 'level':
      return { ...cut, heightM: cut.heightM + by[2] }
    case 'box':
      return { ...cut, centre: addScaled(cut.centre, by, 1) }
    case 'stepped':
      return { ...cut, points: cut.points.map(([x, y]) => [x + by[0], y + by[1]] as const) }
    default:
      return { ...cut, point: addScaled(cut.point, by, 1) }
  }
}

/** The next free letter: A to Z, then A2, B2 and so on. */
export function nextLetter(taken: readonly string[]): string {
  for (let round = 1; ; round++)
    for (let i = 0; i < 26; i++) {
      const name = `${String.fromCharCode(65 + i)}${round > 1 ? round : ''}`
      if (!taken.includes(name)) return name
    }
}

// Which numbers of photographs and their lens are solved for, and what is the camera a step further?
// Model: each unknown that is not held has a place in the matrix; the lens's unknowns are shared by all photographs. Turns are small
// vectors, or bearing, tilt and roll where one of these is held or known. Source: handbook-9.

import { DEG_PER_RAD } from '../base/index.ts'
import type { Vec3 } from '../math/index.ts'
import { LENS_COLUMNS } from './residuals.ts'
import { anglesOfRotation, rotationOf, turned, type Rotation } from './rotation.ts'
import { LENS_UNKNOWNS, POSE_UNKNOWNS, type Estimate, type PhotoLens, type PhotoView, type Treatment, type Treatments, type Unknown } from './types.ts' // prettier-ignore

interface Slot {
  readonly view: number
  readonly name: Unknown
  readonly treatment: Treatment
}
export interface Layout {
  readonly slots: readonly Slot[]
  /** By view, the place in the matrix of each of the 14 columns; -1 where it is held. */
  readonly columns: readonly Int32Array[]
  /** By view, whether turns are small vectors or angles. */
  readonly byAngles: readonly boolean[]
}
const treatmentOf = (t: Treatments, name: Unknown): Treatment =>
  t[name] ?? ((LENS_UNKNOWNS as readonly string[]).includes(name) ? 'fixed' : 'free')

export function layOut(views: readonly PhotoView[], t: Treatments): Layout {
  const slots: Slot[] = []
  const lensAt = LENS_UNKNOWNS.map((name) => {
    const treatment = treatmentOf(t, name)
    return treatment === 'fixed' ? -1 : slots.push({ view: -1, name, treatment }) - 1
  })
  const byAngles: boolean[] = []
  const columns = views.map((v, view) => {
    byAngles.push(POSE_UNKNOWNS.slice(0, 3).some((name) => treatmentOf(t, name) !== 'free'))
    const poseAt = POSE_UNKNOWNS.map((name, i) => {
      const treatment = treatmentOf(t, name)
      // lines alone say nothing of the station
      if (treatment === 'fixed' || (i >= 3 && v.pairs.length === 0)) return -1
      return slots.push({ view, name, treatment }) - 1
    })
    return Int32Array.from([...lensAt, ...poseAt])
  })
  return { slots, columns, byAngles }
}

export interface Working {
  readonly lens: PhotoLens
  readonly views: readonly { readonly rotation: Rotation; readonly station: Vec3 }[]
}
/** In the order of LENS_UNKNOWNS. */
export const lensValues = ({ focalPx, principal, distortion: d }: PhotoLens): number[] => [focalPx, principal[0], principal[1], d.k1, d.k2, d.p1, d.p2, d.k3] // prettier-ignore
export function lensFrom(v: readonly number[]): PhotoLens {
  const [focalPx, x, y, k1, k2, p1, p2, k3] = v as [number, number, number, number, number, number, number, number]
  return { focalPx, principal: [x, y], distortion: { k1, k2, k3, p1, p2 } }
}

export function valueOf(w: Working, view: number, name: Unknown): number {
  if (view < 0) return lensValues(w.lens)[LENS_UNKNOWNS.indexOf(name as never)]!
  const { rotation, station } = w.views[view]!
  const i = POSE_UNKNOWNS.indexOf(name as never)
  return i < 3 ? anglesOfRotation(rotation)[name as 'bearingDeg'] : station[i - 3]!
}
export function startOf(e: Estimate, view: number, name: Unknown): number {
  if (view < 0) return lensValues(e.lens)[LENS_UNKNOWNS.indexOf(name as never)]!
  const i = POSE_UNKNOWNS.indexOf(name as never)
  return i < 3 ? e.poses[view]![name as 'bearingDeg'] : e.poses[view]!.station[i - 3]!
}

/** The state a step further: one number for each slot of the layout. */
export function stepped(w: Working, layout: Layout, step: Float64Array): Working {
  const lens = lensValues(w.lens)
  const first = layout.columns[0]!
  for (let c = 0; c < LENS_COLUMNS; c++) if (first[c]! >= 0) lens[c] = lens[c]! + step[first[c]!]!
  const views = w.views.map(({ rotation, station }, v) => {
    const columns = layout.columns[v]!
    const of = (c: number): number => (columns[c]! < 0 ? 0 : step[columns[c]!]!)
    const by: Vec3 = [of(8), of(9), of(10)]
    return {
      rotation: layout.byAngles[v] ? turnedByAngles(rotation, by) : turned(rotation, by),
      station: [station[0] + of(11), station[1] + of(12), station[2] + of(13)] as Vec3,
    }
  })
  return { lens: lensFrom(lens), views }
}
function turnedByAngles(rotation: Rotation, [b, t, r]: Vec3): Rotation {
  const a = anglesOfRotation(rotation)
  return rotationOf({
    bearingDeg: a.bearingDeg + b * DEG_PER_RAD,
    tiltDeg: a.tiltDeg + t * DEG_PER_RAD,
    rollDeg: a.rollDeg + r * DEG_PER_RAD,
  })
}

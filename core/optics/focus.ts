// Which depths are sharp?
// Model: thin lens, distances from the front nodal point; sharp is what is blurred by no more than the circle of confusion.
// Source: handbook-6; ray2002, kingslake1992.

import { ok, refused, requireNumber, type Result } from '../base/index.ts'

export interface DepthOfField {
  readonly nearM: number
  /** Infinity from the hyperfocal distance on. */
  readonly farM: number
  readonly hyperfocalM: number
}

/** Refused when focused nearer than the focal length. RangeError for numbers that are not above nought. */
export function depthOfField(o: {
  readonly focalMm: number
  readonly fNumber: number
  readonly focusM: number
  readonly cocMm: number
}): Result<DepthOfField, 'too-near'> {
  for (const key of ['focalMm', 'fNumber', 'focusM', 'cocMm'] as const) {
    requireNumber('depthOfField', key, o[key])
    if (!(o[key] > 0)) throw new RangeError(`depthOfField: ${key} must be above nought, got ${o[key]}`)
  }
  const f = o.focalMm / 1000
  const hyperfocalM = (f * f) / ((o.fNumber * o.cocMm) / 1000) + f
  const s = o.focusM
  if (s <= f) return refused('too-near', 'Nearer than the focal length nothing is sharp.')
  const nearM = (s * (hyperfocalM - f)) / (hyperfocalM + s - 2 * f)
  const farM = s >= hyperfocalM ? Infinity : (s * (hyperfocalM - f)) / (hyperfocalM - s)
  return ok({ nearM, farM, hyperfocalM })
}

/** Diameter on the sensor, mm, of the disc that a point at `distanceM` is blurred to. Source: handbook-6. */
export function blurDiscMm(o: {
  readonly focalMm: number
  readonly fNumber: number
  readonly focusM: number
  readonly distanceM: number
}): number {
  const f = o.focalMm / 1000
  return ((o.focalMm * f) / (o.fNumber * (o.focusM - f))) * (Math.abs(o.distanceM - o.focusM) / o.distanceM)
}
/** Diameter of the aperture that lens samples are taken over, metres: it gives the discs of `blurDiscMm` close up too. */
export function apertureM(o: { readonly focalMm: number; readonly fNumber: number; readonly focusM: number }): number {
  const f = o.focalMm / 1000
  return ((f / o.fNumber) * o.focusM) / (o.focusM - f)
}
/** The f-number at which a point is blurred to a disc of `discMm`; Infinity where it is in focus. */
export const fNumberForBlur = (o: {
  readonly focalMm: number
  readonly focusM: number
  readonly distanceM: number
  readonly discMm: number
}): number => blurDiscMm({ ...o, fNumber: 1 }) / o.discMm

/** Wavelength that diffraction is told for, mm. */
const GREEN_MM = 550e-6
/** Diameter of the disc that diffraction makes of a point, mm on the sensor. Source: handbook-6 (Airy). */
export const diffractionMm = (o: {
  readonly focalMm: number
  readonly fNumber: number
  readonly focusM: number
}): number => 2.44 * GREEN_MM * o.fNumber * (1 + o.focalMm / 1000 / (o.focusM - o.focalMm / 1000))

/** Focus and f-number that keep everything sharp from one distance to another (Infinity too); exact, not rounded to stops. */
export function keepSharp(o: {
  readonly fromM: number
  readonly toM: number
  readonly focalMm: number
  readonly cocMm: number
}): Result<{ readonly focusM: number; readonly fNumber: number }, 'too-near'> {
  const [a, b] = o.fromM <= o.toM ? [o.fromM, o.toM] : [o.toM, o.fromM]
  const f = o.focalMm / 1000
  if (!(a > f)) return refused('too-near', 'Nearer than the focal length nothing is sharp.')
  const focusM = b === Infinity ? 2 * a : (2 * a * b) / (a + b)
  return ok({ focusM, fNumber: fNumberForBlur({ focalMm: o.focalMm, focusM, distanceM: a, discMm: o.cocMm }) })
}

/** The usual circle of confusion, mm, for a sensor's size: 0.03 on 36 x 24, by the diagonal. Source: handbook-6. */
export const usualCocMm = (sensorMm: { readonly width: number; readonly height: number }): number =>
  (0.03 * Math.hypot(sensorMm.width, sensorMm.height)) / Math.hypot(36, 24)

/** f-numbers as they are engraved, in full, half and third stops. Source: handbook-6; common practice between the full ones. */
const FULL = [1, 1.4, 2, 2.8, 4, 5.6, 8, 11, 16, 22, 32, 45, 64]
const THIRDS = [1, 1.1, 1.2, 1.4, 1.6, 1.8, 2, 2.2, 2.5, 2.8, 3.2, 3.5, 4, 4.5, 5, 5.6, 6.3, 7.1, 8, 9, 10, 11, 13, 14, 16, 18, 20, 22, 25, 29, 32, 36, 40, 45, 51, 57, 64] // prettier-ignore
const HALVES = [
  1, 1.2, 1.4, 1.7, 2, 2.4, 2.8, 3.3, 4, 4.8, 5.6, 6.7, 8, 9.5, 11, 13, 16, 19, 22, 27, 32, 38, 45, 54, 64,
]
export const F_STOPS = { full: FULL, half: HALVES, third: THIRDS } as const
export type StopKind = keyof typeof F_STOPS
/** The next engraved f-number up or down from any f-number; the last one at the ends. */
export function nextStop(fNumber: number, by: 1 | -1, kind: StopKind): number {
  const stops = F_STOPS[kind]
  if (by > 0) return stops.find((s) => s > fNumber * 1.001) ?? stops.at(-1)!
  return stops.findLast((s) => s < fNumber * 0.999) ?? stops[0]!
}

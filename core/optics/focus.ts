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

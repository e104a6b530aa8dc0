// How large an image circle does a shifted picture need, and how large are those of real lenses?
// Space: sensor millimetres. Source: handbook-1.

import { usedSensor } from './lens.ts'
import { isPerspective } from './projections/registry.ts'
import type { Frame, Lens } from './types.ts'

/** Diameter in mm of the image circle that the shifted picture needs. Source: handbook-1. */
export function imageCircleMm(lens: Lens, frame: Frame): number {
  const { widthMm: w, heightMm: h } = usedSensor(lens, frame)
  return 2 * Math.hypot(w / 2 + Math.abs(lens.crossMm), h / 2 + Math.abs(lens.riseMm))
}

/** The sensor's own image circle plus what real shift lenses of 12 mm along the longer side reach (practice). */
export function imageCircleLimitMm(lens: Lens): number {
  const { width: W, height: H } = lens.sensorMm
  const k = Math.hypot(W, H) / Math.hypot(36, 24)
  return 2 * Math.hypot(W / 2 + 12 * k, H / 2)
}

/** Whether a perspective picture needs a larger image circle than real shift lenses have. */
export const isPastShift = (lens: Lens, frame: Frame): boolean =>
  isPerspective(lens) && imageCircleMm(lens, frame) > imageCircleLimitMm(lens) * (1 + 1e-9)

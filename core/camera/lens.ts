// How much of the sensor does the picture use, and how wide does the lens see?
// Space: sensor millimetres. Source: handbook-1, ray2002.

import { RAD_PER_DEG } from '../base/index.ts'
import type { Frame, Lens } from './types.ts'

export interface UsedSensor {
  readonly widthMm: number
  readonly heightMm: number
}

/**
 * The part of the sensor that the frame covers, its shape being the frame's. `inside` keeps within the sensor, `covers`
 * covers it; the sensor does not turn by itself.
 */
export function usedSensor(
  lens: Pick<Lens, 'sensorMm' | 'sensorUse'>,
  frame: Pick<Frame, 'widthPx' | 'heightPx'>,
): UsedSensor {
  const aspect = frame.widthPx / frame.heightPx
  const { width: W, height: H } = lens.sensorMm
  const byHeight = H * aspect
  const widthMm = {
    acrossWidth: W,
    acrossHeight: byHeight,
    inside: Math.min(W, byHeight),
    covers: Math.max(W, byHeight),
  }[lens.sensorUse]
  return { widthMm, heightMm: widthMm / aspect }
}

export interface FieldOfView {
  readonly horizontalDeg: number
  readonly verticalDeg: number
  readonly diagonalDeg: number
}

/** Focal length that gives an angle of view (degrees, above 0 and below 180) over `mm` of sensor. */
export const focalForAngle = (mm: number, angleDeg: number): number => mm / (2 * Math.tan((angleDeg * RAD_PER_DEG) / 2))

/** Focal lengths marked on the scale, mm (practice). */
export const PRIMES_MM = [14, 18, 20, 21, 24, 28, 35, 40, 50, 65, 85, 105, 135, 180] as const
export const FOCAL_RANGE_MM = { min: 5, max: 2000 } as const

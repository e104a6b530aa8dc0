// How much of the sensor does the picture use, and how wide does the lens see?
// Space: sensor millimetres. Source: handbook-1, ray2002.

import { DEG_PER_RAD, RAD_PER_DEG } from '../base/index.ts'
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

const angle = (mm: number, focalMm: number): number => 2 * Math.atan(mm / (2 * focalMm)) * DEG_PER_RAD

/** Angles of view over the used sensor, without shift; parallel and oblique 0, panoramic forms their coverage. */
export function fieldOfView(lens: Lens, frame: Frame): FieldOfView {
  const p = lens.projection
  const { widthMm: w, heightMm: h } = usedSensor(lens, frame)
  const aspect = frame.widthPx / frame.heightPx
  switch (p.kind) {
    case 'perspective':
      return {
        horizontalDeg: angle(w, lens.focalMm),
        verticalDeg: angle(h, lens.focalMm),
        diagonalDeg: angle(Math.hypot(w, h), lens.focalMm),
      }
    case 'parallel':
    case 'oblique':
      return { horizontalDeg: 0, verticalDeg: 0, diagonalDeg: 0 }
    case 'equirectangular':
      return { horizontalDeg: 360, verticalDeg: Math.min(180, 360 / aspect), diagonalDeg: 360 }
    case 'cylindrical': {
      const rho = aspect / (p.horizontalDeg * RAD_PER_DEG)
      const verticalDeg = 2 * Math.atan(0.5 / rho) * DEG_PER_RAD
      return { horizontalDeg: p.horizontalDeg, verticalDeg, diagonalDeg: Math.hypot(p.horizontalDeg, verticalDeg) }
    }
    case 'fisheye':
      return { horizontalDeg: p.coverageDeg, verticalDeg: p.coverageDeg, diagonalDeg: p.coverageDeg }
  }
}

/** Focal length that gives an angle of view (degrees, above 0 and below 180) over `mm` of sensor. */
export const focalForAngle = (mm: number, angleDeg: number): number => mm / (2 * Math.tan((angleDeg * RAD_PER_DEG) / 2))

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
  lens.projection.kind === 'perspective' && imageCircleMm(lens, frame) > imageCircleLimitMm(lens) * (1 + 1e-9)

/** Focal lengths marked on the scale, mm (practice). */
export const PRIMES_MM = [14, 18, 20, 21, 24, 28, 35, 40, 50, 65, 85, 105, 135, 180] as const
export const FOCAL_RANGE_MM = { min: 5, max: 2000 } as const

// Which sines are exact?
// Model: angles at the doors are degrees; multiples of 90 give exactly 0 and +-1, so that a level camera is level
// to the last bit and a squared view does not carry 1e-17 into every matrix.

export const RAD_PER_DEG = Math.PI / 180
export const DEG_PER_RAD = 180 / Math.PI

const quadrant = (deg: number): number | null => {
  const q = (((deg % 360) + 360) % 360) / 90
  return Number.isInteger(q) ? q % 4 : null
}
const EXACT_SIN = [0, 1, 0, -1] as const
const EXACT_COS = [1, 0, -1, 0] as const

/** Sine of an angle in degrees, exact at multiples of 90. */
export function sinDeg(deg: number): number {
  const q = quadrant(deg)
  return q === null ? Math.sin(deg * RAD_PER_DEG) : EXACT_SIN[q]!
}

/** Cosine of an angle in degrees, exact at multiples of 90. */
export function cosDeg(deg: number): number {
  const q = quadrant(deg)
  return q === null ? Math.cos(deg * RAD_PER_DEG) : EXACT_COS[q]!
}

export const atan2Deg = (y: number, x: number): number => Math.atan2(y, x) * DEG_PER_RAD
export const asinDeg = (v: number): number => Math.asin(Math.min(1, Math.max(-1, v))) * DEG_PER_RAD

/** The same direction in 0 .. 360 (360 excluded). */
export function wrapBearingDeg(deg: number): number {
  const w = ((deg % 360) + 360) % 360
  return w === 360 || Object.is(w, -0) ? 0 : w
}

/** Signed difference to - from, in -180 .. 180. */
export function bearingDifferenceDeg(from: number, to: number): number {
  const d = wrapBearingDeg(to - from)
  return d > 180 ? d - 360 : d
}

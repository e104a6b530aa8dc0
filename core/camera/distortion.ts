// How does a lens bend straight lines, and what did they look like before?
// Model: Brown and Conrady's radial and tangential terms on x / f and y / f from the principal point. Beyond the radius where the map
// turns back (its Jacobian loses its sign) no point is seen: both directions end there.
// Space: focal lengths from the principal point, x right, **y down**. Source: handbook-5; brown1966; opencv-calib (its formula, with
// k1, k2, p1, p2, k3 in that order). Rejected: the usual fixed point for the inverse (diverges well before the turning radius).

import type { Brown } from './types.ts'

type Out = [number, number]

/** Where the map turns back, in focal lengths, and how far out in the picture that lies; both Infinity where it never does. */
export interface Fold {
  readonly radius: number
  readonly reach: number
}
const NEVER: Fold = { radius: Infinity, reach: Infinity }
/** As far as is looked: 87 degrees off the axis. */
const FARTHEST = 20
const known = new WeakMap<Brown, Fold>()

export function foldOf(d: Brown): Fold {
  // points come in long rows of one lens
  if (d === last) return lastFold
  const fold = known.get(d) ?? findFold(d)
  known.set(d, fold)
  last = d
  lastFold = fold
  return fold
}
let last: Brown | null = null
let lastFold = NEVER

const isTangential = (d: Brown): boolean => d.p1 !== 0 || d.p2 !== 0
const radial = ({ k1, k2, k3 }: Brown, u: number): number => 1 + u * (k1 + u * (k2 + u * k3))
/** d(r radial) / dr at u = r^2. */
const radialSlope = ({ k1, k2, k3 }: Brown, u: number): number => 1 + u * (3 * k1 + u * (5 * k2 + u * 7 * k3))

/** A point before the lens as it falls on the sensor. False, and `out` undefined, beyond the fold. About ten multiplications. */
export function distortInto(d: Brown, x: number, y: number, out: Out): boolean {
  const u = x * x + y * y
  const fold = d === last ? lastFold : foldOf(d)
  if (u > fold.radius * fold.radius) return false
  const a = 1 + u * (d.k1 + u * (d.k2 + u * d.k3))
  out[0] = x * a + 2 * d.p1 * x * y + d.p2 * (u + 2 * x * x)
  out[1] = y * a + d.p1 * (u + 2 * y * y) + 2 * d.p2 * x * y
  return true
}
/** `distortInto` as a new point; null beyond the fold. */
export function distort(d: Brown, x: number, y: number): readonly [number, number] | null {
  const out: Out = [0, 0]
  return distortInto(d, x, y, out) ? out : null
}

const STEPS = 60
const EXACT = 1e-14
/** The radius that falls on `rd`: Newton's steps between bounds that close in, on the rising branch below the fold. */
function undistortRadius(d: Brown, rd: number, most: number): number {
  let [low, high] = [0, most]
  let r = Math.min(rd / Math.max(radial(d, rd * rd), 0.3), most === Infinity ? Infinity : most * 0.999)
  for (let i = 0; i < STEPS; i++) {
    const u = r * r
    const off = r * radial(d, u) - rd
    if (off > 0) high = r
    else low = r
    let next = r - off / radialSlope(d, u)
    if (!(next > low && next < high)) next = high === Infinity ? r * 2 : (low + high) / 2
    const step = Math.abs(next - r)
    r = next
    if (step <= EXACT * Math.max(1, r)) break
  }
  return r
}

/** A point on the sensor as it came to the lens: exact to 1e-12 of it. False where nothing is seen, beyond the fold. */
export function undistortInto(d: Brown, xd: number, yd: number, out: Out): boolean {
  return quickly(d, xd, yd, out) || surely(d, xd, yd, out)
}

/** Plain steps of Newton in two dimensions, which most points need a few of; false where they lead nowhere. */
const QUICK_STEPS = 8
function quickly(d: Brown, xd: number, yd: number, out: Out): boolean {
  const { k1, k2, k3, p1, p2 } = d
  const { radius } = foldOf(d)
  const start = 1 / Math.max(1 + (xd * xd + yd * yd) * k1, 0.4)
  let x = xd * start
  let y = yd * start
  for (let i = 0; i < QUICK_STEPS; i++) {
    const u = x * x + y * y
    const a = 1 + u * (k1 + u * (k2 + u * k3))
    const slope = 2 * (k1 + u * (2 * k2 + u * 3 * k3))
    const xy = x * y
    const ex = x * a + 2 * p1 * xy + p2 * (u + 2 * x * x) - xd
    const ey = y * a + p1 * (u + 2 * y * y) + 2 * p2 * xy - yd
    const jxx = a + x * x * slope + 2 * p1 * y + 6 * p2 * x
    const jxy = xy * slope + 2 * p1 * x + 2 * p2 * y
    const jyy = a + y * y * slope + 6 * p1 * y + 2 * p2 * x
    const det = jxx * jyy - jxy * jxy
    // near the fold, and beyond it, such steps leap
    if (!(det > 0.02)) return false
    const sx = (jyy * ex - jxy * ey) / det
    const sy = (jxx * ey - jxy * ex) / det
    x -= sx
    y -= sy
    // the next step is its square
    if (sx * sx + sy * sy < 1e-17) {
      out[0] = x
      out[1] = y
      return x * x + y * y <= radius * radius
    }
  }
  return false
}

/** By the radius between bounds first, which always ends. */
function surely(d: Brown, xd: number, yd: number, out: Out): boolean {
  const rd = Math.hypot(xd, yd)
  const { radius, reach } = foldOf(d)
  const hasTangential = isTangential(d)
  if (rd === 0 && !hasTangential) {
    out[0] = out[1] = 0
    return true
  }
  if (rd >= reach && !hasTangential) return false
  const r = undistortRadius(d, rd, radius)
  out[0] = rd === 0 ? 0 : (xd * r) / rd
  out[1] = rd === 0 ? 0 : (yd * r) / rd
  return !hasTangential || refine(d, xd, yd, radius, out)
}
/** `undistortInto` as a new point; null beyond the fold. */
export function undistort(d: Brown, xd: number, yd: number): readonly [number, number] | null {
  const out: Out = [0, 0]
  return undistortInto(d, xd, yd, out) ? out : null
}

/** Newton in two dimensions from the radial solution; halves a step that leads nowhere. */
function refine(d: Brown, xd: number, yd: number, radius: number, out: Out): boolean {
  let [x, y] = out
  let off = Infinity
  const at: Out = [0, 0]
  for (let i = 0; i < STEPS; i++) {
    apply(d, x, y, at)
    const [ex, ey] = [at[0] - xd, at[1] - yd]
    off = Math.hypot(ex, ey)
    if (off <= EXACT * Math.max(1, Math.hypot(x, y))) break
    const [a, b, c] = jacobian(d, x, y)
    const det = a * c - b * b
    if (!(Math.abs(det) > 1e-15)) return false
    const [sx, sy] = [(c * ex - b * ey) / det, (a * ey - b * ex) / det]
    let k = 1
    for (; k > 1e-4; k /= 2) {
      apply(d, x - k * sx, y - k * sy, at)
      if (Math.hypot(at[0] - xd, at[1] - yd) < off) break
    }
    if (k <= 1e-4) break
    x -= k * sx
    y -= k * sy
  }
  out[0] = x
  out[1] = y
  return off < 1e-11 && Math.hypot(x, y) <= radius
}
function apply(d: Brown, x: number, y: number, out: Out): void {
  const u = x * x + y * y
  const a = radial(d, u)
  out[0] = x * a + 2 * d.p1 * x * y + d.p2 * (u + 2 * x * x)
  out[1] = y * a + d.p1 * (u + 2 * y * y) + 2 * d.p2 * x * y
}
/** Its three different entries, xx, xy = yx, yy. */
function jacobian(d: Brown, x: number, y: number): readonly [number, number, number] {
  const u = x * x + y * y
  const a = radial(d, u)
  const slope = 2 * (d.k1 + u * (2 * d.k2 + u * 3 * d.k3))
  return [
    a + x * x * slope + 2 * d.p1 * y + 6 * d.p2 * x,
    x * y * slope + 2 * d.p1 * x + 2 * d.p2 * y,
    a + y * y * slope + 6 * d.p1 * y + 2 * d.p2 * x,
  ]
}
const determinant = (d: Brown, x: number, y: number): number => {
  const [a, b, c] = jacobian(d, x, y)
  return a * c - b * b
}

function findFold(d: Brown): Fold {
  const byRadius = firstRoot((r) => radialSlope(d, r * r), FARTHEST)
  let radius = byRadius
  if (isTangential(d)) {
    const DIRECTIONS = 24
    for (let i = 0; i < DIRECTIONS; i++) {
      const a = (2 * Math.PI * i) / DIRECTIONS
      const [c, s] = [Math.cos(a), Math.sin(a)]
      radius = Math.min(
        radius,
        firstRoot((r) => determinant(d, r * c, r * s), radius, 100),
      )
    }
  }
  if (radius === Infinity) return NEVER
  return { radius, reach: radius * radial(d, radius * radius) }
}
/** Where a function that is above nought at 0 first comes down to it, up to `most`; Infinity where it does not. */
function firstRoot(f: (r: number) => number, most: number, parts = 400): number {
  const end = Math.min(most, FARTHEST)
  for (let i = 1; i <= parts; i++) {
    // finer near the middle, where lenses look
    let high = end * (i / parts) ** 2
    if (f(high) > 0) continue
    let low = end * ((i - 1) / parts) ** 2
    for (let k = 0; k < 60; k++) {
      const middle = (low + high) / 2
      if (f(middle) > 0) low = middle
      else high = middle
    }
    return low
  }
  return Infinity
}

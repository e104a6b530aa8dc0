// How far does an estimate miss what is seen, and how does that change with every unknown?
// Model: a pair misses by the two pixels between its place and where the lens draws its world point. A line misses by the distances of
// its straightened points from the line through their weighted middle and the vanishing point of its direction, brought back to the
// photograph's own pixels (Sampson's distance), so that a lens that bends does not make them larger or smaller.
// Space: columns are LENS_UNKNOWNS (8), three turns, three of the station. Source: handbook-9; hartley2004 (4.2.6, 8.6).

import { distort } from '../camera/index.ts'
import { rotate, type Rotation } from './rotation.ts'
import type { PhotoLens, PhotoLine, PhotoPair, PicturePlace } from './types.ts'
import type { Vec3 } from '../math/index.ts'

export const LENS_COLUMNS = 8
export const COLUMNS = 14

export interface State {
  readonly lens: PhotoLens
  readonly rotation: Rotation
  readonly station: Vec3
}

const isBent = ({ distortion: d }: PhotoLens): boolean =>
  d.k1 !== 0 || d.k2 !== 0 || d.k3 !== 0 || d.p1 !== 0 || d.p2 !== 0

/** Newton's steps to straighten a point, and when they have arrived. */
const STEPS = 30
const EXACT = 1e-15
const at = new Float64Array(5)
/** The straightened point in focal lengths, and the three entries of the lens's Jacobian there, in `at`. */
function straighten(lens: PhotoLens, [px, py]: PicturePlace): void {
  const { focalPx, principal } = lens
  const [xd, yd] = [(px - principal[0]) / focalPx, (py - principal[1]) / focalPx]
  let [x, y] = [xd, yd]
  const { k1, k2, k3, p1, p2 } = lens.distortion
  let [jxx, jxy, jyy] = [1, 0, 1]
  for (let i = 0; i < STEPS; i++) {
    const u = x * x + y * y
    const a = 1 + u * (k1 + u * (k2 + u * k3))
    const slope = 2 * (k1 + u * (2 * k2 + u * 3 * k3))
    jxx = a + x * x * slope + 2 * p1 * y + 6 * p2 * x
    jxy = x * y * slope + 2 * p1 * x + 2 * p2 * y
    jyy = a + y * y * slope + 6 * p1 * y + 2 * p2 * x
    const ex = x * a + 2 * p1 * x * y + p2 * (u + 2 * x * x) - xd
    const ey = y * a + p1 * (u + 2 * y * y) + 2 * p2 * x * y - yd
    const det = jxx * jyy - jxy * jxy
    // past the fold there is no straight point: as far as it goes
    if (!(det > 1e-3)) break
    const [sx, sy] = [(jyy * ex - jxy * ey) / det, (jxx * ey - jxy * ex) / det]
    x -= sx
    y -= sy
    if (sx * sx + sy * sy < EXACT * EXACT) break
  }
  at[0] = x
  at[1] = y
  at[2] = jxx
  at[3] = jxy
  at[4] = jyy
}

/** Straightened points of a line, with their Jacobians: five numbers each. */
export function straightened(lens: PhotoLens, line: PhotoLine): Float64Array {
  const out = new Float64Array(5 * line.points.length)
  const bent = isBent(lens)
  line.points.forEach((p, i) => {
    if (bent) {
      straighten(lens, p)
      out.set(at, 5 * i)
    } else {
      out[5 * i] = (p[0] - lens.principal[0]) / lens.focalPx
      out[5 * i + 1] = (p[1] - lens.principal[1]) / lens.focalPx
      out[5 * i + 2] = out[5 * i + 4] = 1
    }
  })
  return out
}

/** The line that the last distances are from: its normal and a point on it, in straightened focal lengths. */
const fitted = new Float64Array(4)
/** Signed distances, pixels, of a line's points from the line to its vanishing point; `towards` is its direction in camera space. */
export function lineDistances(points: Float64Array, towards: Vec3, focalPx: number, out: Float64Array): void {
  const n = points.length / 5
  const [qx, qy, qz] = towards
  let [mx, my] = [0, 0]
  for (let i = 0; i < n; i++) {
    mx += points[5 * i]! / n
    my += points[5 * i + 1]! / n
  }
  // once for the weights, once with the weighted middle
  for (let round = 0; round < 2; round++) {
    let [nx, ny] = [my * qz - qy, qx - mx * qz]
    const l = Math.hypot(nx, ny) || 1
    nx /= l
    ny /= l
    let [sw, sx, sy] = [0, 0, 0]
    for (let i = 0; i < n; i++) {
      const [x, y, jxx, jxy, jyy] = [points[5 * i]!, points[5 * i + 1]!, points[5 * i + 2]!, points[5 * i + 3]!, points[5 * i + 4]!] // prettier-ignore
      // a step of one pixel across, in straightened ones
      const det = jxx * jyy - jxy * jxy
      const gx = (jyy * nx - jxy * ny) / det
      const gy = (jxx * ny - jxy * nx) / det
      const w = 1 / (gx * gx + gy * gy)
      sw += w
      sx += w * x
      sy += w * y
      out[i] = focalPx * Math.sqrt(w) * (nx * (x - mx) + ny * (y - my))
    }
    if (round === 1) fitted.set([nx, ny, mx, my])
    if (round === 0) {
      mx = sx / sw
      my = sy / sw
    }
  }
}

/** Where a lens draws the nearest place to each of a line's points that is on the line they are held to. */
export function lineFeet(lens: PhotoLens, rotation: Rotation, line: PhotoLine): PicturePlace[] {
  const points = straightened(lens, line)
  lineDistances(points, towardsOf(rotation, line), lens.focalPx, new Float64Array(line.points.length))
  const [nx, ny, mx, my] = fitted as unknown as [number, number, number, number]
  return line.points.map((_, i) => {
    const [x, y] = [points[5 * i]!, points[5 * i + 1]!]
    const off = nx * (x - mx) + ny * (y - my)
    const drawn = distort({ kind: 'brown', ...lens.distortion }, x - nx * off, y - ny * off)
    // past the fold the lens draws nothing
    return drawn
      ? [lens.principal[0] + lens.focalPx * drawn[0], lens.principal[1] + lens.focalPx * drawn[1]]
      : line.points[i]!
  })
}

/**
 * A pair's two misses in `out`, and where wanted their change with every column in `jx` and `jy` (14 each). False where the world point
 * lies behind the camera.
 */
export function pairMiss(
  { lens, rotation: r, station }: State,
  { world, image }: PhotoPair,
  out: Float64Array,
  jx?: Float64Array,
  jy?: Float64Array,
): boolean {
  const [dx, dy, dz] = [world[0] - station[0], world[1] - station[1], world[2] - station[2]]
  const X = r[0]! * dx + r[1]! * dy + r[2]! * dz
  const Y = r[3]! * dx + r[4]! * dy + r[5]! * dz
  const Z = r[6]! * dx + r[7]! * dy + r[8]! * dz
  if (!(Z > 0)) return false
  const { focalPx: f, principal } = lens
  const { k1, k2, k3, p1, p2 } = lens.distortion
  const [x, y] = [X / Z, Y / Z]
  const u = x * x + y * y
  const a = 1 + u * (k1 + u * (k2 + u * k3))
  const xd = x * a + 2 * p1 * x * y + p2 * (u + 2 * x * x)
  const yd = y * a + p1 * (u + 2 * y * y) + 2 * p2 * x * y
  out[0] = principal[0] + f * xd - image[0]
  out[1] = principal[1] + f * yd - image[1]
  if (!jx || !jy) return true
  const slope = 2 * (k1 + u * (2 * k2 + u * 3 * k3))
  const jxx = f * (a + x * x * slope + 2 * p1 * y + 6 * p2 * x)
  const jxy = f * (x * y * slope + 2 * p1 * x + 2 * p2 * y)
  const jyy = f * (a + y * y * slope + 6 * p1 * y + 2 * p2 * x)
  jx[0] = xd
  jy[0] = yd
  jx[1] = jy[2] = 1
  jy[1] = jx[2] = 0
  jx[3] = f * x * u
  jy[3] = f * y * u
  jx[4] = jx[3] * u
  jy[4] = jy[3] * u
  jx[5] = 2 * f * x * y
  jy[5] = f * (u + 2 * y * y)
  jx[6] = f * (u + 2 * x * x)
  jy[6] = jx[5]
  jx[7] = jx[4] * u
  jy[7] = jy[4] * u
  byPlace(jxx / Z, jxy / Z, -(jxx * x + jxy * y) / Z, X, Y, Z, r, jx)
  byPlace(jxy / Z, jyy / Z, -(jxy * x + jyy * y) / Z, X, Y, Z, r, jy)
  return true
}
/** The six columns of the pose from what a step in camera space changes. */
function byPlace(
  gx: number,
  gy: number,
  gz: number,
  X: number,
  Y: number,
  Z: number,
  r: Rotation,
  j: Float64Array,
): void {
  j[8] = gz * Y - gy * Z
  j[9] = gx * Z - gz * X
  j[10] = gy * X - gx * Y
  j[11] = -(gx * r[0]! + gy * r[3]! + gz * r[6]!)
  j[12] = -(gx * r[1]! + gy * r[4]! + gz * r[7]!)
  j[13] = -(gx * r[2]! + gy * r[5]! + gz * r[8]!)
}

/** The direction of a line in camera space. */
export const towardsOf = (rotation: Rotation, line: PhotoLine): Vec3 => rotate(rotation, line.direction)

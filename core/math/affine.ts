// How is a point of space moved, turned and sized, and back again?
// Model: the upper three rows of a 4 x 4 matrix, row by row; row i holds the three factors and the shift of axis i.
import type { Vec3 } from './vec.ts'

/** Twelve numbers: rows x, y, z of factors and shift. */
export type Affine = readonly number[]
export const UNMOVED: Affine = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0]

/** First `b`, then `a`. */
export function affineProduct(a: Affine, b: Affine): Affine {
  const out: number[] = []
  for (let r = 0; r < 12; r += 4)
    for (let c = 0; c < 4; c++)
      out.push(a[r]! * b[c]! + a[r + 1]! * b[c + 4]! + a[r + 2]! * b[c + 8]! + (c === 3 ? a[r + 3]! : 0))
  return out
}
export const affinePoint = (m: Affine, [x, y, z]: Vec3): Vec3 => [
  m[0]! * x + m[1]! * y + m[2]! * z + m[3]!,
  m[4]! * x + m[5]! * y + m[6]! * z + m[7]!,
  m[8]! * x + m[9]! * y + m[10]! * z + m[11]!,
]
/** Of a direction: without the shift; as long as the sizes make it. */
export const affineDirection = (m: Affine, [x, y, z]: Vec3): Vec3 => [
  m[0]! * x + m[1]! * y + m[2]! * z,
  m[4]! * x + m[5]! * y + m[6]! * z,
  m[8]! * x + m[9]! * y + m[10]! * z,
]
/** How many times larger a volume becomes; below nought where it is mirrored. */
export const affineVolume = (m: Affine): number =>
  m[0]! * (m[5]! * m[10]! - m[6]! * m[9]!) -
  m[1]! * (m[4]! * m[10]! - m[6]! * m[8]!) +
  m[2]! * (m[4]! * m[9]! - m[5]! * m[8]!)
/** The way back; null where everything is pressed flat, or is no number. */
export function affineInverse(m: Affine): Affine | null {
  const d = affineVolume(m)
  if (!(Math.abs(d) > 1e-18) || !Number.isFinite(d)) return null
  const f = (a: number, b: number, c: number, e: number): number => (m[a]! * m[b]! - m[c]! * m[e]!) / d
  const rows = [
    [f(5, 10, 6, 9), f(2, 9, 1, 10), f(1, 6, 2, 5)],
    [f(6, 8, 4, 10), f(0, 10, 2, 8), f(2, 4, 0, 6)],
    [f(4, 9, 5, 8), f(1, 8, 0, 9), f(0, 5, 1, 4)],
  ]
  return rows.flatMap(([a, b, c]) => [a!, b!, c!, -(a! * m[3]! + b! * m[7]! + c! * m[11]!)])
}
/** The same move, told where the origin lies elsewhere: at `by` of the one before. */
export const affineAbout = (m: Affine, by: Vec3): Affine => {
  const to = affineDirection(m, by)
  return m.map((v, i) => (i % 4 === 3 ? v + by[(i - 3) / 4]! - to[(i - 3) / 4]! : v))
}
/** Moved by nothing, turned by a unit quaternion (x, y, z, w), sized along its own axes before that. */
export function affineOf(at: Vec3, [x, y, z, w]: readonly number[], size: Vec3 = [1, 1, 1]): Affine {
  const [a, b, c] = size
  const q = [x!, y!, z!, w!] as const
  const [xx, yy, zz] = [q[0] * q[0], q[1] * q[1], q[2] * q[2]]
  const [xy, xz, yz] = [q[0] * q[1], q[0] * q[2], q[1] * q[2]]
  const [wx, wy, wz] = [q[3] * q[0], q[3] * q[1], q[3] * q[2]]
  return [
    ...[(1 - 2 * (yy + zz)) * a, 2 * (xy - wz) * b, 2 * (xz + wy) * c, at[0]],
    ...[2 * (xy + wz) * a, (1 - 2 * (xx + zz)) * b, 2 * (yz - wx) * c, at[1]],
    ...[2 * (xz - wy) * a, 2 * (yz + wx) * b, (1 - 2 * (xx + yy)) * c, at[2]],
  ]
}

// From where are three known points seen in three given directions?
// Model: Grunert's quartic in the ratio of two distances; up to four stations. Source: haralick1994 (its idea; the polynomial is formed
// here from the law of cosines).

import { cross, dot, normalize, sub, type Vec3 } from '../math/index.ts'
import { quarticRoots } from './quartic.ts'
import type { Rotation } from './rotation.ts'

export interface ThreePointPose {
  readonly rotation: Rotation
  readonly station: Vec3
}

/** `rays` are unit vectors in camera space (z forward). Empty where the points lie on one line or the rays are one. */
export function threePointPoses(
  world: readonly [Vec3, Vec3, Vec3],
  rays: readonly [Vec3, Vec3, Vec3],
): ThreePointPose[] {
  const [p1, p2, p3] = world
  const [f1, f2, f3] = rays
  const square = (v: Vec3): number => dot(v, v)
  const [a2, b2, c2] = [square(sub(p2, p3)), square(sub(p1, p3)), square(sub(p1, p2))]
  const flat = square(cross(sub(p2, p1), sub(p3, p1)))
  if (!(flat > 1e-16 * Math.max(a2, b2, c2) ** 2)) return []
  const [ca, cb, cg] = [dot(f2, f3), dot(f1, f3), dot(f1, f2)]
  // with s2 = u s1, s3 = v s1: u = N(v) / 2 D(v), and what the law of cosines over the third side leaves is a quartic in v
  const q = (a2 - c2) / b2
  const V = [1, -2 * cb, 1]
  const N = [1 + q, -2 * q * cb, q - 1]
  const D = [cg, -ca]
  const D2 = times(D, D)
  const terms = [times(D2, [4]), times(N, N), times(times(N, D), [-4 * cg]), times(times(V, D2), [(-4 * c2) / b2])]
  const roots = quarticRoots(...([0, 1, 2, 3, 4].map((k) => terms.reduce((sum, t) => sum + (t[k] ?? 0), 0)) as [number, number, number, number, number])) // prettier-ignore
  const base = basisOf(p1, p2, p3)
  return roots.flatMap((v) => {
    const under = 1 + v * v - 2 * v * cb
    const below = 2 * (cg - v * ca)
    if (!(v > 0) || !(under > 0) || Math.abs(below) < 1e-12) return []
    const u = ((q - 1) * v * v - 2 * q * cb * v + 1 + q) / below
    if (!(u > 0)) return []
    const s1 = Math.sqrt(b2 / under)
    const seen = [f1, f2, f3].map((f, i) => f.map((x) => x * s1 * [1, u, v][i]!) as unknown as Vec3) as [
      Vec3,
      Vec3,
      Vec3,
    ]
    return [poseOf(base, p1, basisOf(...seen), seen[0])]
  })
}
/** The product of two polynomials. */
function times(a: readonly number[], b: readonly number[]): number[] {
  const out = new Array<number>(a.length + b.length - 1).fill(0)
  a.forEach((x, i) => b.forEach((y, j) => (out[i + j] = out[i + j]! + x * y)))
  return out
}
/** A right-handed basis of a triangle. */
function basisOf(a: Vec3, b: Vec3, c: Vec3): readonly [Vec3, Vec3, Vec3] {
  const x = normalize(sub(b, a))
  const n = cross(x, sub(c, a))
  const z = normalize(n)
  return [x, cross(z, x), z]
}
/** The rotation that takes one basis to the other, and the station that takes one point to the other. */
function poseOf(world: readonly Vec3[], at: Vec3, camera: readonly Vec3[], seen: Vec3): ThreePointPose {
  const rotation = new Float64Array(9)
  for (let i = 0; i < 3; i++)
    for (let j = 0; j < 3; j++) rotation[3 * i + j] = world.reduce((sum, w, k) => sum + camera[k]![i]! * w[j]!, 0)
  const back = (j: number): number => rotation[j]! * seen[0] + rotation[3 + j]! * seen[1] + rotation[6 + j]! * seen[2]
  return { rotation, station: [at[0] - back(0), at[1] - back(1), at[2] - back(2)] }
}

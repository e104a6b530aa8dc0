// How do points and directions add up?
// Space: any; three numbers in double precision. Thin over gl-matrix's formulas, but on readonly tuples (gl-matrix works in
// place and in single precision unless it is given arrays).

import { vec3 } from 'gl-matrix'

export type Vec3 = readonly [number, number, number]

type Out = [number, number, number]
const out = (): Out => [0, 0, 0]

export const add = (a: Vec3, b: Vec3): Vec3 => vec3.add(out(), a as Out, b as Out) as unknown as Vec3
export const sub = (a: Vec3, b: Vec3): Vec3 => vec3.sub(out(), a as Out, b as Out) as unknown as Vec3
export const scale = (a: Vec3, s: number): Vec3 => vec3.scale(out(), a as Out, s) as unknown as Vec3
/** a + s b */
export const addScaled = (a: Vec3, b: Vec3, s: number): Vec3 =>
  vec3.scaleAndAdd(out(), a as Out, b as Out, s) as unknown as Vec3
export const dot = (a: Vec3, b: Vec3): number => vec3.dot(a as Out, b as Out)
export const cross = (a: Vec3, b: Vec3): Vec3 => vec3.cross(out(), a as Out, b as Out) as unknown as Vec3
export const length = (a: Vec3): number => Math.hypot(a[0], a[1], a[2])
export const distance = (a: Vec3, b: Vec3): number => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2])

/** The unit vector; RangeError for a zero vector. */
export function normalize(a: Vec3): Vec3 {
  const l = length(a)
  if (!(l > 0)) throw new RangeError(`normalize: vector ${a.join(', ')} has no direction`)
  return [a[0] / l, a[1] / l, a[2] / l]
}

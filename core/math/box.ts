// What axis-aligned box holds these points?

import type { Vec3 } from './vec.ts'

export interface Box {
  readonly min: Vec3
  readonly max: Vec3
}

export const boxCentre = (b: Box): Vec3 => [
  (b.min[0] + b.max[0]) / 2,
  (b.min[1] + b.max[1]) / 2,
  (b.min[2] + b.max[2]) / 2,
]
export const boxSize = (b: Box): Vec3 => [b.max[0] - b.min[0], b.max[1] - b.min[1], b.max[2] - b.min[2]]

export function boxCorners(b: Box): Vec3[] {
  const pick = (i: number, axis: 0 | 1 | 2): number => ((i >> axis) & 1 ? b.max[axis] : b.min[axis])
  return Array.from({ length: 8 }, (_, i) => [pick(i, 0), pick(i, 1), pick(i, 2)] as const)
}

export const joinBoxes = (a: Box, b: Box): Box => ({
  min: [Math.min(a.min[0], b.min[0]), Math.min(a.min[1], b.min[1]), Math.min(a.min[2], b.min[2])],
  max: [Math.max(a.max[0], b.max[0]), Math.max(a.max[1], b.max[1]), Math.max(a.max[2], b.max[2])],
})

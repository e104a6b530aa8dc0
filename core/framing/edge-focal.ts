// At which focal length does an edge of the picture pass over a point in plan?
// Model: the ray through the middle of the left or right edge is f F + x R + y U with the axes of the tilted, rolled camera; seen from
// above it must point at the place. Linear in f. Space: world metres, sensor millimetres. Source: handbook-1.

import { axesOf, type Camera, isPerspective, throughSensor, usedSensor } from '../camera/index.ts'

/** Steps in which the ray of a bent edge and its focal length find each other. */
const BENT_STEPS = 40

/**
 * The focal length in millimetres, above nought; null where the edge passes there at none (behind, on the other side, or looking
 * straight down). Perspective only.
 */
export function focalOfEdge(camera: Camera, side: 'left' | 'right', x: number, y: number): number | null {
  const { pose, lens, frame } = camera
  if (!isPerspective(lens)) return null
  const { forward: F, right: R, up: U } = axesOf(pose)
  const halfMm = usedSensor(lens, frame).widthMm / 2
  const alongMm = lens.crossMm + (side === 'left' ? -halfMm : halfMm)
  const to = [x - pose.station[0], y - pose.station[1]] as const
  const across = (v: readonly number[]): number => v[0]! * to[1] - v[1]! * to[0]
  const ahead = across(F)
  let edge = [0, 1].map((k) => alongMm * R[k]! + lens.riseMm * U[k]!) as [number, number]
  let focalMm = -across(edge) / ahead
  // a lens that distorts sees that place of the sensor along another ray, which goes with the focal length
  for (let i = 0; lens.distortion && i < BENT_STEPS; i++) {
    const seen = throughSensor({ ...lens, focalMm }, alongMm, lens.riseMm)
    if (!seen) return null
    edge = [0, 1].map((k) => focalMm * (seen[0] * R[k]! + seen[1] * U[k]!)) as [number, number]
    focalMm = -across(edge) / ahead
  }
  if (!Number.isFinite(focalMm) || focalMm <= 0) return null
  const towards = (focalMm * F[0] + edge[0]) * to[0] + (focalMm * F[1] + edge[1]) * to[1]
  return towards > 0 ? focalMm : null
}

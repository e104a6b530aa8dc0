// How large must the frame be to hold some points at the scale the picture has?
import { projectPoint, type Camera, type Frame } from '../camera/index.ts'
import type { Vec3 } from '../math/index.ts'
import type { Sides } from './fit-types.ts'

/**
 * The frame, in whole pixels at the same density, whose picture of a parallel view holds all of `points` at the present scale with
 * margins `sides` (parts of the frame); null where a point has no picture, there are none, or the margins leave no room.
 */
export function frameHolding(camera: Camera, points: readonly Vec3[], sides: Sides): Frame | null {
  const at = points.map((p) => projectPoint(camera, p))
  const free = { x: 1 - sides.left - sides.right, y: 1 - sides.top - sides.bottom }
  if (at.length === 0 || at.some((p) => p === null) || free.x <= 0 || free.y <= 0) return null
  const span = (k: 'xPx' | 'yPx'): number => Math.max(...at.map((p) => p![k])) - Math.min(...at.map((p) => p![k]))
  const whole = (px: number): number => Math.max(16, Math.ceil(px - 1e-6))
  return { ...camera.frame, widthPx: whole(span('xPx') / free.x), heightPx: whole(span('yPx') / free.y) }
}

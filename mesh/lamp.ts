// What does a lamp of the file send into a direction? Source: khr-lights-punctual.
import type { Vec3 } from '#core/math'

export interface Lamp {
  readonly place: Vec3
  /** The object it belongs to; '' where it has none. */
  readonly objectId: string
  /** Candela by channel; of a spot in its inner cone. */
  readonly candela: Vec3
  /** A spot's direction and the cosines of its inner and outer half-angles; null of a lamp that shines to all sides. */
  readonly spot: { readonly direction: Vec3; readonly inner: number; readonly outer: number } | null
}
/** Of its candela the share that a spot sends into a direction (from it, unit); 1 of other lamps. */
export function spotShare({ spot }: Lamp, direction: Vec3): number {
  if (!spot) return 1
  const cos = spot.direction[0] * direction[0] + spot.direction[1] * direction[1] + spot.direction[2] * direction[2]
  const t = Math.min(1, Math.max(0, (cos - spot.outer) / Math.max(0.001, spot.inner - spot.outer)))
  return t * t
}

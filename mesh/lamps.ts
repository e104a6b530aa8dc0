// Which lamps does a model bring with it?
// Model: point and spot lights of the file in candela, with the spot's fall-off between its cones; lights from one direction are left
// to the project's own sun. Space: the scene's own metres, Z up. Source: khr-lights-punctual.
import { PointLight, SpotLight, Vector3, type Object3D } from 'three'
import type { Vec3 } from '#core/math'

export interface Lamp {
  readonly place: Vec3
  /** Candela by channel; of a spot in its inner cone. */
  readonly candela: Vec3
  /** A spot's direction and the cosines of its inner and outer half-angles; null of a lamp that shines to all sides. */
  readonly spot: { readonly direction: Vec3; readonly inner: number; readonly outer: number } | null
}
/** More lamps a scene are not looked at. */
const MOST = 200

export function lampsOf(scene: Object3D): Lamp[] {
  const found: Lamp[] = []
  const at = new Vector3()
  const to = new Vector3()
  scene.updateMatrixWorld(true)
  scene.traverse((o) => {
    const isSpot = o instanceof SpotLight
    if (!(isSpot || o instanceof PointLight) || found.length >= MOST) return
    const { color: c, intensity: i } = o
    const candela: Vec3 = [c.r * i, c.g * i, c.b * i]
    if (!candela.every((v) => Number.isFinite(v) && v >= 0) || !candela.some((v) => v > 0)) return
    at.setFromMatrixPosition(o.matrixWorld)
    if (![at.x, at.y, at.z].every(Number.isFinite)) return
    const spot = isSpot ? spotOf(o, at, to) : null
    found.push({ place: [at.x, at.y, at.z], candela, spot })
  })
  return found
}
function spotOf(o: SpotLight, at: Vector3, to: Vector3): Lamp['spot'] {
  to.setFromMatrixPosition(o.target.matrixWorld).sub(at).normalize()
  const outer = Math.min(Math.PI / 2, o.angle)
  return { direction: [to.x, to.y, to.z], inner: Math.cos(outer * (1 - o.penumbra)), outer: Math.cos(outer) }
}

/** Of its candela the share that a spot sends into a direction (from it, unit); 1 of other lamps. */
export function spotShare({ spot }: Lamp, direction: Vec3): number {
  if (!spot) return 1
  const cos = spot.direction[0] * direction[0] + spot.direction[1] * direction[1] + spot.direction[2] * direction[2]
  const t = Math.min(1, Math.max(0, (cos - spot.outer) / Math.max(0.001, spot.inner - spot.outer)))
  return t * t
}

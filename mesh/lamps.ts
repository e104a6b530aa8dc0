// Which lamps does a model bring with it?
// Model: point and spot lights of the file in candela, with the spot's fall-off between its cones; lights from one direction are left
// to the project's own sun. Space: the scene's own metres, Z up. Source: khr-lights-punctual.
import { Vector3, type Object3D, type PointLight, type SpotLight } from 'three'
import type { Vec3 } from '#core/math'
import type { Lamp } from './lamp.ts'

/** More lamps a scene are not looked at. */
const MOST = 200

export function lampsOf(scene: Object3D): Lamp[] {
  const found: Lamp[] = []
  const at = new Vector3()
  const to = new Vector3()
  scene.updateMatrixWorld(true)
  scene.traverse((o) => {
    const { isPointLight, isSpotLight: isSpot } = o as Partial<PointLight & SpotLight>
    if (!(isSpot || isPointLight) || found.length >= MOST) return
    const { color: c, intensity: i } = o as PointLight | SpotLight
    const candela: Vec3 = [c.r * i, c.g * i, c.b * i]
    if (!candela.every((v) => Number.isFinite(v) && v >= 0) || !candela.some((v) => v > 0)) return
    at.setFromMatrixPosition(o.matrixWorld)
    if (![at.x, at.y, at.z].every(Number.isFinite)) return
    const spot = isSpot ? spotOf(o as SpotLight, at, to) : null
    found.push({ place: [at.x, at.y, at.z], objectId: objectOf(o), candela, spot })
  })
  return found
}
/** Itself, or the nearest above it that is an object. */
function objectOf(o: Object3D | null): string {
  for (; o; o = o.parent) if (typeof o.userData['nodeId'] === 'string') return o.userData['nodeId']
  return ''
}
function spotOf(o: SpotLight, at: Vector3, to: Vector3): Lamp['spot'] {
  to.setFromMatrixPosition(o.target.matrixWorld).sub(at).normalize()
  const outer = Math.min(Math.PI / 2, o.angle)
  return { direction: [to.x, to.y, to.z], inner: Math.cos(outer * (1 - o.penumbra)), outer: Math.cos(outer) }
}

// How far is a way from what stands beside it?
// Model: the nearest point of the nearest triangle to each place, glass included; what is hidden, or cut away where it is nearest, does not
// count. Space: the scene's metres. Source: bounding-volume trees (three-mesh-bvh), boxes farther than the best are left out.
import { Vector3 } from 'three'
import type { Vec3 } from '#core/math'
import { isCutAway, type Shown } from '#core/section'
import { hiddenOf, isHidden, wholeOf } from './hidden.ts'
import type { MeshScene } from './scene.ts'

/** Metres from each place (x, y, z by rows, world) to the nearest thing, `farM` where nothing is nearer. */
export function clearances(
  scene: MeshScene,
  places: Float64Array,
  origin: Vec3,
  farM: number,
  shown: Shown,
): Float32Array {
  const out = new Float32Array(places.length / 3)
  const at = new Vector3()
  const hidden = hiddenOf(shown)
  const whole = wholeOf(shown)
  const { list } = shown.cuts
  const counts = (vertex: number, point: Vector3): boolean => {
    if (hidden.size === 0 && list.length === 0) return true
    const { id } = scene.nodeAt(vertex)
    return (
      !isHidden(id, hidden) &&
      (list.length === 0 || isHidden(id, whole) || !isCutAway(list, [point.x, point.y, point.z]))
    )
  }
  for (let k = 0; k < out.length; k++) {
    at.set(places[3 * k]! - origin[0], places[3 * k + 1]! - origin[1], places[3 * k + 2]! - origin[2])
    out[k] = scene.nearest(at, farM, shown, counts)
  }
  return out
}

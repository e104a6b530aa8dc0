// What does one look at the picture see? A grid of rays shared by all checks.
import { axesOf, aimPointOf, poseOfStand, rayThrough, type Camera, type Ray } from '../camera/index.ts'
import { addScaled, dot } from '../math/index.ts'
import type { CheckSetup, Look, SceneFacts, SceneHit } from './types.ts'

/** Rays along the picture's longer side. */
const GRID = 26
const AHEAD_M = 3

/** A picture ray from where the picture begins: the near cut when it is on; parallel pictures begin far behind their plane. */
export function seenFrom(setup: CheckSetup, camera: Camera, ray: Ray): Ray {
  const { near } = setup.cut
  const along = dot(ray.direction, axesOf(camera.pose).forward)
  if (near.on && along > 1e-9) return { ...ray, origin: addScaled(ray.origin, ray.direction, near.distanceM / along) }
  const flat = camera.lens.projection.kind === 'parallel' || camera.lens.projection.kind === 'oblique'
  return flat ? { ...ray, origin: addScaled(ray.origin, ray.direction, -BEHIND_M) } : ray
}
const BEHIND_M = 1e4

export function lookAt(setup: CheckSetup, scene: SceneFacts): Look {
  const camera: Camera = { pose: poseOfStand(setup.stand, scene.centreOf), lens: setup.lens, frame: setup.frame }
  const { widthPx: w, heightPx: h } = camera.frame
  const k = GRID / Math.max(w, h)
  const [nx, ny] = [Math.max(4, Math.round(w * k)), Math.max(4, Math.round(h * k))]
  const grid: (SceneHit | null)[] = []
  for (let j = 0; j < ny; j++)
    for (let i = 0; i < nx; i++) {
      const ray = rayThrough(camera, ((i + 0.5) / nx) * w, ((j + 0.5) / ny) * h)
      const from = ray && seenFrom(setup, camera, ray)
      grid.push(from ? scene.first(from.origin, from.direction, true) : null)
    }
  const seen = grid.filter((x): x is SceneHit => x !== null)
  const keep =
    aimPointOf(setup.stand.aim, scene.centreOf) ??
    seen[Math.floor(seen.length / 2)]?.point ??
    addScaled(camera.pose.station, axesOf(camera.pose).forward, AHEAD_M)
  return { setup, scene, camera, grid, keep }
}

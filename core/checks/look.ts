// What does one look at the picture see? A grid of rays shared by all checks.
import { axesOf, aimPointOf, poseOfStand, type Camera } from '../camera/index.ts'
import { addScaled } from '../math/index.ts'
import { sightThrough } from '../section/index.ts'
import type { CheckScene, CheckSetup, Look, SceneHit } from './types.ts'

/** Rays along the picture's longer side. */
const GRID = 26
const AHEAD_M = 3

export function lookAt(setup: CheckSetup, scene: CheckScene): Look {
  const camera: Camera = { pose: poseOfStand(setup.stand, scene.centreOf), lens: setup.lens, frame: setup.frame }
  const { widthPx: w, heightPx: h } = camera.frame
  const k = GRID / Math.max(w, h)
  const [nx, ny] = [Math.max(4, Math.round(w * k)), Math.max(4, Math.round(h * k))]
  const grid: (SceneHit | null)[] = []
  const sights: ReturnType<typeof sightThrough>[] = []
  for (let j = 0; j < ny; j++)
    for (let i = 0; i < nx; i++) {
      const sight = sightThrough(camera, setup.shown, ((i + 0.5) / nx) * w, ((j + 0.5) / ny) * h)
      sights.push(sight)
      grid.push(sight ? scene.first(sight, true) : null)
    }
  const seen = grid.filter((x): x is SceneHit => x !== null)
  const keep =
    aimPointOf(setup.stand.aim, scene.centreOf) ??
    seen[Math.floor(seen.length / 2)]?.point ??
    addScaled(camera.pose.station, axesOf(camera.pose).forward, AHEAD_M)
  const behindGlass = (i: number): SceneHit | null => (sights[i] ? scene.first(sights[i]) : null)
  return { setup, scene, camera, grid, behindGlass, keep }
}

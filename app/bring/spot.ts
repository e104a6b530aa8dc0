// Where is a further model put? On the floor before the camera, where nothing stands yet.
import { aimPointOf, directionOf, poseOfStand } from '#core/camera'
import { addScaled, boxSize, type Box, type Vec3 } from '#core/math'
import { centreOf } from '../stores/centres.ts'
import { useProject } from '../stores/project.ts'
import { useStage } from '../stores/stage.ts'

/** Ahead, as parts of the way to the aim, and sideways, as parts of the model's width: tried in this order. */
const TRIES = [[1, 0], [0.7, 0], [0.7, 1], [0.7, -1], [0.5, 0], [0.5, 1], [0.5, -1], [1, 1.5], [1, -1.5], [1.3, 0]] as const // prettier-ignore

/** The first place whose footprint is clear up to the model's height; below the aim when all are taken. */
export async function freeSpot(box: Box): Promise<Vec3> {
  const project = useProject()
  const stage = useStage()
  const w = project.working!
  const { station, bearingDeg } = poseOfStand(w.stand, centreOf)
  const aim = aimPointOf(w.stand.aim, centreOf) ?? addScaled(station, directionOf(bearingDeg, 0), 3)
  const away = Math.max(0.5, Math.hypot(aim[0] - station[0], aim[1] - station[1]))
  const [width, depth, height] = boxSize(box)
  const { shown } = project
  const floorAt = async (p: Vec3): Promise<Vec3> => {
    const hit = await stage.rays.floorBelow(p, shown)
    return hit ? hit.point : [p[0], p[1], stage.facts?.box.min[2] ?? 0]
  }
  const isClear = async (at: Vec3): Promise<boolean> => {
    for (const [i, j] of [[0, 0], [-1, -1], [1, -1], [-1, 1], [1, 1]] as const) {
      const from: Vec3 = [at[0] + (i * width) / 2, at[1] + (j * depth) / 2, at[2] + 0.02]
      if (((await stage.rays.freeWay(from, [0, 0, 1], height, shown)) ?? height) < height) return false
    } // prettier-ignore
    return true
  }
  for (const [ahead, aside] of TRIES) {
    const p = addScaled(
      addScaled(station, directionOf(bearingDeg, 0), away * ahead),
      directionOf(bearingDeg + 90, 0),
      Math.max(width, depth) * aside,
    )
    const at = await floorAt(p)
    if (await isClear(at)) return at
  }
  return floorAt(aim)
}

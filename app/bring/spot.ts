// Where is a further model put? On the surface under the aim where it has room, else on the floor before the camera, where nothing
// stands yet.
import { aimPointOf, directionOf, poseOfStand } from '#core/camera'
import { addScaled, boxSize, type Box, type Vec3 } from '#core/math'
import { centreOf } from '../stores/centres.ts'
import { useProject } from '../stores/project.ts'
import { useStage } from '../stores/stage.ts'

/** Ahead, as parts of the way to the aim, and sideways, as parts of the model's width: tried in this order. */
const TRIES = [[1, 0], [0.7, 0], [0.7, 1], [0.7, -1], [0.5, 0], [0.5, 1], [0.5, -1], [1, 1.5], [1, -1.5], [1.3, 0]] as const // prettier-ignore

/** Corners of a footprint, as parts of its half width and depth. */
const CORNERS = [[-1, -1], [1, -1], [-1, 1], [1, 1]] as const // prettier-ignore
/** A surface carries a footprint whose corners lie this near to its height, metres; the aim may lie a little in it. */
const LEVEL_M = 0.02
const IN_M = 0.05

/** The first place whose footprint is carried and clear up to the model's height; below the aim when all are taken. */
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
    for (const [i, j] of [[0, 0], ...CORNERS] as const) {
      const from: Vec3 = [at[0] + (i * width) / 2, at[1] + (j * depth) / 2, at[2] + 0.02]
      if (((await stage.rays.freeWay(from, [0, 0, 1], height, shown)) ?? height) < height) return false
    } // prettier-ignore
    return true
  }
  const surfaceBelow = async (p: Vec3): Promise<Vec3 | null> =>
    (await stage.rays.pickLevel({ origin: p, direction: [0, 0, -1] }, shown))?.point ?? null
  const carries = async (at: Vec3): Promise<boolean> => {
    for (const [i, j] of CORNERS) {
      const corner = await surfaceBelow([at[0] + (i * width) / 2, at[1] + (j * depth) / 2, at[2] + IN_M])
      if (!corner || Math.abs(corner[2] - at[2]) > LEVEL_M) return false
    }
    return true
  }
  const under = await surfaceBelow([aim[0], aim[1], aim[2] + IN_M])
  if (under && (await carries(under)) && (await isClear(under))) return under
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

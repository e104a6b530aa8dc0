// The frame check of a scene that lies about an origin of its own; asked and answered in world coordinates.
import { poseOfStand } from '#core/camera'
import { frameCheck, type CheckSetup, type Finding } from '#core/checks'
import type { Vec3 } from '#core/math'
import { centreWithOffset, isNought, shiftedPoint, shiftedStand } from '#core/placing'
import { moveCut, shiftedShown } from '#core/section'
import { checkScene, type CheckOptions } from './check-scene.ts'
import type { Placed } from './questions.ts'

export function placedCheck(
  { scene, origin }: Placed,
  setup: CheckSetup,
  about: Pick<CheckOptions, 'kind' | 'eyeHeightM' | 'subjectId' | 'people'>,
): readonly Finding[] {
  const away: Vec3 = [-origin[0], -origin[1], -origin[2]]
  const local = { ...setup, stand: shiftedStand(setup.stand, away), shown: shiftedShown(setup.shown, away) }
  const pose = poseOfStand(local.stand, (id, offset) => centreWithOffset(scene.node(id), offset))
  const found = frameCheck(local, checkScene(scene, { ...about, station: pose.station, shown: local.shown }))
  return isNought(origin) ? found : found.map((f) => shifted(f, origin))
}

function shifted(f: Finding, by: Vec3): Finding {
  const { lines, points } = f.show
  const show = {
    ...f.show,
    ...(lines ? { lines: lines.map(([a, b]) => [shiftedPoint(a, by), shiftedPoint(b, by)] as const) } : {}),
    ...(points ? { points: points.map((p) => shiftedPoint(p, by)) } : {}),
  }
  const { mend: own } = f
  const mend = own && {
    ...own,
    ...(own.stand && { stand: shiftedStand(own.stand, by) }),
    ...(own.cut && { cut: moveCut(own.cut, by) }),
  }
  return { ...f, show, ...(mend ? { mend } : {}) }
}

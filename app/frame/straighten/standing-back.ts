// Standing back through the wall: the distance at which the target fills the frame, and the near cut just inside the wall passed.
import { axesOf, type Camera, isPerspective } from '#core/camera'
import { fitPoints, nearCutBehind } from '#core/framing'
import { addScaled, boxCentre, dot, scale, sub, type Box } from '#core/math'
import { useProject } from '../../stores/project.ts'
import { useNotices } from '../../stores/notices.ts'
import { useStage } from '../../stores/stage.ts'
import type { FitTarget } from './fit-target.ts'

/** The eye stays this far off a wall it does not pass; a point on a wall is looked back from this far before it. */
const AWAY_M = 0.2
const BEFORE_M = 0.01

/** The wall that lies between the target and a camera fitted to it, on the way back along the axis; null where none does. */
async function wallPassed(camera: Camera, { box, ids }: FitTarget) {
  const project = useProject()
  const { forward } = axesOf(camera.pose)
  const { station } = camera.pose
  const back = dot(sub(boxCentre(box), station), forward) - BEFORE_M
  // the target itself is no wall in the way, though it may be a wall
  const shown = { ...project.shown, hidden: [...project.shown.hidden, ...ids] }
  const ray = { origin: addScaled(station, forward, back), direction: scale(forward, -1) }
  return useStage().rays.wallAlong(ray, back + AWAY_M, shown)
}

export interface FitChoices {
  readonly target: FitTarget
  readonly fitted: ReturnType<typeof fitPoints>
  /** Makes the fitted camera the project's. */
  readonly take: (camera: Camera, box: Box, label: string) => boolean
}

/** Stands where the target fills the frame, outside the room if need be. */
export async function standBackThrough(camera: Camera, { target, fitted, take }: FitChoices): Promise<void> {
  const project = useProject()
  const notices = useNotices()
  if (project.document!.locked.includes('cut')) {
    notices.say('Cut is locked. Unlock it first: standing back sets the near cut.', 'warning')
    return
  }
  if (!fitted.ok || !isPerspective(camera)) {
    const flat = 'Standing back through the wall is for perspective pictures.'
    notices.say(fitted.ok ? flat : fitted.message, 'warning')
    return
  }
  const hit = await wallPassed(fitted.value, target)
  if (!hit) {
    if (take(fitted.value, target.box, 'Stood back')) {
      project.clearNearCut()
      notices.say('No wall is in the way: the camera stands in the room.')
    }
    return
  }
  const cut = nearCutBehind(fitted.value, hit, target.points)
  if (!cut.ok) {
    notices.say(cut.message, 'warning')
    return
  }
  if (!take(fitted.value, target.box, 'Stood back through the wall')) return
  const near = { on: true, distanceM: cut.value, madeBy: 'standBack' as const }
  project.run({ type: 'setPart', part: 'cut', value: { ...project.working!.cut, near } })
  notices.say(`Through “${hit.nodeName}”: the near cut lies at ${cut.value.toFixed(2)} m, just inside it.`)
}

// A station that was moved back with the subject held: where it passes a wall, the near cut goes with it, just inside that wall.
import { axesOf, type Camera } from '#core/camera'
import { nearCutBehind } from '#core/framing'
import { addScaled, dot, scale, sub, type Vec3 } from '#core/math'
import { useNotices } from '../../stores/notices.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'

/** Looked back from so far before the subject's own surface. */
const BEFORE_M = 0.01

export function useWallBehind() {
  const project = useProject()
  const stage = useStage()
  const notices = useNotices()

  /** The wall between a subject and a camera behind it; null where there is none. */
  async function between(camera: Camera, subject: Vec3) {
    const { forward } = axesOf(camera.pose)
    const { station } = camera.pose
    const away = dot(sub(subject, station), forward) - BEFORE_M
    if (away <= 0 || stage.storeys.length === 0) return null
    const ray = { origin: addScaled(station, forward, away), direction: scale(forward, -1) }
    const shown = { ...project.shown, cuts: { ...project.shown.cuts, nearM: null } }
    return stage.rays.wallAlong(ray, away, shown)
  }
  /** Depth of the near cut just inside the wall between a subject and a camera; null where none is in the way. */
  async function nearFor(camera: Camera, subject: Vec3): Promise<number | null> {
    const wall = await between(camera, subject)
    const near = wall && nearCutBehind(camera, wall, [subject])
    return near?.ok ? near.value : null
  }

  /** Asked after the move: `before` is the camera as it was. */
  async function passed(before: Camera, subject: Vec3): Promise<void> {
    const after = project.camera
    const cut = project.working?.cut
    if (!after || !cut) return
    const way = dot(sub(after.pose.station, before.pose.station), axesOf(after.pose).forward)
    const isOurs = cut.near.on && cut.near.madeBy === 'standBack'
    // nearer, and no near cut of a move back: nothing to ask
    if (way >= 0 && !isOurs) return
    const wall = await between(after, subject)
    if (project.camera !== after) return
    if (!wall) {
      if (isOurs) project.clearNearCut()
      return
    }
    if (project.document!.locked.includes('cut')) {
      notices.say(`“${wall.nodeName}” is between camera and subject, and Cut is locked.`, 'warning')
      return
    }
    const near = nearCutBehind(after, wall, [subject])
    if (!near.ok) {
      notices.say(near.message, 'warning')
      return
    }
    const value = { ...cut, near: { on: true, distanceM: near.value, madeBy: 'standBack' as const } }
    if (!project.run({ type: 'setPart', part: 'cut', value })) return
    notices.say(`The station stands behind “${wall.nodeName}” now: the near cut lies at ${near.value.toFixed(2)} m, just inside it.`) // prettier-ignore
  }
  return { passed, nearFor }
}

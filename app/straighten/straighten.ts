// Square up, centre on, horizon through: one click or key each, the framing kept by rise and cross.
import { createSharedComposable } from '@vueuse/core'
import { bearingDifferenceDeg } from '#core/base'
import { directionOf, type Camera } from '#core/camera'
import { centreOn, horizonThrough, squareUp } from '#core/framing'
import { boxCentre, type Vec3 } from '#core/math'
import { useFraming } from '../picture/framing.ts'
import { usePointer } from '../picture/pointer.ts'
import { useNotices } from '../stores/notices.ts'
import { useProject } from '../stores/project.ts'
import { useStage } from '../stores/stage.ts'
import { useView } from '../stores/view.ts'

export type CentreBy = 'cross' | 'bearing' | 'move'

function straighten() {
  const project = useProject()
  const stage = useStage()
  const view = useView()
  const notices = useNotices()
  const { withCamera, mainBearingDeg, subject } = useFraming()
  const pointer = usePointer()

  const squareTo = (normal: Vec3): boolean => withCamera((c) => squareUp(c, normal, { keepCentre: true }), 'Squared up')
  /** Square to the building's direction that lies nearest to the present bearing. */
  function squareNearest(): void {
    const c = project.camera
    if (!c) return
    const turns = Math.round(bearingDifferenceDeg(mainBearingDeg.value, c.pose.bearingDeg) / 90)
    squareTo(directionOf(mainBearingDeg.value + 90 * turns, 0))
  }
  /** Square to the wall under the pointer; with none there, to the building's nearest direction. */
  async function squareUnderPointer(): Promise<void> {
    const c = project.camera
    if (!c) return
    const hit = pointer.isOver() ? await pointer.under(c) : null
    if (hit && Math.hypot(hit.normal[0], hit.normal[1]) > 0.5) squareTo(hit.normal)
    else squareNearest()
  }

  const centre = (point: Vec3, by: CentreBy): boolean => withCamera((c) => centreOn(c, point, { by }), 'Centred')
  /** Centres on the selected object. */
  function centreSelected(by: CentreBy): void {
    const one = view.selection.length === 1 ? stage.byId.get(view.selection[0]!) : undefined
    if (one) centre(boxCentre(one.box), by)
    else notices.say('Select one object to centre on, or pick a point.', 'warning')
  }

  /** The horizon through a point; the subject keeps its place by rise. */
  function horizon(feature: Vec3): void {
    const keep = subject.value
    if (!keep) return
    if (withCamera((c: Camera) => horizonThrough(c, feature, keep), 'Horizon laid through it'))
      notices.say(`The horizon is at ${feature[2].toFixed(2)} m now; the subject keeps its place.`)
  }
  return { squareTo, squareNearest, squareUnderPointer, centre, centreSelected, horizon }
}
export const useStraighten = createSharedComposable(straighten)

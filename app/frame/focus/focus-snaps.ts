// What catches the focus while its mark is dragged: the aim, places focused on before, and the fronts and middles of things in the picture.
import { aimPointOf, projectPoint } from '#core/camera'
import type { SnapLine } from '#core/framing'
import { boxCentre, boxCorners } from '#core/math'
import { centreOf } from '../../stores/centres.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useFocus } from './focus.ts'

/** As many things are looked at. */
const MOST = 400

/** Distances along the axis, metres. */
export function useFocusSnaps() {
  const project = useProject()
  const stage = useStage()
  const { depth, recent } = useFocus()
  return (): SnapLine[] => {
    const { camera, working } = project
    if (!camera || !working) return []
    const { widthPx, heightPx } = camera.frame
    const aim = aimPointOf(working.stand.aim, centreOf)
    const lines: SnapLine[] = aim ? [{ at: depth(aim), label: 'aim' }] : []
    for (const r of recent.value) lines.push({ at: depth(r.point), label: r.name })
    const things = (stage.facts?.nodes ?? []).filter((n) => n.kind === 'object').slice(0, MOST)
    for (const n of things) {
      const middle = boxCentre(n.box)
      const seen = projectPoint(camera, middle)
      if (!seen || seen.xPx < 0 || seen.yPx < 0 || seen.xPx > widthPx || seen.yPx > heightPx) continue
      lines.push({ at: Math.min(...boxCorners(n.box).map(depth)), label: `front of ${n.name}` })
      lines.push({ at: depth(middle), label: `middle of ${n.name}` })
    }
    return lines.filter((l) => l.at > 0)
  }
}

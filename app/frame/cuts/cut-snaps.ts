// What catches a cut's plane that is dragged: walls parallel to it, mid-lines of rooms, floors and level faces, edges of what is selected.
import { boxCentre, boxCorners, dot, type Vec3 } from '#core/math'
import { directionOf } from '#core/camera'
import type { SnapLine } from '#core/framing'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'

const PARALLEL = 0.9999
/** As many walls are looked at: the largest come first. */
const MOST = 400

/** Places along the normal, metres from the origin. */
export function useCutSnaps() {
  const stage = useStage()
  const view = useView()
  return (normal: Vec3): SnapLine[] => {
    const lines: SnapLine[] = []
    const put = (at: number, label: string): void => void lines.push({ at, label })
    if (Math.abs(normal[2]) > PARALLEL) {
      for (const s of stage.storeys) put(s.heightM * normal[2], s.name)
    }
    for (const w of (stage.walls?.walls ?? []).slice(0, MOST))
      if (Math.abs(dot(w.normal, normal)) > PARALLEL) put(dot(w.point, normal), 'wall')
    for (const l of stage.walls?.centreLines ?? [])
      if (Math.abs(dot(directionOf(l.bearingDeg, 0), normal)) < 0.01 && Math.abs(normal[2]) < 0.01)
        put(dot([l.point[0], l.point[1], 0], normal), 'mid-line')
    for (const id of view.selection.slice(0, 4)) {
      const node = stage.byId.get(id)
      if (!node) continue
      put(dot(boxCentre(node.box), normal), `middle of ${node.name}`)
      const along = boxCorners(node.box).map((p) => dot(p, normal))
      put(Math.min(...along), `edge of ${node.name}`)
      put(Math.max(...along), `edge of ${node.name}`)
    }
    return lines
  }
}

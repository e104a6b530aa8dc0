// What drags and nudges of the marks on Plan do: station, aim, cone edges.
import { ref, type ComputedRef } from 'vue'
import { aimPointOf, heldOnPlan, standMoved, type Stand } from '#core/camera'
import { focalOfEdge } from '#core/framing'
import type { Vec3 } from '#core/math'
import type { Storey } from '#mesh'
import { centreOf } from '../../stores/centres.ts'
import { useProject } from '../../stores/project.ts'
import { useDragEnd } from './ending.ts'
import { usePlanPress, type PlanDrag } from './plan-press.ts'
import { useSnapping } from './snapping.ts'
import type { Strip } from '../../drawings/strip.ts'

export function usePlanDrags(strip: Strip, storey: ComputedRef<Storey | null>, cutZ: ComputedRef<number | null>) {
  const project = useProject()
  const snap = useSnapping(strip.metresPerPx)
  const active = ref<PlanDrag>('')
  const { done, cancel, nudgeAimBy } = useDragEnd(active, snap.clear)
  let from: Stand | null = null

  const begin = (what: PlanDrag): void => {
    active.value = what
    from = project.working?.stand ?? null
  }
  function dragStation(e: PointerEvent, alone: boolean): void {
    if (!from) return
    const at = snap.onPlan(strip.toWorld(e), e)
    const p = e.shiftKey ? heldOnPlan(at, from.station) : at
    const by: Vec3 = [p[0] - from.station[0], p[1] - from.station[1], 0]
    project.show({ stand: standMoved(from, by, alone, centreOf) })
  }
  function dragAim(e: PointerEvent): void {
    const point = from && aimPointOf(from.aim, centreOf)
    if (!from || !point || from.aim.kind === 'direction') return
    const p = e.shiftKey
      ? heldOnPlan(strip.toWorld(e), point)
      : snap.aimOnPlan([...strip.toWorld(e).slice(0, 2), point[2]] as unknown as Vec3, from.station, e)
    project.show({ stand: { ...from, aim: { kind: 'point', point: p, topBearingDeg: from.aim.topBearingDeg } } })
  }
  /** The focal length whose edge ray passes under the pointer. */
  function dragEdge(e: PointerEvent, side: 0 | 1): void {
    const c = project.camera
    const w = project.document?.working
    if (!c || !w) return
    const p = strip.toWorld(e)
    const mm = focalOfEdge({ ...c, lens: w.lens }, side === 0 ? 'left' : 'right', p[0], p[1])
    if (mm === null || mm < 5) return
    project.show({ lens: { ...w.lens, focalMm: Math.min(2000, e.altKey ? mm : Math.round(mm * 10) / 10) } })
  }
  function nudge(dx: number, dy: number, alone: boolean): void {
    const s = project.working?.stand
    if (s) project.move({ stand: standMoved(s, [dx, dy, 0], alone, centreOf) }, 'Nudged')
  }
  const nudgeAim = (dx: number, dy: number): void => nudgeAimBy([dx, dy, 0])

  const down = usePlanPress(strip, { storey, cutZ, snap, active, cancel })
  return { active, begin, dragStation, dragAim, dragEdge, nudge, nudgeAim, done, cancel, down, guides: snap.guides }
}

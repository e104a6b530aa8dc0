// What drags, clicks and nudges on Plan do: station, aim, cone edges, standing anew, picked points.
import { ref, type ComputedRef } from 'vue'
import { aimPointOf, standFromPlan, standMoved, type Stand } from '#core/camera'
import { focalOfEdge } from '#core/framing'
import type { Vec3 } from '#core/math'
import type { Storey } from '#mesh'
import { startDrag } from '../../controls/drag.ts'
import { centreOf } from '../../stores/centres.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'
import { usePicking } from '../straighten/picking.ts'
import { useDragEnd } from './ending.ts'
import { useSnapping } from './snapping.ts'
import type { Strip } from './strip.ts'

export type PlanDrag = '' | 'station' | 'alone' | 'aim' | 'edge' | 'stand'

export function usePlanDrags(strip: Strip, storey: ComputedRef<Storey | null>, cutZ: ComputedRef<number | null>) {
  const project = useProject()
  const stage = useStage()
  const view = useView()
  const picking = usePicking()
  const snap = useSnapping(strip.metresPerPx)
  const active = ref<PlanDrag>('')
  const { done, cancel, nudgeAimBy } = useDragEnd(active, snap.clear)
  let from: Stand | null = null

  const begin = (what: PlanDrag): void => {
    active.value = what
    from = project.working?.stand ?? null
  }
  /** Shift holds to one axis. */
  function held(p: Vec3, origin: Vec3, e: PointerEvent): Vec3 {
    const alongX = Math.abs(p[0] - origin[0]) > Math.abs(p[1] - origin[1])
    return [e.shiftKey && !alongX ? origin[0] : p[0], e.shiftKey && alongX ? origin[1] : p[1], origin[2]]
  }
  function dragStation(e: PointerEvent, alone: boolean): void {
    if (!from) return
    const p = held(snap.onPlan(strip.toWorld(e), e), from.station, e)
    const by: Vec3 = [p[0] - from.station[0], p[1] - from.station[1], 0]
    project.show({ stand: standMoved(from, by, alone, centreOf) })
  }
  function dragAim(e: PointerEvent): void {
    const point = from && aimPointOf(from.aim, centreOf)
    if (!from || !point || from.aim.kind === 'direction') return
    const p = e.shiftKey
      ? held(strip.toWorld(e), point, e)
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

  /** A click that was asked for: what lies there below the cut, or the place at the station's height. */
  async function pick(e: PointerEvent): Promise<void> {
    const p = strip.toWorld(e)
    const station = project.working?.stand.station ?? [0, 0, 0]
    // for a fit only the place in plan counts: at the station's height nothing else can
    if (view.picking === 'fit-points') return picking.take([p[0], p[1], station[2]], null)
    const from: Vec3 = [p[0], p[1], cutZ.value ?? station[2]]
    const hit = await stage.rays.pick({ origin: from, direction: [0, 0, -1] }, project.shown)
    if (view.picking === 'measure') {
      const flat = snap.onPlan(p, e)
      snap.clear()
      return picking.take([flat[0], flat[1], hit?.point[2] ?? from[2]], hit)
    }
    picking.take(hit?.point ?? from, hit)
  }

  /** Empty drags slide the strip; with Stand chosen they draw a stand: the station, then the aim. */
  async function down(e: PointerEvent): Promise<void> {
    const doc = project.document
    if (e.button === 1 || e.button === 2 || view.tool !== 'stand' || view.picking || !doc) {
      if (e.button <= 2) strip.slideStrip(e, () => view.picking && e.button === 0 && void pick(e))
      return
    }
    if (e.button !== 0) return
    e.preventDefault()
    const start = snap.onPlan(strip.toWorld(e), e)
    const bearing = project.camera?.pose.bearingDeg ?? 0
    // the floor is looked for below the cut, so that the chosen storey's is found and not a higher one's
    let floor = storey.value?.heightM ?? 0
    const seek = stage.rays
      .floorBelow([start[0], start[1], cutZ.value ?? floor + 1.2], project.shown)
      .then((hit) => hit && (floor = hit.point[2]))
    let to = start
    const height = (): number => view.standHeightM ?? doc.eyeHeightM
    const show = (): void =>
      void project.show({ stand: standFromPlan([start[0], start[1]], [to[0], to[1]], floor, height(), bearing) })
    active.value = 'stand'
    startDrag(e, {
      move: (_dx, _dy, m) => {
        to = m.shiftKey ? held(strip.toWorld(m), start, m) : snap.aimOnPlan(strip.toWorld(m), start, m)
        show()
      },
      end: () => {
        void seek.then(() => {
          show()
          active.value = ''
          snap.clear()
          project.settle('Stood')
          view.tool = doc.subject === 'room' ? 'turn' : 'orbit'
        })
      },
      cancel,
    })
  }
  return { active, begin, dragStation, dragAim, dragEdge, nudge, nudgeAim, done, cancel, down, guides: snap.guides }
}

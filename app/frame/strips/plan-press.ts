// A press on empty Plan: it slides the strip, takes a point that was asked for, or draws a stand, the station and then the aim.
import type { ComputedRef, Ref } from 'vue'
import { heldOnPlan, standFromPlan } from '#core/camera'
import type { Vec3 } from '#core/math'
import type { Storey } from '#mesh'
import { startDrag } from '../../controls/drag.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'
import { usePicking } from '../straighten/picking.ts'
import type { Snapping } from './snapping.ts'
import type { Strip } from '../../drawings/strip.ts'

/** What is dragged on Plan now. */
export type PlanDrag = '' | 'station' | 'alone' | 'aim' | 'edge' | 'stand'

export interface PlanPress {
  readonly storey: ComputedRef<Storey | null>
  readonly cutZ: ComputedRef<number | null>
  readonly snap: Snapping
  readonly active: Ref<PlanDrag>
  readonly cancel: () => void
}

export function usePlanPress(strip: Strip, on: PlanPress) {
  const project = useProject()
  const view = useView()
  const pick = usePlanPick(strip, on)
  const drawStand = usePlanStand(strip, on)
  return (e: PointerEvent): void => {
    if (e.button === 1 || e.button === 2 || view.tool !== 'stand' || view.picking || !project.document) {
      if (e.button <= 2) strip.slideStrip(e, () => view.picking && e.button === 0 && void pick(e))
    } else if (e.button === 0) drawStand(e)
  }
}

/** A click that was asked for: what lies there below the cut, or the place at the station's height. */
function usePlanPick(strip: Strip, { cutZ, snap }: PlanPress) {
  const project = useProject()
  const stage = useStage()
  const view = useView()
  const picking = usePicking()
  return async (e: PointerEvent): Promise<void> => {
    const p = strip.toWorld(e)
    const station = project.working?.stand.station ?? [0, 0, 0]
    // for a fit only the place in plan counts: at the station's height nothing else can
    if (view.picking === 'fit-points') return picking.take([p[0], p[1], station[2]], null)
    const from: Vec3 = [p[0], p[1], cutZ.value ?? station[2]]
    const hit = await stage.rays.pick({ origin: from, direction: [0, 0, -1] }, project.shown)
    if (view.picking === 'measure' || view.picking === 'cut-line' || view.picking === 'staff') {
      const flat = snap.onPlan(p, e)
      snap.clear()
      return picking.take([flat[0], flat[1], hit?.point[2] ?? from[2]], hit)
    }
    picking.take(hit?.point ?? from, hit)
  }
}

function usePlanStand(strip: Strip, { storey, cutZ, snap, active, cancel }: PlanPress) {
  const project = useProject()
  const stage = useStage()
  const view = useView()
  return (e: PointerEvent): void => {
    const doc = project.document
    if (!doc) return
    e.preventDefault()
    const start = snap.onPlan(strip.toWorld(e), e)
    const bearing = project.camera?.pose.bearingDeg ?? 0
    // the floor is looked for below the cut, so that the chosen storey's is found and not a higher one's
    let floor = storey.value?.heightM ?? 0
    const seek = stage.rays
      .floorBelow([start[0], start[1], cutZ.value ?? floor + 1.2], project.shown)
      .then((hit) => hit && (floor = hit.point[2]))
    let to = start
    const show = (): void => {
      const height = view.standHeightM ?? doc.eyeHeightM
      project.show({ stand: standFromPlan([start[0], start[1]], [to[0], to[1]], floor, height, bearing) })
    }
    active.value = 'stand'
    startDrag(e, {
      move: (_dx, _dy, m) => {
        const at = strip.toWorld(m)
        to = m.shiftKey ? heldOnPlan(at, start) : snap.aimOnPlan(at, start, m)
        show()
      },
      end: () =>
        void seek.then(() => {
          show()
          active.value = ''
          snap.clear()
          project.settle('Stood')
          view.tool = doc.subject === 'room' ? 'turn' : 'orbit'
        }),
      cancel,
    })
  }
}

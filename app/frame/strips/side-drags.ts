// What drags, clicks and nudges on Side do: eye height, the aim's height, standing anew looking up or down, picked points.
import { ref, type Ref } from 'vue'
import { aimPointOf, heldOnSide, isNearUpright, levelWith, standFromSide, standMoved, type Stand } from '#core/camera'
import type { SnapLine } from '#core/framing'
import { distance, type Vec3 } from '#core/math'
import { startDrag } from '../../controls/drag.ts'
import { useFraming } from '../camera/framing.ts'
import { centreOf } from '../../stores/centres.ts'
import { useProject } from '../../stores/project.ts'
import { useView } from '../../stores/view.ts'
import { usePicking } from '../straighten/picking.ts'
import { useDragEnd } from './ending.ts'
import { useSnapping, type Snapping } from './snapping.ts'
import type { Strip } from '../../drawings/strip.ts'

type SideDrag = '' | 'eye' | 'aim' | 'stand'

export function useSideDrags(strip: Strip) {
  const project = useProject()
  const view = useView()
  const snap = useSnapping(strip.metresPerPx)
  const active = ref<SideDrag>('')
  const { done, cancel, nudgeAimBy } = useDragEnd(active, snap.clear)
  let from: Stand | null = null

  const begin = (what: 'eye' | 'aim'): void => {
    active.value = what
    from = project.working?.stand ?? null
  }
  const ownEye = useOwnEye()
  function dragEye(e: PointerEvent): void {
    if (!from) return
    const aim = aimPointOf(from.aim, centreOf)
    // the aim comes along, so that only an object's height can be met
    const level = from.aim.kind === 'object' && aim ? [{ at: aim[2], label: 'level' }] : []
    const z = snap.height(strip.toWorld(e)[2], from.station, [...level, ...ownEye()], e)
    project.show({ stand: standMoved(from, [0, 0, z - from.station[2]], view.stationAlone, centreOf) })
  }
  function dragAim(e: PointerEvent): void {
    const p = from && aimPointOf(from.aim, centreOf)
    if (!from || !p || from.aim.kind === 'direction') return
    const z = snap.height(strip.toWorld(e)[2], p, [{ at: from.station[2], label: 'level' }], e)
    project.show({
      stand: { ...from, aim: { kind: 'point', point: [p[0], p[1], z], topBearingDeg: from.aim.topBearingDeg } },
    })
  }
  function nudgeEye(dy: number): void {
    const s = project.working?.stand
    if (s) project.move({ stand: standMoved(s, [0, 0, dy], false, centreOf) }, 'Eye height')
  }
  const nudgeAim = (dy: number): void => nudgeAimBy([0, 0, dy])

  const down = useSidePress(strip, { snap, active, cancel })
  return { active, begin, dragEye, dragAim, nudgeEye, nudgeAim, done, cancel, down, guides: snap.guides }
}

/** The project's own eye height above the floor, as a height that catches. */
function useOwnEye() {
  const project = useProject()
  const { floor } = useFraming()
  return (): SnapLine[] => {
    const doc = project.document
    return doc && floor.value !== null ? [{ at: floor.value + doc.eyeHeightM, label: 'own eye height' }] : []
  }
}

interface SidePress {
  readonly snap: Snapping
  readonly active: Ref<SideDrag>
  readonly cancel: () => void
}

/** A press on empty Side: it slides the strip, takes a point that was asked for, or draws a stand. */
function useSidePress(strip: Strip, on: SidePress) {
  const project = useProject()
  const view = useView()
  const picking = usePicking()
  /** The place on Side in the plane of the sight line: through the station, or where Side is pinned through its own middle. */
  function inPlane(e: { clientX: number; clientY: number }): Vec3 {
    const p = strip.toWorld(e)
    const s = project.working?.stand.station
    return s ? levelWith(p, s, strip.camera.value.pose.bearingDeg) : p
  }
  const drawStand = useSideStand(inPlane, on)
  return (e: PointerEvent): void => {
    if (e.button === 0 && view.tool === 'stand' && !view.picking && project.document) drawStand(e)
    else if (e.button <= 2)
      strip.slideStrip(e, () => {
        if (view.picking && e.button === 0) picking.take(inPlane(e), null)
      })
  }
}

/** A drag draws a stand, the station and then the aim, up or down and straight up or down too. */
function useSideStand(inPlane: (e: PointerEvent) => Vec3, { snap, active, cancel }: SidePress) {
  const project = useProject()
  const view = useView()
  const ownEye = useOwnEye()
  return (e: PointerEvent): void => {
    const doc = project.document
    if (!doc) return
    e.preventDefault()
    const keep = project.camera?.pose.bearingDeg ?? 0
    const start = inPlane(e)
    const station: Vec3 = [start[0], start[1], snap.height(start[2], start, ownEye(), e)]
    const aimAt = (m: PointerEvent): Vec3 => {
      // Shift holds to one axis: level, or straight up and down
      const p = m.shiftKey ? heldOnSide(inPlane(m), station) : inPlane(m)
      if (!m.altKey && isNearUpright(station, p)) return [station[0], station[1], p[2]]
      return [p[0], p[1], snap.height(p[2], p, [{ at: station[2], label: 'level' }], m)]
    }
    active.value = 'stand'
    startDrag(e, {
      move: (_dx, _dy, m) => {
        const point = aimAt(m)
        if (distance(point, station) > 1e-6) project.show({ stand: standFromSide(station, point, keep) })
      },
      end: (moved) => {
        snap.clear()
        active.value = ''
        if (!moved) return
        project.settle('Stood')
        view.tool = doc.subject === 'room' ? 'turn' : 'orbit'
      },
      cancel,
    })
  }
}

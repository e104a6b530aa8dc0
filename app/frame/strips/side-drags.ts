// What drags, clicks and nudges on Side do: eye height, the aim's height, standing anew looking up or down, picked points.
import { ref } from 'vue'
import { wrapBearingDeg } from '#core/base'
import { aimPointOf, standMoved, type Stand } from '#core/camera'
import { distance, type Vec3 } from '#core/math'
import { startDrag } from '../../controls/drag.ts'
import { useFraming } from '../camera/framing.ts'
import { centreOf } from '../../stores/centres.ts'
import { useProject } from '../../stores/project.ts'
import { useView } from '../../stores/view.ts'
import { usePicking } from '../straighten/picking.ts'
import { useDragEnd } from './ending.ts'
import { useSnapping } from './snapping.ts'
import type { Strip } from './strip.ts'

/** A sight line this near to upright is drawn exactly so. */
const UPRIGHT_DEG = 3

export function useSideDrags(strip: Strip) {
  const project = useProject()
  const view = useView()
  const picking = usePicking()
  const { floor } = useFraming()
  const snap = useSnapping(strip.metresPerPx)
  const active = ref<'' | 'eye' | 'aim' | 'stand'>('')
  const { done, cancel, nudgeAimBy } = useDragEnd(active, snap.clear)
  let from: Stand | null = null

  const begin = (what: 'eye' | 'aim'): void => {
    active.value = what
    from = project.working?.stand ?? null
  }
  const ownEye = () => {
    const doc = project.document
    return doc && floor.value !== null ? [{ at: floor.value + doc.eyeHeightM, label: 'own eye height' }] : []
  }
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

  /** The place on Side in the plane of the sight line: through the station, or where Side is pinned through its own middle. */
  function inPlane(e: { clientX: number; clientY: number }): Vec3 {
    const p = strip.toWorld(e)
    const s = project.working?.stand.station
    const b = (strip.camera.value.pose.bearingDeg * Math.PI) / 180
    if (!s) return p
    // moved along Side's own direction until level with the station
    const off = (s[0] - p[0]) * Math.sin(b) + (s[1] - p[1]) * Math.cos(b)
    return [p[0] + off * Math.sin(b), p[1] + off * Math.cos(b), p[2]]
  }

  /** With Stand chosen a drag draws a stand, the station and then the aim, up or down and straight up or down too. */
  function down(e: PointerEvent): void {
    const doc = project.document
    if (e.button !== 0 || view.tool !== 'stand' || view.picking || !doc) {
      if (e.button <= 2)
        strip.slideStrip(e, () => {
          if (view.picking && e.button === 0) picking.take(inPlane(e), null)
        })
      return
    }
    e.preventDefault()
    const keep = project.camera?.pose.bearingDeg ?? 0
    const start = inPlane(e)
    const station: Vec3 = [start[0], start[1], snap.height(start[2], start, ownEye(), e)]
    active.value = 'stand'
    startDrag(e, {
      move: (_dx, _dy, m) => {
        let point = inPlane(m)
        // Shift holds to one axis: level, or straight up and down
        if (m.shiftKey) {
          const across = Math.hypot(point[0] - station[0], point[1] - station[1])
          const level = across > Math.abs(point[2] - station[2])
          point = level ? [point[0], point[1], station[2]] : [station[0], station[1], point[2]]
        }
        const flat = Math.hypot(point[0] - station[0], point[1] - station[1])
        const rise = point[2] - station[2]
        const upright = Math.abs(rise) > 0 && (Math.atan2(flat, Math.abs(rise)) * 180) / Math.PI < UPRIGHT_DEG
        if (!m.altKey && upright) point = [station[0], station[1], point[2]]
        else point = [point[0], point[1], snap.height(point[2], point, [{ at: station[2], label: 'level' }], m)]
        if (distance(point, station) < 1e-6) return
        // straight down the picture's top keeps the bearing there was
        const topBearingDeg = wrapBearingDeg(rise > 0 && upright ? keep + 180 : keep)
        project.show({ stand: { station, aim: { kind: 'point', point, topBearingDeg }, rollDeg: 0 } })
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
  return { active, begin, dragEye, dragAim, nudgeEye, nudgeAim, done, cancel, down, guides: snap.guides }
}

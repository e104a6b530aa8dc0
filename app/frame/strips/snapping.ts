// Snapping on Plan and Side: square directions, centre lines of rooms and objects, round values. Alt suspends it; what caught is shown.
import { ref, type Ref } from 'vue'
import { atan2Deg, sinDeg } from '#core/base'
import { directionOf } from '#core/camera'
import { roundStepM, snapBearing, snapTo, turnedInPlan, type SnapLine } from '#core/framing'
import { boxCentre, type Vec3 } from '#core/math'
import { useFraming } from '../camera/framing.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'

/** Page pixels within which a line catches; degrees within which a direction does. */
const REACH_PX = 7
/** Heights lie close together: they catch less. */
const HEIGHT_REACH_PX = 4
const REACH_DEG = 1.5
const MOST_REACH_DEG = 10

export interface Guide {
  readonly point: Vec3
  /** Along the ground for Plan; null for a level line in Side. */
  readonly bearingDeg: number | null
  readonly label: string
}

/** Lines of Plan as offsets along (u) and across (v) the building's main direction. */
function usePlanLines() {
  const stage = useStage()
  const view = useView()
  const { mainBearingDeg } = useFraming()
  return (): { u: SnapLine[]; v: SnapLine[] } => {
    const b = mainBearingDeg.value
    const lines = { u: [] as SnapLine[], v: [] as SnapLine[] }
    for (const l of stage.walls?.centreLines ?? []) {
      const turned = Math.abs(sinDeg(l.bearingDeg - b))
      const [u, v] = turnedInPlan(l.point, b)
      if (turned < 1e-3) lines.u.push({ at: u, label: 'centre line' })
      else if (turned > 1 - 1e-6) lines.v.push({ at: v, label: 'centre line' })
    }
    for (const id of view.selection.slice(0, 4)) {
      const node = stage.byId.get(id)
      if (!node) continue
      const [u, v] = turnedInPlan(boxCentre(node.box), b)
      lines.u.push({ at: u, label: `middle of ${node.name}` })
      lines.v.push({ at: v, label: `middle of ${node.name}` })
    }
    return lines
  }
}

export type Snapping = ReturnType<typeof useSnapping>

export function useSnapping(metresPerPx: Ref<number>) {
  const view = useView()
  const { mainBearingDeg } = useFraming()
  const planLines = usePlanLines()
  const guides = ref<readonly Guide[]>([])
  const free = (e: { altKey: boolean }): boolean => e.altKey || !view.snapping
  const reach = (): number => REACH_PX * metresPerPx.value
  const clear = (): void => void (guides.value = [])

  /** A point on Plan, caught by centre lines and round values. */
  function onPlan(p: Vec3, e: { altKey: boolean }): Vec3 {
    clear()
    if (free(e)) return p
    const b = mainBearingDeg.value
    const lines = planLines()
    const [along, across] = turnedInPlan(p, b)
    // round values are those of the world's own axes
    const round = Math.abs(b) < 1e-6 ? roundStepM(metresPerPx.value) : null
    const u = snapTo(along, lines.u, reach(), round)
    const v = snapTo(across, lines.v, reach(), round)
    const point: Vec3 = [...turnedInPlan([u.value, v.value, 0], -b), p[2]]
    guides.value = [
      ...(u.label ? [{ point, bearingDeg: b, label: u.label }] : []),
      ...(v.label ? [{ point, bearingDeg: b + 90, label: v.label }] : []),
    ]
    return point
  }

  /** The aim on Plan as seen from the station: caught by square directions, else by lines. */
  function aimOnPlan(p: Vec3, station: Vec3, e: { altKey: boolean }): Vec3 {
    const [dx, dy] = [p[0] - station[0], p[1] - station[1]]
    const away = Math.hypot(dx, dy)
    if (free(e) || away < 1e-6) {
      clear()
      return p
    }
    // near the station a pixel is many degrees: what is within reach on the page is caught too
    const reachDeg = Math.min(MOST_REACH_DEG, Math.max(REACH_DEG, atan2Deg(reach(), away)))
    const caught = snapBearing(atan2Deg(dx, dy), mainBearingDeg.value, reachDeg)
    if (caught.label === null) return onPlan(p, e)
    const d = directionOf(caught.value, 0)
    guides.value = [{ point: station, bearingDeg: caught.value, label: caught.label }]
    return [station[0] + d[0] * away, station[1] + d[1] * away, p[2]]
  }

  return { guides, clear, onPlan, aimOnPlan, height: useHeights(metresPerPx, guides, free) }
}

/** A height on Side: caught by another height (level), floors, the usual eye height, and round values. */
function useHeights(
  metresPerPx: Ref<number>,
  guides: Ref<readonly Guide[]>,
  free: (e: { altKey: boolean }) => boolean,
) {
  const stage = useStage()
  const { floor } = useFraming()
  return (z: number, at: Vec3, others: readonly SnapLine[], e: { altKey: boolean }): number => {
    guides.value = []
    if (free(e)) return z
    const floors = stage.storeys.map((f) => ({ at: f.heightM, label: f.name }))
    const own = floor.value === null ? [] : [{ at: floor.value + 1.6, label: 'standing' }, { at: floor.value + 1.2, label: 'seated' }] // prettier-ignore
    const near = HEIGHT_REACH_PX * metresPerPx.value
    const r = snapTo(z, [...others, ...own, ...floors], near, roundStepM(metresPerPx.value))
    if (r.label) guides.value = [{ point: [at[0], at[1], r.value], bearingDeg: null, label: r.label }]
    return r.value
  }
}

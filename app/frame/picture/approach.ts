// Going to and fro: never through what is under the pointer, and with the level kept never into a wall.
import { aimPointOf, dolly, focalHoldingSize, type Framing, isPerspective, poseOfStand, toCamera } from '#core/camera'
import { distance, type Vec3 } from '#core/math'
import { centreOf } from '../../stores/centres.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'
import type { Movable } from '../camera/movable.ts'
import { FALLBACK_M, type Looking } from './looking.ts'

/** The way forward ends this far before what is in the way. */
const CLEARANCE_M = 0.3

export function useApproach({ options }: Pick<Looking, 'options'>) {
  const project = useProject()
  const stage = useStage()
  const view = useView()

  /** To and fro; with the level kept never nearer to a wall than the clearance, unless freed. */
  async function towards(t: Movable, from: Framing, point: Vec3, factor: number, stops: boolean): Promise<Framing> {
    const next = dolly(from, point, near(from, point, factor, stops), options(t))
    if (!stops || !options(t).holdLevel || !isPerspective(from.lens)) return next
    const way = [0, 1, 2].map((i) => next.stand.station[i]! - from.stand.station[i]!) as unknown as Vec3
    const length = Math.hypot(...way)
    if (length < 1e-9) return next
    const direction = way.map((v) => v / length) as unknown as Vec3
    const far = length + CLEARANCE_M
    const metres = (await stage.rays.freeWay(from.stand.station, direction, far, project.shown)) ?? far
    const allowed = Math.max(0, Math.min(length, metres - CLEARANCE_M))
    if (allowed >= length) return next
    const k = 1 - (1 - near(from, point, factor, stops)) * (allowed / length)
    return dolly(from, point, k, options(t))
  }
  /** Never through what is under the pointer. */
  function near(from: Framing, point: Vec3, factor: number, stops: boolean): number {
    if (!stops || factor >= 1 || !isPerspective(from.lens)) return factor
    const away = distance(from.stand.station, point)
    const least = Math.min(CLEARANCE_M, Math.max(0.01, (stage.facts ? size() : 1) * 0.02))
    return Math.max(factor, Math.min(1, least / Math.max(away, 1e-6)))
  }
  const size = (): number => {
    const { min, max } = stage.facts!.box
    return Math.hypot(max[0] - min[0], max[1] - min[1], max[2] - min[2])
  }
  function heldFocal(from: Framing, factor: number): Framing {
    const aim = view.lensPoint ?? aimPointOf(from.stand.aim, centreOf)
    const depth = aim ? -toCamera(poseOfStand(from.stand, centreOf), aim)[2] : FALLBACK_M
    return focalHoldingSize(
      from,
      Math.max(0.1, depth),
      Math.min(2000, Math.max(5, from.lens.focalMm / factor)),
      centreOf,
    )
  }

  return { towards, heldFocal }
}

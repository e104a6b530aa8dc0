// Is a place indoors? Then a plain drag turns in place; outdoors and for products it orbits.
import { directionOf } from '#core/camera'
import { ALL_SHOWN, type Shown } from '#core/section'
import { boxCentre, type Box, type Vec3 } from '#core/math'
import { DEFAULT_EYE_HEIGHT_M } from '#model'
import { useStage } from './stage.ts'

/** Whether there are walls on three sides at least, or a roof above. */
export async function isIndoors(eye: Vec3, shown: Shown = ALL_SHOWN): Promise<boolean> {
  const stage = useStage()
  const hits = await Promise.all(
    [0, 90, 180, 270].map((b) => stage.rays.pick({ origin: eye, direction: directionOf(b, 0) }, shown)),
  )
  const above = await stage.rays.pick({ origin: eye, direction: [0, 0, 1] }, shown)
  return above !== null || hits.filter(Boolean).length >= 3
}

/** The middle of a model at eye height over its lowest storey. */
export function middleOf(box: Box): Vec3 {
  const stage = useStage()
  const c = boxCentre(box)
  return [c[0], c[1], Math.min((stage.storeys[0]?.heightM ?? box.min[2]) + DEFAULT_EYE_HEIGHT_M, c[2])]
}

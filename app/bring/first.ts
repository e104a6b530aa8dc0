// Where does a camera first stand before a model nobody has framed yet?
// Small things are looked at from the front, a little from above, filling the frame; inside an enclosed building one stands on its
// lowest floor at eye height; a building seen from outside is taken whole from its south-west.
import { directionOf } from '#core/camera'
import { addScaled, boxCentre, boxSize, type Vec3 } from '#core/math'
import type { SceneFacts, Storey } from '#mesh'
import { aimAt, DEFAULT_EYE_HEIGHT_M, type Setup, type Subject } from '#model'

const PRODUCT_UP_TO_M = 2.5
/** Half the angle a 36 x 24 mm picture sees upwards, as a tangent, with a little air. */
const tangent = (focalMm: number): number => (12 / focalMm) * 0.82

export const subjectOf = (facts: SceneFacts): Subject =>
  Math.max(...boxSize(facts.box)) <= PRODUCT_UP_TO_M ? 'product' : 'room'

export function firstStand(facts: SceneFacts, storeys: readonly Storey[], inside: boolean): Setup['stand'] {
  const size = boxSize(facts.box)
  const centre = boxCentre(facts.box)
  const radius = Math.hypot(...size) / 2
  if (subjectOf(facts) === 'product') {
    const away = radius / tangent(70)
    return aimAt(addScaled(centre, directionOf(345, -12), -Math.max(away, 0.05)), centre)
  }
  const floor = storeys[0]?.heightM ?? facts.box.min[2]
  const eye = floor + DEFAULT_EYE_HEIGHT_M
  if (!inside) {
    const away = radius / tangent(24)
    const back = addScaled([centre[0], centre[1], 0], directionOf(40, 0), -away)
    return aimAt([back[0], back[1], eye], [centre[0], centre[1], eye])
  }
  const longX = size[0] >= size[1]
  const station: Vec3 = longX
    ? [facts.box.min[0] + size[0] * 0.12, facts.box.min[1] + size[1] * 0.32, eye]
    : [facts.box.min[0] + size[0] * 0.32, facts.box.min[1] + size[1] * 0.12, eye]
  return aimAt(station, [centre[0], centre[1], eye])
}

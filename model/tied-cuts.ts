// Where near and far cut lie now: at their distance, or tied to the aim or to a place, so that they stay when the camera moves.
import { type AimCentre, aimPointOf, axesOf, isParallel, poseOfStand } from '#core/camera'
import { dot, sub } from '#core/math'
import type { Setup } from './parts.ts'

type Cut = Setup['cut']
type End = 'near' | 'far'
/** Nearer a near cut is not, in perspective, metres. */
const NEAREST_M = 0.001

const known = new WeakMap<Cut, Cut>()

/** The cut part with the distances of tied ends worked out; the same value where nothing is tied. */
export function cutAsShown({ cut, stand, lens }: Pick<Setup, 'cut' | 'stand' | 'lens'>, centreOf?: AimCentre): Cut {
  if (!cut.near.tied && !cut.far.tied) return cut
  const isFlat = isParallel(lens)
  const [near, far] = [resolved(cut, 'near', stand, isFlat, centreOf), resolved(cut, 'far', stand, isFlat, centreOf)]
  const before = known.get(cut)
  if (before?.near.distanceM === near.distanceM && before.far.distanceM === far.distanceM) return before
  const made = { ...cut, near, far }
  known.set(cut, made)
  return made
}

function resolved<E extends End>(
  cut: Cut,
  end: E,
  stand: Setup['stand'],
  isFlat: boolean,
  centreOf?: AimCentre,
): Cut[E] {
  const { tied } = cut[end]
  if (!tied) return cut[end]
  const target = tied.to === 'aim' ? aimPointOf(stand.aim, centreOf) : tied.point
  // a camera without an aim keeps the distance it had
  if (!target) return cut[end]
  const { forward } = axesOf(poseOfStand(stand, centreOf))
  const distanceM = dot(forward, sub(target, stand.station)) + tied.offsetM
  return { ...cut[end], distanceM: isFlat ? distanceM : Math.max(NEAREST_M, distanceM) }
}

// What do keys change of a shot?
// Model: curves over its time, each smooth and without overshoot: how far it has come (a share), the focal length (a factor), what is sharp
// (metres), exposure (EV added). Where no curve is, the shot is as it was.
import { throughKeys, type Key } from './ease.ts'
import { anglesOf, type Pose } from '../camera/index.ts'
import { sub } from '../math/index.ts'
import { placeAt, placedPoint, type ObjectPlace } from './objects.ts'
import type { Beside, Filmed, Take } from './types.ts'

/** A shot with its keys, and things that move in it. */
export function keyed(filmed: Filmed, { keys = {}, objects = [], placed: still = [], watch }: Beside): Filmed {
  const { durationS } = filmed
  const has = (list: readonly Key[] | undefined): list is readonly Key[] => list !== undefined && list.length > 0
  const moving = new Set(objects.flatMap((o) => ((o.from ?? o.to) ? [(o.from ?? o.to)!.objectId] : [])))
  const rest = still.filter((p) => !moving.has(p.objectId))
  if (!Object.values(keys).some(has) && objects.length === 0 && rest.length === 0 && !watch) return filmed
  return {
    durationS,
    at(timeS): Take {
      const x = Math.min(1, Math.max(0, timeS / durationS))
      const take = filmed.at(has(keys.progress) ? throughKeys(keys.progress, x) * durationS : timeS)
      const moved = [
        ...(take.moved ?? []),
        ...rest,
        ...objects.map((o) => placeAt(o, x)).filter((p): p is ObjectPlace => p !== null),
      ]
      const seen = watch && watchedFrom(take.pose, watch, moved)
      return {
        ...take,
        ...(seen && { pose: seen }),
        ...(has(keys.focal) && { lens: { ...take.lens, focalMm: take.lens.focalMm * throughKeys(keys.focal, x) } }),
        ...(has(keys.focusM) && {
          focusM:
            1 /
            throughKeys(
              keys.focusM.map((k) => ({ at: k.at, value: 1 / k.value })),
              x,
            ),
        }),
        ...(has(keys.ev) && { ev: take.ev + throughKeys(keys.ev, x) }),
        ...(moved.length > 0 && { moved }),
      }
    },
  }
}
/** Turned to where an object is now; as it was where that lies straight at the eye. */
function watchedFrom(
  pose: Pose,
  { objectId, centre }: NonNullable<Beside['watch']>,
  moved: readonly ObjectPlace[],
): Pose {
  const place = moved.find((p) => p.objectId === objectId)
  const angles = anglesOf(sub(place ? placedPoint(centre, place) : centre, pose.station), pose.bearingDeg)
  return angles ? { ...pose, ...angles } : pose
}

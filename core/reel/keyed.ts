// What do keys change of a shot?
// Model: curves over its time, each smooth and without overshoot (see KEY_CURVES); the aim goes from place to place by time, or stays at
// an object that moves. Where no curve is, the shot is as it was. Order: where it stands, what it looks at, turned and tilted beside that.
import { throughKeys, type Key } from './ease.ts'
import { anglesOf, directionOf, type Pose } from '../camera/index.ts'
import { addScaled, sub, type Vec3 } from '../math/index.ts'
import { placeAt, movedPoint, type ObjectMoved, type ObjectPlace } from './objects.ts'
import type { AimKey, Beside, Filmed, ShotKeys, Take } from './types.ts'

/** Where objects stand at a moment of a shot, seconds, besides what the shot itself moves. */
export type Playing = (timeS: number) => readonly ObjectMoved[]
/** A shot with its keys, and things that move in it. */
export function keyed(
  filmed: Filmed,
  { keys = {}, objects = [], placed: still = [], watch, aim = [] }: Beside,
  playing?: Playing,
): Filmed {
  const { durationS } = filmed
  const has = (list: readonly Key[] | undefined): list is readonly Key[] => list !== undefined && list.length > 0
  const moving = new Set(objects.flatMap((o) => ((o.from ?? o.to) ? [(o.from ?? o.to)!.objectId] : [])))
  const rest = still.filter((p) => !moving.has(p.objectId))
  if (!Object.values(keys).some(has) && objects.length === 0 && rest.length === 0 && !watch && !playing && aim.length === 0) return filmed // prettier-ignore
  return {
    durationS,
    at(timeS): Take {
      const x = Math.min(1, Math.max(0, timeS / durationS))
      const take = filmed.at(has(keys.progress) ? throughKeys(keys.progress, x) * durationS : timeS)
      let known: readonly ObjectMoved[] | undefined
      const moved = (): readonly ObjectMoved[] =>
        (known ??= [
          // within what moves it
          ...(playing?.(timeS) ?? []),
          ...rest,
          ...objects.map((o) => placeAt(o, x)).filter((p): p is ObjectPlace => p !== null),
          // what turns turns as it stands
          ...(take.moved ?? []),
        ])
      const stands = standingAt(take.pose, keys, x)
      const looks = aim.length > 0 ? aimedFrom(stands, aim, x) : watch ? watchedFrom(stands, watch, moved()) : stands
      const pose = turnedBy(looks, keys, x)
      const now: Take = {
        ...take,
        pose,
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
      }
      // a clip of many objects is worked out when somebody asks where they are
      if (playing) return Object.defineProperty(now, 'moved', { get: moved, enumerable: true })
      return moved().length > 0 ? { ...now, moved: moved() } : now
    },
  }
}
const valueAt = (keys: readonly Key[] | undefined, x: number): number => (keys?.length ? throughKeys(keys, x) : 0)
/** Stands beside its place by what the curves say. */
function standingAt(pose: Pose, { aheadM, asideM, riseM }: ShotKeys, x: number): Pose {
  if (!aheadM && !asideM && !riseM) return pose
  const [ahead, aside, rise] = [aheadM, asideM, riseM].map((k) => valueAt(k, x)) as [number, number, number]
  const level = addScaled(pose.station, directionOf(pose.bearingDeg, 0), ahead)
  const station = addScaled(addScaled(level, directionOf(pose.bearingDeg + 90, 0), aside), [0, 0, 1], rise)
  return { ...pose, station }
}
function turnedBy(pose: Pose, { panDeg, tiltDeg }: ShotKeys, x: number): Pose {
  if (!panDeg && !tiltDeg) return pose
  const bearingDeg = (((pose.bearingDeg + valueAt(panDeg, x)) % 360) + 360) % 360
  return { ...pose, bearingDeg, tiltDeg: Math.min(90, Math.max(-90, pose.tiltDeg + valueAt(tiltDeg, x))) }
}
/** Turned to where the aim is on its line. */
function aimedFrom(pose: Pose, aim: readonly AimKey[], x: number): Pose {
  const axis = (i: 0 | 1 | 2): number => throughKeys(aim.map((k) => ({ at: k.at, value: k.point[i] })), x) // prettier-ignore
  const point: Vec3 = [axis(0), axis(1), axis(2)]
  const angles = anglesOf(sub(point, pose.station), pose.bearingDeg)
  return angles ? { ...pose, ...angles } : pose
}
/** Turned to where an object is now; as it was where that lies straight at the eye. */
function watchedFrom(
  pose: Pose,
  { objectId, centre }: NonNullable<Beside['watch']>,
  moved: readonly ObjectMoved[],
): Pose {
  const angles = anglesOf(sub(movedPoint(centre, objectId, moved), pose.station), pose.bearingDeg)
  return angles ? { ...pose, ...angles } : pose
}

// Where is the camera of a shot at a moment?
// Model: one file for each kind below; all give a duration and a take for every moment. Space: world metres, degrees, seconds.
import { ok, refused, type Result } from '../base/index.ts'
import { anglesOf, directionOf, type Lens, type Pose } from '../camera/index.ts'
import { addScaled, distance, sub, type Vec3 } from '../math/index.ts'
import { evenly, leastJerk, throughKeys } from './ease.ts'
import { keyed, type Playing } from './keyed.ts'
import { travelled, type TravelReason } from './travel.ts'
import type { Filmed, HoldShot, PushShot, Shot, Take, TurntableShot, View } from './types.ts'

export type ShotReason = TravelReason | 'no-time'

/** Getting going and coming to rest take this share of an even push or a creep. */
const SOFT_PART = 0.15

/** `playing`: where the model's own animation puts objects at a moment of the shot. */
export function filmed(shot: Shot, playing?: Playing): Result<Filmed, ShotReason> {
  const plain = filmedPlain(shot)
  return plain.ok ? ok(keyed(plain.value, shot, playing)) : plain
}
function filmedPlain(shot: Shot): Result<Filmed, ShotReason> {
  if (shot.kind === 'travel') return travelled(shot)
  const { durationS } = shot
  if (!(durationS > 0)) return refused('no-time', 'A shot lasts longer than nought: type its seconds.')
  const share = (t: number): number => Math.min(1, Math.max(0, t / durationS))
  const of = { hold: () => held(shot as HoldShot), push: () => pushed(shot as PushShot), turntable: () => turned(shot as TurntableShot) }[shot.kind]() // prettier-ignore
  return ok({ durationS, at: (t) => of(share(t)) })
}

/** How far a push has come, 0..1, at a share of its time. */
export const pushShare = (ease: PushShot['ease'], time: number): number => ease === 'soft' ? leastJerk(time) : evenly(time, SOFT_PART) // prettier-ignore

const lookedAt = ({ pose, awayM }: View): Vec3 =>
  addScaled(pose.station, directionOf(pose.bearingDeg, pose.tiltDeg), awayM)
const between = (a: number, b: number, x: number): number => a + (b - a) * x
/** Of what is told by its ratio: focal lengths, f-numbers. */
const inRatio = (a: number, b: number, x: number): number => a * (b / a) ** x
const pointBetween = (a: Vec3, b: Vec3, x: number): Vec3 => addScaled(a, sub(b, a), x)

function held({ view, creep }: HoldShot): (x: number) => Take {
  return (x) => {
    const by = creep * view.awayM * evenly(x, SOFT_PART)
    const { pose, focusM } = view
    const station = addScaled(pose.station, directionOf(pose.bearingDeg, pose.tiltDeg), by)
    // what was sharp stays sharp
    return { ...taken(view), pose: { ...pose, station }, focusM: focusM === null ? null : Math.max(0.01, focusM - by) }
  }
}
const taken = ({ pose, lens, focusM, fNumber, ev }: View): Take => ({ pose, lens, focusM, fNumber, ev })

function pushed({ from, to, ease, holdsSize }: PushShot): (x: number) => Take {
  const [a, b] = [lookedAt(from), lookedAt(to)]
  // about one thing what is looked at tells the way; where the eye moves less than what it looks at, the angles do: on the whole way
  const isAbout =
    distance(a, b) < distance(from.pose.station, to.pose.station) &&
    turnsEvenly(sub(a, from.pose.station), sub(b, to.pose.station))
  const turn = ((((to.pose.bearingDeg - from.pose.bearingDeg) % 360) + 540) % 360) - 180
  const poseAt = (x: number): Pose => {
    const station = pointBetween(from.pose.station, to.pose.station, x)
    const rollDeg = between(from.pose.rollDeg, to.pose.rollDeg, x)
    const bearingDeg = from.pose.bearingDeg + turn * x
    const angles = isAbout ? anglesOf(sub(pointBetween(a, b, x), station), bearingDeg) : null
    const { tiltDeg, ...turned } = angles ?? { bearingDeg, tiltDeg: between(from.pose.tiltDeg, to.pose.tiltDeg, x) }
    return { station, bearingDeg: ((turned.bearingDeg % 360) + 360) % 360, tiltDeg, rollDeg }
  }
  return (time) => {
    const x = pushShare(ease, time)
    // both ends to the last bit
    if (x === 0) return taken(from)
    if (x === 1 && !holdsSize) return taken(to)
    const pose = x === 1 ? to.pose : poseAt(x)
    const awayM = distance(pose.station, pointBetween(a, b, x))
    const lens = lensBetween(from.lens, to.lens, x)
    return {
      pose,
      lens: holdsSize ? { ...lens, focalMm: (from.lens.focalMm * awayM) / from.awayM } : lens,
      focusM: focusBetween(from.focusM, to.focusM, x),
      fNumber: inRatio(from.fNumber, to.fNumber, x),
      ev: between(from.ev, to.ev, x),
    }
  }
}
/** A bearing that follows what is looked at turns at most so many times as quickly as an even one: nearer to it, or over it, it whips round. */
const MOST_UNEVEN = 5
/** Whether a bearing along `way` to `last`, blended, turns without whipping round; both in metres. Its rate is |way x last| / |blended|^2. */
function turnsEvenly(way: Vec3, last: Vec3): boolean {
  const [dx, dy] = [last[0] - way[0], last[1] - way[1]]
  const along = dx * dx + dy * dy
  const x = along > 0 ? Math.min(1, Math.max(0, -(way[0] * dx + way[1] * dy) / along)) : 0
  const least = (way[0] + dx * x) ** 2 + (way[1] + dy * x) ** 2
  const cross = Math.abs(way[0] * last[1] - way[1] * last[0])
  const turn = Math.atan2(cross, way[0] * last[0] + way[1] * last[1])
  return least > 1e-12 && cross <= MOST_UNEVEN * turn * least
}
/** Lenses of one form blend, of two the second one comes in the middle. */
function lensBetween(a: Lens, b: Lens, x: number): Lens {
  const [p, q] = [a.projection, b.projection]
  if (p.kind !== q.kind) return x < 0.5 ? a : b
  const projection = 'widthM' in p && 'widthM' in q ? { ...(x < 0.5 ? p : q), widthM: inRatio(p.widthM, q.widthM, x) } : x < 0.5 ? p : q // prettier-ignore
  return {
    projection,
    focalMm: inRatio(a.focalMm, b.focalMm, x),
    sensorMm: {
      width: between(a.sensorMm.width, b.sensorMm.width, x),
      height: between(a.sensorMm.height, b.sensorMm.height, x),
    },
    sensorUse: x < 0.5 ? a.sensorUse : b.sensorUse,
    riseMm: between(a.riseMm, b.riseMm, x),
    crossMm: between(a.crossMm, b.crossMm, x),
    distortion: bendBetween(a, b, x),
  }
}
const STRAIGHT = { kind: 'brown', k1: 0, k2: 0, k3: 0, p1: 0, p2: 0 } as const
function bendBetween({ distortion: a }: Lens, { distortion: b }: Lens, x: number): Lens['distortion'] {
  if (!a && !b) return null
  const [p, q] = [a ?? STRAIGHT, b ?? STRAIGHT]
  const of = (k: 'k1' | 'k2' | 'k3' | 'p1' | 'p2'): number => between(p[k], q[k], x)
  return { kind: 'brown', k1: of('k1'), k2: of('k2'), k3: of('k3'), p1: of('p1'), p2: of('p2') }
}
/** Focus is pulled evenly in dioptres, as a lens's ring is turned. */
function focusBetween(a: number | null, b: number | null, x: number): number | null {
  if (a === null || b === null) return x < 0.5 ? a : b
  return 1 / between(1 / a, 1 / b, x)
}

function turned(shot: TurntableShot): (x: number) => Take {
  const { view, pivot, turns, direction, pace } = shot
  const aim = lookedAt(view)
  const [off, aimOff] = [sub(view.pose.station, pivot), sub(aim, pivot)]
  const key = (keys: TurntableShot['focal'], x: number, plain: number): number => keys.length > 0 ? throughKeys(keys, x) : plain // prettier-ignore
  return (x) => {
    const share = pace === 'loop' ? x : pace === 'soft' ? leastJerk(x) : (1 - Math.cos(2 * Math.PI * x)) / 2
    // whole turns come back to where it began, to the last bit
    const angle = (direction * 360 * turns * share) % 360
    const [k, up] = [key(shot.distance, x, 1), key(shot.heightM, x, 0)]
    if (shot.spins) {
      const moved = shot.spins.map((objectId) => ({
        objectId,
        moveM: [0, 0, 0] as Vec3,
        turnDeg: -angle,
        hinge: pivot,
      }))
      return { ...taken(view), lens: { ...view.lens, focalMm: view.lens.focalMm * key(shot.focal, x, 1) }, moved }
    }
    const spun = roundUp(angle)
    const [o, a] = [spun(off), spun(aimOff)]
    const station: Vec3 = [pivot[0] + o[0] * k, pivot[1] + o[1] * k, pivot[2] + o[2] + up]
    const isPlain = k === 1 && up === 0
    const bearingDeg = (((view.pose.bearingDeg + angle) % 360) + 360) % 360
    const to = sub([pivot[0] + a[0], pivot[1] + a[1], pivot[2] + a[2]], station)
    const looks = isPlain ? { bearingDeg, tiltDeg: view.pose.tiltDeg } : (anglesOf(to, bearingDeg) ?? { bearingDeg, tiltDeg: view.pose.tiltDeg }) // prettier-ignore
    const nearer = view.awayM - distance([0, 0, 0], to)
    return {
      ...taken(view),
      pose: { ...view.pose, station, ...looks },
      lens: { ...view.lens, focalMm: view.lens.focalMm * key(shot.focal, x, 1) },
      focusM: view.focusM === null || isPlain ? view.focusM : Math.max(0.01, view.focusM - nearer),
    }
  }
}
/** Turned clockwise from above about the upright axis; exact at quarters. */
function roundUp(angleDeg: number): (v: Vec3) => Vec3 {
  const [x, y] = directionOf(angleDeg, 0)
  return ([a, b, c]) => [a * y + b * x, b * y - a * x, c]
}

// Where do things of the model stand while a shot runs?
// Model: a state moves an object by a vector and turns it about an upright line through a place of the world (a hinge); between two states
// of one object both go evenly. Space: world metres, degrees clockwise from above.
import type { Vec3 } from '../math/index.ts'
import { leastJerk } from './ease.ts'

export interface ObjectPlace {
  readonly objectId: string
  readonly moveM: Vec3
  readonly turnDeg: number
  readonly hinge: Vec3
}
/** An object that goes from one state to another in a part of a shot; null is as its file has it. */
export interface ObjectMotion {
  readonly from: ObjectPlace | null
  readonly to: ObjectPlace | null
  /** Shares of the shot's time. */
  readonly fromShare: number
  readonly toShare: number
}

const mix = (a: number, b: number, x: number): number => a + (b - a) * x
/** Between two places of one object: 0 the first, 1 the second. */
export function placeBetween(from: ObjectPlace | null, to: ObjectPlace | null, x: number): ObjectPlace | null {
  if (x <= 0) return from
  if (x >= 1) return to
  const known = from ?? to
  if (!known) return null
  const nought = { moveM: [0, 0, 0] as Vec3, turnDeg: 0, hinge: known.hinge }
  const [a, b] = [from ?? nought, to ?? nought]
  const of = (key: 'moveM' | 'hinge'): Vec3 => [0, 1, 2].map((i) => mix(a[key][i]!, b[key][i]!, x)) as unknown as Vec3
  return { objectId: known.objectId, moveM: of('moveM'), turnDeg: mix(a.turnDeg, b.turnDeg, x), hinge: of('hinge') }
}
/** Where an object is at a share of the shot's time: from rest to rest. */
export function placeAt({ from, to, fromShare, toShare }: ObjectMotion, share: number): ObjectPlace | null {
  const part = toShare - fromShare
  return placeBetween(from, to, part > 0 ? leastJerk((share - fromShare) / part) : share < fromShare ? 0 : 1)
}
/** A point of an object where its place puts it. */
export function placedPoint([x, y, z]: Vec3, { moveM, turnDeg, hinge }: ObjectPlace): Vec3 {
  const r = (turnDeg * Math.PI) / 180
  const [c, s] = [Math.cos(r), Math.sin(r)]
  const [dx, dy] = [x - hinge[0], y - hinge[1]]
  return [hinge[0] + dx * c + dy * s + moveM[0], hinge[1] - dx * s + dy * c + moveM[1], z + moveM[2]]
}

// Where do things of the model stand while a shot runs?
// Model: a state moves an object by a vector and turns it about an upright line through a place of the world (a hinge); between two states
// of one object both go evenly. Space: world metres, degrees clockwise from above.
import { cosDeg, sinDeg } from '../base/index.ts'
import { affineAbout, affinePoint, affineProduct, type Affine, type Vec3 } from '../math/index.ts'
import { leastJerk } from './ease.ts'

export interface ObjectPlace {
  readonly objectId: string
  readonly moveM: Vec3
  readonly turnDeg: number
  readonly hinge: Vec3
}
/** An object that stands elsewhere by any move of the world, as the model's own animation has it. */
export interface ObjectAffine {
  readonly objectId: string
  readonly affine: Affine
}
/** An object that stands elsewhere than in its file, with all below it. */
export type ObjectMoved = ObjectPlace | ObjectAffine
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
/** Where an object's points go. */
export function moveOf(moved: ObjectMoved): Affine {
  if ('affine' in moved) return moved.affine
  const { moveM, turnDeg, hinge } = moved
  const [c, s] = [cosDeg(turnDeg), sinDeg(turnDeg)]
  const [x, y] = [hinge[0] - c * hinge[0] - s * hinge[1], hinge[1] + s * hinge[0] - c * hinge[1]]
  return [c, s, 0, x + moveM[0], -s, c, 0, y + moveM[1], 0, 0, 1, moveM[2]]
}
/** The same told about another origin: at `by` of the one before. */
export const shiftedMoved = (moved: ObjectMoved, by: Vec3): ObjectMoved =>
  'affine' in moved
    ? { ...moved, affine: affineAbout(moved.affine, by) }
    : { ...moved, hinge: moved.hinge.map((v, i) => v + by[i]!) as unknown as Vec3 }
const aboveOf = (id: string): string => id.slice(0, Math.max(0, id.lastIndexOf('/')))
/**
 * Where each object that is named goes: what lies below a moved object moves by its own place first, then with it; of two places of one object the
 * earlier in the list comes first.
 */
export function movesOf(moved: readonly ObjectMoved[]): ReadonlyMap<string, Affine> {
  const own = new Map<string, Affine>()
  for (const m of moved) {
    const before = own.get(m.objectId)
    own.set(m.objectId, before ? affineProduct(moveOf(m), before) : moveOf(m))
  }
  return new Map([...own].map(([id, move]) => {
    let all = move
    for (let at = aboveOf(id); at !== ''; at = aboveOf(at)) if (own.has(at)) all = affineProduct(own.get(at)!, all)
    return [id, all]
  })) // prettier-ignore
}
/** Where a point of an object goes, that may lie below others that move. */
export function movedPoint(point: Vec3, objectId: string, moved: readonly ObjectMoved[]): Vec3 {
  if (moved.length === 0) return point
  const moves = movesOf(moved)
  for (let at = objectId; at !== ''; at = aboveOf(at)) if (moves.has(at)) return affinePoint(moves.get(at)!, point)
  return point
}

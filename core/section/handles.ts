// Where is a plane of a cut taken hold of in a picture, and where on its way does the pointer hold it?
// Model: the plane's own middle over the model (a box's face, a leg); it moves along the normal, and is held at the point of that way
// that comes nearest to the pointer's ray. Space: world metres. Source: handbook-8; the nearest points of two lines.

import type { Ray } from '../camera/index.ts'
import { addScaled, boxCentre, dot, sub, type Box, type Vec3 } from '../math/index.ts'
import type { Cut } from './cuts.ts'
import { planesOf } from './exposed.ts'

export interface CutHandle {
  readonly plane: number
  readonly at: Vec3
  /** Of unit length, towards what goes. */
  readonly normal: Vec3
}
/** Nearer to parallel than this, the ray says nothing about the way. */
const ALONG = 1e-6

/** A handle for each plane of a cut. */
export function cutHandles(cut: Cut, model: Box): CutHandle[] {
  const centre = cut.kind === 'box' ? cut.centre : boxCentre(model)
  return planesOf(cut).map(({ point, normal }, plane) => {
    const about = cut.kind === 'stepped' ? legMiddle(cut, plane, centre) : centre
    return { plane, at: addScaled(about, normal, dot(normal, sub(point, about))), normal }
  })
}
function legMiddle(cut: Cut & { kind: 'stepped' }, plane: number, centre: Vec3): Vec3 {
  const legs = cut.points.slice(1).map((b, i) => [cut.points[i]!, b] as const).filter(([a, b]) => a[0] !== b[0] || a[1] !== b[1]) // prettier-ignore
  const leg = legs[plane]
  return leg ? [(leg[0][0] + leg[1][0]) / 2, (leg[0][1] + leg[1][1]) / 2, centre[2]] : centre
}

/** How far along `normal` from `at` the pointer's ray comes nearest, metres; null where it looks along it. */
export function heldAlong(at: Vec3, normal: Vec3, ray: Ray): number | null {
  const d = ray.direction
  const b = dot(normal, d)
  const across = 1 - b * b
  if (across < ALONG) return null
  const w = sub(at, ray.origin)
  return (b * dot(d, w) - dot(normal, w)) / across
}

// Where is a model put so that it stands on a given point, and which name does it get?

import { cosDeg, sinDeg } from '../base/index.ts'
import { addScaled, boxCentre, type Box, type Vec3 } from '../math/index.ts'
import type { Placement } from './types.ts'

/** Bounds of a file (its own units and axes) in metres with Z up, before placing. */
export function boxInMetres(box: Box, unitM: number, up: 'y' | 'z'): Box {
  const { min, max } = box
  const scaled = (v: Vec3): Vec3 => [v[0] * unitM, v[1] * unitM, v[2] * unitM]
  if (up === 'z') return { min: scaled(min), max: scaled(max) }
  return { min: scaled([min[0], -max[2], min[1]]), max: scaled([max[0], -min[2], max[1]]) }
}

/** A point of the file (in metres, Z up, before placing) in the world. */
export function placedPoint(place: Placement, [x, y, z]: Vec3): Vec3 {
  const c = cosDeg(place.turnDeg) * place.scale
  const s = sinDeg(place.turnDeg) * place.scale
  const [px, py, pz] = place.position
  return [px + c * x + s * y, py - s * x + c * y, pz + place.scale * z]
}

/** The same turn and size, moved so that the middle of the base of `box` (the model's bounds before placing) stands on `point`. */
export function standingOn(place: Placement, box: Box, point: Vec3): Placement {
  const base: Vec3 = [(box.min[0] + box.max[0]) / 2, (box.min[1] + box.max[1]) / 2, box.min[2]]
  const now = placedPoint({ ...place, position: [0, 0, 0] }, base)
  return { ...place, position: [point[0] - now[0], point[1] - now[1], point[2] - now[2]] }
}

/** The same middle of the base with another turn or size; `box` holds the model's bounds before placing. */
export function replaced(
  place: Placement,
  box: Box,
  changes: Partial<Pick<Placement, 'turnDeg' | 'scale'>>,
): Placement {
  const base: Vec3 = [(box.min[0] + box.max[0]) / 2, (box.min[1] + box.max[1]) / 2, box.min[2]]
  return standingOn({ ...place, ...changes }, box, placedPoint(place, base))
}

const STEM_LENGTH = 60
/** A key for a model from its file's name, unlike all of `taken`. */
export function modelKey(fileName: string, taken: readonly string[]): string {
  const stem =
    fileName
      .replace(/\.[^.]*$/, '')
      .replace(/[/#\p{Cc}]/gu, ' ')
      .trim()
      .slice(0, STEM_LENGTH) || 'Model'
  for (let i = 1; ; i++) {
    const key = i === 1 ? stem : `${stem} ${i}`
    if (!taken.includes(key)) return key
  }
}

/** What of an object says where an aim at it lies. */
export interface Aimable {
  readonly box: Box
  /** Unit directions of its own x, y and z. */
  readonly axes: readonly [Vec3, Vec3, Vec3]
}
/** The middle of an object's bounds with an offset along its axes (turned, not scaled); null without one. Source: handbook-0. */
export function centreWithOffset(node: Aimable | undefined, offset: Vec3): Vec3 | null {
  if (!node) return null
  return node.axes.reduce<Vec3>((p, axis, k) => addScaled(p, axis, offset[k]!), boxCentre(node.box))
}

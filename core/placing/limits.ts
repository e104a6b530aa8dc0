// How far from an origin may things lie?
import { ok, refused, type Result } from '../base/index.ts'
import type { Box } from '../math/index.ts'
import { standingOn } from './place.ts'
import { AT_ORIGIN, type Placement } from './types.ts'

/** How far from the world's origin things may lie, metres: surveyed coordinates reach some thousands of kilometres. */
export const WORLD_LIMIT_M = 1e7
/** How far from a file's own origin its corners may lie, in the file's own units. */
export const OWN_UNITS_LIMIT = 1e15

/**
 * Where a first model is put: as it lies in its file, or on the world's origin where that is out of the world's reach. `box` holds
 * its bounds before placing, in metres, Z up. Refused when the model by itself is larger than the world.
 */
export function firstPlace(box: Box): Result<Placement, 'too-large'> {
  const reach = Math.max(...[...box.min, ...box.max].map(Math.abs))
  const size = Math.max(...[0, 1, 2].map((i) => box.max[i]! - box.min[i]!))
  if (size > WORLD_LIMIT_M / 10)
    return refused(
      'too-large',
      `In this unit it is ${Math.round(size / 1000).toLocaleString('en')} km large. Choose a smaller unit.`,
    )
  // some room is left to stand outside
  return ok(reach + 4 * size > WORLD_LIMIT_M ? standingOn(AT_ORIGIN, box, [0, 0, 0]) : AT_ORIGIN)
}

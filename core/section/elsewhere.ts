// What is shown, seen from another origin.
import type { Vec3 } from '../math/index.ts'
import { shiftedMoved } from '../reel/objects.ts'
import { moveCut } from './making.ts'
import type { Shown } from './shown.ts'

/** The same with all cuts moved; the same value where there is nothing to move. */
export function shiftedShown(shown: Shown, by: Vec3): Shown {
  const { list } = shown.cuts
  const { moved } = shown
  if ((list.length === 0 && !moved) || by.every((v) => v === 0)) return shown
  return {
    ...shown,
    ...(moved && { moved: moved.map((m) => shiftedMoved(m, by)) }),
    cuts: list.length === 0 ? shown.cuts : { ...shown.cuts, list: list.map((c) => moveCut(c, by)) },
  }
}

// How is a reel cut by hand: split, and cut into by a viewpoint?
import type { Reel } from '#core/reel'
import type { ReelPart, ShotPart } from '../reel-schemas.ts'
import type { Viewpoint } from '../schema.ts'

/** Pieces shorter than this are none, seconds. */
const LEAST_S = 0.04
const HOLD_S = 3
type Cut = ReelPart['cuts'][number]

/** The list of cuts with the one that a moment lies in parted there; the same list where an end of it is. `places`: as `cutsOf` tells them. */
export function splitAt(
  reel: ReelPart,
  film: Reel,
  places: readonly number[],
  timeS: number,
  newId: () => string,
): readonly Cut[] {
  const placed = film.cuts.findLast((c) => c.startS <= timeS)
  if (!placed) return reel.cuts
  const [into, left] = [timeS - placed.startS, placed.endS - timeS]
  if (into < LEAST_S || left < LEAST_S) return reel.cuts
  const at = placed.fromS + into
  return reel.cuts.flatMap((c, i): Cut[] =>
    i !== places[placed.index]
      ? [c]
      : [
          { ...c, toS: at, dissolveS: 0 },
          { ...c, id: newId(), fromS: at },
        ],
  )
}
/** A viewpoint held at a moment of a reel: cut there, and back. */
export function cutInto(
  reel: ReelPart,
  film: Reel,
  places: readonly number[],
  timeS: number,
  viewpoint: Viewpoint,
  newId: () => string,
): { readonly reel: ReelPart; readonly shots: readonly ShotPart[] } {
  const shot: ShotPart = {
    id: newId(),
    name: viewpoint.name,
    kind: 'hold',
    viewpointId: viewpoint.id,
    durationS: HOLD_S,
    creep: 0,
  }
  const own: Cut = { id: newId(), shotId: shot.id, dissolveS: 0 }
  const cuts = splitAt(reel, film, places, timeS, newId)
  // before the cut that begins nearest to the moment
  const starts = film.cuts.map((c) => ({ at: places[c.index]!, off: Math.abs(c.startS - timeS) }))
  const nearest = starts.reduce((a, b) => (b.off < a.off ? b : a), {
    at: reel.cuts.length,
    off: Math.abs(film.durationS - timeS),
  })
  const parted = cuts === reel.cuts ? nearest.at : cuts.findIndex((c) => !reel.cuts.some((d) => d.id === c.id))
  return { shots: [shot], reel: { ...reel, cuts: [...cuts.slice(0, parted), own, ...cuts.slice(parted)] } }
}

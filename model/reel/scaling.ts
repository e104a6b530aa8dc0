// How is a shot, or a reel, made to last as long as is typed?
// Model: times are multiplied; a walk's speeds are divided and its rests multiplied by one factor, found by halving, since getting going takes
// its own time.
import { filmed, reelOf } from '#core/reel'
import type { ReelPart, ShotPart } from '../reel-schemas.ts'
import type { ProjectDocument } from '../schema.ts'
import { cutsOf, shotOf, type SetupReading } from './resolved.ts'

const RANGE = { least: 0.02, most: 50 } as const
const SPEEDS = { least: 0.01, most: 100 } as const
const SECONDS = { least: 0.04, most: 3600 } as const
const within = (v: number, { least, most }: { readonly least: number; readonly most: number }): number => Math.min(most, Math.max(least, v)) // prettier-ignore

/** The shot with all its times multiplied. */
export function stretched(part: ShotPart, k: number): ShotPart {
  if (part.kind === 'push' && part.fadeS) return { ...part, durationS: within(part.durationS * k, SECONDS), fadeS: Math.min(SECONDS.most, part.fadeS * k) } // prettier-ignore
  if (part.kind !== 'travel') return { ...part, durationS: within(part.durationS * k, SECONDS) }
  return { ...part, stops: part.stops.map((s) => ({ ...s, holdS: Math.min(SECONDS.most, s.holdS * k), speedMps: within(s.speedMps / k, SPEEDS) })) } // prettier-ignore
}
/** The factor that makes something last so long, to a millisecond where it can; nearest otherwise. `lasts` grows with it. */
function factorFor(wantedS: number, lasts: (k: number) => number): number {
  let [lo, hi]: [number, number] = [RANGE.least, RANGE.most]
  for (let i = 0; i < 60; i++) {
    const mid = Math.sqrt(lo * hi)
    if (lasts(mid) < wantedS) lo = mid
    else hi = mid
  }
  return Math.sqrt(lo * hi)
}
/** A shot that lasts so long; null where it cannot be filmed. */
export function lastingShot(
  doc: ProjectDocument,
  part: ShotPart,
  seconds: number,
  reading: SetupReading,
): ShotPart | null {
  if (part.kind !== 'travel') return { ...part, durationS: within(seconds, SECONDS) }
  const lasts = (k: number): number | null => {
    const s = shotOf(doc, stretched(part, k), reading)
    const f = s && filmed(s.shot)
    return f?.ok ? f.value.durationS : null
  }
  if (lasts(1) === null) return null
  return stretched(
    part,
    factorFor(seconds, (k) => lasts(k)!),
  )
}
/** A reel that lasts so long, with its shots; null where nothing of it can be filmed. */
export function lastingReel(
  doc: ProjectDocument,
  reel: ReelPart,
  seconds: number,
  reading: SetupReading,
): { readonly reel: ReelPart; readonly shots: readonly ShotPart[] } | null {
  const used = new Set(reel.cuts.map((c) => c.shotId))
  const own = (doc.shots ?? []).filter((s) => used.has(s.id))
  const scaled = (k: number): { readonly reel: ReelPart; readonly shots: readonly ShotPart[] } => ({
    shots: own.map((s) => stretched(s, k)),
    reel: { ...reel, cuts: reel.cuts.map((c) => ({ ...c, dissolveS: Math.min(SECONDS.most, c.dissolveS * k), ...(c.fromS !== undefined && { fromS: c.fromS * k }), ...(c.toS !== undefined && { toS: c.toS * k }) })) },
  }) // prettier-ignore
  const lasts = (k: number): number => {
    const { reel: r, shots } = scaled(k)
    const by = new Map(shots.map((s) => [s.id, s]))
    return reelOf(cutsOf({ ...doc, shots: (doc.shots ?? []).map((s) => by.get(s.id) ?? s) }, r, reading).cuts).durationS
  }
  return lasts(1) > 0 ? scaled(factorFor(seconds, lasts)) : null
}

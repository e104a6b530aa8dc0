// What does a reel show at a moment?
// Model: cuts in order, each a part of its shot; a dissolve lets the end of one and the beginning of the next run together. Frame k shows the
// time k / rate; n frames last n / rate. Source: handbook-10.
import type { Result } from '../base/index.ts'
import { playedAt, type ClipPlay } from './clips.ts'
import { filmed, type ShotReason } from './shots.ts'
import type { Filmed, ReelCut, Take } from './types.ts'

/** A cut in its place on the reel. */
export interface Placed {
  readonly index: number
  readonly startS: number
  readonly endS: number
  readonly fromS: number
  readonly filmed: Filmed
  /** Runs together with the next one for so long. */
  readonly dissolveS: number
}
export interface Seen {
  readonly take: Take
  /** 1, or its share of a dissolve. */
  readonly weight: number
  readonly cut: number
}
export interface Reel {
  readonly durationS: number
  readonly cuts: readonly Placed[]
  /** Why cuts are left out, by their place in the list. */
  readonly faults: readonly { readonly cut: number; readonly reason: ShotReason; readonly message: string }[]
  /** What is seen: one take, or two that dissolve; none where the reel is empty. */
  at(timeS: number): readonly Seen[]
}

/**
 * Cost of a look: that of one or two shots. Cuts that cannot be filmed are left out and named; the rest stays playable. `plays`: clips of the
 * models on the reel's time.
 */
export function reelOf(cuts: readonly ReelCut[], plays: readonly ClipPlay[] = []): Reel {
  const placed: Placed[] = []
  const faults: { cut: number; reason: ShotReason; message: string }[] = []
  let endS = 0
  cuts.forEach((c, index) => {
    // of the shot's time, once the cut has its place
    let aheadS = 0
    const playing = plays.length > 0 ? (t: number) => playedAt(plays, t + aheadS) : undefined
    const r: Result<Filmed, ShotReason> = filmed(c.shot, playing)
    if (!r.ok) return void faults.push({ cut: index, reason: r.reason, message: r.message })
    const fromS = Math.min(Math.max(0, c.fromS ?? 0), r.value.durationS)
    const toS = Math.min(Math.max(fromS, c.toS ?? r.value.durationS), r.value.durationS)
    const lastsS = toS - fromS
    if (!(lastsS > 0)) return void faults.push({ cut: index, reason: 'no-time', message: 'Nothing is left of this shot between its ends.' }) // prettier-ignore
    const before = placed.at(-1)
    // a dissolve is no longer than either side
    const dissolveS = before ? Math.min(before.dissolveS, before.endS - before.startS, lastsS) : 0
    if (before) placed[placed.length - 1] = { ...before, dissolveS }
    const startS = endS - dissolveS
    aheadS = startS - fromS
    endS = startS + lastsS
    placed.push({ index, startS, endS, fromS, filmed: r.value, dissolveS: c.dissolveS })
  })
  const last = placed.at(-1)
  if (last) placed[placed.length - 1] = { ...last, dissolveS: 0 }
  return { durationS: endS, cuts: placed, faults, at: (t) => seenAt(placed, Math.min(Math.max(0, t), endS)) }
}

function seenAt(placed: readonly Placed[], t: number): Seen[] {
  let i = placed.length - 1
  while (i > 0 && placed[i]!.startS > t) i--
  const now = placed[i]
  if (!now) return []
  const of = (p: Placed, weight: number): Seen => ({ take: p.filmed.at(p.fromS + t - p.startS), weight, cut: p.index })
  const before = placed[i - 1]
  if (!before || t >= before.endS || before.dissolveS <= 0) return [of(now, 1)]
  const share = (t - now.startS) / before.dissolveS
  return [of(before, 1 - share), of(now, share)]
}

/** Frames per second that the trade names by rounding. */
export const RATES = { '23.976': 24000 / 1001, '24': 24, '25': 25, '29.97': 30000 / 1001, '30': 30, '50': 50, '60': 60 } as const // prettier-ignore
/** The takes of all frames at a rate; of a dissolve the stronger one. RangeError for a rate that is not above nought. */
export function framesOf(reel: Reel, fps: number): Take[] {
  if (!(fps > 0)) throw new RangeError(`framesOf: fps must be above nought, got ${fps}`)
  const n = Math.round(reel.durationS * fps)
  return Array.from({ length: n }, (_, k) => {
    const [a, b] = reel.at(k / fps)
    return b && b.weight > a!.weight ? b.take : a!.take
  })
}

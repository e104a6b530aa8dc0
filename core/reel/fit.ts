// How is a reel made comfortable without moving what it shows?
// Model: step by step. Each finding of the comfort check asks for what mends it: time for what is too fast, a look farther ahead for a walk that
// swings, rests where it turns too far or back too soon, a rest at both ends; then the reel is judged anew, until nothing is found or nothing
// helps. Stations of stops stay where they are. What comes too near to a wall is not mended: the way has to be moved by hand.
// Source: handbook-10; the order of remedies is practice.
import { distance, type Vec3 } from '../math/index.ts'
import type { ClipPlay } from './clips.ts'
import { comfortOf, type ComfortFinding, type ComfortLimits } from './comfort.ts'
import type { Key } from './ease.ts'
import { motionOf } from './motion.ts'
import { reelOf, type Reel } from './reel.ts'
import { travelled } from './travel.ts'
import type { ReelCut, Shot, TravelShot, TravelStop } from './types.ts'
import { turnAt, wayOf } from './way.ts'

/** Shots once each, and cuts that name them by their place. */
export interface FitReel {
  readonly shots: readonly Shot[]
  readonly cuts: readonly (Omit<ReelCut, 'shot'> & { readonly shot: number })[]
}
export interface FitAsked {
  readonly fps: number
  /** Degrees across the picture of a shot at a focal length. */
  readonly acrossDeg: (shot: number, focalMm: number) => number
  readonly limits: ComfortLimits
  /** Clips of the models on the reel's time. */
  readonly plays?: readonly ClipPlay[]
}
/** So much better than the limit, so that rounding does not count. */
const SPARE = 1.04
const REST_S = 1.2
const MOST_REST_S = 60
/** A way that turns more than this leads back, radians. */
const BACK_RAD = 1.7
/** So many times over its limit a turn is no bend of the way but a corner. */
const ABRUPT = 3
/** A sharp turn belongs to a stop that is so near: the way swings out beside it. */
const ABRUPT_AT_M = 1.6
const MOST_AHEAD_M = 4
const SLOWEST_MPS = 0.02
const LONGEST_S = 3000
/** A stop this near to where a rest is wanted is rested at, metres. */
const AT_STOP_M = 0.6

/** Findings of a reel; `cut` is the place in its list of cuts. */
export function judged(
  { shots, cuts }: FitReel,
  { fps, acrossDeg, limits, plays }: FitAsked,
): { readonly reel: Reel; readonly findings: readonly ComfortFinding[] } {
  const reel = reelOf(
    cuts.map((c) => ({ ...c, shot: shots[c.shot]! })),
    plays,
  )
  const motion = motionOf(reel, fps)
  const across = (k: number): number => acrossDeg(cuts[motion.cut[k]!]!.shot, motion.focalMm[k]!)
  return {
    reel,
    findings: comfortOf({ reel, motion, shots: cuts.map((c) => shots[c.shot]!), acrossDeg: across, limits }),
  }
}

/** One step: the reel with the remedies of its findings; null where nothing is found, or nothing helps any more. */
export function fitStep(now: FitReel, asked: FitAsked, only?: (f: ComfortFinding) => boolean): FitReel | null {
  const { reel, findings } = judged(now, asked)
  const wanted = only ? findings.filter(only) : findings
  if (wanted.length === 0) return null
  const shots = [...now.shots]
  let cuts = [...now.cuts]
  let isChanged = false
  for (const shot of new Set(wanted.map((f) => now.cuts[f.cut]!.shot))) {
    const own = wanted.filter((f) => now.cuts[f.cut]!.shot === shot)
    const before = shots[shot]!
    // in the shot's own time
    const local = own.map((f) => {
      const placed = reel.cuts.find((c) => c.index === f.cut)!
      const by = placed.fromS - placed.startS
      return { ...f, fromS: f.fromS + by, toS: f.toS + by }
    })
    const after = before.kind === 'travel' ? easedWalk(before, local, asked) : easedShot(before, local, asked)
    if (!after) continue
    isChanged = true
    shots[shot] = after
    const k = lengthOf(after) / lengthOf(before)
    // ends that were trimmed stay at their share
    cuts = cuts.map((c) =>
      c.shot === shot
        ? { ...c, ...(c.fromS !== undefined && { fromS: c.fromS * k }), ...(c.toS !== undefined && { toS: c.toS * k }) }
        : c,
    )
  }
  return isChanged ? { shots, cuts } : null
}
const lengthOf = (shot: Shot): number => {
  if (shot.kind !== 'travel') return shot.durationS
  const r = travelled(shot)
  return r.ok ? r.value.durationS : 0
}

/** Holds, pushes and turntables: more time, and rests in their course. */
function easedShot(
  shot: Exclude<Shot, TravelShot>,
  findings: readonly ComfortFinding[],
  { limits }: FitAsked,
): Shot | null {
  let factor = 1
  let { durationS } = shot
  let progress = shot.keys?.progress ?? []
  for (const f of findings) {
    if (f.kind === 'turn' || f.kind === 'judder') factor = Math.max(factor, (f.value / f.limit) * SPARE)
    else if (f.kind === 'reversal' || f.kind === 'round')
      factor = Math.max(factor, (f.limit / Math.max(f.value, f.limit / 20)) * SPARE)
  }
  const swing = findings.find((f) => f.kind === 'swing')
  if (swing && shot.kind === 'push') {
    const had = rests(progress)
    const pieces = Math.max(had + 2, Math.ceil(swing.value / (0.9 * limits.swingDeg)) * (had + 1))
    durationS += (pieces - 1 - had) * REST_S
    progress = resting(pieces, REST_S / durationS)
  }
  durationS *= factor
  for (const [kind, isStart] of [
    ['starts', true],
    ['ends', false],
  ] as const) {
    if (!findings.some((f) => f.kind === kind)) continue
    const rest = limits.holdEndsS * 1.15
    const share = rest / (durationS + rest)
    progress = withRest(progress, share, isStart)
    durationS += rest
  }
  if ((durationS === shot.durationS && progress === (shot.keys?.progress ?? [])) || durationS > LONGEST_S) return null
  return { ...shot, durationS, ...(progress.length > 0 && { keys: { ...shot.keys, progress } }) }
}
const rests = (keys: readonly Key[]): number =>
  keys.filter((k, i) => i > 0 && keys[i - 1]!.value === k.value && k.value > 0 && k.value < 1).length
/** Even pieces of the way with rests between them. */
function resting(pieces: number, rest: number): Key[] {
  const part = (1 - (pieces - 1) * rest) / pieces
  return Array.from({ length: pieces }, (_, i): Key[] => [
    { at: Math.min(1, i * (part + rest)), value: i / pieces },
    { at: Math.min(1, i * (part + rest) + part), value: (i + 1) / pieces },
  ]).flat()
}
/** The same with a rest at one end. */
function withRest(keys: readonly Key[], share: number, isStart: boolean): Key[] {
  const plain =
    keys.length > 0
      ? keys
      : [
          { at: 0, value: 0 },
          { at: 1, value: 1 },
        ]
  const within = plain.map((k) => ({ at: (isStart ? share : 0) + k.at * (1 - share), value: k.value }))
  return isStart ? [{ at: 0, value: within[0]!.value }, ...within] : [...within, { at: 1, value: within.at(-1)!.value }]
}

/** Walks: slower legs, a look farther ahead, rests. */
function easedWalk(shot: TravelShot, findings: readonly ComfortFinding[], { limits }: FitAsked): Shot | null {
  const r = travelled(shot)
  if (!r.ok) return null
  const plain = !shot.isReversed && !(shot.isClosed && shot.startShare)
  const edit = new WalkEdit(shot, r.value.pace)
  const swings = findings.filter((f) => ['turn', 'judder', 'swing', 'reversal'].includes(f.kind))
  // where the way leads back one stops and turns
  if (
    swings.length > 0 &&
    sharpStops(shot)
      .map((i) => edit.hold(i, REST_S))
      .some(Boolean)
  )
    return edit.made()
  if (shot.gaze.kind === 'along' && swings.length > 0 && shot.gaze.aheadM < MOST_AHEAD_M) {
    // first the look: it costs no time
    edit.aheadM = Math.min(MOST_AHEAD_M, shot.gaze.aheadM * 1.35)
    findings = findings.filter((f) => !swings.includes(f))
  }
  for (const f of findings) {
    const isTurn = f.kind === 'turn' || f.kind === 'judder'
    // too fast at a rest: a longer one; far too fast on the way: it turns on the spot there
    if (isTurn && plain && edit.longer(f, f.value / f.limit)) continue
    if (isTurn && plain && f.value > ABRUPT * f.limit && edit.restAt((f.fromS + f.toS) / 2, REST_S, ABRUPT_AT_M))
      continue
    if (f.kind === 'walk' || isTurn) edit.slow(f, f.value / f.limit, plain)
    else if (f.kind === 'starts') edit.hold(0, limits.holdEndsS * 1.1)
    else if (f.kind === 'ends') edit.hold(shot.isClosed ? 0 : shot.stops.length - 1, limits.holdEndsS * 1.1)
    else if (f.kind === 'swing' && plain) edit.restAt((f.fromS + f.toS) / 2, REST_S)
    else if (f.kind === 'reversal') {
      const missing = f.limit - f.value
      if (plain) edit.restAt(f.toS, missing * SPARE + 0.1)
      else edit.slow(f, f.limit / Math.max(f.value, 0.5), false)
    }
  }
  return edit.made()
}
/** Stops between the ends that the way turns sharply at. */
const sharpStops = ({ stops, isClosed }: TravelShot): number[] => {
  const n = stops.length
  return stops.flatMap((s, i) => {
    if (!isClosed && (i === 0 || i === n - 1)) return []
    const before = stops[(i - 1 + n) % n]!
    const [a, c] = [before.via?.at(-1) ?? before.station, s.via?.[0] ?? stops[(i + 1) % n]!.station]
    return turnAt(a, s.station, c) > BACK_RAD ? [i] : []
  })
}
/** Changes of a walk, gathered. */
class WalkEdit {
  aheadM: number | null = null
  private stops: TravelStop[]
  private speeds: number[]
  private isChanged = false
  private readonly inserted: { readonly alongM: number; readonly holdS: number }[] = []
  private readonly shot: TravelShot
  private readonly pace: {
    readonly stops: readonly { readonly reachedS: number; readonly leftS: number }[]
    at(t: number): { readonly alongM: number }
  }
  constructor(shot: TravelShot, pace: WalkEdit['pace']) {
    this.shot = shot
    this.pace = pace
    this.stops = [...shot.stops]
    this.speeds = shot.stops.map((_, i) => shot.speedsMps[i] ?? shot.speedsMps.at(-1)!)
  }
  /** Legs that are walked in a finding's time. */
  slow(f: ComfortFinding, by: number, isPlain: boolean): void {
    for (let i = 0; i < this.speeds.length; i++) {
      const [a, b] = [this.pace.stops[i]?.leftS ?? 0, this.pace.stops[i + 1]?.reachedS ?? Infinity]
      if (isPlain && (f.toS < a - 0.3 || f.fromS > b + 0.3)) continue
      const wanted = Math.max(SLOWEST_MPS, (this.shot.speedsMps[i] ?? this.shot.speedsMps.at(-1)!) / (by * SPARE))
      if (wanted >= this.speeds[i]! - 1e-9) continue
      this.speeds[i] = wanted
      this.isChanged = true
    }
  }
  hold(i: number, holdS: number): boolean {
    const s = this.stops[i]
    if (!s || s.holdS >= holdS) return false
    this.stops[i] = { ...s, holdS }
    return (this.isChanged = true)
  }
  /** The rest that a finding's worst lies in, so much longer; whether there is one. */
  longer(f: ComfortFinding, by: number): boolean {
    const i = this.stops.findIndex((s, k) => s.holdS > 0 && this.pace.stops[k]!.reachedS <= f.fromS + 0.1 && this.pace.stops[k]!.leftS >= f.toS - 0.1) // prettier-ignore
    if (i <= 0 || i >= this.shot.stops.length - (this.shot.isClosed ? 0 : 1)) return false
    return this.hold(i, Math.min(MOST_REST_S, this.shot.stops[i]!.holdS * Math.min(4, by * SPARE)))
  }
  /** Rests for so long more about a moment: at the stop that is near, else at a new one. */
  restAt(timeS: number, moreS: number, withinM = AT_STOP_M): boolean {
    const { alongM } = this.pace.at(timeS)
    const w = wayOf(this.shot)
    if (!w.ok) return false
    const away = w.value.stopsM.slice(0, this.stops.length).map((m) => Math.abs(m - alongM))
    const least = Math.min(...away)
    const near = least < withinM ? away.indexOf(least) : -1
    if (near >= 0) return this.hold(near, Math.min(MOST_REST_S, this.shot.stops[near]!.holdS + moreS))
    if (this.inserted.some((x) => Math.abs(x.alongM - alongM) < 2 * AT_STOP_M)) return false
    this.inserted.push({ alongM, holdS: moreS })
    return (this.isChanged = true)
  }
  made(): TravelShot | null {
    const { shot, aheadM } = this
    if (!this.isChanged && aheadM === null) return null
    const gaze = aheadM !== null && shot.gaze.kind === 'along' ? { ...shot.gaze, aheadM } : shot.gaze
    const w = wayOf(shot)
    if (this.inserted.length > 0 && w.ok) {
      for (const { alongM, holdS } of [...this.inserted].sort((a, b) => b.alongM - a.alongM)) {
        const k = w.value.stopsM.findLastIndex((m) => m <= alongM)
        const point = w.value.route.at(alongM).point
        const [kept, moved] = parted(this.stops[k]!, point)
        this.stops.splice(k, 1, kept, { ...kept, station: point, holdS, look: null, via: moved })
        this.speeds.splice(k, 1, this.speeds[k]!, this.speeds[k]!)
      }
    }
    return { ...shot, gaze, stops: this.stops, speedsMps: this.speeds }
  }
}
/** The places after a stop, before and after a new one among them. */
function parted(stop: TravelStop, at: Vec3): [TravelStop, readonly Vec3[]] {
  const via = stop.via ?? []
  const gone = distance(stop.station, at)
  const k = via.findIndex((p) => distance(stop.station, p) > gone)
  return k < 0 ? [stop, []] : [{ ...stop, via: via.slice(0, k) }, via.slice(k)]
}

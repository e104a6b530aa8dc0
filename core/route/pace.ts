// When is a walk where?
// Model: each leg has its speed; at a stop speed goes over from one leg's to the next one's, at ends and holds from and to rest, each by the
// polynomial 10x³ − 15x⁴ + 6x⁵, so that speed and acceleration are continuous and acceleration is nought at every stop. A change of speed
// takes as long as acceleration and jerk allow. Legs too short for that are walked more slowly. Space: metres, seconds. Source: handbook-10
// (minimum jerk); flash1985.

/** Largest slope of the polynomial, at its middle, and of its slope; its integral up to the middle. */
const STEEPEST = 1.875
const SHARPEST = 10 / Math.sqrt(3)
const HALF = 0.078125
const rise = (x: number): number => x * x * x * (10 + x * (-15 + 6 * x))
const slope = (x: number): number => 30 * x * x * (1 - x) * (1 - x)
const area = (x: number): number => x ** 4 * (2.5 + x * (-3 + x))

export interface LegAsked {
  readonly lengthM: number
  /** Wanted; kept where the leg is long enough. */
  readonly speedMps: number
}
export interface PaceAsked {
  readonly legs: readonly LegAsked[]
  /** Seconds of rest at each stop, the first and last included: one more than legs. */
  readonly holdsS: readonly number[]
  /** Largest acceleration, m/s². */
  readonly accelMps2: number
  /** Largest change of it, m/s³. */
  readonly jerkMps3: number
}
type Limits = Pick<PaceAsked, 'accelMps2' | 'jerkMps3'>
export interface Moment {
  readonly alongM: number
  readonly speedMps: number
  readonly accelMps2: number
}
export interface Pace {
  readonly durationS: number
  /** When each stop is reached and left, seconds. */
  readonly stops: readonly { readonly reachedS: number; readonly leftS: number }[]
  /** Of each leg, as it is walked. */
  readonly speedsMps: readonly number[]
  at(timeS: number): Moment
}

/** A stretch of time: from a speed to another. */
interface Piece {
  readonly fromS: number
  readonly fromM: number
  readonly lastsS: number
  readonly from: number
  readonly to: number
}

/** RangeError for legs without length, speeds and accelerations that are not above nought, holds below it. */
export function paceOf({ legs, holdsS, accelMps2, jerkMps3 }: PaceAsked): Pace {
  if (legs.length === 0 || holdsS.length !== legs.length + 1) throw new RangeError(`paceOf: ${holdsS.length} holds for ${legs.length} legs`) // prettier-ignore
  if (!(accelMps2 > 0 && jerkMps3 > 0)) throw new RangeError(`paceOf: limits must be above nought, got ${accelMps2} m/s² and ${jerkMps3} m/s³`) // prettier-ignore
  for (const l of legs) if (!(l.lengthM > 0 && l.speedMps > 0)) throw new RangeError(`paceOf: a leg of ${l.lengthM} m at ${l.speedMps} m/s`) // prettier-ignore
  if (holdsS.some((h) => !(h >= 0))) throw new RangeError('paceOf: a hold below nought')
  // legs of one speed that follow each other without a rest are walked as one: stops near each other slow nobody down
  const groups: { first: number; leg: LegAsked }[] = []
  legs.forEach((leg, i) => {
    const last = groups.at(-1)
    if (last && holdsS[i] === 0 && last.leg.speedMps === leg.speedMps)
      groups[groups.length - 1] = { first: last.first, leg: { ...leg, lengthM: last.leg.lengthM + leg.lengthM } } // prettier-ignore
    else groups.push({ first: i, leg })
  })
  const joined = groups.map((g) => g.leg)
  const holds = [...groups.map((g) => holdsS[g.first]!), holdsS.at(-1)!]
  const isRest = (stop: number): boolean => stop === 0 || stop === joined.length || holds[stop]! > 0
  const limits = { accelMps2, jerkMps3 }
  const pace = laidOut(joined, holds, isRest, limits, fitting(joined, isRest, limits))
  return groups.length === legs.length ? pace : apart(pace, legs, groups.map((g) => g.first)) // prettier-ignore
}
/** What a pace of joined legs says of each leg and each stop. */
function apart(pace: Pace, legs: readonly LegAsked[], firsts: readonly number[]): Pace {
  const groupOf = (leg: number): number => firsts.findLastIndex((f) => f <= leg)
  let alongM = 0
  const stops = legs.map((leg, i) => {
    const known = firsts.indexOf(i)
    const own = known >= 0 ? pace.stops[known]! : { reachedS: timeAt(pace, alongM), leftS: 0 }
    alongM += leg.lengthM
    return known >= 0 ? own : { ...own, leftS: own.reachedS }
  })
  return { ...pace, stops: [...stops, pace.stops.at(-1)!], speedsMps: legs.map((_, i) => pace.speedsMps[groupOf(i)]!) }
}
/** When a place is reached, by halving: the way never goes back. */
function timeAt(pace: Pick<Pace, 'durationS' | 'at'>, alongM: number): number {
  let [lo, hi] = [0, pace.durationS]
  for (let i = 0; i < 60 && hi - lo > 1e-9; i++) {
    const mid = (lo + hi) / 2
    if (pace.at(mid).alongM < alongM) lo = mid
    else hi = mid
  }
  return hi
}

/** How long a change of speed takes. */
const changeS = (from: number, to: number, { accelMps2, jerkMps3 }: Limits): number => {
  const by = Math.abs(to - from)
  return Math.max((STEEPEST * by) / accelMps2, Math.sqrt((SHARPEST * by) / jerkMps3))
}
/** Metres of leg `j` that its changes of speed take, at its beginning and its end. */
function takenOf(j: number, v: readonly number[], isRest: (stop: number) => boolean, limits: Limits): [number, number] {
  const own = v[j]!
  const side = (stop: number, other: number | undefined): number => {
    if (isRest(stop)) return (own * changeS(0, own, limits)) / 2
    // half of the change lies in this leg: at half the time the polynomial has risen by half
    const [a, b] = [other!, own]
    return changeS(a, b, limits) * (b / 2 - (b - a) * HALF)
  }
  return [side(j, v[j - 1]), side(j + 1, v[j + 1])]
}
const SLOWER = 0.97
/** The speeds wanted, lowered until every leg is long enough for its changes. */
function fitting(legs: readonly LegAsked[], isRest: (stop: number) => boolean, limits: Limits): number[] {
  const v = legs.map((l) => l.speedMps)
  for (;;) {
    let isSlowed = false
    for (let j = 0; j < v.length; j++) {
      const [a, b] = takenOf(j, v, isRest, limits)
      if (a + b <= legs[j]!.lengthM * (1 + 1e-12)) continue
      // of those that meet here the fastest
      const near = [j, ...(isRest(j) ? [] : [j - 1]), ...(isRest(j + 1) ? [] : [j + 1])]
      const fastest = near.reduce((m, k) => (v[k]! > v[m]! ? k : m), j)
      v[fastest]! *= SLOWER
      isSlowed = true
    }
    if (!isSlowed) return v
  }
}

function laidOut(
  legs: readonly LegAsked[],
  holdsS: readonly number[],
  isRest: (stop: number) => boolean,
  limits: Limits,
  v: readonly number[],
): Pace {
  const pieces: Piece[] = []
  const stops: { reachedS: number; leftS: number }[] = []
  let [timeS, alongM] = [0, 0]
  const go = (lastsS: number, from: number, to: number): void => {
    if (!(lastsS > 0)) return
    pieces.push({ fromS: timeS, fromM: alongM, lastsS, from, to })
    timeS += lastsS
    alongM += (lastsS * (from + to)) / 2
  }
  const rest = (stop: number): void => {
    const reachedS = timeS
    go(holdsS[stop]!, 0, 0)
    stops[stop] = { reachedS, leftS: timeS }
  }
  rest(0)
  let startM = 0
  legs.forEach((leg, j) => {
    const [before, after] = takenOf(j, v, isRest, limits)
    if (isRest(j)) go(changeS(0, v[j]!, limits), 0, v[j]!)
    go((leg.lengthM - before - after) / v[j]!, v[j]!, v[j]!)
    startM += leg.lengthM
    if (isRest(j + 1)) {
      go(changeS(v[j]!, 0, limits), v[j]!, 0)
      // sums of roundings end exactly at the stop
      alongM = startM
      rest(j + 1)
      return
    }
    const lasts = changeS(v[j]!, v[j + 1]!, limits)
    stops[j + 1] = { reachedS: timeS + lasts / 2, leftS: timeS + lasts / 2 }
    go(lasts, v[j]!, v[j + 1]!)
  })
  const durationS = timeS
  const at = (t: number): Moment => {
    if (t <= 0) return { alongM: 0, speedMps: 0, accelMps2: 0 }
    if (t >= durationS) return { alongM: startM, speedMps: 0, accelMps2: 0 }
    let [lo, hi] = [0, pieces.length]
    while (hi - lo > 1) {
      const mid = (lo + hi) >> 1
      if (pieces[mid]!.fromS <= t) lo = mid
      else hi = mid
    }
    const p = pieces[lo]!
    const x = Math.min(1, (t - p.fromS) / p.lastsS)
    const by = p.to - p.from
    return {
      alongM: p.fromM + p.lastsS * (p.from * x + by * area(x)),
      speedMps: p.from + by * rise(x),
      accelMps2: (by * slope(x)) / p.lastsS,
    }
  }
  return { durationS, stops, speedsMps: v, at }
}

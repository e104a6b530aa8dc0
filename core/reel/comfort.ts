// Where would a viewer of this reel feel unwell, and why?
// Model: each rule is a rate or a length against a limit, frame by frame; frames that follow each other are one finding with its worst number.
// Source: handbook-10 (pace: bohannon1997; judder: the cinematographers' seven seconds, from memory; the rest practice).
import type { Motion } from './motion.ts'
import type { Reel } from './reel.ts'
import { travelled } from './travel.ts'
import type { Shot } from './types.ts'

/** All adjustable; kept with the project. */
export interface ComfortLimits {
  readonly walkMps: number
  /** Above this a viewer may feel sick, whatever the lens. */
  readonly turnDegPerS: number
  /** A thing takes no less than this to cross the picture, at 24 frames a second. */
  readonly crossS: number
  readonly swingDeg: number
  readonly betweenReversalsS: number
  readonly holdEndsS: number
  readonly clearanceM: number
  /** Once round takes at least so long. */
  readonly onceRoundS: number
  /** Things looked at in a minute. */
  readonly looksPerMin: number
}
export const COMFORT_LIMITS: ComfortLimits = {
  ...{ walkMps: 1.4, turnDegPerS: 30, crossS: 7, swingDeg: 100, betweenReversalsS: 10, holdEndsS: 1 },
  ...{ clearanceM: 0.35, onceRoundS: 5, looksPerMin: 12 },
}
export type ComfortKind = 'walk' | 'turn' | 'judder' | 'swing' | 'reversal' | 'starts' | 'ends' | 'clearance' | 'through' | 'round' | 'circle' | 'looks' // prettier-ignore
export interface ComfortFinding {
  readonly kind: ComfortKind
  readonly cut: number
  readonly fromS: number
  readonly toS: number
  /** The worst number, and what it may be at most (at least, of times and clearances). */
  readonly value: number
  readonly limit: number
  readonly unit: 'm/s' | '°/s' | '°' | 's' | 'm' | '/min'
  readonly text: string
}
/** Something that the eye goes through between a frame and the next one. */
export interface Through {
  readonly frame: number
  readonly name: string
}
export interface ComfortAsked {
  readonly reel: Reel
  readonly motion: Motion
  readonly shots: readonly Shot[]
  /** Of a frame's lens, degrees across the picture. */
  readonly acrossDeg: (frame: number) => number
  /** Metres to the nearest thing, of each frame; left out where no model was asked. */
  readonly clearanceM?: ArrayLike<number>
  /** What is gone through after a frame. */
  readonly through?: readonly Through[]
  readonly limits?: ComfortLimits
}

/** Slower than this is no turn, degrees a second. */
const STILL_DEG_PER_S = 1
/** Slower than this nothing is passed, metres a second. */
const MOVES_MPS = 0.02
/** Almost once round counts as round, degrees. */
const ROUND_DEG = 340
/** A rest as long as this is a look. */
const LOOK_S = 0.8
/** The trade's rule counts for this rate. */
const RULE_FPS = 24

export function comfortOf(asked: ComfortAsked): ComfortFinding[] {
  const { motion: m, shots, acrossDeg, clearanceM, limits = COMFORT_LIMITS } = asked
  const isRound = (k: number): boolean => shots[m.cut[k]!]!.kind === 'turntable'
  const found = [
    ...runs(m, (k) => (shots[m.cut[k]!]!.kind === 'travel' ? m.speedMps[k]! : 0), () => limits.walkMps, 'walk', 'm/s', (v, l) => `Walks at ${v.toFixed(2)} m/s: people walk at ${l.toFixed(1)} at most.`),
    ...runs(m, (k) => (isRound(k) ? 0 : m.turnDegPerS[k]!), () => limits.turnDegPerS, 'turn', '°/s', (v, l) => `Turns at ${v.toFixed(0)}° a second: above ${l.toFixed(0)} viewers may feel sick.`),
    ...runs(m, (k) => (isRound(k) ? 0 : m.turnDegPerS[k]!), (k) => Math.min(limits.turnDegPerS, (acrossDeg(k) * m.fps) / RULE_FPS / limits.crossS), 'judder', '°/s', (v, l) => `Turns at ${v.toFixed(1)}° a second: with this lens and ${m.fps.toFixed(0)} frames a second it strobes above ${l.toFixed(1)}.`),
    ...(clearanceM ? runs(m, (k) => (m.speedMps[k]! > MOVES_MPS ? -clearanceM[k]! : -Infinity), () => -limits.clearanceM, 'clearance', 'm', (v, l) => `Passes ${v.toFixed(2)} m from something: ${l.toFixed(2)} m is the least.`) : []),
  ] // prettier-ignore
  const through = throughOf(asked, limits)
  const isTold = (f: ComfortFinding, by: ComfortKind): boolean => [...found, ...through].some((g) => g.kind === by && g.cut === f.cut && g.fromS <= f.toS && f.fromS <= g.toS) // prettier-ignore
  const judged = found.filter((f) => !(f.kind === 'judder' && isTold(f, 'turn')) && !(f.kind === 'clearance' && isTold(f, 'through'))) // prettier-ignore
  return [...judged, ...through, ...turnsOf(asked, limits), ...endsOf(asked, limits), ...roundsOf(asked, limits), ...circlesOf(asked), ...looksOf(asked, limits)].sort((a, b) => a.fromS - b.fromS) // prettier-ignore
}

/** What the way goes through, each thing once a stretch: into it and out of it again is one. */
function throughOf({ motion: m, shots, through = [] }: ComfortAsked, limits: ComfortLimits): ComfortFinding[] {
  const out: ComfortFinding[] = []
  for (const { frame, name } of through) {
    const [cut, fromS] = [m.cut[frame]!, m.timeS[frame]!]
    const toS = m.timeS[frame + 1] ?? fromS
    const before = out.findLast((f) => f.cut === cut && f.text.includes(`“${name}”`) && fromS - f.toS < SAME_WAY_S)
    if (before) out[out.indexOf(before)] = { ...before, toS }
    else out.push({ kind: 'through', unit: 'm', cut, fromS, toS, value: 0, limit: limits.clearanceM, text: `Goes through “${name}”.${shots[cut]!.kind === 'turntable' ? ' Let things turn instead.' : ''}` }) // prettier-ignore
  }
  return out
}
/** Two faces of a wall are passed within so many seconds. */
const SAME_WAY_S = 2
/** Stretches over a limit. */
function runs(
  m: Motion,
  value: (k: number) => number,
  limit: (k: number) => number,
  kind: ComfortKind,
  unit: ComfortFinding['unit'],
  text: (value: number, limit: number) => string,
): ComfortFinding[] {
  const out: ComfortFinding[] = []
  let start = -1
  let worst = -1
  for (let k = 0; k <= m.timeS.length; k++) {
    const isOver = k < m.timeS.length && value(k) > limit(k) * (1 + Math.sign(limit(k)) * 1e-6)
    const goesOn = start >= 0 && isOver && m.cut[k] === m.cut[start]
    if (start >= 0 && !goesOn) {
      const [v, l] = [Math.abs(value(worst)), Math.abs(limit(worst))]
      out.push({ kind, unit, cut: m.cut[start]!, fromS: m.timeS[start]!, toS: m.timeS[k - 1]!, value: v, limit: l, text: text(v, l) }) // prettier-ignore
      start = -1
    }
    if (!isOver) continue
    if (start < 0) start = worst = k
    if (value(k) - limit(k) > value(worst) - limit(worst)) worst = k
  }
  return out
}

/** Swings too far from one look to the next, and turns that go to and fro. */
function turnsOf({ motion: m, shots }: ComfortAsked, limits: ComfortLimits): ComfortFinding[] {
  const out: ComfortFinding[] = []
  let swing = { from: 0, deg: 0 }
  let last: { at: number; sign: number } | null = null
  const close = (k: number): void => {
    const value = Math.abs(swing.deg)
    if (value > limits.swingDeg * (1 + 1e-6))
      out.push({ kind: 'swing', unit: '°', cut: m.cut[k]!, fromS: m.timeS[swing.from]!, toS: m.timeS[k]!, value, limit: limits.swingDeg, text: `Swings ${value.toFixed(0)}° in one go: rest the look between, at ${limits.swingDeg.toFixed(0)}° at most.` }) // prettier-ignore
  }
  for (let k = 0; k < m.timeS.length; k++) {
    const isNew = k === 0 || m.cut[k] !== m.cut[k - 1]
    const pan = shots[m.cut[k]!]!.kind === 'turntable' ? 0 : m.panDegPerS[k]!
    const sign = Math.abs(pan) < STILL_DEG_PER_S ? 0 : Math.sign(pan)
    if (isNew || sign === 0 || Math.sign(swing.deg) !== sign) {
      if (k > 0) close(k - 1)
      swing = { from: k, deg: 0 }
    }
    if (isNew) last = null
    if (sign === 0) continue
    swing.deg += pan / m.fps
    if (last && last.sign !== sign && m.timeS[k]! - last.at < limits.betweenReversalsS)
      out.push({ kind: 'reversal', unit: 's', cut: m.cut[k]!, fromS: last.at, toS: m.timeS[k]!, value: m.timeS[k]! - last.at, limit: limits.betweenReversalsS, text: `Turns back after ${(m.timeS[k]! - last.at).toFixed(1)} s: one reversal in ${limits.betweenReversalsS.toFixed(0)} s is enough.` }) // prettier-ignore
    // from where the way of turning began
    if (!last || last.sign !== sign) last = { at: m.timeS[k]!, sign }
  }
  if (m.timeS.length > 0) close(m.timeS.length - 1)
  return out
}

/** The reel rests at its beginning and its end, so that one sees where one is. */
/** A hold that creeps no faster than this, as a share of the distance in a second, lets one see where one is (practice). */
const SLOW_CREEP_PER_S = 0.02
const rests = (s: Shot): boolean =>
  s.kind === 'turntable' ||
  (s.kind === 'hold' && !s.keys && !s.aim && !s.watch && Math.abs(s.creep) <= SLOW_CREEP_PER_S * s.durationS)
function endsOf({ reel, motion: m, shots }: ComfortAsked, limits: ComfortLimits): ComfortFinding[] {
  const n = m.timeS.length
  if (n === 0) return []
  const isMoving = (k: number): boolean => !rests(shots[m.cut[k]!]!) && (m.speedMps[k]! > 0.02 || m.turnDegPerS[k]! > STILL_DEG_PER_S) // prettier-ignore
  let [first, last] = [0, n - 1]
  while (first < n && !isMoving(first)) first++
  while (last >= 0 && !isMoving(last)) last--
  if (first === n) return []
  const of = (kind: 'starts' | 'ends', value: number, at: number): ComfortFinding[] =>
    value >= limits.holdEndsS - 1.5 / m.fps
      ? []
      : [{ kind, unit: 's', cut: m.cut[at]!, fromS: kind === 'starts' ? 0 : m.timeS[at]!, toS: kind === 'starts' ? m.timeS[at]! : reel.durationS, value, limit: limits.holdEndsS, text: `${kind === 'starts' ? 'Begins' : 'Ends'} without a rest: ${limits.holdEndsS.toFixed(0)} s lets one see where one is.` }] // prettier-ignore
  return [...of('starts', m.timeS[first]!, first), ...of('ends', reel.durationS - m.timeS[last]!, last)]
}

/** Turntables: once round too fast. */
function roundsOf({ reel, shots }: ComfortAsked, limits: ComfortLimits): ComfortFinding[] {
  return reel.cuts.flatMap((c): ComfortFinding[] => {
    const shot = shots[c.index]!
    if (shot.kind !== 'turntable' || shot.turns === 0) return []
    const value = shot.durationS / shot.turns / (shot.pace === 'swing' ? 2 : 1)
    if (value >= limits.onceRoundS) return []
    return [{ kind: 'round', unit: 's', cut: c.index, fromS: c.startS, toS: c.endS, value, limit: limits.onceRoundS, text: `Once round in ${value.toFixed(1)} s: 5 to 12 s are usual.` }] // prettier-ignore
  })
}

/** Walks that go once round what they look at. */
function circlesOf({ reel, motion: m, shots }: ComfortAsked): ComfortFinding[] {
  return reel.cuts.flatMap((c): ComfortFinding[] => {
    const shot = shots[c.index]!
    if (shot.kind !== 'travel' || shot.gaze.kind !== 'point') return []
    const [px, py] = shot.gaze.point
    let [round, before] = [0, NaN]
    for (let k = 0; k < m.timeS.length; k++) {
      if (m.cut[k] !== c.index) continue
      const at = (Math.atan2(m.stations[3 * k]! - px, m.stations[3 * k + 1]! - py) * 180) / Math.PI
      if (!Number.isNaN(before)) round += ((((at - before) % 360) + 540) % 360) - 180
      before = at
    }
    const value = Math.abs(round)
    if (value < ROUND_DEG) return []
    return [{ kind: 'circle', unit: '°', cut: c.index, fromS: c.startS, toS: c.endS, value, limit: ROUND_DEG, text: `Goes ${value.toFixed(0)}° round what it looks at: a turntable does that evenly.` }] // prettier-ignore
  })
}

/** More things looked at within a minute than one takes in: cuts, and rests and looks of walks. */
function looksOf({ reel, shots }: ComfortAsked, limits: ComfortLimits): ComfortFinding[] {
  const looks = reel.cuts.flatMap((c) => {
    const shot = shots[c.index]!
    if (shot.kind !== 'travel') return [{ t: c.startS, cut: c.index }]
    const r = travelled(shot)
    const stops = r.ok ? r.value.pace.stops : []
    const own = shot.stops.flatMap((s, i) => (stops[i] && (s.holdS >= LOOK_S || (shot.gaze.kind === 'stops' && s.look)) ? [stops[i].reachedS] : [])) // prettier-ignore
    return own.map((t) => ({ t: c.startS + t - c.fromS, cut: c.index })).filter((l) => l.t >= c.startS && l.t <= c.endS)
  })
  for (let i = 0; i < looks.length; i++) {
    const within = looks.filter((l) => l.t >= looks[i]!.t && l.t < looks[i]!.t + 60)
    const value = within.length
    if (value > limits.looksPerMin)
      return [{ kind: 'looks', unit: '/min', cut: looks[i]!.cut, fromS: looks[i]!.t, toS: within.at(-1)!.t, value, limit: limits.looksPerMin, text: `${value} things to look at in a minute: ${limits.looksPerMin} are enough.` }] // prettier-ignore
  }
  return []
}

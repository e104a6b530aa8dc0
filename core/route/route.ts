// Where does a walk lead that passes its stops, and how far along it is a place?
// Model: a C2 interpolating spline: through every three stops a parabola, by the lengths of its chords, so that it has no cusp; from stop to
// stop the two parabolas are blended by the square of sine and cosine. Curvature is continuous: it is told by the one parabola at a stop,
// whichever way one comes. Travelled by arc length. Space: world metres. Source: yuksel2020; handbook-10.
// Rejected: centripetal Catmull-Rom (its curvature jumps at stops); natural cubic splines (loops at uneven stops).

import { ok, refused, type Result } from '../base/index.ts'
import { addScaled, cross, distance, dot, length, scale, sub, type Vec3 } from '../math/index.ts'

export interface RoutePlace {
  readonly point: Vec3
  /** Unit vector, the way one goes. */
  readonly way: Vec3
  /** 1 / metres, toward where it bends; zero vector where it is straight. */
  readonly bend: Vec3
}
export interface Route {
  readonly lengthM: number
  /** How far along each stop lies; the last of a closed route is its length again. */
  readonly stopsM: readonly number[]
  readonly isClosed: boolean
  /** A place so far along; past the ends it goes on straight, or round. */
  at(alongM: number): RoutePlace
}
export type RouteReason = 'no-stops' | 'one-stop' | 'same-place'
const REFUSED: Readonly<Record<RouteReason, string>> = {
  'no-stops': 'A walk needs stops: place two or more.',
  'one-stop': 'A walk leads from one stop to another: place a second one.',
  'same-place': 'Two stops that follow each other lie in one place: move or delete one of them.',
}
/** Stops nearer than this are one place, metres. */
const SAME_M = 1e-3

/** Two derivatives at a place of a curve. */
interface Jet {
  readonly p: Vec3
  readonly d: Vec3
  readonly dd: Vec3
}
/** The parabola through three places; it is at the second one at `t`. */
class Parabola {
  readonly t: number
  private readonly a: Vec3
  private readonly b: Vec3
  private readonly c: Vec3
  constructor(p: Vec3, q: Vec3, r: Vec3) {
    const [d, e] = [distance(p, q), distance(q, r)]
    const t = d / (d + e)
    this.t = t
    // p + (q at t) + (r at 1): second difference over the two chords
    const [m, n] = [scale(sub(q, p), 1 / t), scale(sub(r, q), 1 / (1 - t))]
    this.c = sub(n, m)
    this.b = addScaled(m, this.c, -t)
    this.a = p
  }
  at(t: number): Jet {
    const { a, b, c } = this
    return {
      p: addScaled(addScaled(a, b, t), c, t * t),
      d: addScaled(b, c, 2 * t),
      dd: scale(c, 2),
    }
  }
}
const straight = (p: Vec3, q: Vec3): ((u: number) => Jet) => {
  const d = sub(q, p)
  return (u) => ({ p: addScaled(p, d, u), d, dd: [0, 0, 0] })
}
/** From a stop to the next: `u` 0 to 1. At the ends, where nothing tells how it bends, it is straight: it bulges less so. */
function blended(from: Parabola | null, to: Parabola | null, p: Vec3, q: Vec3): (u: number) => Jet {
  const scaled = (j: Jet, k: number): Jet => ({ p: j.p, d: scale(j.d, k), dd: scale(j.dd, k * k) })
  if (!from && !to) return straight(p, q)
  const first = from ? (u: number) => scaled(from.at(from.t + (1 - from.t) * u), 1 - from.t) : straight(p, q)
  const second = to ? (u: number) => scaled(to.at(to.t * u), to.t) : straight(p, q)
  return (u) => {
    const [f, g] = [first(u), second(u)]
    const w = Math.sin((Math.PI / 2) * u) ** 2
    const dw = (Math.PI / 2) * Math.sin(Math.PI * u)
    const ddw = (Math.PI ** 2 / 2) * Math.cos(Math.PI * u)
    const [off, dOff] = [sub(g.p, f.p), sub(g.d, f.d)]
    return {
      p: addScaled(f.p, off, w),
      d: addScaled(addScaled(f.d, dOff, w), off, dw),
      dd: addScaled(addScaled(addScaled(f.dd, sub(g.dd, f.dd), w), dOff, 2 * dw), off, ddw),
    }
  }
}

/** Parts of a leg whose lengths are known beforehand; Gauss's five places in each make the length exact to far below a thousandth. */
const PARTS = 24
const NODES = [0, 0.5384693101056831, -0.5384693101056831, 0.906179845938664, -0.906179845938664] as const
const WEIGHTS = [0.5688888888888889, 0.47862867049936647, 0.47862867049936647, 0.23692688505618908, 0.23692688505618908] as const // prettier-ignore

/** Newton's steps; a miss this small, as a share of a part, is squared by the next one. */
const MOST_STEPS = 12
const NEARLY = 1e-6

/** Metres from `a` to `b` of a leg's parameter. */
function lengthOf(leg: (u: number) => Jet, a: number, b: number): number {
  let sum = 0
  for (let i = 0; i < NODES.length; i++) sum += WEIGHTS[i]! * length(leg((a + b) / 2 + ((b - a) / 2) * NODES[i]!).d)
  return (sum * (b - a)) / 2
}

/** The step of the parameter in a part that is `wholeM` long, so many metres from its beginning: a cubic through both ends by their paces. */
function parameterAt(wantedM: number, wholeM: number, first: number, last: number): number {
  const t = wantedM / wholeM
  const [t2, t3] = [t * t, t * t * t]
  return (t3 - 2 * t2 + t) * (wholeM / first) + (3 * t2 - 2 * t3) / PARTS + (t3 - t2) * (wholeM / last)
}

/**
 * The route through stops, in their order; closed, it leads from the last to the first again. At `corners` it may turn sharply: who rests there
 * turns on the spot. Cost linear in stops.
 */
export function routeThrough(
  stops: readonly Vec3[],
  { isClosed = false, corners }: { readonly isClosed?: boolean; readonly corners?: ReadonlySet<number> } = {},
): Result<Route, RouteReason> {
  if (stops.length < 2) {
    const reason = stops.length === 0 ? 'no-stops' : 'one-stop'
    return refused(reason, REFUSED[reason])
  }
  const n = stops.length
  const legCount = isClosed ? n : n - 1
  const stop = (i: number): Vec3 => stops[((i % n) + n) % n]!
  for (let i = 0; i < legCount; i++)
    if (distance(stop(i), stop(i + 1)) < SAME_M) return refused('same-place', REFUSED['same-place'])
  // two stops alone have no third place to bend by
  const bends = (i: number): Parabola | null =>
    n > 2 && !corners?.has(i % n) && (isClosed || (i > 0 && i < n - 1))
      ? new Parabola(stop(i - 1), stop(i), stop(i + 1))
      : null
  const parabolas = Array.from({ length: legCount + 1 }, (_, i) => bends(i))
  const legs = Array.from({ length: legCount }, (_, i) => blended(parabolas[i]!, parabolas[i + 1]!, stop(i), stop(i + 1))) // prettier-ignore
  // lengths up to each part, over all legs
  const table = new Float64Array(legCount * PARTS + 1)
  for (let k = 0; k < legCount * PARTS; k++) {
    const u = (k % PARTS) / PARTS
    table[k + 1] = table[k]! + lengthOf(legs[Math.floor(k / PARTS)]!, u, u + 1 / PARTS)
  }
  const lengthM = table.at(-1)!
  const stopsM = Array.from({ length: legCount + 1 }, (_, i) => table[i * PARTS]!)
  return ok({ lengthM, stopsM, isClosed, at: placesOf(legs, table, lengthM, isClosed) })
}

function placesOf(
  legs: readonly ((u: number) => Jet)[],
  table: Float64Array,
  lengthM: number,
  isClosed: boolean,
): Route['at'] {
  const told = ({ p, d, dd }: Jet): RoutePlace => {
    const v2 = dot(d, d)
    const along = dot(d, dd) / v2
    return { point: p, way: scale(d, 1 / Math.sqrt(v2)), bend: scale(addScaled(dd, d, -along), 1 / v2) }
  }
  // metres for a step of the parameter, at both ends of every part
  const paces = new Float64Array(2 * (table.length - 1))
  for (let k = 0; k + 1 < table.length; k++) {
    const [leg, u] = [legs[Math.floor(k / PARTS)]!, (k % PARTS) / PARTS]
    paces[2 * k] = length(leg(u).d)
    paces[2 * k + 1] = length(leg(u + 1 / PARTS).d)
  }
  return (alongM) => {
    const s = isClosed ? ((alongM % lengthM) + lengthM) % lengthM : alongM
    if (s <= 0 || s >= lengthM) {
      const end = told(s <= 0 ? legs[0]!(0) : legs.at(-1)!(1))
      if (s === 0 || s === lengthM) return end
      return { ...end, point: addScaled(end.point, end.way, s < 0 ? s : s - lengthM), bend: [0, 0, 0] }
    }
    let [lo, hi] = [0, table.length - 1]
    while (hi - lo > 1) {
      const mid = (lo + hi) >> 1
      if (table[mid]! <= s) lo = mid
      else hi = mid
    }
    const leg = legs[Math.floor(lo / PARTS)]!
    const from = (lo % PARTS) / PARTS
    const wanted = s - table[lo]!
    if (wanted === 0) return told(leg(from))
    // a cubic by the slopes at both ends is nearly right: one step of Newton makes it exact, two in a sharp bend
    const wholeM = table[hi]! - table[lo]!
    let u = from + parameterAt(wanted, wholeM, paces[2 * lo]!, paces[2 * lo + 1]!)
    for (let i = 0; i < MOST_STEPS; i++) {
      const off = lengthOf(leg, from, u) - wanted
      u = Math.min(from + 1 / PARTS, Math.max(from, u - off / length(leg(u).d)))
      if (Math.abs(off) < NEARLY * wholeM) break
    }
    return told(leg(u))
  }
}

/** How sharply a place of a route bends seen from above, 1 / metres, clockwise positive. */
export function bendFromAbove({ way, bend }: RoutePlace): number {
  const flat = Math.hypot(way[0], way[1])
  return flat < 1e-9 ? 0 : -cross(way, bend)[2] / flat ** 3
}

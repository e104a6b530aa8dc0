// Where does a walk lead that passes its stops, and how far along it is a place?
// Model: a C2 interpolating spline: through every three stops a parabola, by the lengths of its chords, so that it has no cusp; from stop to
// stop the two parabolas are blended by the square of sine and cosine. Curvature is continuous: it is told by the one parabola at a stop,
// whichever way one comes. Travelled by arc length. Space: world metres. Source: yuksel2020; handbook-10.
// Rejected: centripetal Catmull-Rom (its curvature jumps at stops); natural cubic splines (loops at uneven stops).

import { ok, refused, type Result } from '../base/index.ts'
import { addScaled, cross, distance, dot, scale, sub, type Vec3 } from '../math/index.ts'

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
/** The parabola through three places, told by its value and two derivatives at the second one; its parameter goes by the chords. */
interface Parabola {
  readonly p: Vec3
  readonly d: Vec3
  readonly dd: Vec3
  /** Where the second place lies, of 0..1. */
  readonly t: number
}
function parabola(p: Vec3, q: Vec3, r: Vec3): Parabola {
  const [d, e] = [distance(p, q), distance(q, r)]
  const t = d / (d + e)
  // second difference over the two chords
  const [m, n] = [scale(sub(q, p), 1 / t), scale(sub(r, q), 1 / (1 - t))]
  const c = sub(n, m)
  return { p: q, d: addScaled(m, c, t), dd: scale(c, 2), t }
}
/**
 * From a stop to the next, by `u` 0 to 1: the first stop's parabola, and how far the second one's lies from it, both as polynomials of `u` (three
 * numbers a power). Kept as numbers: a walk asks for its speed very often.
 */
class Leg {
  private readonly f: Float64Array
  private readonly off: Float64Array

  /** At the ends, where nothing tells how it bends, it is straight: it bulges less so. */
  constructor(from: Parabola | null, to: Parabola | null, p: Vec3, q: Vec3) {
    const line = [p, sub(q, p), [0, 0, 0] as Vec3] as const
    const k = from ? 1 - from.t : 0
    const first = from ? ([from.p, scale(from.d, k), scale(from.dd, (k * k) / 2)] as const) : line
    // about its own stop, which lies at `u` = 1
    const back = to
      ? ([to.p, scale(to.d, to.t), scale(to.dd, (to.t * to.t) / 2)] as const)
      : ([q, line[1], line[2]] as const)
    const second = [addScaled(sub(back[0], back[1]), back[2], 1), addScaled(back[1], back[2], -2), back[2]] as const
    this.f = Float64Array.from(first.flat())
    this.off = Float64Array.from(second.flat(), (v, i) => v - this.f[i]!)
  }
  at(u: number): Jet {
    const [w, dw, ddw] = [Math.sin((Math.PI / 2) * u) ** 2, (Math.PI / 2) * Math.sin(Math.PI * u), (Math.PI ** 2 / 2) * Math.cos(Math.PI * u)] // prettier-ignore
    const { f, off } = this
    const each = (of: (i: number, o: number, dO: number) => number): Vec3 => [0, 1, 2].map((i) => of(i, off[i]! + u * (off[i + 3]! + u * off[i + 6]!), off[i + 3]! + 2 * u * off[i + 6]!)) as unknown as Vec3 // prettier-ignore
    return {
      p: each((i, o) => f[i]! + u * (f[i + 3]! + u * f[i + 6]!) + o * w),
      d: each((i, o, dO) => f[i + 3]! + 2 * u * f[i + 6]! + dO * w + o * dw),
      dd: each((i, o, dO) => 2 * f[i + 6]! + 2 * off[i + 6]! * w + 2 * dO * dw + o * ddw),
    }
  }
  /** Length of the first derivative. */
  speed(u: number): number {
    const { f, off } = this
    const sin = Math.sin((Math.PI / 2) * u)
    const [w, dw] = [sin * sin, (Math.PI / 2) * Math.sin(Math.PI * u)]
    let sum = 0
    for (let i = 0; i < 3; i++) {
      const o = off[i]! + u * (off[i + 3]! + u * off[i + 6]!)
      const d = f[i + 3]! + 2 * u * f[i + 6]! + (off[i + 3]! + 2 * u * off[i + 6]!) * w + o * dw
      sum += d * d
    }
    return Math.sqrt(sum)
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
function lengthOf(leg: Leg, a: number, b: number): number {
  let sum = 0
  for (let i = 0; i < NODES.length; i++) sum += WEIGHTS[i]! * leg.speed((a + b) / 2 + ((b - a) / 2) * NODES[i]!)
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
      ? parabola(stop(i - 1), stop(i), stop(i + 1))
      : null
  const parabolas = Array.from({ length: legCount + 1 }, (_, i) => bends(i))
  const legs = Array.from({ length: legCount }, (_, i) => new Leg(parabolas[i]!, parabolas[i + 1]!, stop(i), stop(i + 1))) // prettier-ignore
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

function placesOf(legs: readonly Leg[], table: Float64Array, lengthM: number, isClosed: boolean): Route['at'] {
  const told = ({ p, d, dd }: Jet): RoutePlace => {
    const v2 = dot(d, d)
    const along = dot(d, dd) / v2
    return { point: p, way: scale(d, 1 / Math.sqrt(v2)), bend: scale(addScaled(dd, d, -along), 1 / v2) }
  }
  // metres for a step of the parameter, at both ends of every part
  const paces = new Float64Array(2 * (table.length - 1))
  for (let k = 0; k + 1 < table.length; k++) {
    const [leg, u] = [legs[Math.floor(k / PARTS)]!, (k % PARTS) / PARTS]
    paces[2 * k] = leg.speed(u)
    paces[2 * k + 1] = leg.speed(u + 1 / PARTS)
  }
  return (alongM) => {
    const s = isClosed ? ((alongM % lengthM) + lengthM) % lengthM : alongM
    if (s <= 0 || s >= lengthM) {
      const end = told(s <= 0 ? legs[0]!.at(0) : legs.at(-1)!.at(1))
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
    if (wanted === 0) return told(leg.at(from))
    // a cubic by the slopes at both ends is nearly right: one step of Newton makes it exact, two in a sharp bend
    const wholeM = table[hi]! - table[lo]!
    let u = from + parameterAt(wanted, wholeM, paces[2 * lo]!, paces[2 * lo + 1]!)
    for (let i = 0; i < MOST_STEPS; i++) {
      const off = lengthOf(leg, from, u) - wanted
      u = Math.min(from + 1 / PARTS, Math.max(from, u - off / leg.speed(u)))
      if (Math.abs(off) < NEARLY * wholeM) break
    }
    return told(leg.at(u))
  }
}

/** How sharply a place of a route bends seen from above, 1 / metres, clockwise positive. */
export function bendFromAbove({ way, bend }: RoutePlace): number {
  const flat = Math.hypot(way[0], way[1])
  return flat < 1e-9 ? 0 : -cross(way, bend)[2] / flat ** 3
}

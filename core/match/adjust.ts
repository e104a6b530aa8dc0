// Which camera explains lines and points of one or more photographs best?
// Model: least squares in pixels over the chosen unknowns, Levenberg and Marquardt's steps on the normal equations; knowledge about an
// unknown is one more observation. Turns are solved as small vectors, or as bearing, tilt and roll where one of these is held or known.
// Source: handbook-9; nocedal2006 (10.3); nielsen1999 (damping). Rejected: the damped factor of each photograph by itself (the dense
// matrix of thirteen photographs factors in a tenth of a millisecond).

import { DEG_PER_RAD, RAD_PER_DEG, wrapBearingDeg } from '../base/index.ts'
import type { Vec3 } from '../math/index.ts'
import { factorInPlace, solveInPlace } from './cholesky.ts'
import { COLUMNS, LENS_COLUMNS, lineDistances, pairMiss, straightened, towardsOf, type State } from './residuals.ts'
import { anglesOfRotation, rotationOf, turned, turnsOfAngles, type Rotation } from './rotation.ts'
import { LENS_UNKNOWNS, POSE_UNKNOWNS, type Estimate, type PhotoLens, type PhotoLine, type PhotoView, type Treatment, type Treatments, type Unknown } from './types.ts' // prettier-ignore

/** Noise of a place put by hand, pixels, as long as there is too little to tell it from. Source: handbook-9. */
export const USUAL_NOISE_PX = 0.5

export interface AdjustOptions {
  readonly treatments: Treatments
  /** Beyond this a miss counts less (Huber), pixels; left out, all count alike. */
  readonly huberPx?: number
  /** Noise that knowledge of unknowns is weighed against, pixels. */
  readonly noisePx?: number
  readonly steps?: number
  /** What is known of unknowns beforehand; the start, where left out. */
  readonly priors?: Estimate
}
export interface Adjusted {
  readonly estimate: Estimate
  /** Sum of squared misses of lines and points, pixels; with `huberPx` what Huber makes of it. */
  readonly cost: number
  /** How many numbers were observed: two a pair, one less than its points a line, one for each unknown known beforehand. */
  readonly observations: number
  readonly unknowns: readonly (readonly [view: number, Unknown])[]
  /** Normal matrix at the end over `unknowns` (turns as angles, radians), row by row. */
  readonly normal: Float64Array
  readonly converged: boolean
}

interface Slot {
  readonly view: number
  readonly name: Unknown
  readonly treatment: Treatment
}
interface Layout {
  readonly slots: readonly Slot[]
  /** By view, the place in the matrix of each of the 14 columns; -1 where it is held. */
  readonly columns: readonly Int32Array[]
  /** By view, whether turns are small vectors or angles. */
  readonly byAngles: readonly boolean[]
}
const treatmentOf = (t: Treatments, name: Unknown): Treatment =>
  t[name] ?? ((LENS_UNKNOWNS as readonly string[]).includes(name) ? 'fixed' : 'free')

function layOut(views: readonly PhotoView[], t: Treatments): Layout {
  const slots: Slot[] = []
  const lensAt = LENS_UNKNOWNS.map((name) => {
    const treatment = treatmentOf(t, name)
    return treatment === 'fixed' ? -1 : slots.push({ view: -1, name, treatment }) - 1
  })
  const byAngles: boolean[] = []
  const columns = views.map((v, view) => {
    byAngles.push(POSE_UNKNOWNS.slice(0, 3).some((name) => treatmentOf(t, name) !== 'free'))
    const poseAt = POSE_UNKNOWNS.map((name, i) => {
      const treatment = treatmentOf(t, name)
      // lines alone say nothing of the station
      if (treatment === 'fixed' || (i >= 3 && v.pairs.length === 0)) return -1
      return slots.push({ view, name, treatment }) - 1
    })
    return Int32Array.from([...lensAt, ...poseAt])
  })
  return { slots, columns, byAngles }
}

interface Working {
  readonly lens: PhotoLens
  readonly views: readonly { readonly rotation: Rotation; readonly station: Vec3 }[]
}
const lensValues = ({ focalPx, principal, distortion: d }: PhotoLens): number[] => [focalPx, principal[0], principal[1], d.k1, d.k2, d.p1, d.p2, d.k3] // prettier-ignore
function lensFrom(v: readonly number[]): PhotoLens {
  const [focalPx, x, y, k1, k2, p1, p2, k3] = v as [number, number, number, number, number, number, number, number]
  return { focalPx, principal: [x, y], distortion: { k1, k2, k3, p1, p2 } }
}

/** Normal equations being summed: the lower triangle, and misses times their rows. */
class Sums {
  readonly normal: Float64Array
  readonly gradient: Float64Array
  readonly size: number
  cost = 0
  constructor(size: number) {
    this.size = size
    this.normal = new Float64Array(size * size)
    this.gradient = new Float64Array(size)
  }
  clear(): void {
    this.normal.fill(0)
    this.gradient.fill(0)
    this.cost = 0
  }
  /** One miss with its row of columns. */
  add(miss: number, row: Float64Array, columns: Int32Array, weight: number): void {
    const n = this.size
    for (let i = 0; i < COLUMNS; i++) {
      const a = columns[i]!
      if (a < 0) continue
      const wi = weight * row[i]!
      if (wi === 0) continue
      this.gradient[a] = this.gradient[a]! + wi * miss
      for (let j = 0; j <= i; j++) {
        const b = columns[j]!
        if (b >= 0) this.normal[a * n + b] = this.normal[a * n + b]! + wi * row[j]!
      }
    }
  }
}

const TURN_STEP = 1e-6
/** What a lens unknown is changed by to see its effect on lines: of the focal length and the picture a part, of coefficients itself. */
const stepOf = (i: number, focalPx: number): number => (i < 3 ? 1e-6 * focalPx : 1e-6)

class Problem {
  readonly #views: readonly PhotoView[]
  readonly #layout: Layout
  readonly #huberPx: number
  readonly #noisePx: number
  readonly #start: Estimate
  readonly #out = new Float64Array(2)
  readonly #jx = new Float64Array(COLUMNS)
  readonly #jy = new Float64Array(COLUMNS)
  constructor(views: readonly PhotoView[], start: Estimate, layout: Layout, options: AdjustOptions) {
    this.#views = views
    this.#layout = layout
    this.#start = options.priors ?? start
    this.#huberPx = options.huberPx ?? Infinity
    this.#noisePx = options.noisePx ?? USUAL_NOISE_PX
  }
  /** Cost of a state; with `sums` their filling too. Infinity where a point lies behind the camera. */
  look(w: Working, sums?: Sums): number {
    let cost = 0
    sums?.clear()
    for (let v = 0; v < this.#views.length; v++) {
      const view = this.#views[v]!
      const columns = this.#layout.columns[v]!
      const state: State = { lens: w.lens, ...w.views[v]! }
      const turns = this.#layout.byAngles[v] ? turnsOfAngles(anglesOfRotation(state.rotation), state.rotation) : null
      for (const pair of view.pairs) {
        if (!pairMiss(state, pair, this.#out, sums && this.#jx, sums && this.#jy)) return Infinity
        const [ex, ey] = [this.#out[0]!, this.#out[1]!]
        const [own, weight] = this.#weigh(Math.hypot(ex, ey))
        cost += own
        if (!sums) continue
        if (turns) for (const row of [this.#jx, this.#jy]) toAngles(row, turns)
        sums.add(ex, this.#jx, columns, weight)
        sums.add(ey, this.#jy, columns, weight)
      }
      for (const line of view.lines) cost += this.#line(line, state, columns, turns, sums)
    }
    return cost + this.#known(w, sums)
  }
  /** Huber's cost of a miss and its weight. */
  #weigh(miss: number): readonly [number, number] {
    const h = this.#huberPx
    return miss <= h ? [miss * miss, 1] : [2 * h * miss - h * h, h / miss]
  }
  #line(line: PhotoLine, state: State, columns: Int32Array, turns: readonly Vec3[] | null, sums?: Sums): number {
    const n = line.points.length
    const here = new Float64Array(n)
    const { lens, rotation } = state
    const points = straightened(lens, line)
    const towards = towardsOf(rotation, line)
    lineDistances(points, towards, lens.focalPx, here)
    let sum = 0
    for (const d of here) sum += d * d
    const [own, weight] = this.#weigh(Math.sqrt(sum))
    if (!sums) return own
    const rows = Array.from({ length: n }, () => new Float64Array(COLUMNS))
    const [less, more] = [new Float64Array(n), new Float64Array(n)]
    const put = (column: number, step: number): void => rows.forEach((row, i) => (row[column] = (more[i]! - less[i]!) / (2 * step))) // prettier-ignore
    const values = lensValues(lens)
    for (let c = 0; c < LENS_COLUMNS; c++) {
      if (columns[c]! < 0) continue
      const step = stepOf(c, lens.focalPx)
      for (const [s, into] of [
        [-step, less],
        [step, more],
      ] as const) {
        // prettier-ignore
        const l = lensFrom(values.map((x, i) => (i === c ? x + s : x)))
        lineDistances(straightened(l, line), towards, l.focalPx, into)
      }
      put(c, step)
    }
    for (let k = 0; k < 3; k++) {
      const w: Vec3 = turns ? turns[k]! : k === 0 ? [1, 0, 0] : k === 1 ? [0, 1, 0] : [0, 0, 1]
      if (columns[LENS_COLUMNS + k]! < 0) continue
      for (const [s, into] of [
        [-TURN_STEP, less],
        [TURN_STEP, more],
      ] as const)
        // prettier-ignore
        lineDistances(points, along(towards, w, s), lens.focalPx, into)
      put(LENS_COLUMNS + k, TURN_STEP)
    }
    rows.forEach((row, i) => sums.add(here[i]!, row, columns, weight))
    return own
  }
  /** What is known of unknowns beforehand, in pixels of noise. */
  #known(w: Working, sums?: Sums): number {
    let cost = 0
    this.#layout.slots.forEach(({ view, name, treatment }, i) => {
      if (typeof treatment !== 'object') return
      const isAngle = name.endsWith('Deg')
      const unit = isAngle ? RAD_PER_DEG : 1
      const k = this.#noisePx / (treatment.sd * unit)
      let off = valueOf(w, view, name) - startOf(this.#start, view, name)
      if (isAngle) off = ((((off + 180) % 360) + 360) % 360) - 180
      off *= unit
      cost += (k * off) ** 2
      if (!sums) return
      sums.gradient[i] = sums.gradient[i]! + k * k * off
      sums.normal[i * sums.size + i] = sums.normal[i * sums.size + i]! + k * k
    })
    return cost
  }
}
/** A direction turned a little. */
const along = ([x, y, z]: Vec3, [a, b, c]: Vec3, s: number): Vec3 => [x + s * (b * z - c * y), y + s * (c * x - a * z), z + s * (a * y - b * x)] // prettier-ignore
function toAngles(row: Float64Array, turns: readonly Vec3[]): void {
  const [a, b, c] = [row[8]!, row[9]!, row[10]!]
  for (let k = 0; k < 3; k++) row[8 + k] = a * turns[k]![0] + b * turns[k]![1] + c * turns[k]![2]
}

function valueOf(w: Working, view: number, name: Unknown): number {
  if (view < 0) return lensValues(w.lens)[LENS_UNKNOWNS.indexOf(name as never)]!
  const { rotation, station } = w.views[view]!
  const i = POSE_UNKNOWNS.indexOf(name as never)
  return i < 3 ? anglesOfRotation(rotation)[name as 'bearingDeg'] : station[i - 3]!
}
function startOf(e: Estimate, view: number, name: Unknown): number {
  if (view < 0) return lensValues(e.lens)[LENS_UNKNOWNS.indexOf(name as never)]!
  const i = POSE_UNKNOWNS.indexOf(name as never)
  return i < 3 ? e.poses[view]![name as 'bearingDeg'] : e.poses[view]!.station[i - 3]!
}

/** The state a step further. */
function stepped(w: Working, layout: Layout, step: Float64Array): Working {
  const lens = lensValues(w.lens)
  const first = layout.columns[0]!
  for (let c = 0; c < LENS_COLUMNS; c++) if (first[c]! >= 0) lens[c] = lens[c]! + step[first[c]!]!
  const views = w.views.map(({ rotation, station }, v) => {
    const columns = layout.columns[v]!
    const of = (c: number): number => (columns[c]! < 0 ? 0 : step[columns[c]!]!)
    const by: Vec3 = [of(8), of(9), of(10)]
    return {
      rotation: layout.byAngles[v] ? turnedByAngles(rotation, by) : turned(rotation, by),
      station: [station[0] + of(11), station[1] + of(12), station[2] + of(13)] as Vec3,
    }
  })
  return { lens: lensFrom(lens), views }
}
function turnedByAngles(rotation: Rotation, [b, t, r]: Vec3): Rotation {
  const a = anglesOfRotation(rotation)
  return rotationOf({
    bearingDeg: a.bearingDeg + b * DEG_PER_RAD,
    tiltDeg: a.tiltDeg + t * DEG_PER_RAD,
    rollDeg: a.rollDeg + r * DEG_PER_RAD,
  })
}

const STEPS = 100
/** A step this small, as a part of every unknown's own size, is the last. */
const STILL = 1e-13

/** The best camera from a start nearby. Every pair of the start must lie before it: the cost is Infinity otherwise. */
export function adjust(views: readonly PhotoView[], start: Estimate, options: AdjustOptions): Adjusted {
  const layout = layOut(views, options.treatments)
  const n = layout.slots.length
  const problem = new Problem(views, start, layout, options)
  let w: Working = {
    lens: start.lens,
    views: start.poses.map((p) => ({ rotation: rotationOf(p), station: p.station })),
  }
  let [sums, other] = [new Sums(n), new Sums(n)]
  let cost = problem.look(w, sums)
  let damping = 1e-4
  let grow = 2
  let converged = !Number.isFinite(cost)
  const damped = new Float64Array(n * n)
  const step = new Float64Array(n)
  for (let i = 0; i < (options.steps ?? STEPS) && !converged; i++) {
    damped.set(sums.normal)
    for (let k = 0; k < n; k++) {
      damped[k * n + k] = damped[k * n + k]! * (1 + damping) + 1e-300
      step[k] = -sums.gradient[k]!
    }
    if (!factorInPlace(damped, n)) {
      damping = Math.max(damping * 10, 1e-10)
      if (damping > 1e12) break
      continue
    }
    solveInPlace(damped, n, step)
    const next = stepped(w, layout, step)
    const then = next.lens.focalPx > 0 ? problem.look(next) : Infinity
    if (then <= cost) {
      problem.look(next, other)
      const still = isStill(step, sums) || cost - then <= 1e-13 * cost
      w = next
      ;[sums, other] = [other, sums]
      converged = still
      cost = then
      damping = Math.max(damping / 5, 1e-15)
      grow = 2
    } else {
      // a step that is lost in rounding is none
      if (isStill(step, sums) || then - cost <= 1e-12 * cost) converged = true
      damping *= grow
      grow *= 2
      if (damping > 1e15) converged = true
    }
  }
  const poses = w.views.map(({ rotation, station }) => {
    const a = anglesOfRotation(rotation)
    return { station, bearingDeg: wrapBearingDeg(a.bearingDeg), tiltDeg: a.tiltDeg, rollDeg: a.rollDeg }
  })
  return {
    estimate: { lens: w.lens, poses },
    cost,
    observations: views.reduce((s, v) => s + observationsOf(v), layout.slots.filter((x) => typeof x.treatment === 'object').length), // prettier-ignore
    unknowns: layout.slots.map(({ view, name }) => [view, name] as const),
    normal: asAngles(sums, w, layout),
    converged,
  }
}
/** Two a pair; a line gives one less than its points, as it may lie where it likes. */
export const observationsOf = (v: PhotoView): number =>
  2 * v.pairs.length + v.lines.reduce((sum, l) => sum + l.points.length - 1, 0)

/** A step that changes no fitted pixel by more than nothing: by the matrix's own measure. */
function isStill(step: Float64Array, { normal, size }: Sums): boolean {
  let most = 0
  for (let i = 0; i < size; i++) most = Math.max(most, Math.abs(step[i]!) * Math.sqrt(normal[i * size + i]!))
  return most < STILL * 1e3
}

/** The full normal matrix with turns told as bearing, tilt and roll, whichever way they were solved. */
function asAngles({ normal, size: n }: Sums, w: Working, { columns, byAngles }: Layout): Float64Array {
  const out = new Float64Array(n * n)
  for (let i = 0; i < n; i++) for (let j = 0; j < n; j++) out[i * n + j] = normal[Math.max(i, j) * n + Math.min(i, j)]!
  w.views.forEach(({ rotation }, v) => {
    const at = columns[v]!.slice(LENS_COLUMNS, LENS_COLUMNS + 3)
    if (byAngles[v] || at.some((c) => c < 0)) return
    const turns = turnsOfAngles(anglesOfRotation(rotation), rotation)
    // first the columns, then the rows
    for (const [step, stride] of [
      [n, 1],
      [1, n],
    ] as const)
      // prettier-ignore
      for (let k = 0; k < n; k++) {
        const [a, b, c] = [out[k * step + at[0]! * stride]!, out[k * step + at[1]! * stride]!, out[k * step + at[2]! * stride]!] // prettier-ignore
        for (let q = 0; q < 3; q++) out[k * step + at[q]! * stride] = a * turns[q]![0] + b * turns[q]![1] + c * turns[q]![2]
      }
  })
  return out
}

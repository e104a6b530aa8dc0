// What does a state of the unknowns cost, and which way is down?
// Model: squared misses of pairs and lines in pixels (Huber's beyond a size), knowledge of unknowns weighed against the noise of a place;
// with sums their normal equations too: of pairs by derivatives, of lines by central differences.
// Source: handbook-9; huber1981; hartley2004 (A6.8).

import { RAD_PER_DEG } from '../base/index.ts'
import type { Vec3 } from '../math/index.ts'
import { COLUMNS, LENS_COLUMNS, lineDistances, pairMiss, straightened, towardsOf, type State } from './residuals.ts'
import { anglesOfRotation, turnsOfAngles } from './rotation.ts'
import type { Estimate, PhotoLine, PhotoView } from './types.ts'
import { lensFrom, lensValues, startOf, valueOf, type Layout, type Working } from './unknowns.ts'

/** Noise of a place put by hand, pixels, as long as there is too little to tell it from. Source: handbook-9. */
export const USUAL_NOISE_PX = 0.5

export interface MissOptions {
  /** Beyond this a miss counts less (Huber), pixels; left out, all count alike. */
  readonly huberPx?: number
  /** Noise that knowledge of unknowns is weighed against, pixels. */
  readonly noisePx?: number
  /** What is known of unknowns beforehand; the start, where left out. */
  readonly priors?: Estimate
}
/** Normal equations being summed: the lower triangle, and misses times their rows. */
export class Sums {
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

export class Problem {
  readonly #views: readonly PhotoView[]
  readonly #layout: Layout
  readonly #huberPx: number
  readonly #noisePx: number
  readonly #start: Estimate
  readonly #out = new Float64Array(2)
  readonly #jx = new Float64Array(COLUMNS)
  readonly #jy = new Float64Array(COLUMNS)
  constructor(views: readonly PhotoView[], start: Estimate, layout: Layout, options: MissOptions) {
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

// Which camera explains lines and points of one or more photographs best?
// Model: least squares in pixels over the chosen unknowns, Levenberg and Marquardt's steps on the normal equations; knowledge about an
// unknown is one more observation. Turns are solved as small vectors, or as bearing, tilt and roll where one of these is held or known.
// Source: handbook-9; nocedal2006 (10.3); nielsen1999 (damping). Rejected: the damped factor of each photograph by itself (the dense
// matrix of thirteen photographs factors in a tenth of a millisecond).

import { wrapBearingDeg } from '../base/index.ts'
import { factorInPlace, solveInPlace } from './cholesky.ts'
import { Problem, Sums, type MissOptions } from './misses.ts'
import { LENS_COLUMNS } from './residuals.ts'
import { anglesOfRotation, rotationOf, turnsOfAngles } from './rotation.ts'
import type { Estimate, PhotoView, Treatments, Unknown } from './types.ts'
import { layOut, stepped, type Layout, type Working } from './unknowns.ts'

export interface AdjustOptions extends MissOptions {
  readonly treatments: Treatments
  readonly steps?: number
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

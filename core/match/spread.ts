// How sure is what an adjustment found, and is it determined at all?
// Model: one sigma from the inverse normal matrix times the misses' variance, or times the usual noise where fewer than five observations
// are left over. Not determined is what the matrix, scaled to ones on its diagonal, hardly changes along.
// Source: handbook-9.

import { EigenvalueDecomposition, Matrix } from 'ml-matrix'
import { DEG_PER_RAD } from '../base/index.ts'
import type { Adjusted } from './adjust.ts'
import { USUAL_NOISE_PX } from './misses.ts'
import { factorInPlace, inverseOf } from './cholesky.ts'
import type { Unknown } from './types.ts'

export interface Spread {
  /** Of one observation, pixels: as the misses tell, or as usual where there are too few. */
  readonly sigmaPx: number
  readonly isTold: boolean
  /** Observations left over. */
  readonly freedom: number
  /** One sigma of each unknown in the order of `unknowns`; degrees, pixels, metres. Null where it is not determined. */
  readonly sd: readonly number[] | null
  /** How the unknowns stray together; null where one is not determined. */
  readonly covariance: Covariance | null
  /** The unknowns that nothing determines, weakest first; empty where all are. */
  readonly loose: readonly Unknown[]
}
/** Variances and covariances of unknowns, row by row; degrees, pixels, metres. */
export interface Covariance {
  readonly unknowns: readonly Unknown[]
  readonly values: readonly number[]
}
/** Fewest observations left over that tell the noise. Source: handbook-9. */
const TELLING = 5
/** Smallest eigenvalue of the scaled matrix that still is one. */
const LEAST = 1e-11

export function spreadOf(a: Adjusted): Spread {
  const n = a.unknowns.length
  const freedom = a.observations - n
  const isTold = freedom >= TELLING
  const sigmaPx = isTold ? Math.sqrt(a.cost / freedom) : USUAL_NOISE_PX
  const scale = Array.from({ length: n }, (_, i) => Math.sqrt(a.normal[i * n + i]!))
  const silent = a.unknowns.filter((_, i) => !(scale[i]! > 0)).map(([, name]) => name)
  if (silent.length > 0) return { sigmaPx, isTold, freedom, sd: null, covariance: null, loose: silent }
  const scaled = a.normal.map((v, k) => v / (scale[Math.floor(k / n)]! * scale[k % n]!))
  const loose = looseOf(scaled, n, a.unknowns)
  const factor = Float64Array.from(scaled)
  if (loose.length > 0 || !factorInPlace(factor, n))
    return { sigmaPx, isTold, freedom, sd: null, covariance: null, loose }
  const inverse = inverseOf(factor, n)
  const unknowns = a.unknowns.map(([, name]) => name)
  const unit = unknowns.map((name, i) => (name.endsWith('Deg') ? DEG_PER_RAD : 1) / scale[i]!)
  const values = Array.from(inverse, (v, k) => sigmaPx * sigmaPx * v * unit[Math.floor(k / n)]! * unit[k % n]!)
  const sd = unknowns.map((_, i) => Math.sqrt(values[i * n + i]!))
  return { sigmaPx, isTold, freedom, sd, covariance: { unknowns, values }, loose }
}
function looseOf(scaled: Float64Array, n: number, unknowns: Adjusted['unknowns']): Unknown[] {
  if (n === 0) return []
  const { realEigenvalues, eigenvectorMatrix } = new EigenvalueDecomposition(new Matrix(Array.from({ length: n }, (_, i) => Array.from(scaled.subarray(i * n, i * n + n)))), { assumeSymmetric: true }) // prettier-ignore
  const least = realEigenvalues.reduce((best, v, i) => (v < realEigenvalues[best]! ? i : best), 0)
  if (realEigenvalues[least]! > LEAST) return []
  const shares = unknowns.map(([, name], i) => ({ name, share: Math.abs(eigenvectorMatrix.get(i, least)) }))
  return shares.filter((s) => s.share > 0.2).sort((x, y) => y.share - x.share).map((s) => s.name) // prettier-ignore
}

/** One sigma of an unknown; 0 where it was held, Infinity where nothing tells it. */
export function sdOf(a: Adjusted, { sd }: Spread, name: Unknown): number {
  const i = a.unknowns.findIndex(([, n]) => n === name)
  return i < 0 ? 0 : (sd?.[i] ?? Infinity)
}

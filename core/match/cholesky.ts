// Is a symmetric matrix positive definite, and what solves it?
// Model: Cholesky's factor below the diagonal, in place, row by row in one array. Source: golub2013 (4.2), from memory. Own code because it
// runs in the inner loop of the live solve and must not allocate.

/** Replaces the lower triangle by its factor; false where the matrix is not positive definite. */
export function factorInPlace(a: Float64Array, n: number): boolean {
  for (let j = 0; j < n; j++) {
    for (let i = j; i < n; i++) {
      let s = a[i * n + j]!
      for (let k = 0; k < j; k++) s -= a[i * n + k]! * a[j * n + k]!
      if (i > j) a[i * n + j] = s / a[j * n + j]!
      else if (s > 0) a[j * n + j] = Math.sqrt(s)
      else return false
    }
  }
  return true
}
/** Solves with a factor, in place. */
export function solveInPlace(factor: Float64Array, n: number, b: Float64Array): void {
  for (let i = 0; i < n; i++) {
    let s = b[i]!
    for (let k = 0; k < i; k++) s -= factor[i * n + k]! * b[k]!
    b[i] = s / factor[i * n + i]!
  }
  for (let i = n - 1; i >= 0; i--) {
    let s = b[i]!
    for (let k = i + 1; k < n; k++) s -= factor[k * n + i]! * b[k]!
    b[i] = s / factor[i * n + i]!
  }
}
/** The inverse of a matrix given by its factor, full. */
export function inverseOf(factor: Float64Array, n: number): Float64Array {
  const out = new Float64Array(n * n)
  const column = new Float64Array(n)
  for (let j = 0; j < n; j++) {
    column.fill(0)
    column[j] = 1
    solveInPlace(factor, n, column)
    for (let i = 0; i < n; i++) out[i * n + j] = column[i]!
  }
  return out
}

// In property tests a refusal is a failure unless the case is one that must be refused.
import fc from 'fast-check'
import type { Result } from '#core/base'

/** The value; a refusal for one of the named reasons skips the case when `must` says so of it, any other fails. */
export function taken<T, R extends string>(r: Result<T, R>, must: Partial<Record<R, () => boolean>> = {}): T {
  if (r.ok) return r.value
  const allowed = must[r.reason]
  if (!allowed?.()) throw new Error(`refused: ${r.reason} (${r.message})`)
  fc.pre(false)
  throw new Error('never')
}

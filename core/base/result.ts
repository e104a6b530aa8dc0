// How does a computation say that it could not do what was asked?
// Model: expected failures are data; only bugs throw.

/** A value, or a named reason and a sentence for the person. */
export type Result<T, R extends string = string> =
  { readonly ok: true; readonly value: T } | { readonly ok: false; readonly reason: R; readonly message: string }

export const ok = <T>(value: T): { readonly ok: true; readonly value: T } => ({ ok: true, value })

export const refused = <R extends string>(reason: R, message: string) =>
  ({ ok: false, reason, message }) as { readonly ok: false; readonly reason: R; readonly message: string }

/** Throws RangeError naming function, argument and value unless the value is a finite number within [min, max]. */
export function requireNumber(where: string, name: string, value: number, min = -Infinity, max = Infinity): void {
  if (!Number.isFinite(value) || value < min || value > max)
    throw new RangeError(`${where}: ${name} = ${value} is not within ${min} .. ${max}`)
}

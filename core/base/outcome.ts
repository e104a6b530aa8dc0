// How do expected failures cross between threads?
// Model: as data; an error of the catalogue arrives as itself, anything else keeps its words only.

import { AppError, isErrorCode, type ErrorCode } from './errors.ts'

export type Outcome<T> =
  | { readonly ok: true; readonly value: T }
  | { readonly ok: false; readonly code: ErrorCode | null; readonly message: string }

export function failureData(e: unknown): { ok: false; code: ErrorCode | null; message: string } {
  if (e instanceof AppError) return { ok: false, code: e.code, message: e.detail ?? '' }
  return { ok: false, code: null, message: e instanceof Error ? e.message : String(e) }
}

/** The value, or the failure thrown again on this side. */
export function opened<T>(o: Outcome<T>): T {
  if (o.ok) return o.value
  if (isErrorCode(o.code)) throw new AppError(o.code, o.message)
  throw new Error(o.message)
}

// What crosses between the page and the stage's worker: the contract with expected failures as data.
import { AppError, isErrorCode, type ErrorCode } from '#core/base'
import type { StageContract } from './types.ts'

export type Outcome<T> =
  | { readonly ok: true; readonly value: T }
  | { readonly ok: false; readonly code: ErrorCode | null; readonly message: string }

type Door<F> = F extends (...args: infer A) => Promise<infer R> ? (...args: A) => Promise<Outcome<R>> : F
export type StageDoor = { [K in keyof StageContract]: Door<StageContract[K]> }

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

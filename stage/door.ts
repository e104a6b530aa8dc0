// What crosses between the page and the stage's worker: the contract with expected failures as data.
import type { Outcome } from '#core/base'
import type { StageContract } from './types.ts'

type Door<F> = F extends (...args: infer A) => Promise<infer R> ? (...args: A) => Promise<Outcome<R>> : F
export type StageDoor = { [K in keyof StageContract]: Door<StageContract[K]> }

// What a push shows between its two viewpoints besides its camera: cuts of one id blend, the rest changes at one moment.
import { pushShare } from '#core/reel'
import type { Setup } from '../parts.ts'
import type { ShotPart } from '../reel-schemas.ts'

/** Where a push ends, and how it gets there. */
export interface PushEnd {
  readonly setup: Setup
  readonly ease: Extract<ShotPart, { kind: 'push' }>['ease']
  /** When all that does not blend changes. */
  readonly changes: NonNullable<Extract<ShotPart, { kind: 'push' }>['changes']>
}
type CutPart = Setup['cut']
type CutItem = CutPart['cuts'][number]

const CHANGES_AT = { start: 0, middle: 0.5, end: 1 } as const
/** Directions nearer to nought than this have no way between them. */
const LEAST_DIRECTION = 0.1

/**
 * The Setup of a push at a share of its time, 0..1; the camera's own parts are the take's. Frame and first moment are those it begins with,
 * the last moment has all of its end.
 */
export function pushedSetup(from: Setup, { setup: to, ease, changes }: PushEnd, share: number): Setup {
  const isOver = changes === 'start' ? share > 0 : share >= CHANGES_AT[changes]
  const base = isOver ? { ...to, frame: from.frame } : from
  if (share <= 0 || share >= 1) return base
  return { ...base, cut: cutBetween(base.cut, from.cut, to.cut, pushShare(ease, share)) }
}

function cutBetween(base: CutPart, from: CutPart, to: CutPart, x: number): CutPart {
  if (from.allOff || to.allOff) return base
  const blend = (c: CutItem): CutItem => {
    const [a, b] = [from, to].map((p) => p.cuts.find((q) => q.id === c.id))
    const isOne = a && b && a.kind === b.kind && a.on && b.on && a.reversed === b.reversed
    return isOne ? ({ ...c, ...geometryBetween(a, b, x) } as CutItem) : c
  }
  const far = (which: 'near' | 'far'): CutPart[typeof which] => {
    const [a, b] = [from[which], to[which]]
    const isBoth = a.on && b.on && !a.tied && !b.tied
    return isBoth ? { ...base[which], distanceM: between(a.distanceM, b.distanceM, x) } : base[which]
  }
  return { ...base, cuts: base.cuts.map(blend), near: far('near'), far: far('far') }
}

const between = (a: number, b: number, x: number): number => a + (b - a) * x
const turned = (a: number, b: number, x: number): number => a + (((((b - a) % 360) + 540) % 360) - 180) * x

/** Numbers of two cuts of one kind: lengths and places straight, angles the shorter way. */
function geometryBetween(a: CutItem, b: CutItem, x: number): Partial<CutItem> {
  const out: Record<string, unknown> = {}
  for (const [name, v] of Object.entries(a)) {
    const w = (b as unknown as Record<string, unknown>)[name]
    if (typeof v === 'number' && typeof w === 'number') out[name] = name.endsWith('Deg') ? turned(v, w, x) : between(v, w, x)
    else if (Array.isArray(v) && Array.isArray(w)) out[name] = name === 'normal' ? directionBetween(v as number[], w as number[], x) : rowBetween(v, w, x) // prettier-ignore
  }
  return out as Partial<CutItem>
}
/** Rows of one length place by place; of different lengths the one that is nearer in time. */
function rowBetween(a: readonly unknown[], b: readonly unknown[], x: number): unknown[] {
  if (a.length !== b.length) return [...(x < 0.5 ? a : b)]
  return a.map((v, i) =>
    Array.isArray(v) ? rowBetween(v, b[i] as unknown[], x) : between(v as number, b[i] as number, x),
  )
}
/** Of length one; opposite ones have no way between them and change in the middle. */
function directionBetween(a: readonly number[], b: readonly number[], x: number): readonly number[] {
  const row = rowBetween(a, b, x) as number[]
  const length = Math.hypot(...row)
  return length < LEAST_DIRECTION ? (x < 0.5 ? a : b) : row.map((v) => Math.max(-1, Math.min(1, v / length)))
}

// What a push shows between its two viewpoints besides its camera: cuts of one id, the sun and the look's numbers blend; the rest changes at
// one moment, or fades over a time about it.
import { DAYLIGHT } from '#core/optics'
import { pushShare } from '#core/reel'
import type { Setup } from '../parts.ts'
import type { ShotPart } from '../reel-schemas.ts'

/** Where a push ends, and how it gets there. */
export interface PushEnd {
  readonly setup: Setup
  readonly ease: Extract<ShotPart, { kind: 'push' }>['ease']
  /** When all that does not blend changes. */
  readonly changes: NonNullable<Extract<ShotPart, { kind: 'push' }>['changes']>
  /** It fades for this share of the time: 0..1; left out or 0, it changes at once. */
  readonly fadeShare?: number
}
/** One of the Setups that are laid over each other; weights of a moment add up to 1. */
export interface PushLayer {
  readonly setup: Setup
  readonly weight: number
}
type CutPart = Setup['cut']
type CutItem = CutPart['cuts'][number]

const CHANGES_AT = { start: 0, middle: 0.5, end: 1 } as const
/** Directions nearer to nought than this have no way between them. */
const LEAST_DIRECTION = 0.1

/**
 * The Setups of a push at a share of its time, 0..1: one, or two while it fades; the camera's own parts are the take's. Frame and first moment
 * are those it begins with, the last moment has all of its end.
 */
export function pushedLayers(from: Setup, end: PushEnd, share: number): PushLayer[] {
  const { setup: to, changes, fadeShare = 0 } = end
  const at = (base: Setup): Setup => blended(base, from, end, share)
  const after = { ...to, frame: from.frame }
  const middle = CHANGES_AT[changes]
  // within the time of the push
  const begins = Math.max(0, Math.min(1 - fadeShare, middle - fadeShare / 2))
  const weight = fadeShare > 0 ? Math.min(1, Math.max(0, (share - begins) / fadeShare)) : isOver(changes, share) ? 1 : 0
  if (weight <= 0 || weight >= 1) return [{ setup: at(weight >= 1 ? after : from), weight: 1 }]
  return [
    { setup: at(from), weight: 1 - weight },
    { setup: at(after), weight },
  ]
}
const isOver = (changes: PushEnd['changes'], share: number): boolean =>
  changes === 'start' ? share > 0 : share >= CHANGES_AT[changes]

function blended(base: Setup, from: Setup, { setup: to, ease }: PushEnd, share: number): Setup {
  if (share <= 0 || share >= 1) return base
  const x = pushShare(ease, share)
  return {
    ...base,
    cut: cutBetween(base.cut, from.cut, to.cut, x),
    exposure: exposureBetween(base.exposure, from.exposure, to.exposure, x),
    look: { ...base.look, sun: sunBetween(base.look.sun, from.look.sun, to.look.sun, x) },
  }
}

type Exposure = Setup['exposure']
/** As a finish that changes nothing. */
const PLAIN = { contrast: 1, saturation: 1, shoulder: 0.5, grain: 0, glare: 0, lateralPx: 0 } as const
/** White balance goes evenly in mired, as filters add up; the finish number by number, a colour table where both have it. */
function exposureBetween(base: Exposure, a: Exposure, b: Exposure, x: number): Exposure {
  const mired = between(1e6 / a.whiteBalance.kelvin, 1e6 / b.whiteBalance.kelvin, x)
  const [p, q] = [a.finish, b.finish]
  const number = (k: keyof typeof PLAIN): number => between(p?.[k] ?? PLAIN[k], q?.[k] ?? PLAIN[k], x)
  const numbers = { contrast: number('contrast'), saturation: number('saturation'), shoulder: number('shoulder'), grain: number('grain'), glare: number('glare'), lateralPx: number('lateralPx') } // prettier-ignore
  const table = base.finish?.table
  const shades = table && p?.table && p.table.id === q?.table?.id ? { ...table, strength: between(p.table.strength, q.table.strength, x) } : table // prettier-ignore
  const hasBoth = a.vignetting && b.vignetting
  return {
    ...base,
    whiteBalance: {
      kelvin: Math.min(25_000, Math.max(1667, 1e6 / mired)),
      tint: between(a.whiteBalance.tint, b.whiteBalance.tint, x),
    },
    ...(hasBoth && { vignettingStrength: between(a.vignettingStrength ?? 1, b.vignettingStrength ?? 1, x) }),
    ...((p ?? q) && { finish: { ...numbers, ...(shades && { table: shades }) } }),
  }
}
type Sun = Setup['look']['sun']
/** The sun goes the shorter way where both have one. */
function sunBetween(base: Sun, a: Sun, b: Sun, x: number): Sun {
  // the sky is there without a sun too
  const light = (of: 'sunLux' | 'skyLux'): Partial<Sun> =>
    a[of] === undefined && b[of] === undefined ? {} : { [of]: between(a[of] ?? DAYLIGHT[of], b[of] ?? DAYLIGHT[of], x) }
  if (!a.on || !b.on) return { ...base, ...light('skyLux') }
  const bearingDeg = ((turned(a.bearingDeg, b.bearingDeg, x) % 360) + 360) % 360
  const elevationDeg = between(a.elevationDeg, b.elevationDeg, x)
  return { ...base, bearingDeg, elevationDeg, ...light('sunLux'), ...light('skyLux') }
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

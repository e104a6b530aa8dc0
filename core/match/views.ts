// Which lens took several photographs of known points?
// Model: one lens, a pose for each photograph; poses start by three points each at the focal length that fits most photographs, then all is
// adjusted at once. Source: handbook-9; zhang2000 (the joint adjustment).

import { ok, type Result } from '../base/index.ts'
import type { Pose } from '../camera/index.ts'
import { adjust, type Adjusted } from './adjust.ts'
import { missesOf } from './points.ts'
import { cannot, cannotTell, type MatchReason } from './refusals.ts'
import { spreadOf } from './spread.ts'
import { FOCALS, startFromPoints } from './start-points.ts'
import { NO_DISTORTION, type Estimate, type LensUnknown, type PhotoLens, type PhotoPair, type PicturePlace } from './types.ts' // prettier-ignore

export interface ViewsAsked {
  readonly imageWidth: number
  readonly imageHeight: number
  readonly views: readonly (readonly PhotoPair[])[]
  /** What is solved of the lens; the rest is held at the guess. */
  readonly solve: readonly LensUnknown[]
  readonly guess?: { readonly focalPx?: number; readonly principal?: PicturePlace }
}
export interface ViewsMatch {
  readonly estimate: Estimate
  /** Root of the mean squared length of all misses, pixels. */
  readonly rmsPx: number
  readonly sd: Readonly<Partial<Record<LensUnknown, number>>>
  readonly residualsPx: readonly (readonly (readonly [number, number])[])[]
}

/** Photographs that a start is looked for in. */
const LOOKED_AT = 3
export function matchViews({
  imageWidth,
  imageHeight,
  views,
  solve,
  guess = {},
}: ViewsAsked): Result<ViewsMatch, MatchReason> {
  if (views.length === 0 || views.some((v) => v.length < 4)) return cannot('few-points')
  const side = Math.max(imageWidth, imageHeight)
  const lens: PhotoLens = {
    focalPx: guess.focalPx ?? side,
    principal: guess.principal ?? [imageWidth / 2, imageHeight / 2],
    distortion: NO_DISTORTION,
  }
  const focalPx = guess.focalPx ?? likeliestFocal(views, lens, side)
  const started = views.map((pairs) => startOf(pairs, { ...lens, focalPx }, side))
  if (started.some((p) => p === null)) return cannot('no-start')
  const start: Estimate = { lens: { ...lens, focalPx }, poses: started.map((p) => p!) }
  const seen = views.map((pairs) => ({ lines: [], pairs }))
  const a = adjust(seen, start, { treatments: Object.fromEntries(solve.map((u) => [u, 'free' as const])) })
  const spread = spreadOf(a)
  if (!spread.sd) return cannotTell(spread.loose)
  const points = views.reduce((n, v) => n + v.length, 0)
  return ok({
    estimate: a.estimate,
    rmsPx: Math.sqrt(a.cost / points),
    sd: Object.fromEntries(solve.map((u) => [u, spread.sd![a.unknowns.findIndex(([, n]) => n === u)]])),
    residualsPx: views.map((pairs, v) => missesOf(a.estimate, pairs, v)),
  })
}
/** A board has two poses that nearly fit: each is adjusted a little before one is chosen. */
function startOf(pairs: readonly PhotoPair[], lens: PhotoLens, side: number): Pose | null {
  let best: Adjusted | null = null
  for (const { estimate } of startFromPoints(pairs, lens, {
    focals: [lens.focalPx],
    draws: 4,
    cutPx: 0.2 * side,
  }).slice(0, 2)) {
    const a = adjust([{ lines: [], pairs }], estimate, { treatments: {}, steps: 5 })
    if (!best || a.cost < best.cost) best = a
  }
  return best && Number.isFinite(best.cost) ? best.estimate.poses[0]! : null
}
/** The focal length at which the first few photographs fit best, tried over the whole range. */
function likeliestFocal(views: ViewsAsked['views'], lens: PhotoLens, side: number): number {
  const few = views.slice(0, LOOKED_AT)
  const costs = FOCALS.map((f) => {
    const o = { focals: [f * side], draws: 4, cutPx: 0.2 * side }
    return few.reduce((sum, pairs) => sum + (startFromPoints(pairs, lens, o)[0]?.cost ?? Infinity), 0)
  })
  return FOCALS[costs.indexOf(Math.min(...costs))]! * side
}

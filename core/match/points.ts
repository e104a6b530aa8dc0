// Which camera sees known points of the model so?
// Model: starts from three pairs each, then least squares on all pairs over pose and what is chosen of the lens; on request wrong pairs
// are set aside first: those that miss by more than four sigmas of what the others agree on. Source: handbook-9; huber1981 (1.4826 MAD).
// Space: picture pixels from the top left corner; world metres.

import { ok, type Result } from '../base/index.ts'
import type { Pose } from '../camera/index.ts'
import type { Vec3 } from '../math/index.ts'
import { adjust, type Adjusted } from './adjust.ts'
import { folds } from './lines.ts'
import { cannot, cannotTell, type MatchReason } from './refusals.ts'
import { pairMiss, type State } from './residuals.ts'
import { rotationOf } from './rotation.ts'
import { sdOf, spreadOf, type Spread } from './spread.ts'
import { FOCALS, layOf, startFromPoints } from './start-points.ts'
import { NO_DISTORTION, type Estimate, type PhotoLens, type PhotoPair, type PicturePlace, type Treatments, type Unknown } from './types.ts' // prettier-ignore

export interface PointsAsked {
  readonly imageWidth: number
  readonly imageHeight: number
  readonly pairs: readonly PhotoPair[]
  readonly solve: { readonly focal: boolean; readonly principal: boolean; readonly k1: boolean }
  /** Where unknowns start, or what they are where they are not solved; the principal point in the middle otherwise. */
  readonly guess?: { readonly focalPx?: number; readonly principal?: PicturePlace; readonly k1?: number }
  /** Look for wrong pairs and set them aside; up to a third are found. */
  readonly robust?: boolean
}
export interface PointMatch {
  readonly pose: Pose
  readonly focalPx: number
  readonly principal: PicturePlace
  readonly k1: number
  /** Root of the mean squared length of the misses of the pairs used, pixels. */
  readonly rmsPx: number
  /** Drawn minus given, of every pair; of one behind the camera NaN. */
  readonly residualsPx: readonly (readonly [number, number])[]
  /** One sigma; 0 for what was held. */
  readonly sd: {
    readonly focalPx: number
    readonly principal: readonly [number, number]
    readonly k1: number
    readonly station: Vec3
    readonly bearingDeg: number
    readonly tiltDeg: number
    readonly rollDeg: number
  }
  readonly freedom: number
  /** Places in the list of the pairs set aside as wrong. */
  readonly wrong: readonly number[]
}

/** Cost linear in pairs; with `robust` and a free focal length about 100 ms. See `MatchReason` for what is refused. */
export function matchPoints(asked: PointsAsked): Result<PointMatch, MatchReason> {
  const { pairs, solve, guess = {} } = asked
  const fault = faultOf(asked)
  if (fault) return cannot(fault)
  const lens: PhotoLens = {
    focalPx: guess.focalPx ?? Math.max(asked.imageWidth, asked.imageHeight),
    principal: guess.principal ?? [asked.imageWidth / 2, asked.imageHeight / 2],
    distortion: { ...NO_DISTORTION, k1: guess.k1 ?? 0 },
  }
  const treatments: Treatments = {
    ...(solve.focal && { focalPx: 'free' }),
    ...(solve.principal && { principalX: 'free', principalY: 'free' }),
    ...(solve.k1 && { k1: 'free' }),
  }
  const wrong = asked.robust ? wrongPairs(asked, lens, treatments) : []
  const used = pairs.filter((_, i) => !wrong.includes(i))
  const best = bestOf(used, asked, lens, treatments)
  if (!best) return cannot('no-start')
  const spread = spreadOf(best)
  const plane = layOf(used.map((p) => p.world)).kind === 'plane'
  if (!spread.sd) return spread.loose.includes('focalPx') && plane ? cannot('parallel') : cannotTell(spread.loose)
  const told = toldOf(best, spread, pairs, used.length, wrong)
  if (solve.focal && told.sd.focalPx > VAGUE * told.focalPx) return plane ? cannot('parallel') : cannotTell(['focalPx', 'stationY']) // prettier-ignore
  return folds(best.estimate, asked) ? cannot('folds') : ok(told)
}
const VAGUE = 0.5

function faultOf({ pairs, solve, guess }: PointsAsked): MatchReason | null {
  const unknowns = 6 + (solve.focal ? 1 : 0) + (solve.principal ? 2 : 0) + (solve.k1 ? 1 : 0)
  if (pairs.length < 4 || 2 * pairs.length < unknowns) return 'few-points'
  if (!solve.focal && guess?.focalPx === undefined) return 'no-focal'
  for (let i = 0; i < pairs.length; i++)
    for (let j = 0; j < i; j++) if (isSame(pairs[i]!, pairs[j]!)) return 'same-point'
  const lay = layOf(pairs.map((p) => p.world)).kind
  if (lay === 'line') return 'one-line'
  return lay === 'plane' && solve.principal ? 'one-plane' : null
}
const isSame = (a: PhotoPair, b: PhotoPair): boolean =>
  Math.hypot(...a.world.map((v, i) => v - b.world[i]!)) < 1e-9 || Math.hypot(a.image[0] - b.image[0], a.image[1] - b.image[1]) < 1e-9 // prettier-ignore

type Size = Pick<PointsAsked, 'imageWidth' | 'imageHeight'>
/** The best adjustment from several starts; null where no start sees all points before it. */
export function bestOf(
  pairs: readonly PhotoPair[],
  size: Size,
  lens: PhotoLens,
  treatments: Treatments,
): Adjusted | null {
  const side = Math.max(size.imageWidth, size.imageHeight)
  const isFree = treatments.focalPx === 'free'
  const starts = startFromPoints(pairs, lens, {
    focals: isFree ? FOCALS.map((f) => f * side) : [lens.focalPx],
    draws: isFree ? 8 : 14,
    cutPx: 0.2 * side,
  })
  let best: Adjusted | null = null
  for (const { estimate } of starts) {
    // first what lies on the surface; a lens that bends and an odd middle once it nearly fits
    const rough = adjust([{ lines: [], pairs }], estimate, { treatments: { focalPx: treatments.focalPx ?? 'fixed' }, steps: 20 }) // prettier-ignore
    if (!Number.isFinite(rough.cost) || (best && rough.cost > 25 * best.cost && rough.converged)) continue
    const fine = adjust([{ lines: [], pairs }], rough.estimate, { treatments })
    if (!best || fine.cost < best.cost) best = fine
    // nothing fits better than this
    if (best.cost < 1e-12 * pairs.length) break
  }
  return best
}

const DRAWS = 64
const MAD = 1.4826
/** Of a miss that is one: this many sigmas of what most agree on, and at least so many pixels. */
const [SIGMAS, LEAST_PX] = [4.5, 2]
/** Which pairs disagree with what most agree on. */
export function wrongPairs(
  { pairs, ...size }: Size & { readonly pairs: readonly PhotoPair[] },
  lens: PhotoLens,
  treatments: Treatments,
): number[] {
  // prettier-ignore
  if (pairs.length < 6) return []
  const side = Math.max(size.imageWidth, size.imageHeight)
  const isFree = treatments.focalPx === 'free'
  const starts = startFromPoints(pairs, lens, {
    focals: isFree ? FOCALS.map((f) => f * side) : [lens.focalPx],
    draws: DRAWS,
    cutPx: 0.02 * side,
  })
  let best: { wrong: number[]; cost: number } | null = null
  for (const { estimate } of starts) {
    let now = estimate
    let wrong: number[] = []
    for (let round = 0; round < 6; round++) {
      const misses = missesOf(now, pairs).map(([x, y]) => (Number.isNaN(x) ? Infinity : Math.hypot(x, y)))
      const sorted = [...misses].sort((a, b) => a - b)
      // a third may be wrong: the rest tells the noise (of a length in the plane, the median is 1.18 sigma)
      const middle = sorted[Math.floor(0.33 * sorted.length)]!
      const limit = Math.max(LEAST_PX, round < 2 ? 12 * middle : (SIGMAS * MAD * sorted[Math.floor(sorted.length / 3)]!) / 0.9) // prettier-ignore
      const next = misses.flatMap((m, i) => (m > limit ? [i] : []))
      const used = pairs.filter((_, i) => !next.includes(i))
      if (used.length < Math.max(4, pairs.length / 2)) {
        // too much set aside at once: the better half
        const bar = sorted[Math.ceil(pairs.length / 2)]!
        now = adjust([{ lines: [], pairs: pairs.filter((_, i) => misses[i]! <= bar) }], now, { treatments: { focalPx: treatments.focalPx ?? 'fixed' }, steps: 15 }).estimate // prettier-ignore
        wrong = next
        continue
      }
      const full = 2 * used.length >= 6 + Object.keys(treatments).length + 2
      const a = adjust([{ lines: [], pairs: used }], now, { treatments: full && round > 0 ? treatments : { focalPx: treatments.focalPx ?? 'fixed' }, steps: 30 }) // prettier-ignore
      if (!Number.isFinite(a.cost)) break
      now = a.estimate
      const same = round > 1 && next.length === wrong.length && next.every((x, i) => x === wrong[i])
      wrong = next
      if (same) break
    }
    const cut = 3 * LEAST_PX
    const cost = missesOf(now, pairs).reduce((s, [x, y]) => s + (Number.isNaN(x) ? cut * cut : Math.min(cut * cut, x * x + y * y)), 0) // prettier-ignore
    if (!best || cost < best.cost) best = { wrong, cost }
  }
  return best && best.wrong.length <= pairs.length / 2 ? best.wrong : []
}

/** Drawn minus given of every pair; NaN behind the camera. */
export function missesOf({ lens, poses }: Estimate, pairs: readonly PhotoPair[], view = 0): [number, number][] {
  const pose = poses[view]!
  const state: State = { lens, rotation: rotationOf(pose), station: pose.station }
  const out = new Float64Array(2)
  return pairs.map((p) => (pairMiss(state, p, out) ? [out[0]!, out[1]!] : [NaN, NaN]))
}

function toldOf(
  a: Adjusted,
  spread: Spread,
  pairs: readonly PhotoPair[],
  used: number,
  wrong: readonly number[],
): PointMatch {
  // prettier-ignore
  const { lens, poses } = a.estimate
  const sd = (name: Unknown): number => sdOf(a, spread, name)
  return {
    pose: poses[0]!,
    focalPx: lens.focalPx,
    principal: lens.principal,
    k1: lens.distortion.k1,
    rmsPx: Math.sqrt(a.cost / used),
    residualsPx: missesOf(a.estimate, pairs),
    sd: {
      focalPx: sd('focalPx'),
      principal: [sd('principalX'), sd('principalY')],
      k1: sd('k1'),
      station: [sd('stationX'), sd('stationY'), sd('stationZ')],
      bearingDeg: sd('bearingDeg'),
      tiltDeg: sd('tiltDeg'),
      rollDeg: sd('rollDeg'),
    },
    freedom: spread.freedom,
    wrong,
  }
}

// Which camera took this photograph, from all that is known of it?
// Model: lines and pairs in one adjustment over whatever is not held, started from the bundles where they tell the directions, from the
// pairs otherwise, or from the answer before while a hand is dragging. Each line and pair is left out once to tell how much it says.
// Source: handbook-9; hartley2004. Space: picture pixels from the top left corner; world metres, Z up.

import { LuDecomposition, Matrix } from 'ml-matrix'
import { ok, type Result } from '../base/index.ts'
import type { Pose } from '../camera/index.ts'
import { add, dot, length, normalize, scale, type Vec3 } from '../math/index.ts'
import { adjust, observationsOf, type Adjusted } from './adjust.ts'
import { folds, lineMisses } from './lines.ts'
import { bestOf, missesOf, wrongPairs } from './points.ts'
import { cannot, cannotTell, type MatchReason } from './refusals.ts'
import { anglesOfRotation, rotateBack, type Rotation } from './rotation.ts'
import { inOrder, startFromLines } from './start-lines.ts'
import { spreadOf, type Covariance } from './spread.ts'
import { NO_DISTORTION, type Estimate, type PhotoLens, type PhotoLine, type PhotoPair, type PhotoView, type PicturePlace, type Treatment, type Treatments, type Unknown } from './types.ts' // prettier-ignore
import { bundlesOf, scaleOf } from './vanishing.ts'

export interface PhotoAsked {
  readonly imageWidth: number
  readonly imageHeight: number
  readonly lines: readonly PhotoLine[]
  readonly pairs: readonly PhotoPair[]
  /** What is held, solved, or known to so much; see `Treatments`. */
  readonly treatments: Treatments
  /** Where unknowns start, and what they are where they are held or known. The middle and no distortion where left out. */
  readonly start?: { readonly lens?: Partial<PhotoLens>; readonly pose?: Partial<Pose> }
  /** The answer before, of nearly the same lines and pairs: the search is left out. */
  readonly previous?: Estimate
  /** Set wrong pairs aside. */
  readonly robust?: boolean
}
/** How much one line or pair says. */
export interface LeftOut {
  readonly kind: 'line' | 'pair'
  readonly index: number
  /** Of the rest without it, pixels. */
  readonly rmsPx: number
}
export interface PhotoMatch {
  readonly estimate: Estimate
  /** Whether anything tells the station: lines alone do not. */
  readonly tellsStation: boolean
  /** Of lines' points and pairs together, pixels. */
  readonly rmsPx: number
  readonly sd: Readonly<Partial<Record<Unknown, number>>>
  readonly covariance: Covariance
  /** Noise of one observation, pixels: as the misses tell, or half a pixel. */
  readonly sigmaPx: number
  /** Observations left over, and whether they were enough to tell the noise (else half a pixel is taken). */
  readonly freedom: number
  readonly tellsNoise: boolean
  /** Largest miss of each line, pixels. */
  readonly lineMissesPx: readonly number[]
  /** Drawn minus given, of every pair; NaN behind the camera. */
  readonly pairMissesPx: readonly (readonly [number, number])[]
  /** Places in the list of the pairs set aside. */
  readonly wrong: readonly number[]
}

/** A start must lead to a cost below this part of the best to be better. */
const ALIKE = 0.98
/** Of a focal length that is hardly told, and the noise that is there at least, pixels. */
const [VAGUE, LEAST_NOISE_PX] = [0.5, 0.25]
/** The camera of a photograph; with `previous` in a millisecond or two, without in some tens. See `MatchReason` for refusals. */
export function solvePhoto(asked: PhotoAsked): Result<PhotoMatch, MatchReason> {
  const fault = faultOf(asked)
  if (fault) return cannot(fault)
  const lens = lensOf(asked)
  const wrong = asked.robust && !asked.previous ? wrongPairs(asked, lens, lensOnly(asked.treatments)) : []
  const view: PhotoView = { lines: asked.lines, pairs: asked.pairs.filter((_, i) => !wrong.includes(i)) }
  const best = bestFrom(view, asked, lens)
  if (!best) return cannot('no-start')
  const spread = spreadOf(best)
  if (!spread.sd) return spread.loose.includes('focalPx') && view.pairs.length === 0 ? cannot('focal-untold') : cannotTell(spread.loose) // prettier-ignore
  const sd: Partial<Record<Unknown, number>> = Object.fromEntries(best.unknowns.map(([, name], i) => [name, spread.sd![i]!])) // prettier-ignore
  const sure = (sd.focalPx ?? 0) * Math.max(1, LEAST_NOISE_PX / spread.sigmaPx)
  if (asked.treatments.focalPx === 'free' && sure > VAGUE * best.estimate.lens.focalPx) return cannot('focal-untold')
  if (folds(best.estimate, asked)) return cannot('folds')
  return ok({
    estimate: best.estimate,
    tellsStation: view.pairs.length > 0,
    rmsPx: rmsOf(view, best.estimate),
    sd,
    covariance: spread.covariance!,
    sigmaPx: spread.sigmaPx,
    freedom: spread.freedom,
    tellsNoise: spread.isTold,
    lineMissesPx: lineMisses(asked.lines, best.estimate).largest,
    pairMissesPx: missesOf(best.estimate, asked.pairs),
    wrong,
  })
}

function faultOf({ lines, pairs, treatments }: PhotoAsked): MatchReason | null {
  const ends = lines.map(({ points }) => [points[0]!, points.at(-1)!] as const)
  if (ends.some(([a, b]) => !(Math.hypot(a[0] - b[0], a[1] - b[1]) > 1e-9))) return 'zero-length'
  for (let i = 0; i < pairs.length; i++)
    for (let j = 0; j < i; j++) {
      const [a, b] = [pairs[i]!, pairs[j]!]
      if (length(add(a.world, scale(b.world, -1))) < 1e-9 || Math.hypot(a.image[0] - b.image[0], a.image[1] - b.image[1]) < 1e-9) return 'same-point' // prettier-ignore
    }
  const turns = 3
  const station = pairs.length > 0 ? 3 : 0
  const free = Object.entries(treatments).filter(([name, t]) => t === 'free' && !name.endsWith('Deg') && !name.startsWith('station')).length // prettier-ignore
  const held = Object.entries(treatments).filter(([name, t]) => t !== 'free' && (name.endsWith('Deg') || name.startsWith('station'))).length // prettier-ignore
  if (observationsOf({ lines, pairs }) >= turns + station + free - held) return null
  if (pairs.length > 0) return 'few-points'
  return bundlesOf(lines).length < 2 ? 'one-direction' : 'few-lines'
}
function lensOf({ start, imageWidth, imageHeight }: PhotoAsked): PhotoLens {
  return {
    focalPx: start?.lens?.focalPx ?? Math.max(imageWidth, imageHeight),
    principal: start?.lens?.principal ?? [imageWidth / 2, imageHeight / 2],
    distortion: start?.lens?.distortion ?? NO_DISTORTION,
  }
}
/** What a search for starts may change. */
const lensOnly = (t: Treatments): Treatments => (t.focalPx && t.focalPx !== 'fixed' ? { focalPx: 'free' } : {})

/** The best adjustment over all starts; null where none sees all pairs before it. */
function bestFrom(view: PhotoView, asked: PhotoAsked, lens: PhotoLens): Adjusted | null {
  // priors are about the start that was given, whichever camera the search begins with
  const treatments = asked.treatments
  const run = (e: Estimate): Adjusted => adjust([view], e, { treatments, priors: priorsOf(asked, lens) })
  if (asked.previous) {
    const again = run(asked.previous)
    if (Number.isFinite(again.cost)) return again
  }
  let best: Adjusted | null = null
  const judge = (e: Estimate): void => {
    const a = run(e)
    // of answers that fit alike the first stays: the one that looks north
    if (Number.isFinite(a.cost) && (!best || a.cost < ALIKE * best.cost - 1e-9)) best = a
  }
  for (const e of startsFromLines(view, asked, lens)) judge(e)
  if (view.pairs.length >= 4) {
    const e = bestOf(view.pairs, asked, lens, lensOnly(treatments))?.estimate
    if (e) judge(e)
  }
  return best
}
/** What is known beforehand, as a camera. */
function priorsOf({ start }: PhotoAsked, lens: PhotoLens): Estimate {
  return { lens, poses: [{ station: [0, 0, 0], bearingDeg: 0, tiltDeg: 0, rollDeg: 0, ...start?.pose }] }
}

function startsFromLines(view: PhotoView, asked: PhotoAsked, lens: PhotoLens): Estimate[] {
  const { treatments } = asked
  const bundles = bundlesOf(view.lines).filter((b) => b.lines.length >= 2)
  const isFree = (t: Treatment | undefined): boolean => t === 'free'
  const start = startFromLines(bundles, scaleOf(asked.imageWidth, asked.imageHeight), {
    ...(!isFree(treatments.focalPx) && { focalPx: lens.focalPx }),
    ...(!(isFree(treatments.principalX) && isFree(treatments.principalY)) && { principal: lens.principal }),
  })
  if (!start) return []
  const own: PhotoLens = { ...lens, focalPx: start.tellsFocal || !isFree(treatments.focalPx) ? start.focalPx : lens.focalPx, principal: start.principal } // prettier-ignore
  // pairs tell which way round it is: all ways are tried, those first that would be taken without pairs
  const likely = inOrder(start.rotations)
  const rotations = view.pairs.length > 0 ? [...likely, ...start.rotations.filter((r) => !likely.includes(r))] : likely.slice(0, 1) // prettier-ignore
  return rotations.flatMap((rotation) => {
    const station = view.pairs.length > 0 ? stationFor(view.pairs, rotation, own, heldHeight(asked)) : (asked.start?.pose?.station ?? [0, 0, 0]) // prettier-ignore
    return station ? [{ lens: own, poses: [withHeld({ station, ...anglesOfRotation(rotation) }, asked)] }] : []
  })
}
const isHeld = (t: Treatment | undefined): boolean => t !== undefined && t !== 'free'
const heldHeight = ({ treatments, start }: PhotoAsked): number | null =>
  isHeld(treatments.stationZ) ? (start?.pose?.station?.[2] ?? null) : null
/** A pose with what is held or known of it as it was given. */
function withHeld(pose: Pose, { treatments: t, start }: PhotoAsked): Pose {
  const known = start?.pose ?? {}
  const station = pose.station.map((v, k) => isHeld(t[(['stationX', 'stationY', 'stationZ'] as const)[k]!]) ? (known.station?.[k] ?? v) : v) as unknown as Vec3 // prettier-ignore
  const angle = (name: 'bearingDeg' | 'tiltDeg' | 'rollDeg'): number => (isHeld(t[name]) ? (known[name] ?? pose[name]) : pose[name]) // prettier-ignore
  return { station, bearingDeg: angle('bearingDeg'), tiltDeg: angle('tiltDeg'), rollDeg: angle('rollDeg') }
}
/** From where a turned camera sees pairs so: nearest to all their rays. Of one pair a known height tells the distance, else it is 5 m. */
function stationFor(
  pairs: readonly PhotoPair[],
  rotation: Rotation,
  { focalPx, principal }: PhotoLens,
  heightM: number | null,
): Vec3 | null {
  // prettier-ignore
  const rays = pairs.map(({ image }) => normalize(rotateBack(rotation, [(image[0] - principal[0]) / focalPx, (image[1] - principal[1]) / focalPx, 1]))) // prettier-ignore
  if (pairs.length === 1) {
    const [world, ray] = [pairs[0]!.world, rays[0]!]
    const awayM = heightM === null || Math.abs(ray[2]) < 1e-9 ? 5 : (world[2] - heightM) / ray[2]
    return awayM > 0 ? add(world, scale(ray, -awayM)) : null
  }
  const m = Matrix.zeros(3, 3)
  const b = Matrix.zeros(3, 1)
  pairs.forEach(({ world }, i) => {
    const r = rays[i]!
    const along = dot(r, world)
    for (let p = 0; p < 3; p++) {
      b.set(p, 0, b.get(p, 0) + world[p]! - r[p]! * along)
      for (let q = 0; q < 3; q++) m.set(p, q, m.get(p, q) + (p === q ? 1 : 0) - r[p]! * r[q]!)
    }
  })
  const lu = new LuDecomposition(m)
  // all along one ray
  if (lu.isSingular() || !(Math.abs(lu.determinant) > 1e-12)) return null
  const station = lu.solve(b).to1DArray() as unknown as Vec3
  // all before it, for most of them
  return pairs.filter(({ world }, i) => dot(add(world, scale(station, -1)), rays[i]!) > 0).length * 2 > pairs.length ? station : null // prettier-ignore
}
/** How badly a camera misses all that is drawn, pixels; infinite where a point lies behind it. */
export function rmsUnder(asked: Pick<PhotoAsked, 'lines' | 'pairs'>, e: Estimate): number {
  const rms = rmsOf(asked, e)
  return Number.isFinite(rms) ? rms : Infinity
}
function rmsOf(view: PhotoView, e: Estimate): number {
  const { squares, count } = lineMisses(view.lines, e)
  const sum = missesOf(e, view.pairs).reduce((s, [x, y]) => s + x * x + y * y, squares)
  return Math.sqrt(sum / Math.max(1, count + view.pairs.length))
}

/** Fewest steps to come to rest from the answer with everything. */
const STEPS = 15
/**
 * The rms without each line and each pair in turn; what cannot be spared is left out of the list. Cost: one short adjustment each.
 * The first is the weakest: without it the rest agrees best.
 */
export function leaveOneOut(asked: PhotoAsked, answer: PhotoMatch): LeftOut[] {
  const lens = lensOf(asked)
  const without = (view: PhotoView, kind: LeftOut['kind'], index: number): LeftOut[] => {
    if (faultOf({ ...asked, ...view })) return []
    const a = adjust([view], answer.estimate, {
      treatments: asked.treatments,
      priors: priorsOf(asked, lens),
      steps: STEPS,
    })
    if (!Number.isFinite(a.cost) || !spreadOf(a).sd) return []
    return [{ kind, index, rmsPx: rmsOf(view, a.estimate) }]
  }
  const pairs = asked.pairs.filter((_, i) => !answer.wrong.includes(i))
  const used = asked.pairs.map((_, i) => i).filter((i) => !answer.wrong.includes(i))
  return [
    ...asked.lines.flatMap((_, i) => without({ lines: asked.lines.filter((_l, j) => j !== i), pairs }, 'line', i)),
    ...used.flatMap((i) => without({ lines: asked.lines, pairs: asked.pairs.filter((_p, j) => j !== i && used.includes(j)) }, 'pair', i)), // prettier-ignore
  ].sort((a, b) => a.rmsPx - b.rmsPx)
}

/**
 * Two pairs from a length that is known along a direction: one end is where it is said to be (the origin, or a place of the model), the
 * other so far along. RangeError for a length that is not above nought.
 */
export function pairsOfLength(o: {
  readonly from: PicturePlace
  readonly to: PicturePlace
  readonly place: Vec3
  readonly direction: Vec3
  readonly lengthM: number
}): readonly [PhotoPair, PhotoPair] {
  if (!(o.lengthM > 0)) throw new RangeError(`pairsOfLength: lengthM must be above nought, got ${o.lengthM}`)
  return [
    { world: o.place, image: o.from },
    { world: add(o.place, scale(normalize(o.direction), o.lengthM)), image: o.to },
  ]
}

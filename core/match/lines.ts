// Which camera sees the building's parallel lines so?
// Model: all bundles at once: focal length, rotation and, with three bundles, the principal point, by least squares on the ends'
// distances. Source: handbook-9; caprile1990; hartley2004 (8.6).
// Space: picture pixels from the top left corner; x, y, z are the building's own axes, z up.

import { ok, type Result } from '../base/index.ts'
import { foldOf } from '../camera/index.ts'
import type { Vec3 } from '../math/index.ts'
import { adjust, type Adjusted } from './adjust.ts'
import { cannot, cannotTell, type MatchReason } from './refusals.ts'
import { lineDistances, lineFeet, straightened, towardsOf } from './residuals.ts'
import { anglesOfRotation, rotationOf, type Rotation } from './rotation.ts'
import { inOrder, startFromLines } from './start-lines.ts'
import { sdOf, spreadOf, type Spread } from './spread.ts'
import { NO_DISTORTION, type Estimate, type PhotoLine, type PicturePlace, type Segment, type Treatments, type Unknown } from './types.ts' // prettier-ignore
import { bundlesOf, scaleOf, spreadDeg } from './vanishing.ts'

export interface LineMatch {
  readonly focalPx: number
  readonly principal: PicturePlace
  readonly k1: number
  /** Row by row, world to camera: x right, y up, looking along -z. */
  readonly cameraFromWorldRotation: readonly number[]
  readonly bearingDeg: number
  readonly tiltDeg: number
  readonly rollDeg: number
  /** Of the ends' distances from their lines, pixels. */
  readonly rmsPx: number
  /** One sigma; 0 for what was held. */
  readonly sd: {
    readonly focalPx: number
    readonly principal: readonly [number, number]
    readonly k1: number
    readonly bearingDeg: number
    readonly tiltDeg: number
    readonly rollDeg: number
  }
  /** Observations left over: how much the sd is worth. */
  readonly freedom: number
  /** Each line's largest distance, pixels, in the order x, y, z. */
  readonly residualsPx: readonly number[]
  /** The same lines seen with the building turned half round, or otherwise. */
  readonly alternatives: readonly Omit<LineMatch, 'alternatives'>[]
}
export interface LinesAsked {
  readonly imageWidth: number
  readonly imageHeight: number
  readonly bundles: {
    readonly x?: readonly Segment[]
    readonly y?: readonly Segment[]
    readonly z?: readonly Segment[]
  }
  /** Known; left out, it is solved. */
  readonly focalPx?: number
  /** Known; left out, it is solved where three bundles tell it, and is the picture's middle otherwise. */
  readonly principal?: PicturePlace
  /** Solve the lens's bending too, from lines with more than two places or from many lines. */
  readonly k1?: boolean
}
const AXES: Readonly<Record<'x' | 'y' | 'z', Vec3>> = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] }
/** Of a focal length that is hardly told at all. */
const VAGUE = 0.5
/** A principal point less sure than this part of the picture's longer side is better held in the middle. */
const VAGUE_MIDDLE = 0.12
const LEAST_NOISE_PX = 0.25
/** What of the principal point three bundles may tell: uprights that stay upright tell its height alone. */
const MIDDLES: readonly Treatments[] = [
  { principalX: 'free', principalY: 'free' },
  { principalY: 'free' },
  { principalX: 'free' },
]

/** Cost linear in lines times about ten steps. See `MatchReason` for what is refused. */
export function matchLines(asked: LinesAsked): Result<LineMatch, MatchReason> {
  const lines = (['x', 'y', 'z'] as const).flatMap((axis) =>
    (asked.bundles[axis] ?? []).map(({ a, b }): PhotoLine => ({ direction: AXES[axis], points: [a, b] })),
  )
  return matchBundles(lines, asked)
}

/** `matchLines` for lines of any known directions, with as many places on each as are seen. */
export function matchBundles(
  lines: readonly PhotoLine[],
  asked: Omit<LinesAsked, 'bundles'>,
): Result<LineMatch, MatchReason> {
  if (lines.some(isNought)) return cannot('zero-length')
  const bundles = bundlesOf(lines).filter((b) => b.lines.length >= 2)
  const [one] = bundles
  if (!one) return cannot('few-lines')
  if (bundles.length < 2) return cannot(lines.length === one.lines.length ? 'one-direction' : 'few-lines')
  const start = startFromLines(bundles, scaleOf(asked.imageWidth, asked.imageHeight), asked)!
  if (asked.focalPx === undefined && !start.tellsFocal) return cannot('focal-untold')
  const base: Treatments = {
    ...(asked.focalPx === undefined && { focalPx: 'free' }),
    ...(asked.k1 && { k1: 'free' }),
  }
  const withMiddle = asked.principal === undefined && bundles.length >= 3
  const found = inOrder(start.rotations).flatMap((rotation) => {
    const solve = (principal: PicturePlace, t: Treatments): Solved =>
      solved(lines, { lens: { focalPx: start.focalPx, principal, distortion: NO_DISTORTION }, poses: [{ station: [0, 0, 0], ...anglesOfRotation(rotation) }] }, t) // prettier-ignore
    for (const middle of withMiddle ? MIDDLES : []) {
      const free = solve(start.principal, { ...base, ...middle })
      // noise that happens to be small does not make it surer
      const sure = Math.max(free.sdOf('principalX'), free.sdOf('principalY')) * Math.max(1, LEAST_NOISE_PX / free.spread.sigmaPx) // prettier-ignore
      if (sure < VAGUE_MIDDLE * Math.max(asked.imageWidth, asked.imageHeight)) return [free]
    }
    return [solve(asked.principal ?? [asked.imageWidth / 2, asked.imageHeight / 2], base)]
  })
  const least = Math.min(...found.map((f) => f.adjusted.cost))
  const good = found.filter((f) => f.adjusted.cost <= least * 1.5 + 1e-9 * lines.length)
  const [best, ...others] = good
  if (!best?.spread.sd) return best && best.spread.loose.length > 0 ? refusalOf(best.spread) : cannot('ill-posed')
  if (asked.focalPx === undefined && best.sdOf('focalPx') > VAGUE * best.adjusted.estimate.lens.focalPx)
    return cannot(bundles.some((b) => spreadDeg(b.lines) < NARROW_DEG) ? 'narrow' : 'focal-untold')
  if (folds(best.adjusted.estimate, asked)) return cannot('folds')
  return ok({ ...told(lines, best), alternatives: others.map((o) => told(lines, o)) })
}
/** A bundle whose lines differ by less. */
const NARROW_DEG = 3
const isNought = (l: PhotoLine): boolean => {
  const [a, b] = [l.points[0]!, l.points.at(-1)!]
  return !(Math.hypot(a[0] - b[0], a[1] - b[1]) > 1e-9)
}
const refusalOf = (s: Spread) => (s.loose.includes('focalPx') ? cannot('focal-untold') : cannotTell(s.loose))

interface Solved {
  readonly adjusted: Adjusted
  readonly spread: Spread
  sdOf(name: Unknown): number
}
function solved(lines: readonly PhotoLine[], start: Estimate, treatments: Treatments): Solved {
  const adjusted = adjust([{ lines, pairs: [] }], start, { treatments })
  const spread = spreadOf(adjusted)
  return {
    adjusted,
    spread,
    sdOf: (name) => sdOf(adjusted, spread, name),
  }
}
/** Whether the lens folds within the picture. */
export function folds(
  { lens }: Estimate,
  { imageWidth: w, imageHeight: h }: Pick<LinesAsked, 'imageWidth' | 'imageHeight'>,
): boolean {
  // prettier-ignore
  const { reach } = foldOf({ kind: 'brown', ...lens.distortion })
  const corners: PicturePlace[] = [[0, 0], [w, 0], [0, h], [w, h]] // prettier-ignore
  const far = Math.max(...corners.map(([x, y]) => Math.hypot(x - lens.principal[0], y - lens.principal[1])))
  return far / lens.focalPx > reach
}

/** Largest distance of each line's points from where the estimate draws it, and all of them squared. */
export function lineMisses(
  lines: readonly PhotoLine[],
  { lens, poses }: Estimate,
): { largest: number[]; squares: number; count: number } {
  // prettier-ignore
  const rotation = rotationOf(poses[0]!)
  let [squares, count] = [0, 0]
  const largest = lines.map((line) => {
    const out = new Float64Array(line.points.length)
    lineDistances(straightened(lens, line), towardsOf(rotation, line), lens.focalPx, out)
    for (const d of out) squares += d * d
    count += out.length
    return out.reduce((m, d) => Math.max(m, Math.abs(d)), 0)
  })
  return { largest, squares, count }
}

/** Of every point of every line, how far and where it would have to move to lie where the estimate draws the line, pixels. */
export function lineArrows(
  lines: readonly PhotoLine[],
  { lens, poses }: Estimate,
): (readonly (readonly [number, number])[])[] {
  const rotation = rotationOf(poses[0]!)
  return lines.map((line) =>
    lineFeet(lens, rotation, line).map((f, i) => [f[0] - line.points[i]![0], f[1] - line.points[i]![1]] as const),
  )
}

function told(lines: readonly PhotoLine[], { adjusted, spread, sdOf }: Solved): Omit<LineMatch, 'alternatives'> {
  const { lens, poses } = adjusted.estimate
  const { bearingDeg, tiltDeg, rollDeg } = poses[0]!
  const { largest, squares, count } = lineMisses(lines, adjusted.estimate)
  return {
    focalPx: lens.focalPx,
    principal: lens.principal,
    k1: lens.distortion.k1,
    cameraFromWorldRotation: yUp(rotationOf(poses[0]!)),
    bearingDeg,
    tiltDeg,
    rollDeg,
    rmsPx: Math.sqrt(squares / count),
    sd: {
      focalPx: sdOf('focalPx'),
      principal: [sdOf('principalX'), sdOf('principalY')],
      k1: sdOf('k1'),
      bearingDeg: sdOf('bearingDeg'),
      tiltDeg: sdOf('tiltDeg'),
      rollDeg: sdOf('rollDeg'),
    },
    freedom: spread.freedom,
    residualsPx: largest,
  }
}
/** From y down and z forward to y up and z back. */
const yUp = (r: Rotation): number[] => [...r].map((v, i) => (i < 3 ? v : v === 0 ? 0 : -v))

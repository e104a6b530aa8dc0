// From where, and through which lens, are known points seen so, when some of the pairs may be wrong?
// Model: stations of three pairs each (`threePointPoses`), judged by all the others; an unknown focal length is tried over the whole
// range. With wrong pairs among them the trials go on until three right ones were drawn with all but certainty.
// Source: handbook-9; fischler1981 (draws). Rejected: direct linear transformation (needs six points off a plane, and is far off with noise).

import { seededRandom } from '../base/index.ts'
import { cross, distance, length, normalize, sub, type Vec3 } from '../math/index.ts'
import { anglesOfRotation } from './rotation.ts'
import { straightened } from './residuals.ts'
import { threePointPoses, type ThreePointPose } from './three-points.ts'
import type { Estimate, PhotoLens, PhotoPair } from './types.ts'

export interface PointsStart {
  readonly estimate: Estimate
  /** Sum of misses cut off at the limit, pixels squared. */
  readonly cost: number
}
type Triple = readonly [number, number, number]

/** Focal lengths tried, in longer sides of the picture. */
export const FOCALS = Array.from({ length: 22 }, (_, i) => 0.35 * (12 / 0.35) ** (i / 21))

/** The pairs as a lens without distortion would have drawn them. */
function asStraight(pairs: readonly PhotoPair[], lens: PhotoLens): readonly PhotoPair[] {
  if (Object.values(lens.distortion).every((k) => k === 0)) return pairs
  const { focalPx: f, principal } = lens
  const at = straightened(lens, { direction: [0, 0, 1], points: pairs.map((p) => p.image) })
  return pairs.map((p, i) => ({ ...p, image: [principal[0] + f * at[5 * i]!, principal[1] + f * at[5 * i + 1]!] }))
}
function raysOf(pairs: readonly PhotoPair[], { focalPx, principal }: PhotoLens): Vec3[] {
  return pairs.map(({ image }) =>
    normalize([(image[0] - principal[0]) / focalPx, (image[1] - principal[1]) / focalPx, 1]),
  )
}
/** Sum of squared misses of all pairs, each cut off; Infinity past `most`. */
function costOf(
  { rotation: r, station: s }: ThreePointPose,
  { focalPx: f, principal }: PhotoLens,
  pairs: readonly PhotoPair[],
  cutPx: number,
  most: number,
): number {
  // prettier-ignore
  const cut = cutPx * cutPx
  let sum = 0
  for (const { world: w, image } of pairs) {
    const [dx, dy, dz] = [w[0] - s[0], w[1] - s[1], w[2] - s[2]]
    const z = r[6]! * dx + r[7]! * dy + r[8]! * dz
    if (!(z > 0)) sum += cut
    else {
      const ex = principal[0] + (f * (r[0]! * dx + r[1]! * dy + r[2]! * dz)) / z - image[0]
      const ey = principal[1] + (f * (r[3]! * dx + r[4]! * dy + r[5]! * dz)) / z - image[1]
      sum += Math.min(cut, ex * ex + ey * ey)
    }
    if (sum > most) return Infinity
  }
  return sum
}

/** Draws of three pairs that lie well apart, in the photograph. */
export function triples(pairs: readonly PhotoPair[], most: number, seed: number): Triple[] {
  const n = pairs.length
  const random = seededRandom(seed)
  const out: { t: Triple; area: number }[] = []
  const area = ([i, j, k]: Triple): number => {
    const [a, b, c] = [pairs[i]!.image, pairs[j]!.image, pairs[k]!.image]
    return Math.abs((b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]))
  }
  const all = (n * (n - 1) * (n - 2)) / 6
  if (all <= most * 2)
    for (let i = 0; i < n; i++)
      for (let j = i + 1; j < n; j++) for (let k = j + 1; k < n; k++) out.push({ t: [i, j, k], area: area([i, j, k]) })
  else
    for (let d = 0; d < most * 2; d++) {
      const i = Math.floor(random() * n)
      const j = (i + 1 + Math.floor(random() * (n - 1))) % n
      let k = Math.floor(random() * n)
      while (k === i || k === j) k = (k + 1) % n
      out.push({ t: [i, j, k], area: area([i, j, k]) })
    }
  // small triangles say little
  return out.sort((a, b) => b.area - a.area).slice(0, most).map((o) => o.t) // prettier-ignore
}

export interface PointsStartOptions {
  /** Focal lengths to try, pixels. */
  readonly focals: readonly number[]
  readonly draws: number
  readonly cutPx: number
  readonly seed?: number
}
/** The best few starts, best first; different ones. */
export function startFromPoints(pairs: readonly PhotoPair[], lens: PhotoLens, o: PointsStartOptions): PointsStart[] {
  const draws = triples(pairs, o.draws, o.seed ?? 1)
  const found: { pose: ThreePointPose; focalPx: number; cost: number }[] = []
  let bar = Infinity
  for (const focalPx of o.focals) {
    const own = { ...lens, focalPx }
    const straight = asStraight(pairs, own)
    const rays = raysOf(straight, own)
    for (const [i, j, k] of draws) {
      const world = [pairs[i]!.world, pairs[j]!.world, pairs[k]!.world] as const
      for (const pose of threePointPoses(world, [rays[i]!, rays[j]!, rays[k]!])) {
        const cost = costOf(pose, own, straight, o.cutPx, bar)
        if (cost === Infinity) continue
        found.push({ pose, focalPx, cost })
        if (found.length < 24) continue
        found.sort((a, b) => a.cost - b.cost)
        found.length = 12
        bar = found[11]!.cost
      }
    }
  }
  found.sort((a, b) => a.cost - b.cost)
  const kept: typeof found = []
  const size = sizeOf(pairs)
  for (const f of found) {
    const isNew = kept.every((k) => distance(k.pose.station, f.pose.station) > 0.02 * size || Math.abs(Math.log(k.focalPx / f.focalPx)) > 0.05) // prettier-ignore
    if (isNew) kept.push(f)
    if (kept.length === 6) break
  }
  return kept.map(({ pose, focalPx, cost }) => ({
    cost,
    estimate: {
      lens: { ...lens, focalPx },
      poses: [{ station: pose.station, ...anglesOfRotation(pose.rotation) }],
    },
  }))
}

/** Largest distance of a point from the first, metres. */
const sizeOf = (pairs: readonly PhotoPair[]): number =>
  Math.max(...pairs.map((p) => distance(p.world, pairs[0]!.world)))

/** Thinner than this part of their size, points lie on a line or a plane. */
const FLAT = 1e-6
/** How points lie: all over, on one plane (with its normal) or on one line. */
export function layOf(points: readonly Vec3[]): { kind: 'space' } | { kind: 'plane'; normal: Vec3 } | { kind: 'line' } {
  const first = points[0]!
  const far = points.reduce((best, p) => (distance(p, first) > distance(best, first) ? p : best), first)
  const size = distance(far, first)
  if (!(size > 0)) return { kind: 'line' }
  const along = normalize(sub(far, first))
  const off = (p: Vec3): Vec3 => cross(along, sub(p, first))
  const widest = points.reduce((best, p) => (length(off(p)) > length(off(best)) ? p : best), first)
  if (!(length(off(widest)) > FLAT * size)) return { kind: 'line' }
  const normal = normalize(off(widest))
  const height = Math.max(...points.map((p) => Math.abs(normal[0] * (p[0] - first[0]) + normal[1] * (p[1] - first[1]) + normal[2] * (p[2] - first[2])))) // prettier-ignore
  return height > FLAT * size ? { kind: 'space' } : { kind: 'plane', normal }
}

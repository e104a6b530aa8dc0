// Which focal length and directions do bundles of lines tell, before anything is refined?
// Model: rays to the vanishing points must stand to each other as the bundles do in the building. Three that stand square and meet at
// finite places give the principal point too: the orthocentre of their triangle. Source: handbook-9; caprile1990.

import { Matrix, SVD } from 'ml-matrix'
import { dot, type Vec3 } from '../math/index.ts'
import type { Rotation } from './rotation.ts'
import type { PicturePlace } from './types.ts'
import { vanishingPoint, type Bundle, type PictureScale } from './vanishing.ts'

export interface LinesStart {
  readonly focalPx: number
  readonly principal: PicturePlace
  /** Every way the building's axes can point; the best first. */
  readonly rotations: readonly Rotation[]
  /** Whether the lines tell the focal length at all. */
  readonly tellsFocal: boolean
}
interface Seen {
  readonly direction: Vec3
  readonly at: Vec3
}

/** Unit ray in camera space towards a vanishing point. */
function rayTo(v: Vec3, focalPx: number, principal: PicturePlace, { centre, side }: PictureScale): Vec3 {
  const x = side * v[0] + (centre[0] - principal[0]) * v[2]
  const y = side * v[1] + (centre[1] - principal[1]) * v[2]
  const z = focalPx * v[2]
  const l = Math.hypot(x, y, z)
  return [x / l, y / l, z / l]
}
/** How much the rays' angles miss the bundles'. */
function missOf(seen: readonly Seen[], focalPx: number, principal: PicturePlace, scale: PictureScale): number {
  const rays = seen.map((s) => rayTo(s.at, focalPx, principal, scale))
  let sum = 0
  for (let i = 0; i < seen.length; i++)
    for (let j = 0; j < i; j++)
      sum += (Math.abs(dot(rays[i]!, rays[j]!)) - Math.abs(dot(seen[i]!.direction, seen[j]!.direction))) ** 2
  return sum
}

/** Focal lengths that are tried, in longer sides of the picture. */
const [LEAST, MOST, PARTS] = [0.08, 60, 240]
function bestFocal(miss: (focalPx: number) => number, side: number): { focalPx: number; tells: boolean } {
  const at = (i: number): number => side * LEAST * (MOST / LEAST) ** (i / PARTS)
  let best = 0
  let worst = 0
  for (let i = 0; i <= PARTS; i++) {
    if (miss(at(i)) < miss(at(best))) best = i
    worst = Math.max(worst, miss(at(i)))
  }
  let [a, b] = [at(Math.max(0, best - 1)), at(Math.min(PARTS, best + 1))]
  for (let i = 0; i < 80; i++) {
    const [c, d] = [a + (b - a) * 0.382, a + (b - a) * 0.618]
    if (miss(c) < miss(d)) b = d
    else a = c
  }
  return { focalPx: (a + b) / 2, tells: worst - miss(at(best)) > 1e-9 }
}

/** The orthocentre of three places in the picture, pixels; null where they lie on one line. */
export function orthocentre(a: PicturePlace, b: PicturePlace, c: PicturePlace): PicturePlace | null {
  // (p - a) . (b - c) = 0 and (p - b) . (a - c) = 0
  const [ux, uy, vx, vy] = [b[0] - c[0], b[1] - c[1], a[0] - c[0], a[1] - c[1]]
  const det = ux * vy - uy * vx
  if (!(Math.abs(det) > 1e-9 * Math.hypot(ux, uy) * Math.hypot(vx, vy))) return null
  const [m, n] = [a[0] * ux + a[1] * uy, b[0] * vx + b[1] * vy]
  return [(m * vy - n * uy) / det, (ux * n - vx * m) / det]
}
const placeOf = (v: Vec3, { centre, side }: PictureScale): PicturePlace => [centre[0] + (side * v[0]) / v[2], centre[1] + (side * v[1]) / v[2]] // prettier-ignore

/** Starts from bundles with two lines or more; null where fewer than two directions are told. */
export function startFromLines(
  bundles: readonly Bundle[],
  scale: PictureScale,
  known: { readonly focalPx?: number | undefined; readonly principal?: PicturePlace | undefined },
): LinesStart | null {
  const seen = bundles.flatMap(({ direction, lines }): Seen[] => {
    const at = vanishingPoint(lines, scale)
    return at ? [{ direction, at }] : []
  })
  if (seen.length < 2) return null
  let principal = known.principal ?? scale.centre
  const square = seen.filter((s, i) => seen.every((t, j) => i === j || Math.abs(dot(s.direction, t.direction)) < 1e-6))
  if (!known.principal && square.length === 3 && square.every((s) => Math.abs(s.at[2]) > 0.02)) {
    const [a, b, c] = square.map((s) => placeOf(s.at, scale)) as [PicturePlace, PicturePlace, PicturePlace]
    const found = orthocentre(a, b, c)
    // far off the picture it is noise
    if (found && Math.hypot(found[0] - scale.centre[0], found[1] - scale.centre[1]) < scale.side) principal = found
  }
  const miss = (f: number): number => missOf(seen, f, principal, scale)
  const { focalPx, tells } = bestFocal(miss, scale.side)
  const focal = known.focalPx ?? focalPx
  return { focalPx: focal, principal, rotations: rotationsFor(seen, focal, principal, scale), tellsFocal: tells }
}

/** The rotations that turn the bundles' directions onto the rays, whichever way along each; best first, each once. */
function rotationsFor(
  seen: readonly Seen[],
  focalPx: number,
  principal: PicturePlace,
  scale: PictureScale,
): Rotation[] {
  const rays = seen.map((s) => rayTo(s.at, focalPx, principal, scale))
  const found: { rotation: Rotation; miss: number }[] = []
  const used = Math.min(seen.length, 4)
  for (let signs = 0; signs < 2 ** used; signs++) {
    const m = new Matrix(3, 3)
    for (let k = 0; k < used; k++) {
      const s = signs & (1 << k) ? -1 : 1
      for (let i = 0; i < 3; i++)
        for (let j = 0; j < 3; j++) m.set(i, j, m.get(i, j) + s * rays[k]![i]! * seen[k]!.direction[j]!)
    }
    const { leftSingularVectors: u, rightSingularVectors: v, diagonal } = new SVD(m)
    const det = determinant(u) * determinant(v)
    const r = u.mmul(Matrix.diag([1, 1, det])).mmul(v.transpose())
    const rotation = Float64Array.from(r.to1DArray())
    found.push({ rotation, miss: used - diagonal[0]! - diagonal[1]! - det * diagonal[2]! })
  }
  found.sort((a, b) => a.miss - b.miss)
  const best = found[0]!.miss
  const kept: Rotation[] = []
  for (const { rotation, miss } of found) {
    if (miss > best + 0.05) break
    if (kept.every((k) => k.some((x, i) => Math.abs(x - rotation[i]!) > 1e-6))) kept.push(rotation)
  }
  return kept
}
const determinant = (m: Matrix): number =>
  m.get(0, 0) * (m.get(1, 1) * m.get(2, 2) - m.get(1, 2) * m.get(2, 1)) -
  m.get(0, 1) * (m.get(1, 0) * m.get(2, 2) - m.get(1, 2) * m.get(2, 0)) +
  m.get(0, 2) * (m.get(1, 0) * m.get(2, 1) - m.get(1, 1) * m.get(2, 0))

/** Of rotations alike: world up is up in the picture; then the one that looks north (or, at a tie, east) comes first. */
export function inOrder(rotations: readonly Rotation[]): Rotation[] {
  const upright = rotations.filter((r) => -r[5]! > 1e-9)
  const kept = upright.length > 0 ? upright : [...rotations]
  const northerly = (r: Rotation): number => (Math.abs(r[7]!) > 1e-9 ? Math.sign(r[7]!) : 0.5 * Math.sign(r[6]!))
  return [...kept].sort((a, b) => northerly(b) - northerly(a))
}

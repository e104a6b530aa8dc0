// Where do the lines of a bundle meet?
// Model: the point nearest to all of them, each weighed by the pixels that its ends would have to move (reweighted least squares on
// homogeneous coordinates, so that a point at infinity is as good as any). Source: handbook-9; hartley2004 (8.6).
// Space: homogeneous picture coordinates about the picture's middle, its longer side being 1.

import { EigenvalueDecomposition, Matrix } from 'ml-matrix'
import { dot, type Vec3 } from '../math/index.ts'
import type { PhotoLine, PicturePlace } from './types.ts'

/** The picture's middle and its longer side, pixels. */
export interface PictureScale {
  readonly centre: PicturePlace
  readonly side: number
}
export const scaleOf = (width: number, height: number): PictureScale => ({
  centre: [width / 2, height / 2],
  side: Math.max(width, height),
})

export interface Bundle {
  readonly direction: Vec3
  readonly lines: readonly PhotoLine[]
}
/** Directions are the same where they differ by less than about a thousandth of a degree. */
const SAME = 1 - 1e-10
export function bundlesOf(lines: readonly PhotoLine[]): Bundle[] {
  const out: { direction: Vec3; lines: PhotoLine[] }[] = []
  for (const line of lines) {
    const known = out.find((b) => Math.abs(dot(b.direction, line.direction)) > SAME)
    if (known) known.lines.push(line)
    else out.push({ direction: line.direction, lines: [line] })
  }
  return out
}
export const endsOf = ({ points }: PhotoLine): readonly [PicturePlace, PicturePlace] => [points[0]!, points.at(-1)!]

const ROUNDS = 8
/** Homogeneous, of unit length; null for fewer than two lines. */
export function vanishingPoint(lines: readonly PhotoLine[], { centre, side }: PictureScale): Vec3 | null {
  if (lines.length < 2) return null
  const rows = lines.map((line) => {
    const [a, b] = endsOf(line).map(([x, y]) => [(x - centre[0]) / side, (y - centre[1]) / side]) as [
      number[],
      number[],
    ]
    const [dx, dy] = [b[0]! - a[0]!, b[1]! - a[1]!]
    const long = Math.hypot(dx, dy)
    const [nx, ny] = [-dy / long, dx / long]
    const middle = [(a[0]! + b[0]!) / 2, (a[1]! + b[1]!) / 2] as const
    return { l: [nx, ny, -(nx * middle[0] + ny * middle[1])] as const, middle, long }
  })
  let v: Vec3 | null = null
  for (let round = 0; round < ROUNDS; round++) {
    const m = new Matrix(3, 3)
    for (const { l, middle, long } of rows) {
      const far = v ? Math.hypot(v[0] - middle[0] * v[2], v[1] - middle[1] * v[2]) : 1
      const w = (long / Math.max(far, 1e-9)) ** 2
      for (let i = 0; i < 3; i++) for (let j = 0; j < 3; j++) m.set(i, j, m.get(i, j) + w * l[i]! * l[j]!)
    }
    const { realEigenvalues, eigenvectorMatrix } = new EigenvalueDecomposition(m, { assumeSymmetric: true })
    const least = realEigenvalues.indexOf(Math.min(...realEigenvalues))
    const next = [0, 1, 2].map((k) => eigenvectorMatrix.get(k, least)) as unknown as Vec3
    const same = v !== null && 1 - Math.abs(dot(next, v)) < 1e-15
    v = next
    if (same) break
  }
  return v
}

/** Angle, degrees, between the two lines of a bundle that differ most in the picture. */
export function spreadDeg(lines: readonly PhotoLine[]): number {
  const angles = lines.map((line) => {
    const [a, b] = endsOf(line)
    return Math.atan2(b[1] - a[1], b[0] - a[0])
  })
  let most = 0
  for (const a of angles) for (const b of angles) most = Math.max(most, Math.abs(Math.sin(a - b)))
  return (Math.asin(Math.min(1, most)) * 180) / Math.PI
}

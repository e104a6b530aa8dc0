// Where are the middles of the rooms?
// Space: world metres; bearings clockwise from +Y. Source: common practice (rectangular buildings).

import { cosDeg, RAD_PER_DEG, wrapBearingDeg } from '#core/base'
import type { Vec3 } from '#core/math'
import type { Wall, WallFacts } from './walls.ts'

/** Lines midway between walls that face each other, along and across the main direction. */
export interface CentreLine {
  readonly point: Vec3
  /** Bearing that the line runs along. */
  readonly bearingDeg: number
}
/** Walls smaller than this share of the largest bound no room. */
const ROOM_WALL = 0.08
const FACING_DEG = 1

/** Centre lines of the rooms between the larger walls. */
export function centreLines({ walls }: WallFacts): CentreLine[] {
  const largest = walls[0]?.areaM2 ?? 0
  const big = walls.filter((w) => w.areaM2 >= ROOM_WALL * largest)
  const lines: CentreLine[] = []
  for (const a of big) {
    let nearest: { b: Wall; gap: number } | null = null
    for (const b of big) {
      const facing = a.normal[0] * b.normal[0] + a.normal[1] * b.normal[1]
      if (facing > -Math.cos(FACING_DEG * RAD_PER_DEG)) continue
      // how far b lies before a's face; walls back to back lie behind
      const gap = (b.point[0] - a.point[0]) * a.normal[0] + (b.point[1] - a.point[1]) * a.normal[1]
      if (gap > 0.5 && (!nearest || gap < nearest.gap)) nearest = { b, gap }
    }
    // told once: by the wall that faces the first half turn
    if (!nearest || a.facesDeg >= 180) continue
    const { gap } = nearest
    const point: Vec3 = [a.point[0] + (a.normal[0] * gap) / 2, a.point[1] + (a.normal[1] * gap) / 2, 0]
    const same = lines.some(
      (l) =>
        Math.abs(Math.abs(cosDeg(l.bearingDeg - a.facesDeg - 90)) - 1) < 1e-4 &&
        Math.abs((l.point[0] - point[0]) * a.normal[0] + (l.point[1] - point[1]) * a.normal[1]) < 0.01,
    )
    if (!same) lines.push({ point, bearingDeg: wrapBearingDeg(a.facesDeg + 90) })
  }
  return lines
}

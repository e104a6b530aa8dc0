// Where exactly does an edge run near a segment?
// Model: across it, brightness is read at places along it; each reading's steepest place is a point of the edge, to a part of a pixel; a
// line is laid through them that leaves out what lies off. Space: picture pixels from the top left corner, first middle at 0.5.

import type { Grey } from './segments.ts'

export interface RefinedEdge {
  readonly a: readonly [number, number]
  readonly b: readonly [number, number]
  /** Share of the readings that lie on it, 0..1. */
  readonly support: number
}
const READINGS = 40
/** Off the line by more than this a reading is of something else, pixels. */
const OFF_PX = 1.5

function brightness({ width, height, data }: Grey, x: number, y: number): number {
  const u = Math.min(Math.max(x - 0.5, 0), width - 1.001)
  const v = Math.min(Math.max(y - 0.5, 0), height - 1.001)
  const i = Math.floor(v) * width + Math.floor(u)
  const [fx, fy] = [u - Math.floor(u), v - Math.floor(v)]
  return (data[i]! * (1 - fx) + data[i + 1]! * fx) * (1 - fy) + (data[i + width]! * (1 - fx) + data[i + width + 1]! * fx) * fy // prettier-ignore
}

/** A segment moved onto the edge within `reachPx` of it; null where there is none that most of it lies along. */
export function refinedEdge(
  grey: Grey,
  a: readonly [number, number],
  b: readonly [number, number],
  reachPx: number,
): RefinedEdge | null {
  const length = Math.hypot(b[0] - a[0], b[1] - a[1])
  if (!(length > 2)) return null
  const [dx, dy] = [(b[0] - a[0]) / length, (b[1] - a[1]) / length]
  const n = Math.max(5, Math.min(READINGS, Math.round(length / 2)))
  const places: (readonly [along: number, off: number, weight: number])[] = []
  for (let k = 0; k < n; k++) {
    const along = ((k + 0.5) / n) * length
    const off = steepest(grey, a[0] + along * dx, a[1] + along * dy, -dy, dx, reachPx)
    if (off) places.push([along, off[0], off[1]])
  }
  if (places.length < n / 2) return null
  const line = throughMost(places)
  if (!line || line.support < 0.5) return null
  const at = (along: number): readonly [number, number] => {
    const off = line.at + line.slope * along
    return [a[0] + along * dx - off * dy, a[1] + along * dy + off * dx]
  }
  return { a: at(0), b: at(length), support: line.support }
}

/** How far off along a normal the brightness changes most, and how much; null where it is even. */
function steepest(
  grey: Grey,
  x: number,
  y: number,
  nx: number,
  ny: number,
  reach: number,
): readonly [number, number] | null {
  const step = 0.5
  const m = Math.ceil(reach / step)
  const slopes: number[] = []
  for (let k = -m; k <= m; k++) {
    const o = k * step
    slopes.push(Math.abs(brightness(grey, x + (o + 1) * nx, y + (o + 1) * ny) - brightness(grey, x + (o - 1) * nx, y + (o - 1) * ny))) // prettier-ignore
  }
  let best = 0
  // the nearest of those that are alike
  for (let k = 1; k < slopes.length; k++) {
    const near = (i: number): number => slopes[i]! * (1 - (0.3 * Math.abs(i - m)) / Math.max(1, m))
    if (near(k) > near(best)) best = k
  }
  if (slopes[best]! < 4) return null
  const [l, c, r] = [slopes[best - 1] ?? 0, slopes[best]!, slopes[best + 1] ?? 0]
  const bend = l - 2 * c + r
  const part = bend < -1e-9 ? Math.max(-0.5, Math.min(0.5, (0.5 * (l - r)) / bend)) : 0
  return [(best - m + part) * step, c]
}

/** The line off = at + slope x along that most readings lie near, by tries of pairs, then least squares. */
function throughMost(
  places: readonly (readonly [number, number, number])[],
): { at: number; slope: number; support: number } | null {
  let best: (readonly [number, number, number])[] = []
  for (let i = 0; i < places.length; i++)
    for (let j = i + Math.ceil(places.length / 4); j < places.length; j++) {
      const [p, q] = [places[i]!, places[j]!]
      const slope = (q[1] - p[1]) / (q[0] - p[0])
      const near = places.filter(([x, o]) => Math.abs(o - p[1] - slope * (x - p[0])) < OFF_PX / 2)
      if (near.length > best.length) best = near
    }
  if (best.length < 3) return null
  let [sw, sx, sy, sxx, sxy] = [0, 0, 0, 0, 0]
  for (const [x, o, w] of best) {
    sw += w
    sx += w * x
    sy += w * o
    sxx += w * x * x
    sxy += w * x * o
  }
  const d = sw * sxx - sx * sx
  if (!(d > 1e-9)) return null
  const slope = (sw * sxy - sx * sy) / d
  return { at: (sy - slope * sx) / sw, slope, support: best.length / places.length }
}

// A parallel view of a plane: what camera it has, what shows all of some points, and how long its scale bar is.
// Space: world metres; view pixels from the top left. Source: handbook-3.

import { rayThrough, toCamera, type Camera } from '../camera/index.ts'
import type { Vec3 } from '../math/index.ts'

export interface ViewSize {
  readonly width: number
  readonly height: number
}
export interface ViewDirection {
  readonly bearingDeg: number
  readonly tiltDeg: number
}

/** The camera of a parallel view about a point, `widthM` across `size`. */
export const parallelCamera = (centre: Vec3, direction: ViewDirection, widthM: number, size: ViewSize): Camera => ({
  pose: { station: centre, ...direction, rollDeg: 0 },
  lens: {
    projection: { kind: 'parallel', widthM },
    focalMm: 50,
    sensorMm: { width: 36, height: 24 },
    sensorUse: 'acrossWidth',
    riseMm: 0,
    crossMm: 0,
    distortion: null,
  },
  frame: {
    widthPx: Math.max(1, Math.round(size.width)),
    heightPx: Math.max(1, Math.round(size.height)),
    densityPpi: 96,
    guides: [],
  },
})

export interface ParallelFit {
  /** Air at each side, as a share of the extent. */
  readonly margin: number
  /** Pixels kept free at the top. */
  readonly headPx: number
  readonly narrowestM: number
}
const LEAST_FREE_PX = 20

/** Centre and width of the view that shows all of the points, clear of the head. Linear. */
export function parallelFit(
  points: readonly Vec3[],
  direction: ViewDirection,
  size: ViewSize,
  { margin, headPx, narrowestM }: ParallelFit,
): { readonly centre: Vec3; readonly widthM: number } {
  const flat = points.map((p) => toCamera({ station: [0, 0, 0], ...direction, rollDeg: 0 }, p))
  const span = (k: 0 | 1): [number, number] =>
    flat.reduce(([a, b], p) => [Math.min(a, p[k]), Math.max(b, p[k])], [Infinity, -Infinity] as [number, number])
  const [[x0, x1], [y0, y1]] = [span(0), span(1)]
  const free = Math.max(LEAST_FREE_PX, size.height - headPx)
  const mPerPx = Math.max(((x1 - x0) * (1 + 2 * margin)) / size.width, ((y1 - y0) * (1 + 2 * margin)) / free, narrowestM / size.width) // prettier-ignore
  const depth = flat.reduce((s, p) => s + p[2], 0) / flat.length
  return {
    centre: fromView([(x0 + x1) / 2, (y0 + y1) / 2 + (headPx / 2) * mPerPx, depth], direction),
    widthM: mPerPx * size.width,
  }
}

/** The world point of camera coordinates (right, up, towards the eye) about the world's origin. */
function fromView([x, y, z]: Vec3, direction: ViewDirection): Vec3 {
  const at = parallelCamera([0, 0, 0], direction, 1, { width: 1, height: 1 })
  const ray = rayThrough(at, 0.5 + x, 0.5 - y)!
  return [0, 1, 2].map((i) => ray.origin[i]! - ray.direction[i]! * z) as unknown as Vec3
}

/** The largest of 1, 2, 5 times a power of ten that is at most `most`. */
export function roundLength(most: number): number {
  const power = 10 ** Math.floor(Math.log10(most))
  return [5, 2, 1].map((s) => s * power).find((s) => s <= most) ?? power
}

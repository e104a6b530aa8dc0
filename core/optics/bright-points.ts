// Which bright points of a picture would an aperture draw its own shape of?
// Model: clusters of pixels far brighter than the picture's logarithmic mean, each small beside the disc that the lens makes of it; one that
// is not is drawn in parts that are. What is larger than its disc is a surface, whose blur has no shape to be seen. Found in a picture through the middle of the lens, whatever its exposure is.
// Pixels: rows as they come; places in pixels from the first row's first corner.
import { aperturePicture } from './aperture-picture.ts'
import { apertureEdge, type ApertureShape } from './aperture.ts'

export interface BrightPoint {
  /** Middle, weighted by brightness, pixels. */
  readonly xPx: number
  readonly yPx: number
  /** Along the axis, metres. */
  readonly distanceM: number
  /** Pixels (as indices) that are over the threshold. */
  readonly core: readonly number[]
  /** Those and the ones about them. */
  readonly all: readonly number[]
  /** Light over the picture's mean, in the pixels' own unit times pixels: red, green, blue. */
  readonly light: readonly [number, number, number]
  /** The same number for the parts of one point. */
  readonly of: number
  /** What it covers across and up, pixels: so wide is the ramp at its disc's edge. */
  readonly spanPx: readonly [number, number]
}
export interface BrightPoints {
  /** What is left of a point's pixels when it is taken out, luminance in the pixels' own unit. */
  readonly base: number
  /** The brightest first. */
  readonly list: readonly BrightPoint[]
  /** Pixels as bright as points that are none: of surfaces, or in focus. */
  readonly refused: readonly number[]
  /** The same of those that go on from what was known to be none. */
  readonly joined: readonly number[]
}
/** What is known of a scene when another sample of it is looked at. */
export interface KnownPoints {
  /** Of the first sample. */
  readonly base: number
  /** Whether a pixel belongs to a point that was found. */
  isPoint(index: number): boolean
  /** Whether it was refused. */
  isRefused(index: number): boolean
}

/** So many times the mean is bright, and so many times that the brightest pixel of a point. */
const OVER_MEAN = 6
const PEAK = 2.5
/** So many times the mean a point is at least, somewhere. */
export const POINT_OVER_MEAN = OVER_MEAN * PEAK
/** A point, or a part of one, is this much smaller than the largest disc in it, and at most this share of its own; a disc is at least so wide, pixels. */
const SMALLER = 3
/** Parts of a larger one are this much smaller than its disc, each with an edge as wide as it is; of so many a side they are as large as need be. */
const PART_SMALLER = 4
const PARTS_A_SIDE = 8
const LARGEST_PART = 0.6
/** Of more parts a bright place is a surface. */
const MOST_PARTS = 300
export const LEAST_DISC_PX = 4
/** As many are drawn. */
const MOST = 600
/** Pixels about a point that belong to it: the edges of its samples. */
export const ABOUT = 2

const luminance = (p: Float32Array, i: number): number => 0.2126 * p[i]! + 0.7152 * p[i + 1]! + 0.0722 * p[i + 2]!

/**
 * The bright points of linear RGB pixels with their distance along the axis (metres) as the fourth value. `discPx`: diameter of the blur
 * disc of a distance, pixels of this picture. `known`: the mean is that one's, its
 * points are left out, and what goes on from a pixel that was refused is none either (`joined`). `unlit`: what a pixel without light counts
 * in the mean of a picture that hardly has any other (a lamp before a plain backdrop); 0: it does not.
 */
export function brightPoints(
  pixels: Float32Array,
  { width, height }: { readonly width: number; readonly height: number },
  discPx: (distanceM: number) => number,
  known: KnownPoints | null = null,
  unlit = 0,
): BrightPoints {
  const base = known?.base ?? meanOf(pixels, unlit)
  const threshold = OVER_MEAN * base
  if (!(threshold > 0) || threshold === Infinity) return { base: Infinity, list: [], refused: [], joined: [] }
  const seen = new Uint8Array(width * height)
  const search = { width, height, threshold, base, seen }
  const found: BrightPoint[] = []
  const [refused, joined]: [number[], number[]] = [[], []]
  let points = 0
  for (let at = 0; at < seen.length; at++) {
    if (seen[at] || luminance(pixels, at * 4) <= threshold) continue
    if (known?.isPoint(at)) continue
    const core = clusterOf(pixels, search, at).filter((i) => !known?.isPoint(i))
    if (pointOf(pixels, width, base, core).peak < PEAK * threshold) continue
    const goesOn = known !== null && core.some((i) => known.isRefused(i))
    const parts = goesOn ? [] : drawable(pixels, search, core, discPx, ++points)
    if (parts.length === 0) for (const i of core) (goesOn ? joined : refused).push(i)
    else found.push(...parts)
  }
  const list = found.sort((a, b) => sum(b.light) - sum(a.light)).slice(0, MOST)
  return { base, list, refused, joined }
}
/** A cluster in parts that are small beside their discs; those that are not stay as they are. */
function drawable(
  pixels: Float32Array,
  { width, height, base }: Search,
  core: readonly number[],
  discPx: (distanceM: number) => number,
  of: number,
): BrightPoint[] {
  let most = 0
  for (const i of core) most = Math.max(most, discPx(pixels[i * 4 + 3]!))
  if (most < LEAST_DISC_PX) return []
  const bounds = boundsOf(core, width)
  const { left, low } = bounds
  const extent = Math.max(bounds.across, bounds.up)
  const partSide = Math.min(Math.floor(most / SMALLER), Math.max(Math.floor(most / PART_SMALLER), Math.ceil(extent / PARTS_A_SIDE))) // prettier-ignore
  // as large as each other
  const evenly = Math.ceil(extent / Math.ceil(extent / Math.max(2, partSide)))
  const side = extent * SMALLER > most ? evenly : extent
  if (core.length > MOST_PARTS * side * side) return []
  const parts = side < extent ? partsOf(core, width, side, [left, low]) : [core]
  const [mine, taken] = [new Set(core), new Set<number>()]
  return parts.flatMap((part) => {
    const point = pointOf(pixels, width, base, part)
    const disc = discPx(point.distanceM)
    if (disc < LEAST_DISC_PX || side > disc * LARGEST_PART) return []
    // each pixel about them belongs to one of them
    const all = [...part, ...grown(part, width, height).filter((i) => !mine.has(i))].filter((i) => !taken.has(i))
    all.forEach((i) => taken.add(i))
    return [{ ...point, core: part, all, of, spanPx: spanOf(part, width, side < extent ? side : Infinity) }]
  })
}
const sum = (v: readonly [number, number, number]): number => v[0] + v[1] + v[2]

/** Of so few pixels with light the mean is rather that of a lamp. */
const MANY_LIT = 0.25
/** Logarithmic mean of the luminance, of some pixels spread over the picture; of those without light where nearly all are. */
function meanOf(pixels: Float32Array, unlit: number): number {
  let total = 0
  let n = 0
  for (let i = 0; i < pixels.length; i += 4 * 7) {
    const l = luminance(pixels, i)
    if (!(l > 0)) continue
    total += Math.log(l)
    n++
  }
  if (n === 0) return 0
  const all = Math.ceil(pixels.length / 28)
  if (unlit > 0 && n < MANY_LIT * all) return Math.exp((total + (all - n) * Math.log(unlit)) / all)
  return Math.exp(total / n)
}

interface Search {
  readonly width: number
  readonly height: number
  readonly threshold: number
  readonly base: number
  readonly seen: Uint8Array
}
function clusterOf(pixels: Float32Array, { width, height, threshold, seen }: Search, from: number): number[] {
  const core = [from]
  seen[from] = 1
  for (let k = 0; k < core.length; k++) {
    const x = core[k]! % width
    const y = (core[k]! - x) / width
    const [left, right] = [Math.max(0, x - 1), Math.min(width - 1, x + 1)]
    for (let v = Math.max(0, y - 1); v <= Math.min(height - 1, y + 1); v++)
      for (let i = v * width + left; i <= v * width + right; i++) {
        if (seen[i] || luminance(pixels, i * 4) <= threshold) continue
        seen[i] = 1
        core.push(i)
      }
  }
  return core
}
function pointOf(pixels: Float32Array, width: number, base: number, core: readonly number[]) {
  let [weight, x, y, inverse, peak] = [0, 0, 0, 0, 0]
  const light: [number, number, number] = [0, 0, 0]
  for (const i of core) {
    const l = luminance(pixels, i * 4)
    const over = l - base
    const column = i % width
    weight += over
    x += over * (column + 0.5)
    y += over * ((i - column) / width + 0.5)
    inverse += over / pixels[i * 4 + 3]!
    peak = Math.max(peak, l)
    for (let c = 0; c < 3; c++) light[c]! += pixels[i * 4 + c]! * (over / l)
  }
  return { xPx: x / weight, yPx: y / weight, distanceM: weight / inverse, light, peak }
}
/** A cluster in squares of a side, from its own corner on. */
function partsOf(
  core: readonly number[],
  width: number,
  side: number,
  [left, low]: readonly [number, number],
): number[][] {
  const parts = new Map<number, number[]>()
  for (const i of core) {
    const x = i % width
    // no row has more parts than pixels
    const key = Math.floor((x - left) / side) + width * Math.floor(((i - x) / width - low) / side)
    const part = parts.get(key)
    if (part) part.push(i)
    else parts.set(key, [i])
  }
  return [...parts.values()]
}
/** What a part covers; where it is not cut from the next one its outermost pixels are hardly of it. */
function spanOf(core: readonly number[], width: number, cutPx: number): readonly [number, number] {
  const { across, up } = boundsOf(core, width)
  const of = (px: number): number => (px >= cutPx ? px : Math.max(0, px - 2))
  return [of(across), of(up)]
}
/** What a cluster covers, pixels: its corner and its sides. */
function boundsOf(core: readonly number[], width: number): { across: number; up: number; left: number; low: number } {
  let [left, right, low, high] = [Infinity, -1, Infinity, -1]
  for (const i of core) {
    const x = i % width
    const y = (i - x) / width
    ;[left, right, low, high] = [Math.min(left, x), Math.max(right, x), Math.min(low, y), Math.max(high, y)]
  }
  return { across: right - left + 1, up: high - low + 1, left, low }
}
function grown(core: readonly number[], width: number, height: number): number[] {
  const all = new Set<number>()
  for (const i of core) {
    const x = i % width
    const y = (i - x) / width
    for (let v = Math.max(0, y - ABOUT); v <= Math.min(height - 1, y + ABOUT); v++)
      for (let u = Math.max(0, x - ABOUT); u <= Math.min(width - 1, x + ABOUT); u++) all.add(v * width + u)
  }
  return [...all]
}

const STEPS = 720
/** Area of an aperture of radius 1; pi when it is round. */
export function apertureArea(shape: ApertureShape): number {
  const picture = aperturePicture(shape)
  if (picture) return 4 * picture.mean
  if (shape.blades < 3) return Math.PI
  let total = 0
  for (let i = 0; i < STEPS; i++) total += apertureEdge(shape, ((i + 0.5) * 2 * Math.PI) / STEPS) ** 2
  return (total * Math.PI) / STEPS
}

// Where on the aperture does each sample look through?
// Model: a low-discrepancy sequence of the unit square, mapped to the disc by rings, or to the sectors of blades by their area: a polygon
// whose edges bulge to the circle as they are rounder. Even in area. Space: the aperture's radius is 1, x to the camera's right, y up.
// Source: shirley1997 (concentric map), roberts2018 (the sequence: its places have nothing in common with the jitter's), handbook-6.
import { aperturePicture, placeInPicture } from './aperture-picture.ts'

export interface ApertureShape {
  /** 0: round; else 5 to 11 blades (3 and 4 work too). */
  readonly blades: number
  /** Turned clockwise as seen in the picture, degrees. */
  readonly rotationDeg: number
  /** 0: straight edges; 1: round. */
  readonly roundness: number
  /** A grey picture in its place: its cells row by row from the top as bytes in base64, a square that the circle of radius 1 touches. */
  readonly picture?: string | undefined
  /** How far the barrel's far rim stands aside at the corners of the frame, radii: 0 none. Left out, none. */
  readonly catsEye?: number | undefined
}

/** Distance from the middle to the edge in a direction (radians), radius 1 at the corners. */
export function apertureEdge({ blades, rotationDeg, roundness }: ApertureShape, angle: number): number {
  if (blades < 3) return 1
  const step = (2 * Math.PI) / blades
  // corners lie where the turned angle is a multiple of the step; the first one points up
  const turned = angle - Math.PI / 2 + (rotationDeg * Math.PI) / 180
  const inBlade = turned - step * Math.round(turned / step)
  const straight = Math.cos(step / 2) / Math.cos(step / 2 - Math.abs(inBlade))
  return straight + (1 - straight) * Math.min(1, Math.max(0, roundness))
}

/** The i-th place of the unit square, from 0. */
const PLASTIC = 1.324717957244746
const place = (i: number): readonly [number, number] => [(0.5 + i / PLASTIC) % 1, (0.5 + i / PLASTIC ** 2) % 1]

/** Of the unit disc the i-th sample; the first is the middle. */
function discPoint(i: number): readonly [number, number] {
  if (i === 0) return [0, 0]
  const [u, v] = place(i)
  const [a, b] = [2 * u - 1, 2 * v - 1]
  if (a === 0 && b === 0) return [0, 0]
  const isWide = Math.abs(a) > Math.abs(b)
  const r = isWide ? a : b
  const phi = isWide ? (Math.PI / 4) * (b / a) : Math.PI / 2 - (Math.PI / 4) * (a / b)
  return [r * Math.cos(phi), r * Math.sin(phi)]
}

/** Steps of a blade's sector that its area is summed in. */
const STEPS = 96
/** Areas from a sector's beginning up to each of its steps, as shares of the sector's. */
const sectors = new Map<string, Float64Array>()
function sectorOf(shape: ApertureShape): Float64Array {
  const key = `${shape.blades}|${shape.roundness}`
  const known = sectors.get(key)
  if (known) return known
  const step = (2 * Math.PI) / shape.blades
  const plain = { ...shape, rotationDeg: 0 }
  const sum = new Float64Array(STEPS + 1)
  for (let k = 0; k < STEPS; k++)
    sum[k + 1] = sum[k]! + apertureEdge(plain, Math.PI / 2 + step * ((k + 0.5) / STEPS)) ** 2
  for (let k = 0; k <= STEPS; k++) sum[k]! /= sum[STEPS]!
  if (sectors.size > 64) sectors.clear()
  sectors.set(key, sum)
  return sum
}

/** Where sample `i` (from 0) looks through the aperture; all together they cover it evenly. */
export function aperturePoint(shape: ApertureShape, i: number): readonly [number, number] {
  const picture = aperturePicture(shape)
  if (picture) return i === 0 ? [0, 0] : placeInPicture(picture, ...place(i))
  if (shape.blades < 3 || i === 0) return discPoint(i)
  const step = (2 * Math.PI) / shape.blades
  const [u, v] = place(i)
  const along = u * shape.blades
  const blade = Math.floor(along)
  const share = along - blade
  const sum = sectorOf(shape)
  let k = 0
  for (let lo = 0, hi = STEPS - 1; lo <= hi;) {
    const mid = (lo + hi) >> 1
    if (sum[mid]! <= share) {
      k = mid
      lo = mid + 1
    } else hi = mid - 1
  }
  const inStep = (share - sum[k]!) / (sum[k + 1]! - sum[k]!)
  const angle = Math.PI / 2 - (shape.rotationDeg * Math.PI) / 180 + step * (blade + (k + inStep) / STEPS)
  const r = Math.sqrt(v) * apertureEdge(shape, angle)
  return [r * Math.cos(angle), r * Math.sin(angle)]
}

const sets = new Map<string, readonly (readonly [number, number])[]>()
/**
 * All of `n` places of an aperture: the first is the middle, the others are moved so that their mean is, too, and the picture of few
 * samples stays where it is.
 */
export function aperturePoints(shape: ApertureShape, n: number): readonly (readonly [number, number])[] {
  const key = `${shape.blades}|${shape.rotationDeg}|${shape.roundness}|${shape.picture ?? ''}|${n}`
  const known = sets.get(key)
  if (known) return known
  const all = Array.from({ length: n }, (_, i) => aperturePoint(shape, i))
  const [mx, my] = [0, 1].map((k) => all.reduce((s, p) => s + p[k]!, 0) / Math.max(1, n - 1)) as [number, number]
  const made = all.map(([x, y], i) => (i === 0 ? ([0, 0] as const) : ([x - mx, y - my] as const)))
  if (sets.size > 64) sets.clear()
  sets.set(key, made)
  return made
}

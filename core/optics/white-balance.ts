// What colour is a light of so many kelvin, and which matrix makes it neutral?
// Model: the Planckian locus up to 4000 K, CIE daylight from 5000 K, between them XYZ at equal Y mixed; tint moves the white square to
// that line in CIE 1960 uv. Adapted by Bradford to the white of 6504 K, so that this one changes nothing. Linear sRGB, row-major
// matrices. Source: handbook-7; kim2002, cie15, cie224, bradford (lam1985).

import type { Vec3 } from '../math/index.ts'

export interface WhiteBalance {
  /** 1667 to 25,000 K. */
  readonly kelvin: number
  /** Thousandths of Duv; above nought for a greener light. */
  readonly tint: number
}
type Pair = readonly [number, number]
export type Matrix9 = readonly [number, number, number, number, number, number, number, number, number]

export const NEUTRAL: WhiteBalance = { kelvin: 6504, tint: 0 }
export const LEAST_KELVIN = 1667
export const MOST_KELVIN = 25_000
export const MOST_TINT = 150
const PLANCK_TO = 4000
const DAYLIGHT_FROM = 5000
const DUV = 0.001

function planck(t: number): Pair {
  const x =
    t < PLANCK_TO
      ? -0.2661239e9 / t ** 3 - 0.2343589e6 / t ** 2 + 0.8776956e3 / t + 0.17991
      : -3.0258469e9 / t ** 3 + 2.1070379e6 / t ** 2 + 0.2226347e3 / t + 0.24039
  const y =
    t < 2222
      ? -1.1063814 * x ** 3 - 1.3481102 * x ** 2 + 2.18555832 * x - 0.20219683
      : t < PLANCK_TO
        ? -0.9549476 * x ** 3 - 1.37418593 * x ** 2 + 2.09137015 * x - 0.16748867
        : 3.081758 * x ** 3 - 5.8733867 * x ** 2 + 3.75112997 * x - 0.37001483
  return [x, y]
}
function daylight(t: number): Pair {
  const x =
    t <= 7000
      ? -4.607e9 / t ** 3 + 2.9678e6 / t ** 2 + 0.09911e3 / t + 0.244063
      : -2.0064e9 / t ** 3 + 1.9018e6 / t ** 2 + 0.24748e3 / t + 0.23704
  return [x, -3 * x * x + 2.87 * x - 0.275]
}
/** XYZ of a chromaticity with Y = 1. */
const xyzOf = ([x, y]: Pair): Vec3 => [x / y, 1, (1 - x - y) / y]
const xyOf = ([x, y, z]: Vec3): Pair => [x / (x + y + z), y / (x + y + z)]
const uvOf = ([x, y]: Pair): Pair => [(4 * x) / (-2 * x + 12 * y + 3), (6 * y) / (-2 * x + 12 * y + 3)]
const xyOfUv = ([u, v]: Pair): Pair => [(3 * u) / (2 * u - 8 * v + 4), (2 * v) / (2 * u - 8 * v + 4)]

function locus(kelvin: number): Pair {
  const t = Math.min(MOST_KELVIN, Math.max(LEAST_KELVIN, kelvin))
  if (t <= PLANCK_TO) return planck(t)
  if (t >= DAYLIGHT_FROM) return daylight(t)
  const w = (DAYLIGHT_FROM - t) / (DAYLIGHT_FROM - PLANCK_TO)
  const [a, b] = [xyzOf(planck(t)), xyzOf(daylight(t))]
  return xyOf([0, 1, 2].map((k) => w * a[k]! + (1 - w) * b[k]!) as unknown as Vec3)
}
/** Unit direction in uv square to the locus, towards green. */
function towardsGreen(kelvin: number): Pair {
  const [a, b] = [kelvin * 0.999, kelvin * 1.001].map((t) => uvOf(locus(t))) as [Pair, Pair]
  const [du, dv] = [b[0] - a[0], b[1] - a[1]]
  const l = Math.hypot(du, dv) || 1
  // hotter is bluer: to the left and down; green lies to the right of that way, up
  return dv / l < 0 ? [dv / l, -du / l] : [-dv / l, du / l]
}

/** Chromaticity x, y (CIE 1931) of a light. Kelvin outside 1667..25,000 is held there. */
export function whitePoint({ kelvin, tint }: WhiteBalance): Pair {
  const [u, v] = uvOf(locus(kelvin))
  const [nu, nv] = towardsGreen(kelvin)
  return xyOfUv([u + nu * tint * DUV, v + nv * tint * DUV])
}

// IEC 61966-2-1
const XYZ_OF_RGB: Matrix9 = [0.4124564, 0.3575761, 0.1804375, 0.2126729, 0.7151522, 0.072175, 0.0193339, 0.119192, 0.9503041] // prettier-ignore
const BRADFORD: Matrix9 = [0.8951, 0.2664, -0.1614, -0.7502, 1.7135, 0.0367, 0.0389, -0.0685, 1.0296]

const times = (m: Matrix9, [x, y, z]: Vec3): Vec3 => [
  m[0] * x + m[1] * y + m[2] * z,
  m[3] * x + m[4] * y + m[5] * z,
  m[6] * x + m[7] * y + m[8] * z,
]
function product(a: Matrix9, b: Matrix9): Matrix9 {
  const at = (i: number, j: number): number => a[i * 3]! * b[j]! + a[i * 3 + 1]! * b[3 + j]! + a[i * 3 + 2]! * b[6 + j]!
  return Array.from({ length: 9 }, (_, k) => at(Math.floor(k / 3), k % 3)) as unknown as Matrix9
}
function inverse(m: Matrix9): Matrix9 {
  const [a, b, c, d, e, f, g, h, i] = m
  const det = a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g)
  return [e * i - f * h, c * h - b * i, b * f - c * e, f * g - d * i, a * i - c * g, c * d - a * f, d * h - e * g, b * g - a * h, a * e - b * d].map((v) => v / det) as unknown as Matrix9 // prettier-ignore
}
const RGB_OF_XYZ = inverse(XYZ_OF_RGB)
const FROM_CONES = inverse(BRADFORD)

/** Linear sRGB to linear sRGB: what is lit by the light comes out as under 6504 K. Row-major. */
export function balanceMatrix(balance: WhiteBalance): Matrix9 {
  const from = times(BRADFORD, xyzOf(whitePoint(balance)))
  const to = times(BRADFORD, xyzOf(whitePoint(NEUTRAL)))
  const scaled: Matrix9 = [to[0] / from[0], 0, 0, 0, to[1] / from[1], 0, 0, 0, to[2] / from[2]]
  return product(RGB_OF_XYZ, product(FROM_CONES, product(scaled, product(BRADFORD, XYZ_OF_RGB))))
}
export const balanced = (m: Matrix9, rgb: Vec3): Vec3 => times(m, rgb)

/**
 * The balance under which a colour (linear sRGB, unbalanced) comes out neutral; null for black and for colours that no light has.
 * Found on the locus to a hundredth of a kelvin's step in mired.
 */
export function balanceOfGrey(rgb: Vec3): WhiteBalance | null {
  const xyz = times(XYZ_OF_RGB, rgb)
  if (!(xyz[1] > 0) || !rgb.every(Number.isFinite)) return null
  // neutral under 6504 K is white of sRGB, which differs from that light by a hair: both are taken into account
  const neutral = times(XYZ_OF_RGB, [1, 1, 1])
  const [cones, white, grey] = [xyzOf(whitePoint(NEUTRAL)), neutral, xyz].map((c) => times(BRADFORD, c as Vec3)) as [Vec3, Vec3, Vec3] // prettier-ignore
  const light = times(FROM_CONES, [0, 1, 2].map((k) => (cones[k]! * grey[k]!) / white[k]!) as unknown as Vec3)
  const [u, v] = uvOf(xyOf(light))
  const off = (mired: number): number => {
    const [a, b] = uvOf(locus(1e6 / mired))
    return (a - u) ** 2 + (b - v) ** 2
  }
  const [least, most] = [1e6 / MOST_KELVIN, 1e6 / LEAST_KELVIN]
  let best = least
  for (let i = 0; i <= 200; i++) {
    const m = least + ((most - least) * i) / 200
    if (off(m) < off(best)) best = m
  }
  let [lo, hi] = [Math.max(least, best - 3), Math.min(most, best + 3)]
  for (let i = 0; i < 80; i++) {
    const [a, b] = [lo + (hi - lo) / 3, hi - (hi - lo) / 3]
    if (off(a) < off(b)) hi = b
    else lo = a
  }
  const kelvin = 1e6 / ((lo + hi) / 2)
  const [lu, lv] = uvOf(locus(kelvin))
  const [nu, nv] = towardsGreen(kelvin)
  const tint = ((u - lu) * nu + (v - lv) * nv) / DUV
  return Math.abs(tint) > MOST_TINT ? null : { kelvin, tint }
}

// How does a movement begin and end?
// Model: the polynomial of least jerk from rest to rest (peak speed 1.875 D/T, peak acceleration 5.774 D/T²), and an even pace whose ends
// alone are soft. Shares of time in, shares of the way out. Source: flash1985; handbook-10.

/** From rest to rest with the least jerk. */
export const leastJerk = (x: number): number => {
  const t = Math.min(1, Math.max(0, x))
  return t * t * t * (10 + t * (-15 + 6 * t))
}
/** Integral of `leastJerk`, up to 1. */
const area = (x: number): number => x ** 4 * (2.5 + x * (-3 + x))
/** Even, with a share `part` of the time (0..0.5) for getting going, and as much for coming to rest. */
export function evenly(x: number, part: number): number {
  const t = Math.min(1, Math.max(0, x))
  const speed = 1 / (1 - part)
  if (t < part) return speed * part * area(t / part)
  if (t > 1 - part) return 1 - speed * part * area((1 - t) / part)
  return speed * (t - part / 2)
}

export interface Key {
  /** Share of the time, 0..1. */
  readonly at: number
  readonly value: number
}
/** A smooth line through keys in order, without overshoot: what is between two values stays between them. Source: fritsch1980. */
export function throughKeys(keys: readonly Key[], x: number): number {
  const n = keys.length
  if (n === 0) throw new RangeError('throughKeys: no keys')
  if (n === 1 || x <= keys[0]!.at) return keys[0]!.value
  if (x >= keys[n - 1]!.at) return keys[n - 1]!.value
  let i = 0
  while (keys[i + 1]!.at < x) i++
  const [a, b] = [keys[i]!, keys[i + 1]!]
  const h = b.at - a.at
  const t = (x - a.at) / h
  const [m, k] = [slopeAt(keys, i) * h, slopeAt(keys, i + 1) * h]
  const t2 = t * t
  const t3 = t2 * t
  return a.value * (2 * t3 - 3 * t2 + 1) + m * (t3 - 2 * t2 + t) + b.value * (3 * t2 - 2 * t3) + k * (t3 - t2)
}
/** Harmonic mean of both sides' slopes, nought at a turn and at both ends: a movement rests there. */
function slopeAt(keys: readonly Key[], i: number): number {
  const [a, b, c] = [keys[i - 1], keys[i]!, keys[i + 1]]
  if (!a || !c) return 0
  const [h, k] = [b.at - a.at, c.at - b.at]
  const [m, n] = [(b.value - a.value) / h, (c.value - b.value) / k]
  if (m * n <= 0) return 0
  const [v, w] = [2 * k + h, k + 2 * h]
  return (v + w) / (v / m + w / n)
}
/** Bearings made to follow each other the shorter way round. */
export function unwound(bearings: readonly number[]): number[] {
  const out: number[] = []
  for (const b of bearings) {
    const before = out.at(-1)
    out.push(before === undefined ? b : before + ((((b - before) % 360) + 540) % 360) - 180)
  }
  return out
}

// How are the tones of a picture spread, and how much of it is at its ends, where nothing can be told apart any more?

export interface Clipped {
  /** Shares of the picture, 0..1: a channel at its end; all channels black. */
  readonly bright: number
  readonly dark: number
}
/** Counts by level, black to white, in `TONE_BINS` steps. */
export interface Tones {
  readonly red: readonly number[]
  readonly green: readonly number[]
  readonly blue: readonly number[]
}
const TOP = 254
const BOTTOM = 1
export const TONE_BINS = 64

/** Of RGBA bytes as they are shown; every `step`-th pixel is looked at. */
export function clippedShares(data: ArrayLike<number>, step = 4): Clipped {
  let [bright, dark, n] = [0, 0, 0]
  for (let i = 0; i + 3 < data.length; i += 4 * step) {
    const most = Math.max(data[i]!, data[i + 1]!, data[i + 2]!)
    n++
    if (most >= TOP) bright++
    else if (most <= BOTTOM) dark++
  }
  return n === 0 ? { bright: 0, dark: 0 } : { bright: bright / n, dark: dark / n }
}

/** The same pixels counted by their levels. */
export function tonesOf(data: ArrayLike<number>, step = 3): Tones {
  const counts = [0, 1, 2].map(() => new Array<number>(TONE_BINS).fill(0)) as [number[], number[], number[]]
  for (let i = 0; i + 3 < data.length; i += 4 * step)
    for (let c = 0; c < 3; c++) {
      const k = Math.floor((data[i + c]! * TONE_BINS) / 256)
      counts[c]![k] = counts[c]![k]! + 1
    }
  return { red: counts[0], green: counts[1], blue: counts[2] }
}

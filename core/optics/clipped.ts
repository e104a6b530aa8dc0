// How much of a picture is at its ends, where nothing can be told apart any more?

export interface Clipped {
  /** Shares of the picture, 0..1: a channel at its end; all channels black. */
  readonly bright: number
  readonly dark: number
}
const TOP = 254
const BOTTOM = 1

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

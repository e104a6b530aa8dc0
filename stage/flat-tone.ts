// Which scene-linear value comes out as a wanted tone on the screen?
// Model: the tone curve of the finish (shaders.ts, FINISH_FRAGMENT) for greys, turned round by halving; near greys it holds channel by
// channel. What is drawn flat (ink, paper) keeps its tone whatever the exposure is. Source: the finish's own curve (AgX as three.js has it).

import type { Vec3 } from '#core/math'

type Tone = 'linear' | 'neutral'
const MIN_EV = -12.47393
const MAX_EV = 4.026069
const toSrgb = (v: number): number => (v <= 0.0031308 ? v * 12.92 : 1.055 * v ** (1 / 2.4) - 0.055)
const contrast = (x: number): number => {
  const x2 = x * x
  const x4 = x2 * x2
  return 15.5 * x4 * x2 - 40.14 * x4 * x + 31.96 * x4 - 6.868 * x2 * x + 0.4298 * x2 + 0.1191 * x - 0.00232
}
/** What a grey of the scene comes out as, 0..1 on the screen. */
export function shownGrey(linear: number, tone: Tone): number {
  if (tone === 'linear') return toSrgb(Math.min(1, Math.max(0, linear)))
  const ev = (Math.log2(Math.max(1e-10, linear * 1.35)) - MIN_EV) / (MAX_EV - MIN_EV)
  const c = Math.max(0, contrast(Math.min(1, Math.max(0, ev)))) ** 2.2
  const s = toSrgb(Math.min(1, c))
  return s + 0.45 * (s * s * (3 - 2 * s) - s)
}
/** The scene's values for a colour of the screen (sRGB, 0..1). */
export const linearFor = (shown: Vec3, tone: Tone): Vec3 => {
  const one = (want: number): number => {
    let [lo, hi] = [0, 16]
    for (let i = 0; i < 40; i++) {
      const mid = (lo + hi) / 2
      if (shownGrey(mid, tone) < want) lo = mid
      else hi = mid
    }
    return (lo + hi) / 2
  }
  return [one(shown[0]), one(shown[1]), one(shown[2])]
}

// Where one sample of a picture looks: beside the pixel's middle, through the lens, from the sun's disc, to which parts of the sky.
// Model: all of a sample's places from its number alone, so that the same request gives the same picture. What a later sample needs besides
// (a time within the shutter) belongs here. Source: halton1960; roberts2018 (sky).
import { halton } from '#core/base'
import { aperturePoints } from '#core/optics'
import type { Blur } from './types.ts'

type Place = readonly [number, number]
export interface Sample {
  readonly index: number
  /** Of so many in all. */
  readonly of: number
  /** Beside the middle, pixels, -0.5..0.5. */
  readonly pixel: Place
  /** On a lens of radius 1; the first and the only one look through its middle. */
  readonly lens: Place
  /** On the sun's disc, radius 0.5. */
  readonly sun: Place
  /** Turn and height of the directions that contact shading looks in, and how far, each 0..1: added to a pixel's own. */
  readonly sky: readonly [number, number, number]
  /** Turns the noise of a pixel from sample to sample. */
  readonly noise: number
}
/** Samples that share a place of the sun: a third of the redraws of its shadow, and its disc is still well covered. */
const SHARE_SUN = 3

export const onLens = (blur: Blur, index: number, of: number): Place =>
  of === 1 ? [0, 0] : aperturePoints(blur.shape, of)[index % of]!

export function sampleAt(index: number, of: number, blur: Blur | null): Sample {
  return {
    ...{ index, of },
    pixel: index === 0 ? [0, 0] : [halton(index, 2) - 0.5, halton(index, 3) - 0.5],
    lens: blur ? onLens(blur, index, of) : [0, 0],
    sun: onSun(Math.floor((index + 1) / SHARE_SUN)),
    sky: SKY_STEPS.map((step) => (index * step) % 1) as [number, number, number],
    noise: index % NOISE_ROUND,
  }
}
/** Two dimensions of the additive recurrence by the plastic number, and the root of two for the reach. */
const SKY_STEPS = [0.7548776662, 0.5698402909, Math.SQRT2 - 1] as const
/** After so many samples a pixel's noise comes again: its hash is exact for small numbers only. */
const NOISE_ROUND = 64

function onSun(n: number): Place {
  if (n === 0) return [0, 0]
  const r = Math.sqrt(halton(n, 5)) / 2
  const a = 2 * Math.PI * halton(n, 7)
  return [r * Math.cos(a), r * Math.sin(a)]
}

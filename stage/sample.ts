// Where one sample of a picture looks: beside the pixel's middle, through the lens, from the sun's disc.
// Model: all of a sample's places from its number alone, so that the same request gives the same picture. What a later sample needs besides
// (a time within the shutter, a direction of the sky) belongs here. Source: halton1960.
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
  }
}
function onSun(n: number): Place {
  if (n === 0) return [0, 0]
  const r = Math.sqrt(halton(n, 5)) / 2
  const a = 2 * Math.PI * halton(n, 7)
  return [r * Math.cos(a), r * Math.sin(a)]
}

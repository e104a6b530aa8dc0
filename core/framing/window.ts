// Which part of one camera's picture does a frame of another shape take, and with which lens does it show exactly that?
// Model: the largest centred rectangle of the frame's shape; the same angles on another sensor are the focal length and the shifts in
// the ratio of the used widths. Space: pixels of the outer frame; sensor millimetres. Source: handbook-1.

import { type Camera, type Frame, type Lens, usedSensor, widthOfView, withWidthOfView } from '../camera/index.ts'

export interface Window {
  readonly xPx: number
  readonly yPx: number
  readonly widthPx: number
  readonly heightPx: number
}
type Shape = Pick<Frame, 'widthPx' | 'heightPx'>

/** The largest rectangle of `frame`'s shape in the middle of `outer`, pixels of `outer`. */
export function windowOf(outer: Shape, frame: Shape): Window {
  const aspect = frame.widthPx / frame.heightPx
  // the side that is touched is taken as it is: rounding would make another focal length of the same
  const isWide = outer.widthPx / outer.heightPx < aspect
  const widthPx = isWide ? outer.widthPx : outer.heightPx * aspect
  const heightPx = isWide ? outer.widthPx / aspect : outer.heightPx
  return { xPx: (outer.widthPx - widthPx) / 2, yPx: (outer.heightPx - heightPx) / 2, widthPx, heightPx }
}

/**
 * The lens, on the sensor of `lens`, with which a camera standing like `from` shows in `frame` exactly what `from` shows in
 * `windowOf(from.frame, frame)`. Perspective, parallel and oblique; other projections keep their own form.
 */
export function lensOfWindow(from: Camera, lens: Lens, frame: Frame): Lens {
  const share = windowOf(from.frame, frame).widthPx / from.frame.widthPx
  const k = usedSensor(lens, frame).widthMm / (usedSensor(from.lens, from.frame).widthMm * share)
  const widthM = widthOfView(from.lens)
  const { projection } = widthM === null ? from.lens : withWidthOfView(from.lens, widthM * share)
  return {
    ...lens,
    projection,
    focalMm: from.lens.focalMm * k,
    // coefficients count in focal lengths: what the outer picture bends stays bent as much
    distortion: from.lens.distortion,
    riseMm: from.lens.riseMm * k,
    crossMm: from.lens.crossMm * k,
  }
}

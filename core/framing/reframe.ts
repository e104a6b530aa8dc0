// What of the view is kept when the frame gets another shape?
// Model: the view is a rectangle of tangents (or metres, where rays are parallel) about its middle. A new shape keeps its width, its
// height, all of it, or its area; focal length (or width of view) and shift follow, the middle stays. Space: sensor millimetres,
// pixels. Source: handbook-1.

import { ok, refused, type Result } from '../base/index.ts'
import { usedSensor, widthOfView, withWidthOfView, type Camera, type Frame, type Lens } from '../camera/index.ts'

export type KeptInView = 'width' | 'height' | 'all' | 'area'
export type ReframeReason = 'shape'
/** Frames narrower or wider than this are none. */
export const MOST_ASPECT = 20

/**
 * The lens with which a frame of another shape keeps what was chosen of the view; `sensorMm` where the sensor turns with the frame. The
 * picture's middle stays where it was. Refused for shapes beyond 1:20.
 */
export function reframed(
  { lens, frame }: Pick<Camera, 'lens' | 'frame'>,
  next: Frame,
  keep: KeptInView,
  sensorMm: Lens['sensorMm'] = lens.sensorMm,
): Result<Lens, ReframeReason> {
  const aspect = next.widthPx / next.heightPx
  if (!(aspect <= MOST_ASPECT && aspect >= 1 / MOST_ASPECT))
    return refused('shape', `A frame is at most ${MOST_ASPECT} times as long as it is wide.`)
  const { widthMm: w, heightMm: h } = usedSensor(lens, frame)
  const wanted = { width: w, height: h * aspect, all: Math.max(w, h * aspect), area: Math.sqrt(w * h * aspect) }[keep]
  const turned = { ...lens, sensorMm }
  const { widthMm: used } = usedSensor(turned, next)
  // the same tangents on the part of the sensor that is used now
  const k = used / wanted
  const widthM = widthOfView(lens)
  const shifted = { riseMm: lens.riseMm * k, crossMm: lens.crossMm * k }
  if (widthM !== null) return ok({ ...withWidthOfView(turned, (widthM * wanted) / w), ...shifted })
  return ok({ ...turned, ...shifted, focalMm: lens.focalMm * k })
}

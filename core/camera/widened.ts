// What lies past the frame?
// Space: parts of the frame's width and height.
import { usedSensor } from './lens.ts'
import { widthOfView, withWidthOfView } from './projections/registry.ts'
import type { Camera, Lens } from './types.ts'

/** The camera that shows so much more on every side, as parts of the frame's width and height: for looking past the frame. */
export function widened(camera: Camera, part: number): Camera {
  const { lens, frame } = camera
  const k = 1 + 2 * part
  const { widthMm, heightMm } = usedSensor(lens, frame)
  const widthM = widthOfView(lens)
  const wide: Lens = { ...lens, sensorMm: { width: widthMm * k, height: heightMm * k }, sensorUse: 'acrossWidth' }
  return {
    ...camera,
    lens: widthM === null ? wide : withWidthOfView(wide, widthM * k),
    frame: { ...frame, widthPx: frame.widthPx * k, heightPx: frame.heightPx * k },
  }
}

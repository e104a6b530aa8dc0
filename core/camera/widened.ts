// What lies past the frame, or in a small part of it?
// Space: parts of the frame's width and height; picture pixels from the top left.
import { usedSensor } from './lens.ts'
import { principalPointPx } from './principal.ts'
import { isPerspective, widthOfView, withWidthOfView } from './projections/registry.ts'
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

/**
 * The camera that draws a square of the frame about a place, `seenPx` of its pixels wide, `sidePx` pixels large: exact, distortion
 * included. Null for a lens that is no perspective.
 */
export function magnified(
  camera: Camera,
  [x, y]: readonly [number, number],
  seenPx: number,
  sidePx: number,
): Camera | null {
  const { lens, frame } = camera
  if (!isPerspective(lens)) return null
  const { xPx, yPx, pxPerMm } = principalPointPx(camera)
  const side = seenPx / pxPerMm
  return {
    ...camera,
    lens: {
      ...lens,
      sensorMm: { width: side, height: side },
      sensorUse: 'acrossWidth',
      crossMm: (x - xPx) / pxPerMm,
      riseMm: (yPx - y) / pxPerMm,
    },
    frame: { ...frame, guides: [], widthPx: sidePx, heightPx: sidePx },
  }
}

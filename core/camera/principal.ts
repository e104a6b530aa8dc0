// Where does the axis meet the picture?
// Space: picture pixels from the top left. Source: handbook-1.
import { usedSensor } from './lens.ts'
import type { Camera } from './types.ts'

/** Where the axis meets the picture, pixels: moved by rise and cross. */
export function principalPointPx({ lens, frame }: Pick<Camera, 'lens' | 'frame'>): {
  xPx: number
  yPx: number
  pxPerMm: number
} {
  const pxPerMm = frame.widthPx / usedSensor(lens, frame).widthMm
  return {
    xPx: frame.widthPx / 2 - lens.crossMm * pxPerMm,
    yPx: frame.heightPx / 2 + lens.riseMm * pxPerMm,
    pxPerMm,
  }
}

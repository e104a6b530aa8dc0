// Guides as lines of a finished picture, where they are asked for.
import { directionOf, type Camera } from '#core/camera'
import { guidePieces, metreGrid } from '#core/framing'
import type { StillLine } from '#stage'
import { GUIDE_INK } from './guides.ts'

/** Lines as wide as a pixel is in a picture of this many, pixels. */
const THIN_PX = 1200

export function guideLines(camera: Camera, mainBearingDeg: number): readonly StillLine[] {
  const { widthPx: w, heightPx: h, guides, guidesInPicture } = camera.frame
  if (!guidesInPicture) return []
  const widthPx = Math.max(1, Math.max(w, h) / THIN_PX)
  return guides.flatMap((g) => {
    const pieces =
      g.kind === 'metres'
        ? metreGrid(camera, g, directionOf(mainBearingDeg, 0))
        : guidePieces(g, w / h).map((p) => p.map(([x, y]) => [x * w, y * h] as const))
    return pieces.map((places) => ({ places, ink: GUIDE_INK[g.colour], strength: g.strength, widthPx }))
  })
}

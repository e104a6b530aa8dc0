// The same fits through a lens that distorts.
// Model: the straight fit to margins that are moved by what the lens makes of the outermost points, until the bent picture has the margins
// that were asked for: a fixed point that closes in by the distortion's own smallness. Space: shares of the frame. Source: handbook-5, 11.

import { ok, refused, type Result } from '../base/index.ts'
import { projectPoint, type Camera } from '../camera/index.ts'
import type { Vec3 } from '../math/index.ts'
import type { FitReason, Sides } from './fit-types.ts'

const STEPS = 60
/** Shares of the frame: a ten-thousandth of a pixel. */
const EXACT = 1e-8
type Fit = (camera: Camera, sides: Sides) => Result<Camera, FitReason>

/** Room between the outermost points and the frame's sides, as shares; null where a point is not seen. */
function gaps(camera: Camera, points: readonly Vec3[]): Sides | null {
  const { widthPx: w, heightPx: h } = camera.frame
  let [x0, x1, y0, y1] = [Infinity, -Infinity, Infinity, -Infinity]
  for (const p of points) {
    const at = projectPoint(camera, p)
    if (!at) return null
    x0 = Math.min(x0, at.xPx)
    x1 = Math.max(x1, at.xPx)
    y0 = Math.min(y0, at.yPx)
    y1 = Math.max(y1, at.yPx)
  }
  return { left: x0 / w, right: 1 - x1 / w, top: y0 / h, bottom: 1 - y1 / h }
}

/** A fit through the lens of `camera`; `straight` fits a camera without distortion to margins, which may be below nought. */
export function fitDistorted(
  camera: Camera,
  points: readonly Vec3[],
  sides: Sides,
  straight: Fit,
): Result<Camera, FitReason> {
  const { distortion } = camera.lens
  const plain: Camera = { ...camera, lens: { ...camera.lens, distortion: null } }
  let wanted = sides
  for (let i = 0; i < STEPS; i++) {
    const r = straight(plain, wanted)
    if (!r.ok) return r
    const bent: Camera = { ...r.value, lens: { ...r.value.lens, distortion } }
    const [a, b] = [gaps(r.value, points), gaps(bent, points)]
    if (!a || !b) break
    const next = {
      left: sides.left + a.left - b.left,
      right: sides.right + a.right - b.right,
      top: sides.top + a.top - b.top,
      bottom: sides.bottom + a.bottom - b.bottom,
    }
    const moved = (Object.keys(next) as (keyof Sides)[]).some((k) => Math.abs(next[k] - wanted[k]) > EXACT)
    if (!moved) return ok(bent)
    wanted = next
  }
  return refused('no-extent', 'This lens bends the picture too much to be fitted. Fit without distortion first.')
}

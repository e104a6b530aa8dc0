// How strongly does a lens distort its picture, does it fold inside it, and which coefficients have a wanted strength?
// Space: picture pixels, sensor millimetres. Source: handbook-5.

import { distort, foldOf, undistort } from './distortion.ts'
import { principalPointPx } from './principal.ts'
import { isStraight } from './projections/registry.ts'
import type { Brown, Camera } from './types.ts'

type LensAndFrame = Pick<Camera, 'lens' | 'frame'>

/** Where a lens folds inside its picture: radius on the sensor in millimetres; null where the whole picture is seen. */
export function foldInPicture({ lens, frame }: LensAndFrame): number | null {
  const d = lens.distortion
  if (!d || isStraight(lens)) return null
  const { reach } = foldOf(d)
  if (reach === Infinity) return null
  const { xPx, yPx, pxPerMm } = principalPointPx({ lens, frame })
  const k = lens.focalMm * pxPerMm
  const { widthPx: w, heightPx: h } = frame
  const corners = [[0, 0], [w, 0], [w, h], [0, h], [w / 2, 0], [w, h / 2], [w / 2, h], [0, h / 2]] as const // prettier-ignore
  return corners.every(([x, y]) => undistort(d, (x - xPx) / k, (y - yPx) / k)) ? null : reach * lens.focalMm
}

/** How far a picture's corner is drawn out (above nought) or in by a lens, as a part of its distance from the middle; rise and cross aside. */
export function cornerDistortion({ lens, frame }: LensAndFrame): number {
  const d = lens.distortion
  if (!d || isStraight(lens)) return 0
  const r = cornerRadius({ lens, frame })
  const u = undistort({ ...d, p1: 0, p2: 0 }, r, 0)
  return u ? r / u[0] - 1 : 0
}
/** Of the picture's corner from its middle, focal lengths on the sensor. */
function cornerRadius({ lens, frame }: LensAndFrame): number {
  const { pxPerMm } = principalPointPx({ lens, frame })
  return Math.hypot(frame.widthPx, frame.heightPx) / 2 / (lens.focalMm * pxPerMm)
}

/**
 * The distortion that draws the corner out by `part` (-0.9..0.9), the proportion of its coefficients kept; k1 alone where there is
 * none yet. Exact: the sum of the radial terms at the straight corner is that part.
 */
export function withCornerDistortion({ lens, frame }: LensAndFrame, part: number): Brown | null {
  if (part === 0) return null
  const straight = cornerRadius({ lens, frame }) / (1 + part)
  const u = straight * straight
  const d = lens.distortion ?? { kind: 'brown', k1: 0, k2: 0, k3: 0, p1: 0, p2: 0 }
  const now = u * (d.k1 + u * (d.k2 + u * d.k3))
  if (Math.abs(now) < 1e-12) return { kind: 'brown', k1: part / u, k2: 0, k3: 0, p1: 0, p2: 0 }
  const t = part / now
  return { kind: 'brown', k1: d.k1 * t, k2: d.k2 * t, k3: d.k3 * t, p1: d.p1 * t, p2: d.p2 * t }
}

/** How far a straight line between two places of the picture's edge is bent in its middle, pixels: the sagitta. */
export function sagittaPx(
  camera: LensAndFrame,
  a: readonly [number, number],
  b: readonly [number, number],
): number | null {
  const { xPx, yPx, pxPerMm } = principalPointPx(camera)
  const k = camera.lens.focalMm * pxPerMm
  const d = camera.lens.distortion
  if (!d) return 0
  const [p, q] = [a, b].map(([x, y]) => undistort(d, (x - xPx) / k, (y - yPx) / k))
  if (!p || !q) return null
  const m = distort(d, (p[0] + q[0]) / 2, (p[1] + q[1]) / 2)
  if (!m) return null
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]]
  return Math.abs((xPx + m[0] * k - a[0]) * dy - (yPx + m[1] * k - a[1]) * dx) / Math.hypot(dx, dy)
}

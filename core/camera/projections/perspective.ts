// The central projection onto a plane, through a lens that may distort.
// Space: see form.ts; on the sensor x right, y down in focal lengths from the principal point for the distortion.
// Source: handbook-1 and 5; gl21 (glFrustum).

import { DEG_PER_RAD, requireNumber } from '../../base/index.ts'
import { distortInto, undistortInto } from '../distortion.ts'
import { usedSensor } from '../lens.ts'
import { principalPointPx } from '../principal.ts'
import { CENTRAL, type Form } from './form.ts'

type Perspective = { readonly kind: 'perspective' }
const at: [number, number] = [0, 0]

export const PERSPECTIVE: Form<Perspective> = {
  ...CENTRAL,
  kind: 'perspective',
  name: 'Perspective',
  isPlane: true,
  hasLens: true,
  shifts: { rise: true, cross: true },
  project(camera, [x, y, z]) {
    const depthM = -z
    if (!(depthM > 0)) return null
    const { xPx, yPx, pxPerMm } = principalPointPx(camera)
    const k = camera.lens.focalMm * pxPerMm
    const { distortion } = camera.lens
    if (!distortion) return { xPx: xPx + (x * k) / depthM, yPx: yPx - (y * k) / depthM, depthM }
    if (!distortInto(distortion, x / depthM, -y / depthM, at)) return null
    return { xPx: xPx + at[0] * k, yPx: yPx + at[1] * k, depthM }
  },
  unproject(camera, x, y) {
    const { xPx, yPx, pxPerMm } = principalPointPx(camera)
    const k = camera.lens.focalMm * pxPerMm
    const { distortion } = camera.lens
    if (!distortion) return { from: [0, 0], direction: [(x - xPx) / k, (yPx - y) / k, -1] }
    if (!undistortInto(distortion, (x - xPx) / k, (y - yPx) / k, at)) return null
    return { from: [0, 0], direction: [at[0], -at[1], -1] }
  },
  fieldOfView(lens, frame) {
    const { widthMm, heightMm } = usedSensor(lens, frame)
    const angle = (x: number, y: number): number => {
      const [a, b] = [x / (2 * lens.focalMm), y / (2 * lens.focalMm)]
      const { distortion } = lens
      if (!distortion) return 2 * Math.atan(Math.hypot(a, b)) * DEG_PER_RAD
      // seen to both sides: tangential terms are not the same on them
      const sides = [1, -1].map((s) => (undistortInto(distortion, s * a, s * b, at) ? Math.hypot(...at) : Infinity))
      return sides.reduce((sum, tan) => sum + Math.atan(tan), 0) * DEG_PER_RAD
    }
    return { horizontalDeg: angle(widthMm, 0), verticalDeg: angle(0, heightMm), diagonalDeg: angle(widthMm, heightMm) }
  },
  clip({ lens, frame }, { nearM: n, farM: f }) {
    requireNumber('clipFromCamera', 'nearM', n, Number.MIN_VALUE)
    requireNumber('clipFromCamera', 'farM', f, n)
    const { widthMm: w, heightMm: h } = usedSensor(lens, frame)
    // prettier-ignore
    return [
      (2 * lens.focalMm) / w, 0, 0, 0,
      0, (2 * lens.focalMm) / h, 0, 0,
      (2 * lens.crossMm) / w, (2 * lens.riseMm) / h, -(f + n) / (f - n), -1,
      0, 0, (-2 * f * n) / (f - n), 0,
    ]
  },
  withWidthM: (p) => p,
  turnPerPx: (camera) => DEG_PER_RAD / (camera.lens.focalMm * principalPointPx(camera).pxPerMm),
}

// A fisheye: the angle off the axis becomes the radius, by one of three mappings; its circle fills the shorter side.
// Space: see form.ts. Source: handbook-4; kingslake1992.

import { DEG_PER_RAD, RAD_PER_DEG } from '../../base/index.ts'
import type { FisheyeMapping, Frame, Projection } from '../types.ts'
import { PANORAMIC, type Form } from './form.ts'

type Fisheye = Extract<Projection, { kind: 'fisheye' }>

/** Radius of the image for k = 1, at theta radians off the axis, and back. */
const RADIUS: Readonly<Record<FisheyeMapping, (theta: number) => number>> = {
  equidistant: (theta) => theta,
  equisolid: (theta) => 2 * Math.sin(theta / 2),
  stereographic: (theta) => 2 * Math.tan(theta / 2),
}
const THETA: Readonly<Record<FisheyeMapping, (radius: number) => number>> = {
  equidistant: (r) => r,
  equisolid: (r) => 2 * Math.asin(Math.min(1, r / 2)),
  stereographic: (r) => 2 * Math.atan(r / 2),
}
const circlePx = (frame: Frame): number => Math.min(frame.widthPx, frame.heightPx) / 2
const halfRad = (p: Fisheye): number => (p.coverageDeg * RAD_PER_DEG) / 2

export const FISHEYE: Form<Fisheye> = {
  ...PANORAMIC,
  kind: 'fisheye',
  name: 'Fisheye',
  shifts: { rise: false, cross: false },
  project({ lens, frame }, [x, y, z]) {
    const { projection: p } = lens
    const off = Math.hypot(x, y)
    const theta = Math.atan2(off, -z)
    const depthM = Math.hypot(x, y, z)
    if (depthM === 0 || theta > halfRad(p) + 1e-12) return null
    const r = (circlePx(frame) * RADIUS[p.mapping](theta)) / RADIUS[p.mapping](halfRad(p))
    const k = off === 0 ? 0 : r / off
    return { xPx: frame.widthPx / 2 + x * k, yPx: frame.heightPx / 2 - y * k, depthM }
  },
  unproject({ lens, frame }, xPx, yPx) {
    const { projection: p } = lens
    const dx = xPx - frame.widthPx / 2
    const dy = frame.heightPx / 2 - yPx
    const r = Math.hypot(dx, dy)
    if (r > circlePx(frame) + 1e-9) return null
    const theta = THETA[p.mapping]((r / circlePx(frame)) * RADIUS[p.mapping](halfRad(p)))
    const k = r === 0 ? 0 : Math.sin(theta) / r
    return { from: [0, 0], direction: [dx * k, dy * k, -Math.cos(theta)] }
  },
  fieldOfView: ({ projection: { coverageDeg: c } }) => ({ horizontalDeg: c, verticalDeg: c, diagonalDeg: c }),
  withWidthM: (p) => p,
  circlePx,
  // at the middle of the picture
  turnPerPx: ({ lens: { projection: p }, frame }) => (DEG_PER_RAD * RADIUS[p.mapping](halfRad(p))) / circlePx(frame),
}

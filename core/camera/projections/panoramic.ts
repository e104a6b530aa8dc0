// All round on a sphere, and all round on an upright cylinder: longitude across, from the axis.
// Space: see form.ts. Source: handbook-4.

import { DEG_PER_RAD, RAD_PER_DEG } from '../../base/index.ts'
import { principalPointPx } from '../principal.ts'
import type { Projection } from '../types.ts'
import { PANORAMIC, type Form } from './form.ts'

type Equirectangular = Extract<Projection, { kind: 'equirectangular' }>
type Cylindrical = Extract<Projection, { kind: 'cylindrical' }>

export const EQUIRECTANGULAR: Form<Equirectangular> = {
  ...PANORAMIC,
  kind: 'equirectangular',
  name: 'Full panorama',
  shifts: { rise: false, cross: false },
  project({ frame }, [x, y, z]) {
    const depthM = Math.hypot(x, y, z)
    if (depthM === 0) return null
    const pxPerRad = frame.widthPx / (2 * Math.PI)
    const longitude = Math.atan2(x, -z)
    const latitude = Math.atan2(y, Math.hypot(x, z))
    return { xPx: frame.widthPx / 2 + longitude * pxPerRad, yPx: frame.heightPx / 2 - latitude * pxPerRad, depthM }
  },
  unproject({ frame }, xPx, yPx) {
    const radPerPx = (2 * Math.PI) / frame.widthPx
    const longitude = (xPx - frame.widthPx / 2) * radPerPx
    const latitude = (frame.heightPx / 2 - yPx) * radPerPx
    if (Math.abs(latitude) > Math.PI / 2 + 1e-12) return null
    const c = Math.cos(latitude)
    return { from: [0, 0], direction: [Math.sin(longitude) * c, Math.sin(latitude), -Math.cos(longitude) * c] }
  },
  fieldOfView(_, { widthPx, heightPx }) {
    return { horizontalDeg: 360, verticalDeg: Math.min(180, (360 * heightPx) / widthPx), diagonalDeg: 360 }
  },
  withWidthM: (p) => p,
  turnPerPx: ({ frame }) => 360 / frame.widthPx,
}

export const CYLINDRICAL: Form<Cylindrical> = {
  ...PANORAMIC,
  kind: 'cylindrical',
  name: 'Cylindrical',
  shifts: { rise: true, cross: false },
  project(camera, [x, y, z]) {
    const flat = Math.hypot(x, z)
    if (flat === 0) return null
    const { lens, frame } = camera
    const rho = frame.widthPx / (lens.projection.horizontalDeg * RAD_PER_DEG)
    return {
      xPx: frame.widthPx / 2 + rho * Math.atan2(x, -z),
      yPx: principalPointPx(camera).yPx - (rho * y) / flat,
      depthM: Math.hypot(x, y, z),
    }
  },
  unproject(camera, xPx, yPx) {
    const { lens, frame } = camera
    const rho = frame.widthPx / (lens.projection.horizontalDeg * RAD_PER_DEG)
    const longitude = (xPx - frame.widthPx / 2) / rho
    const up = (principalPointPx(camera).yPx - yPx) / rho
    return { from: [0, 0], direction: [Math.sin(longitude), up, -Math.cos(longitude)] }
  },
  fieldOfView({ projection }, { widthPx, heightPx }) {
    const { horizontalDeg } = projection
    const half = (heightPx / widthPx) * horizontalDeg * RAD_PER_DEG * 0.5
    const verticalDeg = 2 * Math.atan(half) * DEG_PER_RAD
    return { horizontalDeg, verticalDeg, diagonalDeg: Math.hypot(horizontalDeg, verticalDeg) }
  },
  withWidthM: (p) => p,
  turnPerPx: ({ lens, frame }) => lens.projection.horizontalDeg / frame.widthPx,
}

// Parallel rays: square to the picture, or slanting to it (oblique), the plane through the station being true.
// Space: see form.ts; depths may be negative. Source: handbook-3; gl21 (glOrtho); iso5456-3.

import { cosDeg, sinDeg } from '../../base/index.ts'
import { usedSensor } from '../lens.ts'
import { principalPointPx } from '../principal.ts'
import type { Projection } from '../types.ts'
import type { Form } from './form.ts'

type Parallel = Extract<Projection, { kind: 'parallel' }>
type Oblique = Extract<Projection, { kind: 'oblique' }>

/** The picture's full width turns so far. */
const TURN_DEG = 60

/** A form of parallel rays with this shear. */
function parallelForm<P extends Parallel | Oblique>(kind: P['kind'], name: string, shear: Form<P>['shear']): Form<P> {
  return {
    kind,
    name,
    shear,
    isCentral: false,
    isPlane: true,
    hasLens: false,
    shifts: { rise: true, cross: true },
    project(camera, [x, y, z]) {
      const { projection } = camera.lens
      const { xPx, yPx } = principalPointPx(camera)
      const k = camera.frame.widthPx / projection.widthM
      const s = shear(projection)
      const depthM = -z
      return { xPx: xPx + (x + s.x * depthM) * k, yPx: yPx - (y + s.y * depthM) * k, depthM }
    },
    unproject(camera, x, y) {
      const { projection } = camera.lens
      const { xPx, yPx } = principalPointPx(camera)
      const mPerPx = projection.widthM / camera.frame.widthPx
      const s = shear(projection)
      return { from: [(x - xPx) * mPerPx, (yPx - y) * mPerPx], direction: [-s.x, -s.y, -1] }
    },
    fieldOfView: () => ({ horizontalDeg: 0, verticalDeg: 0, diagonalDeg: 0 }),
    clip({ lens, frame }, { nearM: n, farM: f }) {
      const { projection } = lens
      const { widthMm: w, heightMm: h } = usedSensor(lens, frame)
      const sx = 2 / projection.widthM
      const sy = (2 * (frame.widthPx / frame.heightPx)) / projection.widthM
      const s = shear(projection)
      // prettier-ignore
      return [
        sx, 0, 0, 0,
        0, sy, 0, 0,
        -s.x * sx, -s.y * sy, -2 / (f - n), 0,
        (-2 * lens.crossMm) / w, (-2 * lens.riseMm) / h, -(f + n) / (f - n), 1,
      ]
    },
    widthM: (p) => p.widthM,
    withWidthM: (p, widthM) => ({ ...p, widthM }),
    circlePx: () => null,
    turnPerPx: ({ frame }) => TURN_DEG / frame.widthPx,
  }
}

export const PARALLEL = parallelForm<Parallel>('parallel', 'Parallel', () => ({ x: 0, y: 0 }))
export const OBLIQUE = parallelForm<Oblique>('oblique', 'Oblique', (p) => ({
  x: p.receding * cosDeg(p.angleDeg),
  y: p.receding * sinDeg(p.angleDeg),
}))

// How wide must a parallel or oblique picture be, and where must its window lie, so that points just fill it?
// Model: extents are read off directly; an oblique picture adds receding times depth, its true plane staying where it is.
// Space: camera axes, metres. Source: handbook-3 and 11.

import { cosDeg, ok, refused, sinDeg, type Result } from '../base/index.ts'
import { usedSensor, type Camera } from '../camera/index.ts'
import { alongAxes, extremes, type Flat } from './fit-points.ts'
import type { FitReason, Sides } from './fit-types.ts'

/** Fits the width of view, or with `widthM` given only the window's place. */
export function fitExtent(
  camera: Camera,
  flat: Flat,
  sides: Sides,
  widthM: number | undefined,
): Result<Camera, FitReason> {
  const { lens, frame } = camera
  const p = lens.projection
  if (p.kind !== 'parallel' && p.kind !== 'oblique')
    return refused('projection', 'Only a parallel picture has a width of view to fit.')
  const aspect = frame.widthPx / frame.heightPx
  const shear = p.kind === 'oblique' ? [p.receding * cosDeg(p.angleDeg), p.receding * sinDeg(p.angleDeg)] : [0, 0]
  const plane = flat.station[2]
  const seen = (q: Float64Array, k: number): Float64Array =>
    k === 0 ? q : q.map((v, i) => v + k * (flat.z[i]! - plane))
  const [x0, x1] = extremes(seen(flat.x, shear[0]!))
  const [y0, y1] = extremes(seen(flat.y, shear[1]!))
  const width =
    widthM ??
    Math.max((x1 - x0) / (1 - sides.left - sides.right), ((y1 - y0) * aspect) / (1 - sides.top - sides.bottom))
  if (!(width > 0)) return refused('no-extent', 'All of it falls into one point of the picture.')
  const perMm = width / usedSensor(lens, frame).widthMm
  // the middle of what is left free by the margins
  const x = (x0 + x1) / 2 + ((sides.right - sides.left) / 2) * width - lens.crossMm * perMm
  const y = (y0 + y1) / 2 + ((sides.top - sides.bottom) / 2) * (width / aspect) - lens.riseMm * perMm
  return ok({ ...alongAxes(camera, x, y, plane), lens: { ...lens, projection: { ...p, widthM: width } } })
}

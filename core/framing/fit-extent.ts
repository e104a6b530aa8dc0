// How wide must a parallel or oblique picture be, and where must its window lie, so that points just fill it?
// Model: extents are read off directly; an oblique picture adds receding times depth, its true plane staying where it is.
// Space: camera axes, metres. Source: handbook-3 and 11.

import { ok, refused, type Result } from '../base/index.ts'
import { type Camera, isParallel, shearOf, usedSensor, withWidthOfView } from '../camera/index.ts'
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
  if (!isParallel(lens)) return refused('projection', 'Only a parallel picture has a width of view to fit.')
  const aspect = frame.widthPx / frame.heightPx
  const shear = shearOf(lens)
  const plane = flat.station[2]
  const seen = (q: Float64Array, k: number): Float64Array =>
    k === 0 ? q : q.map((v, i) => v + k * (flat.z[i]! - plane))
  const [x0, x1] = extremes(seen(flat.x, shear.x))
  const [y0, y1] = extremes(seen(flat.y, shear.y))
  const width =
    widthM ??
    Math.max((x1 - x0) / (1 - sides.left - sides.right), ((y1 - y0) * aspect) / (1 - sides.top - sides.bottom))
  if (!(width > 0)) return refused('no-extent', 'All of it falls into one point of the picture.')
  const perMm = width / usedSensor(lens, frame).widthMm
  // the middle of what is left free by the margins
  const x = (x0 + x1) / 2 + ((sides.right - sides.left) / 2) * width - lens.crossMm * perMm
  const y = (y0 + y1) / 2 + ((sides.top - sides.bottom) / 2) * (width / aspect) - lens.riseMm * perMm
  return ok({ ...alongAxes(camera, x, y, plane), lens: withWidthOfView(lens, width) })
}

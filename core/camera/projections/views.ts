// Which straight pictures have to be drawn so that a picture can be made of them, and where in them does each of its pixels lie?
// Model: a picture without distortion is one view, as it is. A lens that distorts is one straight view, so much wider that every pixel
// has its place in it, resampled once. Space: pixels of the picture, pixels of the views. Source: handbook-5.

import { foldOf, undistort, undistortInto } from '../distortion.ts'
import { principalPointPx } from '../principal.ts'
import type { Brown, Camera } from '../types.ts'
import { formOf, isStraight } from './registry.ts'

/** Puts where a picture's pixel lies in a view into `out`, pixels of its frame; false where nothing is seen. */
export type Resampling = (xPx: number, yPx: number, out: [number, number]) => boolean
export interface Views {
  /** Straight cameras; one as yet. Their frames need not be whole pixels. */
  readonly views: readonly [Camera]
  /** Null where the view is the picture itself. */
  readonly resampling: Resampling | null
}

/** What is drawn beyond the last pixel, for filters and shading that look at neighbours. */
const MARGIN = 0.004
const EDGE = 1e-6
/** Straight pictures end here, focal lengths off the axis: what a lens sees farther out is not drawn. */
const FARTHEST = 4
/** Places along each side that are asked how far the view has to reach. */
const STEPS = 32

/** The views of a camera. RangeError for panoramic forms, which have none yet. */
export function viewsOf(camera: Camera): Views {
  const { lens } = camera
  if (isStraight(lens)) return { views: [camera], resampling: null }
  const { distortion } = lens
  if (!formOf(lens).clip || !distortion)
    throw new RangeError(`viewsOf: projection = ${lens.projection.kind} is not drawn yet`)
  const { xPx, yPx, pxPerMm } = principalPointPx(camera)
  const focalPx = lens.focalMm * pxPerMm
  const box = reachOf(camera, distortion, focalPx)
  // pixels of the picture, from its top left
  const [left, top] = [xPx + box.left * focalPx, yPx + box.top * focalPx]
  const [width, height] = [(box.right - box.left) * focalPx, (box.bottom - box.top) * focalPx]
  const view: Camera = {
    pose: camera.pose,
    lens: {
      ...lens,
      distortion: null,
      sensorMm: { width: width / pxPerMm, height: height / pxPerMm },
      sensorUse: 'acrossWidth',
      crossMm: (left + width / 2 - xPx) / pxPerMm,
      riseMm: (yPx - (top + height / 2)) / pxPerMm,
    },
    frame: { ...camera.frame, widthPx: width, heightPx: height },
  }
  const resampling: Resampling = (x, y, out) => {
    if (!undistortInto(distortion, (x - xPx) / focalPx, (y - yPx) / focalPx, out)) return false
    out[0] = xPx + out[0] * focalPx - left
    out[1] = yPx + out[1] * focalPx - top
    // a little beside it is in it: filters look there
    return (
      out[0] >= -EDGE * width &&
      out[1] >= -EDGE * height &&
      out[0] <= (1 + EDGE) * width &&
      out[1] <= (1 + EDGE) * height
    )
  }
  return { views: [view], resampling }
}

/** How far a straight view has to reach from the axis, focal lengths, y down. */
function reachOf(camera: Camera, d: Brown, focalPx: number) {
  const { xPx, yPx } = principalPointPx(camera)
  const { widthPx: w, heightPx: h } = camera.frame
  const most = Math.min(FARTHEST, foldOf(d).radius)
  let [left, right, top, bottom] = [Infinity, -Infinity, Infinity, -Infinity]
  const ask = (px: number, py: number): void => {
    const [x, y] = [(px - xPx) / focalPx, (py - yPx) / focalPx]
    const r = Math.hypot(x, y) || 1
    const [u, v] = undistort(d, x, y) ?? [(x / r) * most, (y / r) * most]
    left = Math.min(left, u)
    right = Math.max(right, u)
    top = Math.min(top, v)
    bottom = Math.max(bottom, v)
  }
  for (let i = 0; i <= STEPS; i++) {
    const t = i / STEPS
    ask(t * w, 0)
    ask(t * w, h)
    ask(0, t * h)
    ask(w, t * h)
  }
  const [mx, my] = [(right - left) * MARGIN, (bottom - top) * MARGIN]
  const held = (v: number): number => Math.max(-FARTHEST, Math.min(FARTHEST, v))
  return { left: held(left - mx), right: held(right + mx), top: held(top - my), bottom: held(bottom + my) }
}

// Where does another shape lie within a frame, and is the subject still in it?
// Model: the largest rectangle of the shape that fits, moved within the room that is left. Space: shares of the frame's width and height
// from the top left.

import { projectPoint, type Camera, type FrameCrop } from '../camera/index.ts'
import type { Vec3 } from '../math/index.ts'

export interface CropBox {
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
}

/** The rectangle of another shape in a frame; `x` and `y` of the crop are -1..1, from the left (top) end of its room to the other. */
export function cropBox(frame: { readonly widthPx: number; readonly heightPx: number }, crop: FrameCrop): CropBox {
  const aspect = frame.widthPx / frame.heightPx
  const own = crop.width / crop.height
  const width = Math.min(1, own / aspect)
  const height = Math.min(1, aspect / own)
  return { x: ((1 - width) * (1 + crop.x)) / 2, y: ((1 - height) * (1 + crop.y)) / 2, width, height }
}
/** The crop moved by shares of the frame, within its room. */
export function cropMoved(
  frame: { readonly widthPx: number; readonly heightPx: number },
  crop: FrameCrop,
  dx: number,
  dy: number,
): FrameCrop {
  const { width, height } = cropBox(frame, crop)
  const moved = (at: number, by: number, part: number): number =>
    part >= 1 ? at : Math.max(-1, Math.min(1, at + (2 * by) / (1 - part)))
  return { ...crop, x: moved(crop.x, dx, width), y: moved(crop.y, dy, height) }
}

/** Share of the points that lie in the frame but not in the crop, 0..1. */
export function leftOut(camera: Camera, crop: FrameCrop, points: readonly Vec3[]): number {
  const { widthPx: w, heightPx: h } = camera.frame
  const box = cropBox(camera.frame, crop)
  let [inFrame, out] = [0, 0]
  for (const p of points) {
    const at = projectPoint(camera, p)
    if (!at) continue
    const [x, y] = [at.xPx / w, at.yPx / h]
    if (x < 0 || y < 0 || x > 1 || y > 1) continue
    inFrame++
    if (x < box.x || y < box.y || x > box.x + box.width || y > box.y + box.height) out++
  }
  return inFrame === 0 ? 0 : out / inFrame
}

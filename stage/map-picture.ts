// Pictures of a model's maps as the geometry reads them.
import { plainPicture, type PictureReader } from '#mesh'

/** Cut-outs are read at this size at most, pixels: leaves stay leaves, and a ray's question stays small. */
const HOLES_PX = 512
/** A texture's picture as the geometry reads it; null where there is no canvas. */
export const pictureOf: PictureReader = (image) => {
  const plain = plainPicture(image)
  if (plain || !(image instanceof ImageBitmap) || typeof OffscreenCanvas === 'undefined') return plain
  const k = Math.min(1, HOLES_PX / Math.max(image.width, image.height))
  const [width, height] = [Math.max(1, Math.round(image.width * k)), Math.max(1, Math.round(image.height * k))]
  const g = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })
  if (!g) return null
  g.drawImage(image, 0, 0, width, height)
  return { width, height, data: g.getImageData(0, 0, width, height).data }
}
